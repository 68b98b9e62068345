import { type ComponentType, lazy } from 'react'
import { figured } from './figured'
import { LitStation } from './lit'
import type { Station, StationProps } from './props'

type Instrument = ComponentType<StationProps>

// An instrument is loaded when its station is gone to, or soon after the first one is drawn: by then none is waited for.
const loads = {
  airframe: () => import('./airframe/station').then((m) => figured('airframe', m.AirframeStation)),
  firmware: () => import('./firmware/station').then((m) => figured('firmware', m.FirmwareStation)),
  wiring: () => import('./wiring/station').then((m) => figured('wiring', m.WiringStation)),
  link: () => import('./link/station').then((m) => m.LinkStation),
  sticks: () => import('./sticks/station').then((m) => figured('sticks', m.SticksStation)),
  senses: () => import('./senses/station').then((m) => figured('drawing', m.SensesStation)),
  motors: () => import('./motors/station').then((m) => figured('motors', m.MotorsStation)),
  loss: () => import('./link-loss/station').then((m) => figured('link-loss', m.LossStation)),
  flight: () => import('./first-flight/station').then((m) => figured('first-flight', m.FlightStation)),
} satisfies Record<string, () => Promise<Instrument>>

const lit = figured('drawing', LitStation)
const later = (load: () => Promise<Instrument>) => lazy(() => load().then((one) => ({ default: one })))

/** The instrument of every station. Those that have none of their own yet are drawn on the shared quad. */
export const instruments: Record<Station, Instrument> = {
  airframe: later(loads.airframe),
  'first-power': lit,
  firmware: later(loads.firmware),
  wiring: later(loads.wiring),
  link: later(loads.link),
  sticks: later(loads.sticks),
  motors: later(loads.motors),
  senses: later(loads.senses),
  feel: lit,
  'power-watch': lit,
  'link-loss': later(loads.loss),
  picture: lit,
  'bench-proof': lit,
  'first-flight': later(loads.flight),
}

/** Loads every instrument, so that going along the line waits for none. */
export const loadInstruments = () => void Promise.allSettled(Object.values(loads).map((load) => load()))
