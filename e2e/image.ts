// Images for receivers and radio modules, written here apart from the program: a header of 64 bytes, then the program, as Intel HEX.
import { crc32 } from 'node:zlib'

type Of = { end: 'R' | 'M'; target: string; link: string; version: string; region?: string; print?: string }

export function linkImage(of: Of): string {
  const program = Buffer.from('a receiver that listens '.repeat(12))
  const head = Buffer.alloc(64)
  head.write(`PERCHLNK${of.end}`, 0, 'latin1')
  head.write(of.target, 9, 'latin1')
  head.write(of.link, 25, 'latin1')
  head.write(of.version, 37, 'latin1')
  head.write(of.region ?? '', 45, 'latin1')
  head.write(of.print ?? '', 56, 'latin1')
  head.writeUInt32BE(crc32(program), 60)
  const all = Buffer.concat([head, program])
  const lines: string[] = []
  for (let at = 0; at < all.length; at += 16) {
    const data = all.subarray(at, at + 16)
    const record = Buffer.from([data.length, at >> 8, at & 0xff, 0, ...data])
    const sum = (256 - (record.reduce((a, b) => a + b, 0) & 0xff)) & 0xff
    lines.push(`:${record.toString('hex')}${sum.toString(16).padStart(2, '0')}`.toUpperCase())
  }
  return `${[...lines, ':00000001FF'].join('\n')}\n`
}
