import type { Kind } from './part-field'

/** Kinds of which something can be drawn that tells them apart. */
export const drawn: readonly Kind[] = ['frame', 'motor', 'propeller', 'pack']

const half = 26

/** 0, 1, 2 …: so many, but twelve at most. */
const numbers = (n: number) => Array.from({ length: Math.min(12, n) }, (_, i) => i)

/** A part as it is known, to the scale of its kind: the frame's arms, a stator from the side, a propeller's disc, a pack cell by cell. */
export function Sketch({ kind, cells }: { kind: Kind; cells: Record<string, string> }) {
  const x = (key: string) => Number(cells[key] ?? 0)
  return (
    <svg
      viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
      width={2 * half}
      height={2 * half}
      aria-hidden="true"
      fill="none"
      stroke="var(--ink)"
      strokeWidth="1.3"
    >
      {kind === 'propeller' && <Propeller r={(x('part.diameter') / 254) * (half - 1)} blades={x('shape.blades')} />}
      {kind === 'motor' && x('stator.width') > 0 && (
        <>
          <rect x={-x('stator.width') / 2} y={-x('stator.height') / 2} width={x('stator.width')} height={x('stator.height')} fill="var(--sunk)" />
          <path d={`M0 ${-x('stator.height') / 2}v-7M${-x('stator.width') / 2 - 2} ${x('stator.height') / 2 + 2.5}h${x('stator.width') + 4}`} />
        </>
      )}
      {kind === 'frame' && x('part.armSide') > 0 && <Frame front={x('part.armFront')} side={x('part.armSide')} />}
      {kind === 'pack' &&
        numbers(x('part.cells')).map((i) => (
          <rect key={i} x={-18} y={4 * i - 2 * x('part.cells')} width={Math.min(40, 12 + x('part.capacity') / 120)} height="3.2" fill="var(--sunk)" />
        ))}
    </svg>
  )
}

function Propeller({ r, blades }: { r: number; blades: number }) {
  if (!(r > 0)) return null
  return (
    <>
      <circle r={r} stroke="var(--line)" />
      {numbers(blades).map((i) => {
        const a = (2 * Math.PI * i) / blades - Math.PI / 2
        return <path key={i} d={`M0 0L${r * Math.cos(a)} ${r * Math.sin(a)}`} strokeWidth="2" />
      })}
    </>
  )
}

function Frame({ front, side }: { front: number; side: number }) {
  const scale = (half - 4) / 180 // mm of the widest arms
  const [w, h] = [side * scale, front * scale]
  return (
    <>
      <path d={`M${-w} ${-h}L${w} ${h}M${w} ${-h}L${-w} ${h}`} strokeWidth="2" />
      {[
        [-w, -h],
        [w, -h],
        [-w, h],
        [w, h],
      ].map(([cx, cy]) => (
        <circle key={`${cx} ${cy}`} cx={cx} cy={cy} r="2.6" fill="var(--paper)" />
      ))}
    </>
  )
}
