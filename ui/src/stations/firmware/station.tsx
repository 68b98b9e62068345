import { lazy, Suspense } from 'react'
import { useSearchParams } from 'react-router'
import { join } from '../../kit/join'
import { stage } from '../../kit/looks'
import { AsTable } from '../../shell/as-table'
import type { QuadAt } from '../../wire/figures'
import { useLive } from '../../wire/live'
import { useBackups } from '../../wire/pages'
import type { StationProps } from '../props'
import { Crossing, Stone } from '../way'
import { Board } from './board'
import { Flash } from './flash'
import { type Place, places } from './places'
import { Saved } from './saved'
import { Writes } from './writes'

const Unseen = lazy(() => import('./unseen').then((m) => ({ default: m.Unseen })))
const Cable = lazy(() => import('./cable').then((m) => ({ default: m.Cable })))
const Review = lazy(() => import('./review').then((m) => ({ default: m.Review })))

/**
 * The way of the settings, drawn: what was saved is carried onto the sheet, the sheet is written to the board, an image
 * is flashed to it. Each place and each crossing opens what is done there.
 */
export function FirmwareStation({ quad }: StationProps<QuadAt<'firmware'>>) {
  const [query, setQuery] = useSearchParams()
  const at = places.find((p) => p === query.get('at')) ?? 'board'
  const go = (place: Place, more: Record<string, string> = {}) => setQuery({ at: place, ...more }, { replace: true })
  const saved = useBackups(quad)
  const flashing = useLive((s) =>
    ['saving', 'erasing', 'writing', 'verifying', 'restarting'].includes(s.flash?.step ?? '') ? Math.round(s.flash?.percent ?? 0) : -1,
  )
  const waits = useLive((s) => s.live?.board === 'bootloader')
  const is = quad.board
  const want = quad.meant.sheet.firmware
  const count = saved.list?.length ?? 0
  const kept = count ? `${count}${saved.more ? ' and more' : ''}` : ''
  const differ = is.changes.length
  const old = saved.list?.find((b) => b.step !== 'same' && b.own > 0)
  const controllers = quad.controllers
  const rows = [
    ['Saved lists', kept || 'none'],
    ['Your settings', `${want.line} ${want.version} for ${want.target}`],
    ['Board', is.read ? `${is.line} ${is.version} on ${is.target}` : 'not read'],
    ['To write', is.hinders || (is.read ? `${differ}` : 'not known')],
    ...controllers.map((c) => [`Speed controller ${c.output}`, c.asked ? `${c.layout} ${c.version}` : 'not asked']),
  ]
  return (
    <div className={join(stage, 'group gap-1.5')} data-at={at}>
      <AsTable wide caption="The way of the settings" head={['', '']} rows={rows} />
      <nav className="flex items-stretch justify-between phone:overflow-x-auto" aria-label="The way of the settings">
        <Stone
          at="saved"
          here={at}
          go={go}
          name="Saved lists"
          words={kept ? `${kept} saved` : 'none saved yet'}
          art={
            <>
              <path d="M18 8h44l6 6v42H18z" />
              <path d="M12 14v48h50" />
              <path d="M28 22h28M28 31h28M28 40h18" className="stroke-faint stroke-[1.5]" />
            </>
          }
        />
        <Crossing
          at="carry"
          here={at}
          go={go}
          name="carry over"
          words={old ? `from ${old.version}` : 'nothing older'}
          tone={old ? 'act' : 'soft'}
          off={!count}
        />
        <Stone
          at="write"
          here={at}
          go={go}
          name="Settings"
          words={`${want.line} ${want.version}`}
          art={
            <>
              <path d="M20 6h34l12 12v46H20z" />
              <path d="M54 6v12h12" />
              <path d="M28 28h30M28 37h30M28 46h22" className="stroke-faint stroke-[1.5]" />
            </>
          }
        />
        <Crossing
          at="write"
          here={at}
          go={go}
          name="write"
          words={
            !is.read ? 'board not read' : is.hinders ? 'cannot be written' : differ ? `${differ} ${differ === 1 ? 'differs' : 'differ'}` : 'nothing differs'
          }
          tone={is.hinders || differ ? 'stop' : is.read ? 'ok' : 'soft'}
        />
        <Stone
          at="board"
          here={at}
          go={go}
          name="Board"
          words={waits ? 'in its bootloader' : is.read ? `${is.line} ${is.version}` : 'not read back'}
          tone={waits ? 'fix' : 'soft'}
          art={
            <>
              <rect x="20" y="8" width="46" height="46" rx="5" />
              <rect x="34" y="22" width="18" height="18" className="stroke-faint stroke-[1.5]" />
              {[16, 26, 36, 46].map((y) => (
                <path key={y} d={`M14 ${y}h6M66 ${y}h6`} />
              ))}
              {controllers.map((c, i) => (
                <rect
                  key={c.output}
                  x={18 + i * 13}
                  y="60"
                  width="10"
                  height="8"
                  rx="2"
                  className={c.unlike ? 'fill-fix stroke-none' : c.asked ? 'fill-ok stroke-none' : 'stroke-faint stroke-[1.5]'}
                />
              ))}
            </>
          }
        />
        <Crossing
          at="flash"
          here={at}
          go={go}
          name="flash"
          back
          words={flashing >= 0 ? `${flashing} %` : waits ? 'goes on' : 'from an image'}
          tone={flashing >= 0 || waits ? 'fix' : 'soft'}
        />
        <Stone
          at="flash"
          here={at}
          go={go}
          name="Image"
          words="Intel HEX"
          art={
            <>
              <path d="M16 12h54v46H16z" />
              <path d="M24 24h8M36 24h8M48 24h14M24 35h16M44 35h8M56 35h6M24 46h8M36 46h16" className="stroke-faint stroke-[1.5]" />
            </>
          }
        />
      </nav>
      <div className="min-h-0 flex-1 overflow-y-auto border-t border-line px-1 pt-3 pb-1 [&_textarea]:w-full [&_textarea]:text-[14px]">
        {at === 'saved' && <Saved quad={quad} go={go} />}
        {at === 'carry' && (
          <Suspense fallback={<p aria-busy="true">Opening the review…</p>}>
            <Review quad={quad} saved={saved.list ?? []} />
          </Suspense>
        )}
        {at === 'write' && <Writes quad={quad} />}
        {at === 'board' && <Board quad={quad} controllers={controllers} onCable={() => go('cable')} />}
        {at === 'cable' && (
          <Suspense fallback={<p aria-busy="true">Opening the cable…</p>}>
            <Cable quad={quad} family={want.line} onUnseen={() => go('unseen')} />
          </Suspense>
        )}
        {at === 'unseen' && (
          <Suspense fallback={<p aria-busy="true">Opening the questions…</p>}>
            <Unseen />
          </Suspense>
        )}
        {at === 'flash' && <Flash quad={quad} controllers={controllers} />}
      </div>
    </div>
  )
}
