import { Slider } from '../../kit/slider'
import { Facts } from '../../kit/table'
import { AsTable } from '../../shell/as-table'
import type { QuadAt } from '../../wire/figures'
import type { Path } from '../../wire/path'
import { marksTo, Plot, placesIn, through, usualBox } from './plot'
import type { Tried } from './tried'

const limit = 'sheet.feel.angleLimit' as Path
const box = { ...usualBox, h: 300 }

/** How far self-level lets it lean: how fast that goes, how hard it pulls, and where the camera looks then. */
export function SpeedAndLean({ quad, tried }: { quad: QuadAt<'feel'>; tried: Tried }) {
  const v = quad.hands.lean
  const is = tried.of(limit)
  const near = v.leans.find((l) => l.lean >= is) ?? v.leans.at(-1)
  const drawn = v.leans.filter((l) => l.lean <= 70) // beyond, it is faster than anything here flies
  const most = Math.max(5, ...drawn.map((l) => l.speed))
  const across = { low: 0, high: 80, marks: [0, 20, 40, 60, 80], words: 'lean, °' }
  const up = { low: 0, high: most * 1.1, marks: marksTo(most * 1.1), words: 'm/s once it flies level' }
  const places = placesIn(box, across, up)
  return (
    <>
      <AsTable
        caption="By how far it leans"
        head={['lean', 'level speed', 'pulls', 'must lift']}
        rows={v.leans.map((l) => [`${l.lean}°`, l.speed > 0 ? `${l.speed} m/s` : 'not known', `${l.pulls} m/s²`, `${l.lifts} times its weight`])}
      />
      <div className="grid grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
        <section aria-label="Speed by lean">
          {v.told ? (
            <Plot box={box} across={across} up={up} label={`Level speed by lean; at the limit of ${is}° ${near?.speed} m/s`}>
              {v.most > 0 && v.most < 80 && (
                <>
                  <rect x={places.x(v.most)} y={box.top} width={places.x(80) - places.x(v.most)} height={box.h - box.top - box.bottom} fill="var(--sunk)" />
                  <text x={places.x(v.most) + 5} y={box.top + 16} fontSize="12.5" style={{ fill: 'var(--stop)' }}>
                    it sinks here
                  </text>
                </>
              )}
              <path
                d={through(
                  places,
                  drawn.map((l) => l.lean),
                  drawn.map((l) => l.speed),
                )}
                fill="none"
                stroke="var(--act)"
                strokeWidth="3"
              />
              {v.camera && v.camera.speed > 0 && (
                <>
                  <path
                    d={`M${places.x(v.camera.tilt)} ${places.y(0)}V${places.y(v.camera.speed)}H${box.left}`}
                    fill="none"
                    stroke="var(--soft)"
                    strokeDasharray="5 4"
                  />
                  <text x={places.x(v.camera.tilt) + 5} y={places.y(0) - 8} fontSize="12.5" style={{ fill: 'var(--soft)' }}>
                    camera, {v.camera.tilt}°
                  </text>
                </>
              )}
              <path d={`M${places.x(is)} ${box.top}V${box.h - box.bottom}`} stroke="var(--fix)" strokeWidth="2" />
              <text x={places.x(is) + 5} y={places.y(most)} fontSize="13" fontWeight="600" style={{ fill: 'var(--fix)' }}>
                limit, {is}°
              </text>
            </Plot>
          ) : (
            <p className="text-soft">How fast it goes follows from its drag area and its weight: tell both at Airframe.</p>
          )}
        </section>
        <section aria-label="The limit" className="text-[14px]">
          <div className="grid grid-cols-[auto_minmax(0,1fr)_70px] items-center gap-x-3">
            <span>Leans at most</span>
            <Slider label="Limit of lean in self-level, °" value={is} min={10} max={80} onMove={(x) => tried.put([{ path: limit, value: x }])} />
            <b className="tabular-nums">{is}°</b>
          </div>
          <Side lean={is} tilt={v.camera?.tilt ?? 0} />
          {near && (
            <p>
              At {near.lean}° it pulls away with <b>{near.pulls.toFixed(1)} m/s²</b>, must lift {near.lifts.toFixed(2)} times its weight
              {near.speed > 0 && (
                <>
                  {' '}
                  and comes to fly <b>{near.speed.toFixed(0)} m/s</b>
                </>
              )}
              .
            </p>
          )}
          {v.camera && (
            <p>
              The camera looks up by {v.camera.tilt}°: the horizon lies level in it{' '}
              {v.camera.speed > 0 ? `at ${v.camera.speed.toFixed(0)} m/s` : 'at a lean of as much'}.{' '}
              {is < v.camera.tilt && <span className="text-fix">Self-level never leans as far.</span>}
            </p>
          )}
          <Facts>
            <tbody>
              {v.packs.map((p) => (
                <tr key={p.pack}>
                  <th scope="row">{p.pack}, low</th>
                  <td className={p.most < is ? 'text-stop' : undefined}>{p.most > 0 ? `keeps its height up to ${p.most}°` : 'does not carry it'}</td>
                </tr>
              ))}
            </tbody>
          </Facts>
        </section>
      </div>
    </>
  )
}

/** The quad from the side, nose to the right, leaning into its limit; the camera's look as a line. */
function Side({ lean, tilt }: { lean: number; tilt: number }) {
  return (
    <svg
      viewBox="0 0 320 130"
      className="my-1 w-full max-w-90"
      role="img"
      aria-label={`It leans by ${lean}°${tilt ? `, its camera looks ${tilt - lean}° above the horizon` : ''}`}
    >
      <path d="M10 70H310" stroke="var(--line)" strokeDasharray="3 4" />
      <g transform={`translate(150 70) rotate(${lean})`}>
        <path d="M-58 0H58" stroke="var(--wire)" strokeWidth="5" strokeLinecap="round" />
        <rect x="-24" y="-13" width="48" height="12" rx="3" fill="var(--panel)" stroke="var(--wire)" strokeWidth="2" />
        {[-56, 56].map((x) => (
          <g key={x}>
            <path d={`M${x} -2v-9`} stroke="var(--wire)" strokeWidth="5" />
            <path d={`M${x - 26} -12h52`} stroke="var(--act)" strokeWidth="2.5" strokeLinecap="round" />
          </g>
        ))}
        {tilt > 0 && <path d="M26 -7h90" stroke="var(--fix)" strokeWidth="1.6" strokeDasharray="5 4" transform={`rotate(${-tilt} 26 -7)`} />}
      </g>
    </svg>
  )
}
