import { lazy, Suspense, useState } from 'react'
import { useSearchParams } from 'react-router'
import { TextButton } from '../../kit/button'
import { join } from '../../kit/join'
import { stage } from '../../kit/looks'
import { AsTable } from '../../shell/as-table'
import { type RadioPath, useLink, usualPath } from '../../wire/client'
import { useLive } from '../../wire/live'
import type { StationProps } from '../props'
import { Crossing, Stone } from '../way'
import { Bind } from './bind'
import { Lamp, meaning, useLight } from './light'
import { Why } from './why'
import { metres } from './words'

const Reach = lazy(() => import('./reach').then((m) => ({ default: m.Reach })))
const Fleet = lazy(() => import('./fleet').then((m) => ({ default: m.Fleet })))
const LinkImage = lazy(() => import('./image').then((m) => ({ default: m.LinkImage })))
const Own = lazy(() => import('./gear').then((m) => ({ default: m.Own })))

const places = ['bind', 'why', 'reach', 'fleet', 'gear', 'image'] as const
export type Place = (typeof places)[number]

/** From the pilot's hand to the quad: the radio and who flies with it, the binding, the receiver, the air between. */
export function LinkStation({ quad, perch }: StationProps) {
  const [query, setQuery] = useSearchParams()
  const at = places.find((p) => p === query.get('at')) ?? 'bind'
  const go = (place: Place) => setQuery({ at: place }, { replace: true })
  const [path, setPath] = useState<RadioPath>(usualPath)
  const link = useLink(quad, path)
  const v = link.data
  const light = useLight(v?.gear)
  const moves = useLive((s) => (s.live?.pack ? s.live.channels.length > 0 : null))
  const dark = useLive((s) => Boolean(s.live && !s.live.pack && !s.live.usb))
  const radio = quad.meant.parts.radioModule
  const receiver = quad.meant.parts.receiver
  const heard = moves ? 'channels arrive' : moves === false ? 'no channels' : v?.hears === false ? 'cannot hear it' : 'nothing has power'
  return (
    <div className={join(stage, 'group gap-1.5')} data-at={at}>
      <AsTable
        caption="The control link"
        head={['', '']}
        rows={[
          ['Radio module', `${radio.name} ${radio.link} ${radio.version}, ${radio.band}, ${radio.power} mW`],
          ['Receiver', `${receiver.name} ${receiver.link} ${receiver.version}, ${receiver.band}`],
          ['Receiver number', v?.number ? `${v.number}` : 'none'],
          ['Light', light.words ? `${light.words}: ${meaning(light.state)}` : 'not seen'],
          ['Channels', heard],
          ['Reach with 20 dB to spare', v?.budget ? metres(v.budget.safe) : (v?.says ?? '')],
          ...perch.readings.map((r) => [r.label, r.words]),
        ]}
      />
      <nav className="flex items-stretch justify-between phone:overflow-x-auto" aria-label="From the hand to the quad">
        <Stone
          at="fleet"
          here={at}
          go={go}
          name={radio.name || 'Radio'}
          words={`${radio.link || 'no link told'} ${radio.version}${v?.number ? `, number ${v.number}` : ''}`}
          tone={v?.same.length ? 'stop' : 'soft'}
          art={
            <>
              <path d="M60 22L70 3" />
              <rect x="10" y="22" width="64" height="42" rx="7" />
              <circle cx="27" cy="40" r="8" className="stroke-faint stroke-[1.5]" />
              <circle cx="57" cy="40" r="8" className="stroke-faint stroke-[1.5]" />
              <path d="M27 40v-7M57 40l5-4M36 55h12" />
            </>
          }
        />
        <Crossing at="bind" here={at} go={go} name="bind" words={heard} tone={moves ? 'ok' : moves === false || v?.hears === false ? 'fix' : 'soft'} />
        <Stone
          at="why"
          here={at}
          go={go}
          name={receiver.name || 'Receiver'}
          words={light.state && !dark ? meaning(light.state) : `${receiver.link || 'no link told'} ${receiver.version}`}
          tone={dark ? 'soft' : light.state === 'bound' ? 'ok' : light.state && light.state !== 'binding' ? 'fix' : 'soft'}
          art={
            <>
              <path d="M26 28V6M58 28V6" />
              <rect x="18" y="28" width="48" height="32" rx="4" />
              <path d="M28 60v8M38 60v8M48 60v8" className="stroke-faint stroke-[1.5]" />
              <g transform="translate(54 44)">
                <Lamp blink={light.blink} size={7} />
              </g>
            </>
          }
        />
        <Crossing at="reach" here={at} go={go} name="reach" words={v?.budget ? `${metres(v.budget.safe)}, 20 dB spare` : 'power not told'} />
        <Stone
          at="gear"
          here={at}
          go={go}
          name="Own gear"
          words={v?.own ? 'your own facts' : v?.gear ? 'facts as shipped' : 'not known'}
          tone={v && !v.gear ? 'fix' : 'soft'}
          art={
            <>
              <path d="M16 10h44l8 8v44H16z" />
              <path d="M26 26h8M40 26h18M26 36h14M46 36h12M26 46h6M38 46h20" className="stroke-faint stroke-[1.5]" />
              <path d="M60 10v8h8" />
            </>
          }
        />
      </nav>
      <div className="min-h-0 flex-1 overflow-y-auto border-t border-line px-1 pt-3 pb-1 [&_textarea]:w-full [&_textarea]:text-[14px]">
        {(at === 'fleet' || at === 'why') && (
          <div className="float-right pl-4">
            <TextButton onClick={() => go('image')}>New firmware for it</TextButton>
          </div>
        )}
        {link.error && <p role="alert">{link.error.message}</p>}
        <Suspense fallback={<p aria-busy="true">Opening…</p>}>
          {v && at === 'bind' && <Bind quad={quad} view={v} onWhy={() => go('why')} />}
          {v && at === 'why' && <Why quad={quad} view={v} />}
          {v && at === 'reach' && <Reach quad={quad} view={v} path={path} setPath={setPath} />}
          {at === 'fleet' && <Fleet quad={quad} view={v} />}
          {at === 'image' && <LinkImage quad={quad} />}
          {at === 'gear' && <Own name={receiver.link} />}
        </Suspense>
      </div>
    </div>
  )
}
