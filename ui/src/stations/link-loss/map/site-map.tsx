import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { Button } from '../../../kit/button'
import { fieldRow, remarks, ways, wideLeft } from '../../../kit/looks'
import { Segments } from '../../../kit/segments'
import { Select } from '../../../kit/select'
import { showError } from '../../../shell/message'
import type { QuadView, Schemas } from '../../../wire/client'
import { type Offset, type SiteMap, sites, useSite, useSiteAct, useSites } from '../../../wire/sites'
import type { Policy } from '../policies'
import { StagesBeside } from '../stages'
import { Along, useLine } from './along'
import { type Drawing, MapDrawing } from './drawing'
import { Line, Losses } from './ground'
import { Things } from './things'
import { type Kind, kinds, viewOf } from './view'

const empty: SiteMap = { areas: [], safe: [], lines: [] }

/** The place: sketched or brought, with the line that is meant to be flown and what comes of losing the radio along it. */
export function SiteStation({ quad, kept, stages }: { quad: QuadView; kept?: Schemas['LineFlown']; stages: Schemas['Stage'][] }) {
  const list = useSites()
  const [query, setQuery] = useSearchParams()
  const wanted = Number(query.get('site')) || list.data?.find((s) => s.name === kept?.site)?.id || list.data?.[0]?.id || 0
  const site = useSite(wanted)
  const [naming, setNaming] = useState(false)
  const queries = useQueryClient()
  const add = useSiteAct((n: { name: string; map: SiteMap }) => sites.add(n.name, n.map))
  const forget = useMutation({
    mutationFn: (s: Schemas['SiteMapped']) => sites.forget(s.id, s.version),
    onSuccess: (left) => {
      queries.setQueryData(['sites'], left)
      go(0)
    },
    onError: showError,
  })
  const go = (id: number) => setQuery(id ? { at: 'map', site: String(id) } : { at: 'map' }, { replace: true })
  if (list.error) return <p role="alert">{list.error.message}</p>
  const s = site.data
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-end gap-2.5">
        {(list.data?.length ?? 0) > 0 && (
          <Select
            label="Site"
            value={String(wanted)}
            options={(list.data ?? []).map((x) => ({ value: String(x.id), words: x.name }))}
            onChoose={(id) => go(Number(id))}
          />
        )}
        <Button small quiet aria-expanded={naming} onClick={() => setNaming(!naming)}>
          New site
        </Button>
        {s && (
          <Button small quiet disabled={forget.isPending} onClick={() => forget.mutate(s)}>
            Forget this site
          </Button>
        )}
      </div>
      {naming && (
        <form
          className={fieldRow}
          onSubmit={(e) => {
            e.preventDefault()
            const name = String(new FormData(e.currentTarget).get('name'))
            add.mutate(
              { name, map: empty },
              {
                onSuccess: (made) => {
                  setNaming(false)
                  go(made.id)
                },
                onError: showError,
              },
            )
          }}
        >
          <label>
            name
            <input type="text" name="name" required maxLength={40} />
          </label>
          <Button small type="submit" disabled={add.isPending}>
            Begin the map
          </Button>
        </form>
      )}
      {list.data?.length === 0 && !naming && <p className="text-soft">No site yet. Begin one: home is where you take off, the rest is drawn around it.</p>}
      {s && <Mapped key={s.id} quad={quad} site={s} stages={stages} kept={kept?.site === s.name ? kept : undefined} />}
    </div>
  )
}

const [wide, high] = [560, 470]

function Mapped({ quad, site, kept, stages }: { quad: QuadView; site: Schemas['SiteMapped']; kept?: Schemas['LineFlown']; stages: Schemas['Stage'][] }) {
  const map = site.map
  const [before, setBefore] = useState<SiteMap[]>([])
  const [drawing, setDrawing] = useState<Drawing | null>(null)
  const [chosen, setChosen] = useState('')
  const [wider, setWider] = useState(0)
  const [seeing, setSeeing] = useState<'losses' | 'things'>(map.lines.length > 0 ? 'losses' : 'things')
  const [said, setSaid] = useState('')
  const [line, setLine] = useState(kept?.line ?? map.lines[0]?.name ?? '')
  const [typed, setTyped] = useState(kept ? String(kept.from) : '')
  const [policy, setPolicy] = useState<Policy>(quad.meant.sheet.loss.policy as Policy)
  const save = useSiteAct((next: SiteMap) => sites.change(site.id, site.version, next))
  const put = (next: SiteMap, then?: () => void) => {
    setSaid('')
    save.mutate(next, {
      onSuccess: () => {
        setBefore([...before.slice(-40), map])
        then?.()
      },
      onError: (e) => setSaid(e.message),
    })
  }
  const back = () => {
    const last = before.at(-1)
    if (last) save.mutate(last, { onSuccess: () => setBefore(before.slice(0, -1)), onError: (e) => setSaid(e.message) })
  }
  const at = map.lines.findIndex((l) => l.name === line)
  const from = typed.trim() === '' ? null : Number(typed.replace(',', '.'))
  const heading = from !== null && from >= 0 && from <= 360 ? from : null
  const flown = useLine(quad, site.id, site.version, at < 0 || seeing === 'things' ? '' : line, heading)
  const view = useMemo(
    () =>
      viewOf(
        map,
        [
          { east: -wider, north: -wider },
          { east: wider, north: wider },
        ],
        wide,
        high,
      ),
    [map, wider],
  )
  const finish = () => {
    if (!drawing) return
    const next = drawn(map, drawing)
    if (typeof next === 'string') return setSaid(next)
    put(next, () => {
      setDrawing(null)
      setChosen(newest(next, drawing))
      if (drawing.what === 'line') setLine(next.lines.at(-1)?.name ?? '')
    })
  }
  const begin = (what: string) => {
    setSaid('')
    setChosen('')
    setSeeing('things')
    setDrawing({ what, corners: [], closed: what !== 'line' && what !== 'safe' })
  }
  const losses = flown.view?.losses.find((l) => l.policy === policy) ?? flown.view?.losses.find((l) => l.set)
  const points = map.lines[at]?.points ?? []
  const over = seeing === 'losses' && losses && flown.view && (
    <>
      <Losses losses={losses} view={view} />
      <Line points={points} avoid={losses.set ? flown.view.avoid : undefined} back={flown.view.back} view={view} />
    </>
  )
  return (
    <div className={wideLeft}>
      <section aria-label="Map">
        <MapDrawing
          map={map}
          view={view}
          drawing={drawing}
          chosen={seeing === 'things' ? chosen : ''}
          line={at}
          over={over || undefined}
          from={heading ?? undefined}
          wind={flown.view?.wind}
          onCorner={(p) =>
            drawing &&
            (drawing.what === 'safe'
              ? put({ ...map, safe: [...map.safe, { name: '', at: p }] }, () => {
                  setDrawing(null)
                  setChosen(`safe${map.safe.length}`)
                })
              : setDrawing({ ...drawing, corners: [...drawing.corners, p] }))
          }
          onFinish={finish}
          onBack={() => drawing && setDrawing({ ...drawing, corners: drawing.corners.slice(0, -1) })}
          onLeave={() => setDrawing(null)}
          onChoose={setChosen}
          onMove={(key, corner, to) => put(moved(map, key, corner, to))}
        />
        <div className={ways}>
          <span className="flex-1" />
          <Button small quiet disabled={before.length === 0 || save.isPending} onClick={back}>
            Undo
          </Button>
          <Button small quiet aria-label="See more of the ground" onClick={() => setWider(wider + 50)}>
            Wider
          </Button>
          <Button small quiet aria-label="See less of the ground" disabled={wider === 0} onClick={() => setWider(Math.max(0, wider - 50))}>
            Nearer
          </Button>
        </div>
        {said && (
          <p role="alert" className="text-stop">
            {said}
          </p>
        )}
        <p id="map-keys" className="mt-1 text-[13px] text-faint">
          By keys: arrows move the cross by 5 m, with Shift by 1 m; space sets a corner, Backspace takes it back, Enter ends, Escape leaves it.
        </p>
        {seeing === 'losses' && <StagesBeside stages={stages} />}
        <Bring quad={quad} onTake={(m) => put(m)} taken={save.isPending} full={map.areas.length + map.lines.length + map.safe.length > 0} />
      </section>
      <div>
        <div className="mb-2 flex flex-wrap items-center gap-2">
          <Segments
            small
            items={[
              { value: 'losses', words: 'Losses along a line' },
              { value: 'things', words: 'What lies there' },
            ]}
            value={seeing}
            onChoose={(x) => {
              setSeeing(x as 'losses' | 'things')
              setDrawing(null)
            }}
          />
        </div>
        {seeing === 'things' ? (
          <>
            <div className="mb-2 flex min-h-16 flex-wrap content-start items-center gap-1.5">
              {drawing ? (
                <>
                  <span className="text-[14px]">
                    {drawing.what === 'safe' ? 'Press where it is.' : `${drawing.corners.length} ${drawing.closed ? 'corners' : 'points'}.`}
                  </span>
                  {drawing.what !== 'safe' && (
                    <>
                      <Button small main disabled={save.isPending || drawing.corners.length < (drawing.closed ? 3 : 2)} onClick={finish}>
                        {drawing.closed ? 'Close it' : 'End it here'}
                      </Button>
                      <Button
                        small
                        quiet
                        disabled={drawing.corners.length === 0}
                        onClick={() => setDrawing({ ...drawing, corners: drawing.corners.slice(0, -1) })}
                      >
                        Take the last back
                      </Button>
                    </>
                  )}
                  <Button small quiet onClick={() => setDrawing(null)}>
                    Leave it
                  </Button>
                </>
              ) : (
                <>
                  <span className="text-[13px] text-soft">Draw</span>
                  {(Object.keys(kinds) as Kind[]).map((k) => (
                    <Button key={k} small quiet onClick={() => begin(k)}>
                      {kinds[k]}
                    </Button>
                  ))}
                  <Button small quiet onClick={() => begin('safe')}>
                    Safe place
                  </Button>
                  <Button small onClick={() => begin('line')}>
                    Line
                  </Button>
                </>
              )}
            </div>
            <Things map={map} chosen={chosen} onChoose={setChosen} onChange={(m) => put(m)} />
          </>
        ) : map.lines.length === 0 ? (
          <p className="text-soft">Draw the line that you mean to fly: the radio is lost along it a thousand times.</p>
        ) : (
          <>
            <div className={fieldRow}>
              <label htmlFor="line">
                line
                <Select id="line" label="line" value={line} options={map.lines.map((l) => ({ value: l.name, words: l.name }))} onChoose={setLine} />
              </label>
              <label>
                the wind comes from, ° from north
                <input type="text" inputMode="decimal" className="w-22!" value={typed} onChange={(e) => setTyped(e.target.value)} />
              </label>
            </div>
            {heading === null ? (
              <p className={typed.trim() === '' ? 'mt-2 text-soft' : 'mt-2 text-stop'} role={typed.trim() === '' ? undefined : 'alert'}>
                {typed.trim() === ''
                  ? 'Tell where the wind comes from: it decides on which side of the line it comes down.'
                  : 'In degrees from north, up to 360.'}
              </p>
            ) : (
              <div className="mt-2">
                <Along quad={quad} site={site.id} line={line} from={heading} flown={flown} shown={losses?.policy ?? policy} onShow={setPolicy} />
              </div>
            )}
          </>
        )}
      </div>
    </div>
  )
}

/** The map with what was drawn, or why that cannot be. */
function drawn(map: SiteMap, d: Drawing): SiteMap | string {
  if (d.what === 'line') {
    if (d.corners.length < 2) return 'A line has at least two points.'
    let n = map.lines.length + 1
    while (map.lines.some((l) => l.name === `line ${n}`)) n++
    return { ...map, lines: [...map.lines, { name: `line ${n}`, points: d.corners, height: 20, speed: 8 }] }
  }
  if (d.corners.length < 3) return 'An area has at least three corners.'
  return { ...map, areas: [...map.areas, { kind: d.what as Kind, name: '', corners: d.corners }] }
}

const newest = (map: SiteMap, d: Drawing) => (d.what === 'line' ? `line${map.lines.length - 1}` : `area${map.areas.length - 1}`)

function moved(map: SiteMap, key: string, corner: number, to: Offset): SiteMap {
  const i = Number(key.slice(4))
  const put = <T,>(list: T[], at: number, x: (old: T) => T) => list.map((old, n) => (n === at ? x(old) : old))
  if (key.startsWith('area')) return { ...map, areas: put(map.areas, i, (a) => ({ ...a, corners: put(a.corners, corner, () => to) })) }
  if (key.startsWith('line')) return { ...map, lines: put(map.lines, i, (l) => ({ ...l, points: put(l.points, corner, () => to) })) }
  return { ...map, safe: put(map.safe, i, (s) => ({ ...s, at: to })) }
}

/** A map that was drawn elsewhere; read about where this quad takes off, and taken in place of this one by a press. */
function Bring({ quad, onTake, taken, full }: { quad: QuadView; onTake: (m: SiteMap) => void; taken: boolean; full: boolean }) {
  const [wrong, setWrong] = useState('')
  const read = useMutation({ mutationFn: (text: string) => sites.read(quad.id, text), onError: (e) => setWrong(e.message), onSuccess: () => setWrong('') })
  const pick = async (file?: File) => {
    if (!file) return
    read.reset()
    setWrong(file.size > 2_000_000 ? `${file.name} has over 2 MB. Nothing was read.` : '')
    if (file.size <= 2_000_000) read.mutate(await file.text())
  }
  return (
    <div className="mt-2 border-t border-line pt-2">
      <label className="grid text-[13px] text-soft">
        Or bring it as GeoJSON: areas with a kind (people, water, roof, obstacle, soft), a name, a height in metres; a point called home
        <input type="file" accept=".geojson,.json,application/geo+json,application/json" onChange={(e) => void pick(e.target.files?.[0])} />
      </label>
      {wrong && (
        <p role="alert" className="text-stop">
          {wrong}
        </p>
      )}
      {read.data && !wrong && (
        <div aria-live="polite">
          <p>
            {read.data.map.areas.length} areas, {read.data.map.lines.length} lines, {read.data.map.safe.length} safe places. Where on the earth they lie is not
            kept.
          </p>
          {read.data.remarks.length > 0 && (
            <ul className={remarks}>
              {read.data.remarks.map((r) => (
                <li key={r}>{r}</li>
              ))}
            </ul>
          )}
          <Button
            small
            disabled={taken}
            onClick={() => {
              onTake(read.data.map)
              read.reset()
            }}
          >
            {full ? 'Put it in the place of this map' : 'Take it as this map'}
          </Button>
        </div>
      )}
    </div>
  )
}
