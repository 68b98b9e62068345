import { Subhead } from '../../kit/heading'
import type { Schemas } from '../../wire/client'
import { useUnits } from '../../wire/units'
import { corners, cornerWords } from '../drawing'
import { cameraWords } from './apart-drawing'

type View = Schemas['ApartView']

/** What it all weighs, and what that costs: the budget as bars, the balance, what only protects, the camera. */
export function Costs({ view: v, chosen, onChoose }: { view: View; chosen: string; onChoose: (name: string) => void }) {
  const units = useUnits()
  const rows = [...v.budget].sort((a, b) => b.mass - a.mass)
  const most = Math.max(1, v.rest, ...rows.map((r) => r.mass))
  const t = v.tilted
  const even = t && Math.max(...t.share) < 26
  return (
    <>
      <Subhead className="mt-2.5">What it weighs: {units.mass(v.mass)}</Subhead>
      <table className="w-full text-[14px]">
        <caption className="sr-only">Mass by parts, with pack {v.pack}</caption>
        <tbody>
          {rows.map((r) => (
            <tr key={r.name} className={chosen === r.name ? 'bg-act-bg' : undefined}>
              <th scope="row" className="w-28 py-0.25 pr-2 text-left font-normal">
                {v.placed[r.name] ? (
                  <button type="button" className="text-act hover:underline" onClick={() => onChoose(r.name)}>
                    {r.name}
                  </button>
                ) : (
                  r.name
                )}
              </th>
              <td>
                <svg width="100%" height="10" aria-hidden>
                  <rect width={`${(100 * r.mass) / most}%`} height="10" fill={r.protects ? 'var(--wire)' : 'var(--act)'} opacity="0.55" />
                </svg>
              </td>
              <td className="w-16 pl-2 text-right tabular-nums">{units.mass(r.mass)}</td>
            </tr>
          ))}
          {v.rest !== 0 && (
            <tr className={v.rest < 0 ? 'text-fix' : undefined}>
              <th scope="row" className="py-0.25 pr-2 text-left font-normal">
                all the rest
              </th>
              <td>
                <svg width="100%" height="10" aria-hidden>
                  <rect width={`${(100 * Math.max(0, v.rest)) / most}%`} height="10" fill="var(--soft)" opacity="0.35" />
                </svg>
              </td>
              <td className="pl-2 text-right tabular-nums">{units.mass(v.rest)}</td>
            </tr>
          )}
        </tbody>
      </table>
      <Subhead className="mt-2.5">Where it balances</Subhead>
      <p className="text-[14px]">
        {v.measured ? <>Measured: {balance(v.measured)}. </> : null}
        {v.centre ? <>By what is placed on it: {balance(v.centre)}. </> : 'Nobody told where the pack sits: without it nothing is said of its parts. '}
        {!v.measured && 'On two fingertips it is measured in a moment.'}
      </p>
      {t && (
        <p className={even ? 'text-[14px] text-soft' : 'text-[14px]'}>
          {even
            ? 'All four carry alike.'
            : `${cornerWords[corners[t.hardest] ?? 'frontLeft']} works hardest: ${t.share[t.hardest]?.toFixed(0)} % of the weight, ${t.duty[t.hardest]?.toFixed(0)} % duty, ${t.current[t.hardest]?.toFixed(1)} A; the hover draws ${t.costs.toFixed(1)} % more than with the weight in the middle.`}
        </p>
      )}
      {v.protection && (
        <>
          <Subhead className="mt-2.5">What only protects</Subhead>
          <p className="text-[14px]">
            {units.mass(v.protection.mass)}: a hover at {v.protection.duty[0].toFixed(1)} % duty for {v.protection.minutes[0].toFixed(1)} min; without it{' '}
            {v.protection.duty[1].toFixed(1)} % for {v.protection.minutes[1].toFixed(1)} min.
          </p>
        </>
      )}
      {v.camera && (
        <>
          <Subhead className="mt-2.5">The camera</Subhead>
          <p className="text-[14px]">{cameraWords(v)}</p>
        </>
      )}
    </>
  )
}

const balance = (b: Schemas['Balance']) => {
  const part = (x: number, more: string, less: string) => (Math.abs(x) < 0.5 ? '' : `${Math.abs(x).toFixed(0)} mm ${x > 0 ? more : less}`)
  const both = [part(b.ahead, 'ahead', 'behind'), part(b.right, 'right', 'left')].filter(Boolean)
  return both.length ? `${both.join(', ')} of the middle` : 'in the middle'
}
