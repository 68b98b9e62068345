// Birds on a wire: one figure for each state of a station, told by shape and word as well as by colour.
import type { Schemas } from '../wire/client'

export type State = Schemas['PerchState']['state']

const body = 'M-13 -7C-12 -17 -1 -22 6 -18C9 -23 16 -22 17 -17L26 -14L17 -13C16 -4 8 1 -2 -1L-20 4Z'

export const tone: Record<State, string> = {
  proven: 'var(--ok)',
  stale: 'var(--note)',
  fix: 'var(--fix)',
  stop: 'var(--stop)',
  ready: 'var(--act)',
  open: 'var(--faint)',
  notBegun: 'var(--faint)',
  skipped: 'var(--faint)',
}

/** A bird at the origin, which lies on the wire. */
export function Bird({ state }: { state: State }) {
  const c = tone[state]
  switch (state) {
    case 'proven':
      return (
        <g transform="translate(0 -4)">
          <path d="M-2 -2v6M3 -2v6" stroke={c} strokeWidth="1.8" />
          <path d={body} fill={c} />
        </g>
      )
    case 'stale':
      return (
        <g transform="translate(0 -4)">
          <path d={body} fill="none" stroke={c} strokeWidth="1.8" />
          <path d="M-8 -14C-6 -28 2 -32 8 -34C7 -26 4 -18 0 -14Z" fill={c} />
          <path d="M-2 -2v6M3 -2v6" stroke={c} strokeWidth="1.8" />
        </g>
      )
    case 'fix':
      return <path d={body} fill={c} transform="translate(0 -3) rotate(28)" />
    case 'stop':
      return <path d={body} fill={c} transform="translate(1 13) rotate(150) scale(.8)" />
    case 'ready':
      return (
        <g>
          <g transform="translate(0 -9)">
            <path d={body} fill="none" stroke={c} strokeWidth="1.8" />
            <path d="M-4 -9l4 4 8 -8" fill="none" stroke={c} strokeWidth="2.2" />
          </g>
        </g>
      )
    case 'skipped':
      return <path d="M-6 -6L6 6M-6 6L6 -6" stroke={c} strokeWidth="2.4" />
    case 'open':
      return (
        <g>
          <circle r="5" fill="var(--paper)" stroke="var(--wire)" strokeWidth="2" />
          <path d="M0 -5A5 5 0 0 1 0 5Z" fill="var(--wire)" />
        </g>
      )
    default:
      return <circle r="4.5" fill="var(--paper)" stroke="var(--wire)" strokeWidth="2" />
  }
}

export const weightSign = {
  stop: <path d="M4 0h5l4 4v5l-4 4H4L0 9V4z" fill="currentColor" />,
  fix: <path d="M7 0l7 13H0z" fill="currentColor" />,
  note: <circle cx="6.5" cy="6.5" r="6" fill="currentColor" />,
}
