// Hands that have only a keyboard: what they do is found by Tab, or by the palette, or not at all.
import type { Locator, Page } from '@playwright/test'
import { expect, perch } from './program.ts'

const most = 400

/** What a hand did: what would be a click for a mouse, and what was held. Who counts begins at nothing. */
export const did = { clicks: 0, holds: 0 }

/** Presses a key that stands for a click. */
export async function key(page: Page, name: string): Promise<void> {
  did.clicks++
  await page.keyboard.press(name)
}

/** Fails the story when anything is clicked or touched. */
export const withoutMouse = (page: Page) =>
  page.addInitScript(() => {
    for (const kind of ['pointerdown', 'mousedown']) window.addEventListener(kind, () => console.error('a mouse was used'), { capture: true })
  })

/** Goes to a control by Tab. */
export async function reach(control: Locator): Promise<void> {
  await expect(control).toBeEnabled()
  const page = control.page()
  // Backwards when it lies behind: hands do the same.
  const way = () =>
    control.evaluate((el) => {
      const at = document.activeElement
      if (el === at) return ''
      return at && at !== document.body && at.compareDocumentPosition(el) & Node.DOCUMENT_POSITION_PRECEDING ? 'Shift+Tab' : 'Tab'
    })
  for (let i = 0; i < most; i++) {
    const key = await way()
    if (!key) return
    await page.keyboard.press(key)
  }
  throw new Error(`Tab does not lead to ${control}`)
}

/** Goes to a control by Tab and works it. */
export async function press(control: Locator): Promise<void> {
  await reach(control)
  await key(control.page(), 'Enter')
}

/** Goes to a field by Tab and types into it. */
export async function write(field: Locator, text: string): Promise<void> {
  if (!(await field.evaluate((el) => el === document.activeElement))) did.clicks++
  await reach(field)
  const keys = field.page().keyboard
  await keys.press('Control+a')
  await keys.type(text)
}

/** Goes to a station by the palette. */
export async function goTo(page: Page, name: string): Promise<void> {
  await key(page, 'Control+k') // a mouse would click the station
  const palette = page.getByRole('dialog', { name: 'Find what to do' })
  await expect(palette.getByRole('combobox')).toBeFocused()
  await page.keyboard.type(`go to ${name}`)
  await expect(palette.getByRole('option', { selected: true })).toContainText(`Go to ${name}`)
  await page.keyboard.press('Enter')
  await expect(palette).toBeHidden()
  await expect(page.getByRole('navigation', { name: 'Stations' }).locator('[aria-current=step]')).toHaveAttribute('aria-label', new RegExp(` ${name}: `))
  await expect(perch(page, name)).toBeVisible()
}
