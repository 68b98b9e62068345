// The one way to the server: typed from its own description.

import { type QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import createClient from 'openapi-fetch'
import type { Path } from './path'
import type { components, paths } from './schema'

/** A place, and what shall stand there. */
export type Change = { path: Path; value: unknown }
export type Schemas = components['schemas']
export type QuadView = Schemas['QuadView']
export type Perch = Schemas['Perch']
export type Finding = Schemas['Judged']
export type Slot = Schemas['Slot']

export const server = createClient<paths>({ baseUrl: '/' })

/** What the server said no with: a sentence for the pilot, and the place it is about. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly code: string,
    readonly place: string,
  ) {
    super(message)
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response }

/** Unwraps an answer; a problem becomes a Refusal, a dead line too. */
export async function told<T>(answer: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>
  try {
    got = await answer
  } catch {
    throw new Refusal('The program does not answer. What you did last may not have been kept.', 'offline', '')
  }
  if (got.data !== undefined) return got.data
  const p = (got.error ?? {}) as Partial<Schemas['Problem']>
  const says = p.detail ?? `The program answered with ${got.response.status}.`
  // A place in what was given, such as a line of a file, belongs to the sentence; a path of the quad does not.
  const where = /^(line|address) /.test(p.place ?? '') ? `In ${p.place}: ` : ''
  throw new Refusal(where + says, p.code ?? 'unknown', p.place ?? '')
}

export const useHangar = () => useQuery({ queryKey: ['hangar'], queryFn: () => told(server.GET('/api/hangar')) })

export const useQuad = (id: number) =>
  useQuery({
    queryKey: ['quad', id],
    queryFn: async ({ client }) => {
      const got = await told(server.GET('/api/quads/{id}', { params: { path: { id } } }))
      return newer(client.getQueryData<QuadView>(['quad', id]), got)
    },
    enabled: id > 0,
  })

/** Of two looks at a quad, the one that shows more of what was done: an answer that was under way while another act was made comes late. */
function newer(shown: QuadView | undefined, got: QuadView): QuadView {
  if (!shown) return got
  const [version = 0, entry = 0] = shown.seen.split('.').map(Number)
  const [gotVersion = 0, gotEntry = 0] = got.seen.split('.').map(Number)
  return gotVersion < version || gotEntry < entry ? shown : got
}

/** An act on a quad whose answer is the quad as it stands after it. */
export function useAct<V>(id: number, act: (v: V) => Promise<QuadView>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: (view) => keep(queries, id, view),
    onError: (e) => {
      if (e instanceof Refusal && e.code === 'changed') void queries.invalidateQueries({ queryKey: ['quad', id] })
    },
  })
}

/** Puts a quad as an act answered it in the place of what was shown. */
export function keep(queries: QueryClient, id: number, view: QuadView) {
  queries.setQueryData<QuadView>(['quad', id], (shown) => newer(shown, view))
  void queries.invalidateQueries({ queryKey: ['hangar'] })
  void queries.invalidateQueries({ queryKey: ['rehearsal', id] })
}

const at = (id: number) => ({ params: { path: { id } } })

export const acts = {
  edit: (id: number, version: number, values: Change[]) => told(server.POST('/api/quads/{id}/edit', { ...at(id), body: { version, values } })),
  takeBack: (id: number, seen: string, why: string) => told(server.POST('/api/quads/{id}/back', { ...at(id), body: { seen, why } })),
  withdraw: (id: number, body: Schemas['WithdrawBody']) => told(server.POST('/api/quads/{id}/withdraw', { ...at(id), body })),
  redo: (id: number, version: number) => told(server.POST('/api/quads/{id}/redo', { ...at(id), body: { version } })),
  type: (id: number, path: Path, value: unknown) => told(server.POST('/api/quads/{id}/type', { ...at(id), body: { path, value } })),
  take: (id: number, path: Path) => told(server.POST('/api/quads/{id}/take', { ...at(id), body: { path } })),
  sign: (id: number, station: string, seen: string) => told(server.POST('/api/quads/{id}/sign', { ...at(id), body: { station, seen } })),
  accept: (id: number, f: Finding, reason: string) =>
    told(server.POST('/api/quads/{id}/accept', { ...at(id), body: { rule: f.rule, subject: f.subject, reason } })),
  note: (id: number, event: Schemas['EventBody']['event'], note: string) => told(server.POST('/api/quads/{id}/event', { ...at(id), body: { event, note } })),
  release: (id: number, site: string, seen: string) => told(server.POST('/api/quads/{id}/release', { ...at(id), body: { scope: 'hover', site, seen } })),
  fly: (id: number, body: Schemas['FlightBody']) => told(server.POST('/api/quads/{id}/flights', { ...at(id), body })),
  correct: (id: number, flight: number, body: Schemas['CorrectionBody']) =>
    told(server.POST('/api/quads/{id}/flights/{flight}', { params: { path: { id, flight } }, body })),
  save: (id: number, version: number, why: string) => told(server.POST('/api/quads/{id}/save', { ...at(id), body: { version, why } })),
  restore: (id: number, version: number, number: number, paths?: Path[]) =>
    told(server.POST('/api/quads/{id}/restore', { ...at(id), body: { version, number, paths } })),
  adopt: (id: number, seen: string) => told(server.POST('/api/quads/{id}/bench/adopt', { ...at(id), body: { seen } })),
  level: (id: number) => told(server.POST('/api/quads/{id}/bench/level', at(id))),
  write: (id: number) => told(server.POST('/api/quads/{id}/board/write', at(id))),
  afterCuts: (trace: File) =>
    told(server.POST('/api/traces/cuts', { body: trace as never, bodySerializer: (b: unknown) => b as File, headers: { 'Content-Type': 'text/csv' } })),
  writeOutput: (id: number, output: string) => told(server.POST('/api/quads/{id}/board/write-output', { ...at(id), body: { output } })),
  keepRehearsal: (id: number) => told(server.POST('/api/quads/{id}/rehearsal', at(id))),
  flash: (id: number, body: Schemas['FlashBody']) => told(server.POST('/api/quads/{id}/flash', { ...at(id), body })),
  saveBoard: (id: number, why: string) => told(server.POST('/api/quads/{id}/backups', { ...at(id), body: { why } })),
  putBack: (id: number, backup: number, subjects?: string[]) => told(server.POST('/api/quads/{id}/backups/restore', { ...at(id), body: { backup, subjects } })),
  readList: (id: number, text: string) => told(server.POST('/api/quads/{id}/list', { ...at(id), body: { text } })),
  takeList: (id: number, version: number, text: string, leaveOut: boolean) =>
    told(server.POST('/api/quads/{id}/list/take', { ...at(id), body: { text, version, leaveOut } })),
  keepList: (id: number, body: Schemas['KeepListBody']) => told(server.POST('/api/quads/{id}/list/keep', { ...at(id), body })),
  takeReview: (id: number, draft: number, ask: Schemas['ReviewTo']) => told(server.POST('/api/quads/{id}/review/take', { ...at(id), body: { ...ask, draft } })),
}

/** Acts on the wires of a quad. */
export const wires = {
  plan: (id: number) => told(server.GET('/api/quads/{id}/wiring/plan', at(id))),
  takePlan: (id: number, version: number) => told(server.POST('/api/quads/{id}/wiring/plan', { ...at(id), body: { version } })),
  move: (id: number, body: Schemas['MoveBody']) => told(server.POST('/api/quads/{id}/wiring/move', { ...at(id), body })),
  solder: (id: number, device: string) => told(server.POST('/api/quads/{id}/wiring/solder', { ...at(id), body: { device } })),
}

export type RadioPath = { body: number; ground: number; air: number }
export const usualPath: RadioPath = { body: 0, ground: 1.5, air: 30 }
const over = (id: number, query: RadioPath) => ({ params: { path: { id }, query } })

/** What the station of the link works out; asked anew whenever the quad has changed. */
export const useLink = (quad: QuadView, path: RadioPath) =>
  useQuery({
    queryKey: ['link', quad.id, quad.seen, path],
    queryFn: () => told(server.GET('/api/quads/{id}/link', over(quad.id, path))),
    placeholderData: (before) => before,
  })

/** Acts on the control link of a quad. */
export const links = {
  why: (id: number, given: Record<string, string>) => told(server.POST('/api/quads/{id}/link/why', { ...at(id), body: { given } })),
  look: (id: number, question: string) => told(server.POST('/api/quads/{id}/link/look', { ...at(id), body: { question } })),
  phrases: (id: number, body: Schemas['PhrasesBody']) => told(server.POST('/api/quads/{id}/link/phrases', { ...at(id), body })),
  track: (id: number, path: RadioPath, text: string) => told(server.POST('/api/quads/{id}/link/track', { ...over(id, path), body: { text } })),
  keepTrack: (id: number, path: RadioPath, text: string) => told(server.POST('/api/quads/{id}/link/track/keep', { ...over(id, path), body: { text } })),
  bind: (id: number, way: Schemas['BindBody']['way']) => told(server.POST('/api/quads/{id}/link/bind', { ...at(id), body: { way } })),
  leave: () => told(server.POST('/api/bench/binding/leave')),
  plan: (body: Schemas['UpdateBody']) => told(server.POST('/api/fleet/update', { body })),
}

/** What was measured at one place, newest first. */
export const useHistory = (quad: QuadView, path: string, open: boolean) =>
  useQuery({
    queryKey: ['history', quad.id, path, quad.seen],
    queryFn: () => told(server.GET('/api/quads/{id}/history', { params: { path: { id: quad.id }, query: { path } } })),
    enabled: open,
    placeholderData: (before) => before,
  })

export const useFleet = (seen: string) => useQuery({ queryKey: ['fleet', seen], queryFn: () => told(server.GET('/api/fleet')) })

export const useGear = () => useQuery({ queryKey: ['gear'], queryFn: () => told(server.GET('/api/gear')) })

/** Own facts of a link. */
export const gear = {
  read: (file: string) => told(server.POST('/api/gear/read', { body: { file } })),
  set: (version: number, file: string) => told(server.POST('/api/gear', { body: { version, file } })),
  forget: (version: number, link: string) => told(server.POST('/api/gear/forget', { body: { version, link } })),
}

export const captureHere = (id: number, path: Path, samples: Schemas['Sample'][], spinning: number[]) =>
  told(server.POST('/api/quads/{id}/sticks/capture', { ...at(id), body: { path, samples, spinning } }))
export const radioHealth = (rest: Schemas['Sample'][], moved: Schemas['Sample'][]) => told(server.POST('/api/radio/health', { body: { rest, moved } }))
export const assignMeaning = (id: number, body: Schemas['AssignBody']) => told(server.POST('/api/quads/{id}/sticks/assign', { ...at(id), body }))
export const proposePlan = (id: number, query: { levelAtTop: boolean; blended: boolean }) =>
  told(server.GET('/api/quads/{id}/sticks/proposal', { params: { path: { id }, query } }))
/** A scene flown in several modes; asked anew whenever the quad has changed. */
export const useModes = (quad: QuadView, scene: 'trace' | 'catch' | 'hang') =>
  useQuery({
    queryKey: ['modes', quad.id, quad.seen, scene],
    queryFn: () => told(server.GET('/api/quads/{id}/modes', { params: { path: { id: quad.id }, query: { scene } } })),
    placeholderData: (before) => before,
    retry: false,
  })
export const radioCard = (id: number) => told(server.GET('/api/quads/{id}/radio/card', at(id)))
export const takeRadioCard = (id: number, version: number, text: string) =>
  told(server.POST('/api/quads/{id}/radio/card', { ...at(id), body: { version, text } }))

/** A three-way review; asked anew whenever the quad has changed. */
export const useReview = (quad: QuadView, ask: Schemas['ReviewTo']) =>
  useQuery({
    queryKey: ['review', quad.id, ask, quad.seen],
    queryFn: () => told(server.POST('/api/quads/{id}/review', { ...at(quad.id), body: ask })),
    enabled: ask.backup > 0,
    placeholderData: (before) => before,
    retry: false,
  })

export const choose = (id: number, ask: Schemas['ReviewTo'], choices: Record<string, string | null>) =>
  told(server.POST('/api/quads/{id}/review/choose', { ...at(id), body: { ...ask, choices: choices as Record<string, string> } }))

export const reviewList = (id: number, text: string) => told(server.POST('/api/quads/{id}/list/review', { ...at(id), body: { text } }))

export const useDictionaries = () => useQuery({ queryKey: ['dictionaries'], queryFn: () => told(server.GET('/api/dictionaries')) })

export const dictionaries = {
  lesson: (id: number, body: Schemas['LessonBody']) => told(server.POST('/api/quads/{id}/lesson', { ...at(id), body })),
  teach: (version: number, file: string) => told(server.POST('/api/dictionaries', { body: { version, file } })),
  forget: (version: number, line: string) => told(server.POST('/api/dictionaries/forget', { body: { version, line } })),
}

/** Where what a window showed and what stands now have gone apart. */
export const reconcile = (id: number, seen: unknown, values: Change[]) => told(server.POST('/api/quads/{id}/apart', { ...at(id), body: { seen, values } }))

export const checkImage = (id: number, text: string) => told(server.POST('/api/quads/{id}/image', { ...at(id), body: { text } }))

export const bench = {
  things: (body: Schemas['ProtocolThings']) => told(server.POST('/api/bench/things', { body })),
  stick: (body: Schemas['ProtocolStick']) => told(server.POST('/api/bench/stick', { body })),
  adjust: (body: Schemas['ProtocolAdjust']) => told(server.POST('/api/bench/adjust', { body })),
  radio: (body: Schemas['ProtocolRadioSet']) => told(server.POST('/api/bench/radio', { body })),
  receiver: (body: Schemas['ProtocolReceiverSet']) => told(server.POST('/api/bench/receiver', { body })),
  cut: () => told(server.POST('/api/bench/cut')),
  place: (quad: string) => told(server.POST('/api/bench/place', { body: { quad } })),
  stopFlash: () => told(server.POST('/api/bench/flash/stop')),
}

export const useRehearsal = (id: number, wish: { shows: string; scenario: string; beginner: boolean }) =>
  useQuery({
    queryKey: ['rehearsal', id, wish],
    queryFn: ({ signal }) => told(server.GET('/api/quads/{id}/rehearsal', { params: { path: { id }, query: wish }, signal })),
    staleTime: 60_000,
    enabled: id > 0,
    retry: false,
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
  })

export const usePilot = () => useQuery({ queryKey: ['pilot'], queryFn: () => told(server.GET('/api/pilot')) })

export const setLimit = (version: number, key: string, value: unknown, reason: string) =>
  told(server.POST('/api/pilot/limit', { body: { version, key, value, reason } }))

/** Acts that make a quad. */
export const quads = {
  begin: (body: Schemas['BeginBody']) => told(server.POST('/api/quads', { body })),
  retire: (id: number, version: number, retired: boolean) => told(server.POST('/api/quads/{id}/retire', { ...at(id), body: { version, retired } })),
  remove: (id: number, version: number) => told(server.POST('/api/quads/{id}/delete', { ...at(id), body: { version } })),
  clone: (id: number, name: string) => told(server.POST('/api/quads/{id}/clone', { ...at(id), body: { name } })),
  /** An archive goes as it is: reading it here would only lose digits. */
  bring: (text: string, name: string) =>
    told(
      server.POST('/api/archive', {
        params: { query: { name } },
        body: text as never,
        bodySerializer: (b: unknown) => b as string,
        headers: { 'Content-Type': 'application/json' },
      }),
    ),
}
