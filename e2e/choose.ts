// Choosing from a list, as a hand does: open it, press what is wanted.
import type { Locator } from '@playwright/test'

/** Chooses by the words that are shown, or by the value that stands behind them. */
export async function choose(select: Locator, what: string | { value: string }): Promise<void> {
  await select.click()
  const list = select.page().getByRole('listbox')
  await (typeof what === 'string' ? list.getByRole('option', { name: what, exact: true }) : list.locator(`[data-value="${what.value}"]`)).click()
}
