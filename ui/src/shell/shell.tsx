import { Search, Sunrise, Sunset } from 'lucide-react'
import { lazy, Suspense, useEffect, useState } from 'react'
import { Link, NavLink, Outlet, useLocation, useMatch } from 'react-router'
import { Page } from '../kit/page'
import { useQuad } from '../wire/client'
import { now, startLive, useLive } from '../wire/live'
import { Boundary } from './boundary'
import { listen, useCommands } from './commands'
import { Cut, cutPower } from './cut'
import { loadMessage, Message } from './message'
import { turnTheme, useTheme } from './theme'

// Loaded soon after the page, before anybody asks for them.
const keyList = () => import('./keys').then((m) => ({ default: m.KeyList }))
const palette = () => import('./palette').then((m) => ({ default: m.Palette }))
const KeyList = lazy(keyList)
const Palette = lazy(palette)

export function Shell() {
  startLive()
  const match = useMatch('/quads/:id/*')
  const id = Number(match?.params.id ?? 0)
  const aside = /^(rehearsal|book|card)$/.test(match?.params['*'] ?? '')
  const quad = useQuad(id)
  const place = useLocation().pathname.split('/').slice(0, 3).join('/')
  const [drawer, setDrawer] = useState(false)
  const [open, setOpen] = useState<'keys' | 'palette' | null>(null)
  useEffect(() => listen(cutPower, () => setOpen('palette')), [])
  useEffect(() => {
    const soon = window.setTimeout(() => void Promise.all([keyList(), palette(), loadMessage()]).catch(() => undefined), 1500)
    return () => window.clearTimeout(soon)
  }, [])
  useCommands([
    { words: 'Cut the bench power', key: 'F9', place: 'Everywhere', run: cutPower },
    { words: 'Find what to do', key: 'Ctrl K', place: 'Everywhere', run: () => setOpen('palette') },
    { words: 'List the keys', key: '?', place: 'Everywhere', run: () => setOpen('keys') },
    { words: 'Open or close the bench', key: 'b', place: 'Everywhere', run: () => setDrawer((d) => !d) },
    { words: 'Change between day and dusk', key: 'd', place: 'Everywhere', run: turnTheme },
  ])
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)] grid-rows-[52px_minmax(0,1fr)] phone:grid-rows-[auto_minmax(0,1fr)]">
      <header className="relative flex min-w-0 items-center gap-2.75 border-b border-line px-5 whitespace-nowrap print:hidden phone:h-12 phone:gap-x-3.5 phone:overflow-x-auto phone:pr-32 phone:pl-3.5 phone:[&>*]:flex-none">
        <NavLink to="/hangar" className="flex items-center gap-2.25 font-head text-[18px]/[normal] font-semibold tracking-[-0.02em]">
          <svg width="26" height="22" viewBox="0 0 26 22" aria-hidden="true">
            <path d="M1 19h24" stroke="var(--wire)" strokeWidth="2" />
            <path transform="translate(4 2)" fill="var(--act)" d="M2 9c1-5 6-7 9.500-5.400C13 1.600 16 2 16.500 4l4 1-4 .6C16.500 11 12 14 7 13.500L0 15z" />
          </svg>
          <span className="phone:sr-only">Vivid Perch</span>
        </NavLink>
        <nav
          aria-label="Places"
          className="flex gap-4.25 text-soft [&_a[aria-current=page]]:font-semibold [&_a[aria-current=page]]:text-ink [&_a[aria-current=page]]:shadow-[0_2px_0_var(--act)]"
        >
          <NavLink to="/hangar">Hangar</NavLink>
          {id > 0 && (
            <>
              <Link to={`/quads/${id}`} aria-current={aside ? undefined : 'page'}>
                The line
              </Link>
              <NavLink to={`/quads/${id}/rehearsal`}>Rehearsal</NavLink>
              <NavLink to={`/quads/${id}/book`}>Book</NavLink>
              <NavLink to={`/quads/${id}/card`}>Card</NavLink>
            </>
          )}
        </nav>
        <div className="flex-1 phone:hidden" />
        {quad.data && id > 0 && (
          <span className="inline-flex min-w-0 items-center gap-1.5 rounded-full border border-line bg-panel px-3 py-1 text-[14px] text-soft data-[tone=stop]:border-stop [&_b]:font-semibold [&_b]:text-ink phone:hidden">
            <b>{quad.data.name}</b>
            {` revision ${quad.data.revision}${quad.data.draft.words.length > 0 ? ', draft' : ''}`}
          </span>
        )}
        <button
          type="button"
          className="grid rounded-md p-1 text-soft hover:bg-act-bg hover:text-ink"
          onClick={() => setOpen('palette')}
          aria-label="Find what to do"
          title="Find what to do (Ctrl K)"
        >
          <Search size={20} strokeWidth={1.6} aria-hidden />
        </button>
        <ThemeButton />
        <BenchChip open={drawer} onClick={() => setDrawer(!drawer)} />
        {/* where the cut stands, in its layer above everything */}
        <span aria-hidden="true" className="w-[121px] flex-none phone:hidden" />
      </header>
      {/* Outside of what changes with the place: then the place before stands until the next one is loaded. */}
      <Suspense fallback={<Page aria-busy="true" />}>
        <Boundary key={place} what="This place">
          <Outlet context={{ drawer, setDrawer }} />
        </Boundary>
      </Suspense>
      <Cut />
      <Message />
      <Suspense>
        {open === 'keys' && <KeyList onClose={() => setOpen(null)} />}
        {open === 'palette' && <Palette id={id} onClose={() => setOpen(null)} />}
      </Suspense>
    </div>
  )
}

export type ShellContext = { drawer: boolean; setDrawer: (open: boolean) => void }

function ThemeButton() {
  const other = useTheme() === 'day' ? 'dusk' : 'day'
  const Turn = other === 'day' ? Sunrise : Sunset
  return (
    <button
      type="button"
      className="grid rounded-md p-1 text-soft hover:bg-act-bg hover:text-ink"
      onClick={turnTheme}
      aria-label={`Change to the ${other} theme`}
      title={`Change to the ${other} theme (d)`}
    >
      <Turn size={20} strokeWidth={1.6} aria-hidden />
    </button>
  )
}

function BenchChip(props: { open: boolean; onClick: () => void }) {
  const words = useLive((s) => {
    if (s.line === 'gone') return 'the program does not answer'
    if (!s.status?.connected) return s.status?.says ?? 'looking'
    if (!s.live) return 'connected'
    return s.live.pack ? `pack in, ${s.live.volts.toFixed(1)} V` : s.live.usb ? 'USB only' : 'no power'
  })
  const there = useLive((s) => (s.line !== 'gone' && s.status?.connected ? s.status.board.quad || s.status.device : ''))
  const simulated = useLive((s) => s.status?.standIn ?? false)
  const propellers = useLive((s) => (s.live ? (s.live.propellers ? 'on' : 'off') : ''))
  const antenna = useLive((s) => (s.live ? (s.live.antenna ? 'on' : 'OFF') : ''))
  const old = useLive((s) => s.line !== 'fresh')
  const danger = useLive((s) => Boolean(s.live?.pack && (s.live.propellers || !s.live.antenna)))
  return (
    <button
      type="button"
      className="inline-flex min-w-0 items-center gap-1.5 rounded-full border border-line bg-panel px-3 py-1 text-[14px] text-soft data-[tone=stop]:border-stop [&_b]:font-semibold [&_b]:text-ink"
      aria-expanded={props.open}
      onClick={props.onClick}
      data-tone={danger ? 'stop' : undefined}
      title="Open the bench (b)"
    >
      <span className={there ? 'sr-only' : undefined}>Bench</span>
      {there && (
        <>
          <b className="max-w-[9em] min-w-[4em] overflow-hidden text-ellipsis">{there}</b>
          {simulated && <span>simulated</span>}·
        </>
      )}
      <b>{words}</b>
      {propellers && (
        <>
          · props <b>{propellers}</b> · antenna <b>{antenna}</b>
        </>
      )}
      {old && now().live && <b className="text-stop">· old figures</b>}
    </button>
  )
}
