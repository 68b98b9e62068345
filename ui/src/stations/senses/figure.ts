/** A figure as it was typed, or nothing where it is none. */
export const figure = (text: string) => {
  const x = Number(text.trim().replace(',', '.').replace('−', '-'))
  return text.trim() !== '' && Number.isFinite(x) ? x : null
}
