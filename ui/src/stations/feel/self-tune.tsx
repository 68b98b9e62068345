import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { steps, ways } from '../../kit/looks'
import { Facts } from '../../kit/table'
import type { QuadAt } from '../../wire/figures'
import { asNamed } from '../../wire/path'
import type { Tried } from './tried'

/** A tune in flight by the board itself: what must be so before, how it goes, and what it found. */
export function SelfTune({ quad, tried }: { quad: QuadAt<'feel'>; tried: Tried }) {
  const v = quad.hands.tune
  if (!v) return null
  return (
    <div className="grid grid-cols-2 gap-6 text-[14.5px] phone:grid-cols-1">
      <section aria-label="Before it">
        <Subhead>Before it</Subhead>
        <ul>
          {v.conditions.map((c) => (
            <li key={c.words} className="grid grid-cols-[26px_minmax(0,1fr)] border-t border-line py-1.25">
              <span className={c.met ? 'font-semibold text-ok' : 'font-semibold text-fix'}>{c.met ? '✓' : '–'}</span>
              <span>
                {c.words}.<span className={c.met ? 'block text-soft' : 'block text-fix'}>{c.is}</span>
              </span>
            </li>
          ))}
        </ul>
        <p className="mt-1">
          {v.ready ? <b className="text-ok">Everything for it is so.</b> : <b className="text-fix">Not yet: what is marked stands against it.</b>}{' '}
          {v.saved ? `Revision ${v.revision} keeps the gains that fly now.` : 'Save first: the revision is the way back.'}
        </p>
        <p className="text-soft">What is usual flies most quads well enough. A tune is for one that flies, and that you want crisper.</p>
      </section>
      <section aria-label="How it goes">
        <Subhead>How it goes</Subhead>
        <ol className={steps}>
          {v.steps.map((s, i) => (
            <li key={s}>
              <span>{i + 1}</span>
              <span>{s}</span>
            </li>
          ))}
        </ol>
        <p className="text-soft">The firmware's own settings for it: {v.settings.join(', ')}.</p>
        <Subhead>What it found</Subhead>
        {v.found.length === 0 ? (
          <p className="text-soft">
            Read the board after the flight: gains that are others than your settings stand here, to be tried and flown against the old ones at Gains.
          </p>
        ) : (
          <>
            <Facts>
              <tbody>
                {v.found.map((f) => (
                  <tr key={f.path}>
                    <th scope="row">{f.label}</th>
                    <td>{f.was}</td>
                    <td>
                      <b>{f.now}</b>
                    </td>
                  </tr>
                ))}
              </tbody>
            </Facts>
            <div className={ways}>
              <Button small onClick={() => tried.put(v.found.map((f) => ({ path: asNamed(f.path), value: f.value })))}>
                Try what it found
              </Button>
            </div>
            <p className="text-soft">
              Tried, the step at Gains is drawn before and after. To keep the old ones instead, write your settings to the board again.
            </p>
          </>
        )}
      </section>
    </div>
  )
}
