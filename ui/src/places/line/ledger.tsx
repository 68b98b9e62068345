import { lazy, Suspense, useEffect, useState } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { Button, TextButton, textLook } from '../../kit/button'
import { Disclosure } from '../../kit/disclosure'
import { Subhead } from '../../kit/heading'
import { join } from '../../kit/join'
import { fieldRow, ways } from '../../kit/looks'
import { Facts } from '../../kit/table'
import { upper } from '../../kit/text'
import { weightSign } from '../../shell/birds'
import { showError } from '../../shell/message'
import type { Change } from '../../wire/client'
import { acts, type Finding, type Perch, type QuadView, Refusal, type Schemas, useAct, useHistory } from '../../wire/client'
import { useFigures } from '../../wire/figures'
import { asNamed } from '../../wire/path'
import { OtherQuad, useNoBench, useOwn } from '../bench/whose'
import { onConflict } from './conflict'
import { Limits } from './limits'
import { when } from './proof-bar'
import { Typed, TypedAt, words } from './typed'
import { Withdraw } from './withdraw'

const TypeAll = lazy(() => import('./type-all').then((m) => ({ default: m.TypeAll })))

/** Findings in order of weight, what is still wanted, and the readings with where they came from. */
export function Ledger({ quad, perch }: { quad: QuadView; perch: Perch }) {
  const against = perch.findings.filter((f) => f.weight !== 'note' && !f.accepted)
  const accepted = perch.findings.filter((f) => f.accepted)
  const notes = perch.findings.filter((f) => f.weight === 'note')
  return (
    <aside
      className="flex flex-col gap-2.5 overflow-y-auto border-l border-line bg-panel px-4.5 py-3.5 print:hidden phone:overflow-y-visible phone:border-t phone:border-l-0"
      aria-label="Ledger"
    >
      <OtherQuad quad={quad} />
      {perch.state === 'skipped' && <p>Skipped. {perch.why.join(' ')}</p>}
      {perch.state === 'stale' && (
        <div
          className="rounded-r-lg border-l-3 px-3 pt-2 pb-2.25 data-[weight=fix]:border-fix data-[weight=fix]:bg-fix-bg data-[weight=fix]:[--tone:var(--fix)] data-[weight=note]:border-note data-[weight=note]:bg-note-bg data-[weight=note]:[--tone:var(--note)] data-[weight=stop]:border-stop data-[weight=stop]:bg-stop-bg data-[weight=stop]:[--tone:var(--stop)] [&_h3]:my-0.5 [&_h3]:text-[16.5px] [&_h3]:leading-[1.25] [&_p]:text-soft"
          data-weight="note"
        >
          <div className="flex items-center gap-1.75 text-[13px] font-bold text-(--tone)">Prove again</div>
          <p>{perch.why.slice(0, 4).join('. ')}.</p>
        </div>
      )}
      {perch.estimates.length > 0 && (
        <Disclosure words={perch.estimates.length === 1 ? 'Leans on an estimate' : `Leans on ${perch.estimates.length} estimates`}>
          <ul aria-label="Estimates" className="text-[14px] text-soft">
            {perch.estimates.map((e) => (
              <li key={e}>{upper(e)}</li>
            ))}
          </ul>
          <p className="text-[14px] text-soft">Type what you measure or read off under Intended settings, and it is no estimate any more.</p>
        </Disclosure>
      )}
      {against.length > 0 && <Subhead>Problems</Subhead>}
      {against.map((f) => (
        <FindingCard key={f.rule + f.subject} f={f} quad={quad} />
      ))}
      {accepted.length > 0 && <Subhead>Accepted</Subhead>}
      {accepted.map((f) => (
        <FindingCard key={f.rule + f.subject} f={f} quad={quad} />
      ))}
      {perch.asks.length > 0 && <Subhead>Still needed</Subhead>}
      {perch.asks.length > 0 && <AllWanted name="Still needed" asks={perch.asks} quad={quad} />}
      {notes.length > 0 && <Subhead>Worth knowing</Subhead>}
      {notes.map((f) => (
        <FindingCard key={f.rule + f.subject} f={f} quad={quad} />
      ))}
      {perch.noted.length > 0 && (
        <Disclosure words="Optional">
          <AllWanted name="Optional" asks={perch.noted} quad={quad} />
        </Disclosure>
      )}
      {perch.readings.length > 0 && <Subhead>Readings</Subhead>}
      {perch.readings.length > 0 && (
        <ul aria-label="Readings">
          {perch.readings.map((r) => (
            <Taken key={r.path} reading={r} quad={quad} />
          ))}
        </ul>
      )}
      {perch.old.length > 0 && <Subhead>Readings that no longer fit</Subhead>}
      {perch.old.length > 0 && (
        <ul aria-label="Readings that no longer fit" className={wanted}>
          {perch.old.map((o) => (
            <li key={o.path} data-ask={o.path}>
              <b>{o.label}</b> {words(o.words)}
              <p>
                From {when(o.at)}, kept as it was; nothing is judged by it. {o.why}
              </p>
              {o.slots.length > 0 && <Ways way={o} quad={quad} again />}
            </li>
          ))}
        </ul>
      )}
      {perch.id === 'motors' && <Answers line={quad} />}
      {perch.meant.length > 0 && <Meant perch={perch} quad={quad} />}
      {perch.limits.length > 0 && <Limits perch={perch} quad={quad} />}
      {against.length + perch.asks.length + perch.readings.length === 0 && perch.state !== 'skipped' && (
        <p className="text-soft">No problems here, and no checks of its own are needed.</p>
      )}
    </aside>
  )
}

const turnWords = { roll: 'Roll right', pitch: 'Nose up', yaw: 'Yaw right', '': '' }

/** The sign table of this very quad: what each command would be answered with, as it is wired and fitted now. */
function Answers({ line }: { line: QuadView }) {
  const { quad } = useFigures(line, 'motors')
  if (!quad) return null
  const good = quad.answers.every((a) => a.good)
  return (
    <Disclosure open={!good} words={good ? 'Every command is answered as it should be' : 'What your commands would do'}>
      <Facts>
        <thead>
          <tr>
            <th>command</th>
            <th>roll</th>
            <th>pitch</th>
            <th>yaw</th>
          </tr>
        </thead>
        <tbody>
          {quad.answers.map((a) => (
            <tr key={a.command}>
              <td>
                {turnWords[a.command]}
                <br />
                <span className={a.good ? 'text-ok' : 'text-stop'}>{a.words}</span>
              </td>
              {a.by.map((x, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: the three axes stand in their order
                <td key={i} className={Math.abs(x) < 0.05 ? 'text-right whitespace-nowrap text-soft' : 'text-right whitespace-nowrap'}>
                  {`${Math.round(100 * x)} %`.replace('-', '−')}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Facts>
    </Disclosure>
  )
}

/** What the sheet, the parts and the radio plan say here; each can be changed, and becomes part of the draft. */
function Meant({ perch, quad }: { perch: Perch; quad: QuadView }) {
  // One that was looked for is named behind the address: what holds it opens, and it has the keyboard.
  const sought = useLocation().hash.slice(1)
  const here = perch.meant.includes(sought)
  useEffect(() => {
    if (here) document.getElementById(sought)?.querySelector('button')?.focus()
  }, [here, sought])
  return (
    <Disclosure key={here ? sought : ''} open={here} words={`Intended settings (${perch.meant.length})`}>
      {perch.meant.map((path) => {
        const leaf = quad.leaves[path]
        return leaf && <MeantLeaf key={path} path={path} leaf={leaf} quad={quad} />
      })}
    </Disclosure>
  )
}

function MeantLeaf({ path, leaf, quad }: { path: string; leaf: Schemas['MeantView']; quad: QuadView }) {
  const [open, setOpen] = useState(false)
  const edit = useAct(quad.id, (value: unknown) => acts.edit(quad.id, quad.version, [{ path: asNamed(path), value }]))
  const given = (value: unknown) =>
    edit.mutate(value, {
      onSuccess: () => setOpen(false),
      onError: (e) => {
        if (e instanceof Refusal && e.code === 'changed') {
          setOpen(false)
          onConflict(quad, `Your ${leaf.label.toLowerCase()}`, [{ path: asNamed(path), value }])(e)
        }
      },
    })
  return (
    <div id={path} className="grid grid-cols-[1fr_auto] gap-x-2.5 border-b border-line py-1">
      <span>{leaf.label}</span>
      <TextButton aria-expanded={open} aria-label={`${leaf.label}: ${words(leaf.words)}. Change it`} onClick={() => setOpen(!open)}>
        {words(leaf.words)}
      </TextButton>
      {open && (
        <div className={ways}>
          {leaf.falls.length > 0 && <p className="text-fix">A change must be proven again at {leaf.falls.join(', ')}.</p>}
          <TypedAt path={path} label={leaf.label} busy={edit.isPending} error={edit.error?.message} onCancel={() => setOpen(false)} onDone={given} />
        </div>
      )}
    </div>
  )
}

const weightWord = { stop: 'Stop', fix: 'Fix', note: 'Note' }

function FindingCard({ f, quad }: { f: Finding; quad: QuadView }) {
  const [why, setWhy] = useState(f.weight === 'stop')
  const go = useNavigate()
  const edit = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  const write = useAct(quad.id, () => acts.write(quad.id))
  const level = useAct(quad.id, () => acts.level(quad.id))
  const own = useOwn()
  return (
    <article
      className="rounded-r-lg border-l-3 px-3 pt-2 pb-2.25 data-[weight=fix]:border-fix data-[weight=fix]:bg-fix-bg data-[weight=fix]:[--tone:var(--fix)] data-[weight=note]:border-note data-[weight=note]:bg-note-bg data-[weight=note]:[--tone:var(--note)] data-[weight=stop]:border-stop data-[weight=stop]:bg-stop-bg data-[weight=stop]:[--tone:var(--stop)] [&_h3]:my-0.5 [&_h3]:text-[16.5px] [&_h3]:leading-[1.25] [&_p]:text-soft"
      data-weight={f.weight}
      aria-label={`${weightWord[f.weight]}: ${f.title}`}
    >
      <div className="flex items-center gap-1.75 text-[13px] font-bold text-(--tone)">
        <svg width="14" height="14" aria-hidden="true">
          {weightSign[f.weight]}
        </svg>
        {weightWord[f.weight]}
      </div>
      <h3>{f.title}</h3>
      {f.figures && <p>{f.figures}</p>}
      {f.estimates && <p className="text-[13px]">Leans on {f.estimates.length === 1 ? 'an estimate' : 'estimates'}, named above.</p>}
      {why && <p className="font-semibold text-ink!">{f.why}</p>}
      {f.accepted && (
        <p>
          Accepted by {f.accepted.by}, {when(f.accepted.at)}: <b>{f.accepted.reason}</b>
        </p>
      )}
      <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1 [&>span]:text-soft">
        {!why && <TextButton onClick={() => setWhy(true)}>Why</TextButton>}
        {f.shows && <TextButton onClick={() => go(`/quads/${quad.id}/rehearsal?shows=${f.shows}`)}>What would happen</TextButton>}
        {(f.remedies ?? []).map((r) =>
          r.write ? (
            <TextButton key={r.words} disabled={write.isPending} onClick={() => write.mutate(undefined, { onError: showError })}>
              {r.words}
            </TextButton>
          ) : r.level && own ? (
            <TextButton key={r.words} disabled={level.isPending} onClick={() => level.mutate(undefined, { onError: showError })}>
              {r.words}
            </TextButton>
          ) : r.edits?.length ? (
            <TextButton
              key={r.words}
              disabled={edit.isPending}
              onClick={() => {
                const values = (r.edits ?? []).map((e) => ({ path: asNamed(e.path), value: JSON.parse(e.value) as unknown }))
                edit.mutate(values, { onError: onConflict(quad, r.words, values) })
              }}
            >
              {r.words}
            </TextButton>
          ) : (
            <span key={r.words}>{r.words}</span>
          ),
        )}
        {f.weight === 'fix' && <Accepting f={f} quad={quad} />}
        <a
          className={join(textLook, 'font-normal text-soft')}
          href={`/api/quads/${quad.id}/facts?rule=${encodeURIComponent(f.rule)}&subject=${encodeURIComponent(f.subject)}`}
          download
          title="Saves what the rule saw and said as a file, for whoever can find out"
        >
          Report this check (downloads a file)
        </a>
      </div>
    </article>
  )
}

/** A fix, never a stop, can be left as it is for a reason; the reason lapses when what it is about changes. */
function Accepting({ f, quad }: { f: Finding; quad: QuadView }) {
  const [open, setOpen] = useState(false)
  const accept = useAct(quad.id, (reason: string) => acts.accept(quad.id, f, reason))
  if (f.accepted) {
    return (
      <TextButton disabled={accept.isPending} onClick={() => accept.mutate('', { onError: showError })}>
        Take the acceptance back
      </TextButton>
    )
  }
  if (!open) {
    return <TextButton onClick={() => setOpen(true)}>Accept it</TextButton>
  }
  return (
    <form
      className={fieldRow}
      aria-label={`Accept: ${f.title}`}
      onSubmit={(e) => {
        e.preventDefault()
        accept.mutate(String(new FormData(e.currentTarget).get('reason')), { onError: showError })
      }}
    >
      <label style={{ flex: '1 1 100%' }}>
        Why may it stay so?
        {/* biome-ignore lint/a11y/noAutofocus: the pilot asked for this field a moment ago */}
        <input name="reason" type="text" required maxLength={500} autoFocus style={{ width: '100%' }} />
      </label>
      <Button type="submit" small main disabled={accept.isPending}>
        Accept with this reason
      </Button>
      <TextButton onClick={() => setOpen(false)}>Cancel</TextButton>
    </form>
  )
}

type Way = Pick<Schemas['AskView'], 'path' | 'label' | 'way' | 'slots'>

const isReading = (way: Pick<Way, 'path'>) => way.path.startsWith('readings.')

/** The two ways to a reading: from the bench, or typed. Some are taken by the instrument while something is held. */
function Ways({ way, quad, again }: { way: Way; quad: QuadView; again?: boolean }) {
  const [typing, setTyping] = useState(false)
  const own = useOwn()
  const none = useNoBench()
  const go = useNavigate()
  const take = useAct(quad.id, () => acts.take(quad.id, asNamed(way.path)))
  // What is measured becomes a reading; what the quad is meant to do, a change in the draft.
  const type = useAct(quad.id, (v: unknown) =>
    isReading(way) ? acts.type(quad.id, asNamed(way.path), v) : acts.edit(quad.id, quad.version, [{ path: asNamed(way.path), value: v }]),
  )
  if (way.way === 'model') return null
  const fromBench = way.way === 'bench' && !none
  // What is answered by yes or no alone is answered at once.
  const asked = !fromBench && !again && way.slots.length === 1 && way.slots[0]?.kind === 'yesNo' && way.slots[0].path === ''
  return (
    <div className={ways}>
      {fromBench && (
        <Button small disabled={take.isPending || !own} onClick={() => take.mutate(undefined, { onError: showError })}>
          {take.isPending ? 'Reading…' : again ? 'Read again' : 'Read from the bench'}
        </Button>
      )}
      {way.slots.length > 0 && !typing && !asked && <TextButton onClick={() => setTyping(true)}>Type it</TextButton>}
      {way.path === 'readings.firmware.backup' && (
        <TextButton onClick={() => void go(`/quads/${quad.id}/firmware?at=saved&bring`)}>Bring its list in</TextButton>
      )}
      {(typing || asked) && (
        <Typed
          still={asked}
          slots={way.slots}
          label={way.label}
          busy={type.isPending}
          error={type.error?.message}
          onCancel={() => setTyping(false)}
          onDone={(v) => type.mutate(v, { onSuccess: () => setTyping(false) })}
        />
      )}
    </div>
  )
}

// What is asked for, one below the other.
const wanted = 'flex flex-col gap-2.5 [&_p]:text-[14px] [&_p]:text-soft [&>li]:border-b [&>li]:border-line [&>li]:pt-1 [&>li]:pb-1.75 [&>li>b]:font-semibold'

/** Reads one after the other what the bench can tell, until it refuses one. */
function ReadAll({ asks, quad }: { asks: Schemas['AskView'][]; quad: QuadView }) {
  const [at, setAt] = useState('')
  const own = useOwn()
  const none = useNoBench()
  const take = useAct(quad.id, (path: string) => acts.take(quad.id, asNamed(path)))
  const list = asks.filter((a) => a.way === 'bench')
  const go = async () => {
    let left = list.map((a) => a.path)
    while (left[0]) {
      setAt(left[0])
      try {
        const now = await take.mutateAsync(left[0])
        // Some are read together: what is asked for no longer is done.
        const open = new Set(now.line.flatMap((p) => p.asks.map((a) => a.path)))
        left = left.slice(1).filter((p) => open.has(p))
      } catch (e) {
        showError(e)
        left = []
      }
    }
    setAt('')
  }
  if (none || (list.length < 2 && !at)) return null
  return (
    <div className={ways}>
      <Button small disabled={!own || at !== ''} onClick={() => void go()}>
        {at ? `Reading: ${asks.find((a) => a.path === at)?.label ?? 'what is left'}…` : `Read all ${list.length} from the bench`}
      </Button>
    </div>
  )
}

/** Opens all that can be typed here on one sheet. */
function TypesAll({ asks, quad }: { asks: Schemas['AskView'][]; quad: QuadView }) {
  const [open, setOpen] = useState(false)
  const list = asks.filter((a) => a.way !== 'model' && a.slots.length > 0)
  if (list.length < 2 && !open) return null
  return (
    <div className={ways}>
      <TextButton onClick={() => setOpen(true)}>Type all {list.length}</TextButton>
      <Suspense>{open && <TypeAll asks={list} quad={quad} onClose={() => setOpen(false)} />}</Suspense>
    </div>
  )
}

/** Tells many places in one act: that nothing is set where 0, off or none is an answer, or that all is as the firmware comes. */
function TellMany({ asks, quad }: { asks: Schemas['AskView'][]; quad: QuadView }) {
  const tell = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  const none = asks.filter((a) => a.nought !== undefined)
  const left = asks.filter((a) => a.left !== undefined)
  const { line, version } = quad.meant.sheet.firmware
  return (
    <>
      {none.length > 1 && (
        <p className="text-[14px] text-soft">
          Looked, and nothing is set there: {none.map((a) => a.label.toLowerCase()).join('; ')}?{' '}
          <TextButton disabled={tell.isPending} onClick={() => tell.mutate(none.map((a) => ({ path: asNamed(a.path), value: a.nought })))}>
            Set all {none.length} to 0, off or none
          </TextButton>
        </p>
      )}
      {left.length > 1 && (
        <p className="text-[14px] text-soft">
          Your list holds changes alone, and none of these?{' '}
          <TextButton disabled={tell.isPending} onClick={() => tell.mutate(left.map((a) => ({ path: asNamed(a.path), value: a.left })))}>
            Set all {left.length} as {line} {version} comes
          </TextButton>
        </p>
      )}
    </>
  )
}

function AllWanted({ name, asks, quad }: { name: string; asks: Schemas['AskView'][]; quad: QuadView }) {
  // A cause that felled several is said once, before them.
  const felled = (why: string | undefined) => (why ? asks.filter((a) => a.why === why).length : 0)
  const causes = [...new Set(asks.map((a) => a.why))].filter((why) => felled(why) > 1)
  const readings = asks.filter(isReading)
  const untold = asks.filter((a) => !isReading(a)) // each with where it is found said once
  return (
    <>
      {causes.map((why) => (
        <p key={why} className="text-fix">
          {felled(why)} checks are needed again: {why}.
        </p>
      ))}
      <ReadAll asks={asks} quad={quad} />
      <TypesAll asks={asks} quad={quad} />
      {readings.length > 0 && (
        <ul aria-label={name} className={wanted}>
          {readings.map((a) => (
            <li key={a.path} data-ask={a.path}>
              <b>{a.label}</b>
              {felled(a.why) === 1 && <span className="text-fix"> {a.why}</span>}
              <p>{a.how}</p>
              {a.good && <p className="text-ok!">Good: {a.good}</p>}
              <Ways way={a} quad={quad} />
            </li>
          ))}
        </ul>
      )}
      {[...new Set(untold.map((a) => a.how))].map((how) => (
        <section key={how} aria-label={`${name}: ${how}`}>
          <p className="text-[14px] text-soft">{how}</p>
          <TellMany asks={untold.filter((a) => a.how === how)} quad={quad} />
          <ul>
            {untold
              .filter((a) => a.how === how)
              .map((a) => (
                <li key={a.path} data-ask={a.path} className="flex flex-wrap items-baseline justify-between gap-x-3 border-b border-line py-1">
                  <span>
                    <b className="font-semibold">{a.label}</b>
                    {a.leftWords && <span className="text-soft"> comes as {a.leftWords}</span>}
                  </span>
                  <Ways way={a} quad={quad} />
                </li>
              ))}
          </ul>
        </section>
      ))}
    </>
  )
}

function Taken({ reading: r, quad }: { reading: Schemas['ReadingView']; quad: QuadView }) {
  const [open, setOpen] = useState(false)
  const origin = r.bench ? (r.origin === 'cable' ? 'bench, by cable' : 'bench') : r.origin
  return (
    <li className="grid grid-cols-[1fr_auto] gap-x-2.5 border-b border-line py-1">
      <span>
        {r.label} <b>{r.words}</b>
      </span>
      <span className="text-right text-[13.5px] whitespace-nowrap text-faint">
        {origin}, {when(r.at)}{' '}
        <TextButton aria-expanded={open} aria-label={`${r.label}: ${origin}, ${when(r.at)}. Take again`} onClick={() => setOpen(!open)}>
          Again
        </TextButton>
      </span>
      {open && (
        <div className="col-span-2">
          <Ways way={r} quad={quad} again />
          <Earlier reading={r} quad={quad} />
        </div>
      )}
    </li>
  )
}

/** What was measured here before, struck through where it was withdrawn, and why. */
function Earlier({ reading: r, quad }: { reading: Schemas['ReadingView']; quad: QuadView }) {
  const history = useHistory(quad, r.path, true)
  const past = (history.data?.past ?? []).filter((p) => !p.counts)
  return (
    <div className="my-1 text-[14px] text-soft">
      {past.length > 0 && (
        <ul aria-label={`Earlier: ${r.label}`}>
          {past.map((p) => (
            <li key={p.at}>
              {p.withdrawn ? <s>{p.words}</s> : p.words}, {when(p.at)}
              {p.withdrawn && `. Withdrawn by ${p.withdrawn.by}: ${p.withdrawn.why}`}
            </li>
          ))}
        </ul>
      )}
      <Withdraw quad={quad} kind="reading" name={r.path} what={r.label} />
    </div>
  )
}
