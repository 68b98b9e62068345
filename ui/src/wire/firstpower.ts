// Calls of the first power: the meter in hand, and devices that come on one after the other.
import { answerOf, type Schemas, server } from './client'

const at = (id: number) => ({ params: { path: { id } } })

export type Ohm = Schemas['Ohm']

export const firstPower = {
  deviation: (id: number, measured: number[]) => answerOf(server.POST('/api/quads/{id}/first-power/deviation', { ...at(id), body: { measured } })),
  leadLooks: (id: number, figures: Ohm[]) => answerOf(server.POST('/api/quads/{id}/first-power/lead', { ...at(id), body: { figures } })),
  powerOn: (id: number) => answerOf(server.POST('/api/quads/{id}/first-power/on', at(id))),
  interrupted: (id: number, why: string) => answerOf(server.POST('/api/quads/{id}/first-power/interrupted', { ...at(id), body: { why } })),
  probes: (body: Schemas['ProtocolProbes']) => answerOf(server.POST('/api/bench/probes', { body })),
  drain: () => answerOf(server.POST('/api/bench/drain')),
  plug: (device: string, plugged: boolean) => answerOf(server.POST('/api/bench/plug', { body: { device, in: plugged } })),
}
