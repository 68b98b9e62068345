import type { Schemas } from '../../../wire/client'
import { doing } from '../policies'
import { Bearings, Ground, Hatches, Line, Losses, Names } from './ground'
import { viewOf } from './view'

/** Today's line as it is printed: where it is flown, and where not to be while it is. */
export function CardMap({ today }: { today: Schemas['CardLine'] }) {
  const { flown, map, line, view } = today
  const set = view.losses.find((l) => l.set)
  const seen = viewOf(map, set?.regions.flatMap((r) => r.rings.flat()) ?? [], 520, 420)
  return (
    <section aria-label="Today's line">
      <h2>Today's line: {flown.line}</h2>
      <p className="text-soft">
        {flown.site}, {line.height} m up at {line.speed} m/s, {flown.wind > 0 ? `the wind from ${flown.from}° at ${flown.wind} m/s` : 'in still air'}. Lost, it{' '}
        {doing[flown.policy]}.
      </p>
      {today.old && <p className="text-stop">The site, the quad or the wind has changed since it was kept. This is how it comes out now.</p>}
      <svg
        viewBox={`0 0 ${seen.wide} ${seen.high}`}
        className="w-full"
        role="img"
        aria-label={`${flown.line} from above, and the outline in which 95 of 100 come down`}
      >
        <Hatches />
        <Ground map={map} view={seen} />
        {set && <Losses losses={set} view={seen} />}
        <Line points={line.points} avoid={view.avoid} back={view.back} view={seen} />
        <Names map={map} view={seen} />
        <Bearings view={seen} from={flown.from} wind={flown.wind} />
      </svg>
      <p>
        <b>Nobody inside the broken outline</b>: of 100 losses 95 come down there, with {flown.energy} J at the ground.
      </p>
      <p>
        {flown.harmless} % end harmlessly, {flown.people} % among people, {flown.lost} % are lost for good.
      </p>
      {view.avoid.length > 0 && <p className="text-stop">Where the line is thick and broken, losing the radio ends badly: fly another way.</p>}
      <p>{view.back.words}</p>
      {flown.why && (
        <p>
          Flown so although {doing[flown.advised] === undefined ? 'another is' : `it is advised that it ${doing[flown.advised]}`}: {flown.why}
        </p>
      )}
    </section>
  )
}
