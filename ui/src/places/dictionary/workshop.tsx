import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useEffect, useState } from 'react'
import { Link, useLocation, useParams } from 'react-router'
import { Button, TextButton, textLook } from '../../kit/button'
import { Disclosure } from '../../kit/disclosure'
import { Subhead } from '../../kit/heading'
import { remarks } from '../../kit/looks'
import { Page } from '../../kit/page'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { showError } from '../../shell/message'
import { dictionaries, type Schemas, useDictionaries, useQuad } from '../../wire/client'
import { asEntry, type Entry, pathsOf } from './entries'
import { Mapping } from './mapping'

type Handed = { list?: string; line?: string; version?: string } | null

/** A line that is not known: its list, what each setting means, and the dictionary that comes of it. */
export function Workshop() {
  const id = Number(useParams().id)
  const quad = useQuad(id)
  const handed = useLocation().state as Handed
  const [list, setList] = useState(handed?.list ?? '')
  const [line, setLine] = useState(handed?.line ?? '')
  const [version, setVersion] = useState(handed?.version || '1.0.0')
  const [separator, setSeparator] = useState(':')
  const [entries, setEntries] = useState<Entry[]>([])
  const [shape, setShape] = useState('')
  const [bound, setBound] = useState<Record<string, string>>({})
  const body = useDeferredValue({ line: line || 'Unnamed', version, separator: separator || undefined, list, entries, shape: shape || undefined, bound })
  const lesson = useQuery({
    queryKey: ['lesson', id, body],
    queryFn: () => dictionaries.lesson(id, body),
    enabled: id > 0 && Boolean(list.trim()),
    placeholderData: (before) => before,
    retry: false,
  })
  useEffect(() => {
    document.title = 'Dictionary workshop · Vivid Perch'
  }, [])
  const v = lesson.data
  const map = (setting: string, entry: Entry | null) => setEntries((all) => [...all.filter((e) => e.setting !== setting), ...(entry ? [entry] : [])])
  const confident = v?.settings.filter((s) => !entries.some((e) => e.setting === s.name) && (v.guesses[s.name]?.[0]?.score ?? 0) > 0.6) ?? []
  const takeAll = () => {
    const used = new Set(entries.flatMap(pathsOf))
    const more: Entry[] = []
    const sure = confident.map((s) => v?.guesses[s.name]?.[0]).filter((g): g is Schemas['Guess'] => Boolean(g))
    for (const g of sure.sort((a, b) => b.score - a.score)) {
      const e = asEntry(g)
      if (pathsOf(e).some((p) => used.has(p))) continue
      for (const p of pathsOf(e)) used.add(p)
      more.push(e)
    }
    setEntries((all) => [...all, ...more])
  }
  return (
    <Page className="flex flex-col gap-2.5 [&_textarea]:w-full [&_textarea]:text-[14px]">
      <div className="flex flex-wrap items-center gap-2.5 justify-between pb-3.5">
        <h1>Describe an unknown firmware family</h1>
        <Link className={textLook} to={`/quads/${id}/firmware?at=saved`}>
          Back to {quad.data?.name ?? 'the quad'}
        </Link>
      </div>
      <div className="flex flex-wrap items-center gap-2.5">
        <label>
          Line <input size={12} maxLength={16} value={line} onChange={(e) => setLine(e.target.value)} />
        </label>
        <label>
          Version <input size={8} value={version} onChange={(e) => setVersion(e.target.value)} />
        </label>
        Separator
        <Select
          label="Separator"
          value={separator}
          options={[
            [':', 'colons'],
            [',', 'commas'],
            [' ', 'blanks'],
            ['/', 'slashes'],
            [';', 'semicolons'],
            ['', 'nothing'],
          ].map(([mark = '', words = '']) => ({ value: mark, words }))}
          onChoose={setSeparator}
        />
        {v && (
          <Button disabled={confident.length === 0} onClick={takeAll}>
            Take the {confident.length} sure guesses
          </Button>
        )}
      </div>
      {!list.trim() || !v ? (
        <>
          <label>
            A list that a board of it gave
            <textarea
              rows={10}
              spellCheck={false}
              value={list}
              onChange={(e) => setList(e.target.value)}
              placeholder="as the board gave it, whatever its lines look like"
            />
          </label>
          {lesson.error && (
            <p role="alert" className="text-stop">
              {lesson.error.message}
            </p>
          )}
        </>
      ) : (
        <>
          {(v.shape || shape) && <ShapeOf told={shape} guessed={v.shape} wrong={lesson.error?.message} onTell={setShape} />}
          <div className="grid grid-cols-[minmax(0,1fr)_330px] gap-7 phone:grid-cols-1">
            <section
              aria-label="Settings and their meaning"
              className="max-h-[calc(100vh-250px)] overflow-y-auto text-[14px] [&_tbody_th[scope=row]]:border-t [&_tbody_th[scope=row]]:border-line [&_thead_th]:sticky [&_thead_th]:top-0 [&_thead_th]:bg-paper"
            >
              <Facts>
                <thead>
                  <tr>
                    <th scope="col">Setting</th>
                    <th scope="col">It holds</th>
                    <th scope="col">It means</th>
                  </tr>
                </thead>
                <tbody>
                  {v.settings.map((s) => (
                    <Mapping
                      key={s.name}
                      setting={s}
                      entry={entries.find((e) => e.setting === s.name)}
                      guesses={v.guesses[s.name] ?? []}
                      places={v.places}
                      taken={entries.filter((e) => e.setting !== s.name).flatMap(pathsOf)}
                      separator={separator}
                      bound={bound[s.name] ?? ''}
                      onMap={(e) => map(s.name, e)}
                      onBound={(what) => setBound(({ [s.name]: _, ...others }) => (what ? { ...others, [s.name]: what } : others))}
                    />
                  ))}
                </tbody>
              </Facts>
            </section>
            <Outcome
              lesson={v}
              old={lesson.isPlaceholderData || body.entries !== entries || body.bound !== bound}
              line={line}
              entries={entries}
              onList={() => setList('')}
            />
          </div>
        </>
      )}
      <Own />
    </Page>
  )
}

/** How the lines of its lists look, where they are not as usual: guessed first, told better by the pilot. */
function ShapeOf(props: { told: string; guessed: string; wrong?: string; onTell: (shape: string) => void }) {
  const [text, setText] = useState(props.told || props.guessed)
  return (
    <Disclosure open words="How its lines look">
      <p className="text-[14px] text-soft">
        They are not as usual. {props.told ? 'This is how you told it.' : 'This is how they seem to look: correct it before you rely on it.'} In braces stands
        what differs from line to line: name, value, section, n (a figure), * (anything).
      </p>
      <label className="sr-only" htmlFor="shape">
        How its lines look
      </label>
      <textarea id="shape" rows={Math.min(14, text.split('\n').length + 1)} spellCheck={false} value={text} onChange={(e) => setText(e.target.value)} />
      <div className="flex flex-wrap items-center gap-2.5">
        <Button small disabled={text === (props.told || props.guessed)} onClick={() => props.onTell(text)}>
          Read it so
        </Button>
        {props.wrong && (
          <span role="alert" className="text-stop">
            {props.wrong}
          </span>
        )}
      </div>
    </Disclosure>
  )
}

/** What comes of the lesson: what a list loses on its way through your settings, and the file to keep. */
function Outcome(props: { lesson: Schemas['TeachView']; old: boolean; line: string; entries: Entry[]; onList: () => void }) {
  const { lesson, line, entries, onList } = props
  const known = useDictionaries()
  const queries = useQueryClient()
  const [kept, setKept] = useState('')
  const before = known.data?.find((d) => d.taught && d.line === line)
  const places = lesson.places.length
  const told = new Set(entries.flatMap(pathsOf)).size
  const keep = async () => {
    try {
      queries.setQueryData(['dictionaries'], await dictionaries.teach(before?.version ?? 0, lesson.file))
      void queries.invalidateQueries({ queryKey: ['quad'] })
      setKept(lesson.file)
    } catch (e) {
      showError(e)
    }
  }
  return (
    <section aria-label="What comes of it" className="[&_pre]:max-h-55 [&_pre]:overflow-auto [&_pre]:font-body [&_pre]:text-[13px]/[normal]">
      <p className="font-head text-[24px]/[normal] font-semibold">
        {entries.length} of {lesson.settings.length} settings
      </p>
      <p className="text-soft">
        tell {told} of the {places} places of your settings. The others go along as they are, without a subject.
      </p>
      {lesson.fault ? (
        <p role="alert" className="text-stop">
          {lesson.fault}
        </p>
      ) : lesson.loses.length > 0 ? (
        <>
          <Subhead>What does not come back as it was</Subhead>
          <ol className={remarks}>
            {lesson.loses.map((r) => (
              <li key={`${r.line} ${r.says}`}>
                <b className="text-fix">{r.line ? `line ${r.line}` : 'the list'}</b> {r.says}
              </li>
            ))}
          </ol>
        </>
      ) : props.old ? (
        <p aria-busy="true" className="text-soft">
          Trying it…
        </p>
      ) : (
        <p className="text-ok">Through your settings and back, every setting comes back as it went in. Whether it means that, read below.</p>
      )}
      {lesson.tells.length > 0 && <Tells list={lesson.tells} />}
      <div className="flex flex-wrap items-center gap-2.5">
        <Button main disabled={props.old || Boolean(lesson.fault) || !line.trim() || kept === lesson.file} onClick={() => void keep()}>
          {kept === lesson.file ? 'Saved' : before ? `Change the dictionary of ${line}` : `Save the dictionary${line ? ` of ${line}` : ''}`}
        </Button>
        <a
          className={textLook}
          aria-disabled={Boolean(lesson.fault)}
          download={`${line || 'line'}.dictionary.yaml`}
          href={`data:text/yaml;charset=utf-8,${encodeURIComponent(lesson.file)}`}
        >
          Download the file
        </a>
        <TextButton onClick={onList}>Another list</TextButton>
      </div>
      {lesson.back && (
        <Disclosure words="The list as it comes back">
          <pre>{lesson.back}</pre>
        </Disclosure>
      )}
    </section>
  )
}

/** What each place comes to be, in a pilot's units, beside what other families have there: what comes back can still mean something else. */
function Tells({ list }: { list: Schemas['Told'][] }) {
  const odd = list.filter((t) => t.odd)
  const shown = [...odd, ...list.filter((t) => !t.odd)]
  return (
    <Disclosure open words={odd.length ? `What it then says: ${odd.length} far from what is usual` : 'What it then says'}>
      <div className="max-h-80 overflow-y-auto text-[14px]">
        <Facts aria-label="What it then says">
          <thead>
            <tr>
              <th scope="col">Place</th>
              <th scope="col">It says</th>
              <th scope="col">Others have</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((t) => (
              <tr key={t.path}>
                <th scope="row" title={`${t.setting} = ${t.raw}`}>
                  {t.label}
                </th>
                <td className={t.odd ? 'font-semibold text-fix' : undefined}>
                  {t.words}
                  {t.odd && <span className="block text-[13px] font-normal">far from usual: look whether it means that</span>}
                </td>
                <td className="text-soft">{t.usual || 'not known'}</td>
              </tr>
            ))}
          </tbody>
        </Facts>
      </div>
    </Disclosure>
  )
}

/** Dictionaries that the pilot taught: to change by hand, to bring in, to take away. */
function Own() {
  const known = useDictionaries()
  const queries = useQueryClient()
  const own = known.data?.filter((d) => d.taught) ?? []
  const put = async (act: Promise<Schemas['DictionaryView'][]>) => {
    try {
      queries.setQueryData(['dictionaries'], await act)
      void queries.invalidateQueries({ queryKey: ['quad'] })
    } catch (e) {
      showError(e)
    }
  }
  const bring = async (f?: File) => {
    if (!f) return
    const text = await f.text()
    const line = /^line:\s*"?([^"\n#]+?)"?\s*$/m.exec(text)?.[1] ?? ''
    await put(dictionaries.teach(own.find((d) => d.line === line)?.version ?? 0, text))
  }
  return (
    <section aria-label="Your dictionaries">
      <div className="flex flex-wrap items-center gap-2.5">
        <Subhead>Your dictionaries</Subhead>
        <input type="file" accept=".yaml,.yml,text/yaml" aria-label="Bring a dictionary in" onChange={(e) => void bring(e.target.files?.[0])} />
      </div>
      {own.map((d) => (
        <p key={d.line}>
          <b>{d.line}</b>{' '}
          {d.broken ? (
            <span className="text-stop">{d.broken}</span>
          ) : (
            `${d.versions.map((x) => x.version).join(', ')}: ${d.settings} settings, ${d.mapped} places of your settings`
          )}{' '}
          <a className={textLook} download={`${d.line}.dictionary.yaml`} href={`data:text/yaml;charset=utf-8,${encodeURIComponent(d.file)}`}>
            Download
          </a>{' '}
          <TextButton onClick={() => void put(dictionaries.forget(d.version, d.line))}>Take it away</TextButton>
        </p>
      ))}
      {own.length === 0 && <p className="text-soft">None of your own yet. The product knows {known.data?.map((d) => d.line).join(', ')}.</p>}
    </section>
  )
}
