import type { QuadAt } from '../../wire/figures'
import { height, width } from './place'

const escaped = (s: string) => s.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

/** The drawing as a file of its own, with a table of every wire below it. */
export function drawingFile(svg: SVGSVGElement, quad: QuadAt<'wiring'>): string {
  const style = getComputedStyle(document.documentElement)
  const plain = svg.innerHTML
    .replace(/var\((--[a-z-]+)\)/g, (_, name: string) => style.getPropertyValue(name).trim())
    .replace(/ (tabindex|role|aria-[a-z]+|data-[a-z]+)="[^"]*"/g, '')
  const head = ['From', 'Signal', 'To', 'Colour', 'Length', 'Twisted with']
  const rows = quad.wiring.leads.map((l) => [l.device, l.signal, l.pad, l.colour ?? '', l.length ? `${l.length} mm` : '', l.twisted ?? ''])
  const at = [24, 190, 330, 430, 570, 690]
  const line = (cells: string[], i: number, weight: number) =>
    cells.map((c, k) => `<text x="${at[k]}" y="${height + 50 + 22 * i}" font-size="14" font-weight="${weight}" fill="#15242b">${escaped(c)}</text>`).join('')
  const tall = height + 80 + 22 * rows.length
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${tall}" width="${width}" height="${tall}" font-family="sans-serif"><style>text{fill:#15242b}.pad rect{fill:#fdfbf5;stroke:#2a3a41}.pin circle{fill:#fdfbf5;stroke:#0a6876;stroke-width:2}</style><rect width="${width}" height="${tall}" fill="#fdfbf5"/><title>${escaped(quad.name)}, its wires</title>${plain}${line(head, 0, 700)}${rows.map((r, i) => line(r, i + 1, 400)).join('')}</svg>`
}

export function saveDrawing(svg: SVGSVGElement, quad: QuadAt<'wiring'>) {
  const link = document.createElement('a')
  link.download = `${quad.name}, wires.svg`
  link.href = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(drawingFile(svg, quad))}`
  link.click()
}
