import { useRef } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { Segments } from '../../kit/segments'
import { Select } from '../../kit/select'
import { Slider } from '../../kit/slider'
import { Drawer } from '../../shell/drawer'
import { showError } from '../../shell/message'
import { acts, bench, type Schemas, useAct } from '../../wire/client'
import { now, useLive, useLiveDraw } from '../../wire/live'
import { ControlLink } from './control-link'
import { useOwn } from './whose'

type Things = Schemas['ProtocolThings']
const set = (t: Things) => void bench.things(t).catch(showError)

const icons: Record<string, React.ReactNode> = {
  usb: <path d="M4 9h10v6H4zM14 10h5v4h-5M7 9V6h4v3" />,
  pack: <path d="M3 8h16v8H3zM19 10h2v4h-2M7 8v8" />,
  propellers: <path d="M12 12C4 4 3 9 12 12c8 8 9 3 0 0M12 12c-8 8-3 9 0 0c8-8 3-9 0 0" />,
  antenna: <path d="M12 20V10M12 10l-5-5M12 10l5-5M9 20h6" />,
  radio: <path d="M4 10h16v10H4zM8 10L5 3M9 15h.1M15 15h.1" />,
}

/** Everything a pilot can do at the bench. */
export function BenchDrawer({ id, onClose }: { id: number; onClose: () => void }) {
  const connected = useLive((s) => s.status?.connected ?? false)
  const says = useLive((s) => s.status?.says ?? 'The program does not answer; it is tried again and again.')
  const device = useLive((s) => (s.status?.standIn ? `${s.status.device}, simulated` : (s.status?.device ?? '')))
  return (
    <Drawer label="Bench" title={device || 'Bench'} onClose={onClose}>
      {connected ? <Connected id={id} /> : <p>{says.replace(/\.?$/, '.')}</p>}
    </Drawer>
  )
}

function Connected({ id }: { id: number }) {
  const pack = useLive((s) => s.live?.pack ?? false)
  const usb = useLive((s) => s.live?.usb ?? false)
  const propellers = useLive((s) => s.live?.propellers ?? false)
  const antenna = useLive((s) => s.live?.antenna ?? false)
  const radio = useLive((s) => s.live?.radio ?? false)
  const board = useLive((s) => s.live?.board ?? '')
  const volts = useLive((s) => (s.live?.pack ? `${s.live.volts.toFixed(1)} V, ${s.live.amps.toFixed(1)} A` : 'no pack'))
  const says = useLive((s) => {
    const l = s.live
    if (!l) return ''
    if (l.board === 'bootloader') return 'The board waits in its bootloader.'
    if (l.loss) return 'The board believes the radio is gone.'
    if (l.beeping) return 'It beeps.'
    return l.armed ? 'Armed.' : ''
  })
  return (
    <>
      <OnTheBench unplugged={!pack && !usb} />
      <div className="grid grid-cols-5 gap-1.5">
        <Toggle name="USB" icon="usb" on={usb} words={usb ? 'in' : 'out'} onClick={() => set({ usb: !usb })} />
        <Toggle name="Pack" icon="pack" on={pack} words={pack ? 'in' : 'out'} onClick={() => set({ pack: !pack })} />
        <Toggle name="Props" icon="propellers" on={propellers} words={propellers ? 'on' : 'off'} onClick={() => set({ propellers: !propellers })} />
        <Toggle name="Antenna" icon="antenna" on={antenna} words={antenna ? 'on' : 'off'} onClick={() => set({ antenna: !antenna })} />
        <Toggle name="Radio" icon="radio" on={radio} words={radio ? 'on' : 'off'} onClick={() => set({ radio: !radio })} />
      </div>
      <p className="text-soft">
        Board <b>{board}</b>, {volts}. <b className="text-stop">{says}</b>
      </p>
      {pack && propellers && <p className="text-stop">Pack in with the propellers on: nothing on this bench will turn until they are off.</p>}
      {pack && !antenna && <p className="text-stop">The video transmitter has no antenna: it is being destroyed.</p>}
      <Subhead>Sticks and switches</Subhead>
      <div className="flex flex-wrap items-center gap-2.5" style={{ gap: 18 }}>
        <Gimbal name="Left stick" leftRight="yaw" upDown="throttle" />
        <Gimbal name="Right stick" leftRight="roll" upDown="pitch" />
      </div>
      <Switches />
      <Subhead>Tilt of the frame in your hand</Subhead>
      <Tilt id={id} />
      <Subhead>At the radio and the receiver</Subhead>
      <Adjust />
      <ControlLink />
    </>
  )
}

/** Which quad lies there; another can be put in its place while nothing is plugged in. */
function OnTheBench({ unplugged }: { unplugged: boolean }) {
  const quads = useLive((s) => (s.status?.quads ?? []).join('\n'))
  const quad = useLive((s) => s.status?.board.quad ?? '')
  if (!quads) return null
  return (
    <div className="flex flex-wrap items-center gap-2.5">
      On the bench
      <Select
        label="On the bench"
        value={quad}
        disabled={!unplugged}
        options={quads.split('\n').map((q) => ({ value: q, words: q }))}
        onChoose={(q) => void bench.place(q).catch(showError)}
      />
      {!unplugged && <span className="text-soft">unplug it to put another there</span>}
    </div>
  )
}

function Toggle(props: { name: string; icon: string; on: boolean; words: string; onClick: () => void }) {
  return (
    <button
      type="button"
      className="grid justify-items-center gap-0.5 rounded-lg border border-line bg-paper px-0.5 pt-1.5 pb-1.25 text-[13px] text-soft aria-pressed:border-act aria-pressed:bg-act-bg aria-pressed:text-ink aria-pressed:shadow-[inset_0_-3px_0_var(--act)] pointer-coarse:min-h-10 [&_b]:font-semibold [&_b]:text-ink"
      aria-pressed={props.on}
      onClick={props.onClick}
      aria-label={`${props.name} ${props.words}`}
    >
      <svg width="24" height="24" viewBox="0 0 24 24" fill="none" stroke="currentColor" strokeWidth="1.6" aria-hidden="true">
        {icons[props.icon]}
      </svg>
      <b>{props.name}</b>
      {props.words}
    </button>
  )
}

type Axis = 'roll' | 'pitch' | 'throttle' | 'yaw'
const side = 104

function Gimbal({ name, leftRight, upDown }: { name: string; leftRight: Axis; upDown: Axis }) {
  const knob = useRef<SVGCircleElement>(null)
  useLiveDraw((s) => {
    const at = s.live?.sticks ?? {}
    knob.current?.setAttribute('cx', String(side / 2 + ((at[leftRight] ?? 0) * side) / 2.7))
    knob.current?.setAttribute('cy', String(side / 2 - ((at[upDown] ?? 0) * side) / 2.7))
  })
  const move = (axis: Axis, place: number) => void bench.stick({ axis, place: Math.max(-1, Math.min(1, place)) }).catch(showError)
  const drag = (e: React.PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    move(leftRight, ((e.clientX - box.left - box.width / 2) / box.width) * 2.7)
    move(upDown, (-(e.clientY - box.top - box.height / 2) / box.height) * 2.7)
  }
  const rest = () => {
    move(leftRight, 0)
    if (upDown !== 'throttle') move(upDown, 0)
  }
  const key = (e: React.KeyboardEvent) => {
    const at = now().live?.sticks ?? {}
    const by: Record<string, [Axis, number]> = {
      ArrowLeft: [leftRight, -0.25],
      ArrowRight: [leftRight, 0.25],
      ArrowUp: [upDown, 0.25],
      ArrowDown: [upDown, -0.25],
    }
    const hit = by[e.key]
    if (hit) {
      e.preventDefault()
      move(hit[0], (at[hit[0]] ?? 0) + hit[1])
    } else if (e.key === 'Home') rest()
  }
  return (
    <svg
      width={side}
      height={side}
      role="application"
      aria-label={`${name}: ${upDown} up and down, ${leftRight} left and right. Arrow keys move it, Home lets go.`}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the stick is moved with the arrow keys
      tabIndex={0}
      onKeyDown={key}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        drag(e)
      }}
      onPointerMove={(e) => e.buttons > 0 && drag(e)}
      onPointerUp={rest}
      style={{ touchAction: 'none' }}
    >
      <rect x="1" y="1" width={side - 2} height={side - 2} rx="14" fill="var(--paper)" stroke="var(--line)" />
      <path d={`M${side / 2} 8V${side - 8}M8 ${side / 2}H${side - 8}`} stroke="var(--line)" />
      <circle ref={knob} r="11" fill="var(--ink)" />
    </svg>
  )
}

function Switches() {
  const plan = useLive((s) => JSON.stringify(s.status?.switches ?? []))
  const places = useLive((s) => JSON.stringify(s.live?.switches ?? {}))
  const list = JSON.parse(plan) as Schemas['ProtocolSwitchInfo'][]
  const at = JSON.parse(places) as Record<string, string>
  return (
    <div className="flex flex-wrap items-center gap-2.5">
      {list.map((s) => (
        <fieldset key={s.name}>
          <legend style={{ fontSize: 13 }}>{s.name}</legend>
          <Segments
            items={s.positions.map((p) => ({ value: p, words: p }))}
            value={at[s.name] ?? ''}
            onChoose={(p) => void bench.stick({ switch: s.name, position: p }).catch(showError)}
          />
        </fieldset>
      ))}
    </div>
  )
}

function Tilt({ id }: { id: number }) {
  const own = useOwn()
  const roll = useLive((s) => s.live?.tiltRoll ?? 0)
  const pitch = useLive((s) => s.live?.tiltPitch ?? 0)
  const shown = useLive((s) =>
    s.live?.board === 'running' ? `The board shows roll ${s.live.roll.toFixed(1)}°, pitch ${s.live.pitch.toFixed(1)}°.` : 'The board shows nothing.',
  )
  const level = useAct(id, () => acts.level(id))
  return (
    <div className="grid grid-cols-2 items-center gap-x-3.5 gap-y-1.5">
      <div className="text-[13px]">
        Right side down
        <Slider label="Right side down" min={-60} max={60} value={roll} onMove={(x) => void set({ tiltRoll: x })} />
      </div>
      <div className="text-[13px]">
        Nose up
        <Slider label="Nose up" min={-60} max={60} value={pitch} onMove={(x) => void set({ tiltPitch: x })} />
      </div>
      <span className="col-span-full text-soft">{shown}</span>
      <Button small onClick={() => set({ tiltRoll: 0, tiltPitch: 0 })}>
        Lay it on the level plate
      </Button>
      <Button small disabled={!own || level.isPending} onClick={() => level.mutate(undefined, { onError: showError })}>
        Set as level
      </Button>
    </div>
  )
}

function Adjust() {
  const travel = useLive((s) => s.live?.travel ?? 100)
  const onLoss = useLive((s) => s.live?.onLoss ?? '')
  return (
    <div className="flex flex-wrap items-center gap-2.5">
      <span>
        Stick travel <b>{travel} %</b>
      </span>
      <Button small disabled={travel === 100} onClick={() => void bench.adjust({ travel: 100 }).catch(showError)}>
        Set 100 %
      </Button>
      <fieldset>
        <legend style={{ fontSize: 13 }}>Receiver, without a radio, gives</legend>
        <Segments
          items={(['silence', 'hold', 'preset'] as const).map((w) => ({ value: w, words: w }))}
          value={onLoss as '' | 'silence' | 'hold' | 'preset'}
          onChoose={(w) => void bench.adjust({ onLoss: w }).catch(showError)}
        />
      </fieldset>
    </div>
  )
}
