/** A scale whose marks are round figures. */
export function marks(most: number) {
  const raw = most / 4
  const by = 10 ** Math.floor(Math.log10(raw || 1))
  const step = [1, 2, 2.5, 5, 10].map((m) => m * by).find((s) => s >= raw) ?? by
  return Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => Number((i * step).toPrecision(6)))
}
