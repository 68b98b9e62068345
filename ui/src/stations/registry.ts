import { type ComponentType, lazy } from 'react'
import { figured } from './figured'
import type { Station, StationProps } from './props'

type Instrument = ComponentType<StationProps>

// An instrument is loaded when its station is gone to, or soon after the first one is drawn: by then none is waited for.
const loads = {
  airframe: () => import('./airframe/station').then((m) => figured('airframe', m.AirframeStation)),
  power: () => import('./first-power/station').then((m) => figured('first-power', m.FirstPowerStation)),
  firmware: () => import('./firmware/station').then((m) => figured('firmware', m.FirmwareStation)),
  wiring: () => import('./wiring/station').then((m) => figured('wiring', m.WiringStation)),
  link: () => import('./link/station').then((m) => m.LinkStation),
  sticks: () => import('./sticks/station').then((m) => figured('sticks', m.SticksStation)),
  senses: () => import('./senses/station').then((m) => figured('drawing', m.SensesStation)),
  motors: () => import('./motors/station').then((m) => figured('motors', m.MotorsStation)),
  feel: () => import('./feel/station').then((m) => figured('feel', m.FeelStation)),
  watch: () => import('./power-watch/station').then((m) => figured('power-watch', m.PowerWatchStation)),
  loss: () => import('./link-loss/station').then((m) => figured('link-loss', m.LossStation)),
  flight: () => import('./first-flight/station').then((m) => figured('first-flight', m.FlightStation)),
  lit: () => import('./lit').then((m) => figured('drawing', m.LitStation)),
} satisfies Record<string, () => Promise<Instrument>>

const later = (load: () => Promise<Instrument>) => lazy(() => load().then((one) => ({ default: one })))

/** The instrument of every station. Those that have none of their own yet are drawn on the shared quad. */
export const instruments: Record<Station, Instrument> = {
  airframe: later(loads.airframe),
  'first-power': later(loads.power),
  firmware: later(loads.firmware),
  wiring: later(loads.wiring),
  link: later(loads.link),
  sticks: later(loads.sticks),
  motors: later(loads.motors),
  senses: later(loads.senses),
  feel: later(loads.feel),
  'power-watch': later(loads.watch),
  'link-loss': later(loads.loss),
  picture: later(loads.lit),
  'bench-proof': later(loads.lit),
  'first-flight': later(loads.flight),
}

/** Loads every instrument, so that going along the line waits for none. */
export const loadInstruments = () => void Promise.allSettled(Object.values(loads).map((load) => load()))
