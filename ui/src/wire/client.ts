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
export async function answerOf<T>(answer: Promise<Answer<T>>): Promise<T> {
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

export const useHangar = () => useQuery({ queryKey: ['hangar'], queryFn: () => answerOf(server.GET('/api/hangar')) })

/** What is filled in to type a value at a place. */
export const useSlots = (path: string) =>
  useQuery({ queryKey: ['slots', path], queryFn: () => answerOf(server.GET('/api/slots', { params: { query: { path } } })), retry: false })

export const useQuad = (id: number) =>
  useQuery({
    queryKey: ['quad', id],
    queryFn: async ({ client }) => {
      const got = await answerOf(server.GET('/api/quads/{id}', { params: { path: { id } } }))
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
  edit: (id: number, version: number, values: Change[]) => answerOf(server.POST('/api/quads/{id}/edit', { ...at(id), body: { version, values } })),
  takeBack: (id: number, seen: string, why: string) => answerOf(server.POST('/api/quads/{id}/back', { ...at(id), body: { seen, why } })),
  withdraw: (id: number, body: Schemas['WithdrawBody']) => answerOf(server.POST('/api/quads/{id}/withdraw', { ...at(id), body })),
  redo: (id: number, version: number) => answerOf(server.POST('/api/quads/{id}/redo', { ...at(id), body: { version } })),
  type: (id: number, path: Path, value: unknown) => answerOf(server.POST('/api/quads/{id}/type', { ...at(id), body: { path, value } })),
  typeAll: (id: number, values: Change[]) => answerOf(server.POST('/api/quads/{id}/type-all', { ...at(id), body: { values } })),
  take: (id: number, path: Path) => answerOf(server.POST('/api/quads/{id}/take', { ...at(id), body: { path } })),
  sign: (id: number, station: string, seen: string) => answerOf(server.POST('/api/quads/{id}/sign', { ...at(id), body: { station, seen } })),
  accept: (id: number, f: Finding, reason: string) =>
    answerOf(server.POST('/api/quads/{id}/accept', { ...at(id), body: { rule: f.rule, subject: f.subject, reason } })),
  note: (id: number, event: Schemas['EventBody']['event'], note: string) =>
    answerOf(server.POST('/api/quads/{id}/event', { ...at(id), body: { event, note } })),
  release: (id: number, site: string, seen: string) =>
    answerOf(server.POST('/api/quads/{id}/release', { ...at(id), body: { scope: 'hover', site, seen, east: -new Date().getTimezoneOffset() } })),
  fly: (id: number, body: Schemas['FlightBody']) => answerOf(server.POST('/api/quads/{id}/flights', { ...at(id), body })),
  correct: (id: number, flight: number, body: Schemas['CorrectionBody']) =>
    answerOf(server.POST('/api/quads/{id}/flights/{flight}', { params: { path: { id, flight } }, body })),
  save: (id: number, version: number, why: string) => answerOf(server.POST('/api/quads/{id}/save', { ...at(id), body: { version, why } })),
  restore: (id: number, version: number, number: number, paths?: Path[]) =>
    answerOf(server.POST('/api/quads/{id}/restore', { ...at(id), body: { version, number, paths } })),
  adopt: (id: number, seen: string) => answerOf(server.POST('/api/quads/{id}/bench/adopt', { ...at(id), body: { seen } })),
  level: (id: number) => answerOf(server.POST('/api/quads/{id}/bench/level', at(id))),
  fit: (id: number, body: Schemas['FitBody']) => answerOf(server.POST('/api/quads/{id}/parts', { ...at(id), body })),
  write: (id: number) => answerOf(server.POST('/api/quads/{id}/board/write', at(id))),
  afterCuts: (trace: File) =>
    answerOf(server.POST('/api/traces/cuts', { body: trace as never, bodySerializer: (b: unknown) => b as File, headers: { 'Content-Type': 'text/csv' } })),
  writeOutput: (id: number, output: string) => answerOf(server.POST('/api/quads/{id}/board/write-output', { ...at(id), body: { output } })),
  keepRehearsal: (id: number) => answerOf(server.POST('/api/quads/{id}/rehearsal', at(id))),
  flash: (id: number, body: Schemas['FlashBody']) => answerOf(server.POST('/api/quads/{id}/flash', { ...at(id), body })),
  saveBoard: (id: number, why: string) => answerOf(server.POST('/api/quads/{id}/backups', { ...at(id), body: { why } })),
  putBack: (id: number, backup: number, subjects?: string[]) =>
    answerOf(server.POST('/api/quads/{id}/backups/restore', { ...at(id), body: { backup, subjects } })),
  readList: (id: number, text: string) => answerOf(server.POST('/api/quads/{id}/list', { ...at(id), body: { text } })),
  takeList: (id: number, version: number, text: string, leaveOut: boolean) =>
    answerOf(server.POST('/api/quads/{id}/list/take', { ...at(id), body: { text, version, leaveOut } })),
  keepList: (id: number, body: Schemas['KeepListBody']) => answerOf(server.POST('/api/quads/{id}/list/keep', { ...at(id), body })),
  takeReview: (id: number, draft: number, ask: Schemas['ReviewTo']) =>
    answerOf(server.POST('/api/quads/{id}/review/take', { ...at(id), body: { ...ask, draft } })),
}

/** Acts on the wires of a quad. */
export const wires = {
  plan: (id: number) => answerOf(server.GET('/api/quads/{id}/wiring/plan', at(id))),
  takePlan: (id: number, version: number) => answerOf(server.POST('/api/quads/{id}/wiring/plan', { ...at(id), body: { version } })),
  move: (id: number, body: Schemas['MoveBody']) => answerOf(server.POST('/api/quads/{id}/wiring/move', { ...at(id), body })),
  solder: (id: number, device: string) => answerOf(server.POST('/api/quads/{id}/wiring/solder', { ...at(id), body: { device } })),
}

export type RadioPath = { body: number; ground: number; air: number }
export const usualPath: RadioPath = { body: 0, ground: 1.5, air: 30 }
const over = (id: number, query: RadioPath) => ({ params: { path: { id }, query } })

/** What the station of the link works out; asked anew whenever the quad has changed. */
export const useLink = (quad: QuadView, path: RadioPath) =>
  useQuery({
    queryKey: ['link', quad.id, quad.seen, path],
    queryFn: () => answerOf(server.GET('/api/quads/{id}/link', over(quad.id, path))),
    placeholderData: (before) => before,
  })

/** Acts on the control link of a quad. */
export const links = {
  why: (id: number, given: Record<string, string>) => answerOf(server.POST('/api/quads/{id}/link/why', { ...at(id), body: { given } })),
  look: (id: number, question: string) => answerOf(server.POST('/api/quads/{id}/link/look', { ...at(id), body: { question } })),
  phrases: (id: number, body: Schemas['PhrasesBody']) => answerOf(server.POST('/api/quads/{id}/link/phrases', { ...at(id), body })),
  track: (id: number, path: RadioPath, text: string) => answerOf(server.POST('/api/quads/{id}/link/track', { ...over(id, path), body: { text } })),
  keepTrack: (id: number, path: RadioPath, text: string) => answerOf(server.POST('/api/quads/{id}/link/track/keep', { ...over(id, path), body: { text } })),
  bind: (id: number, way: Schemas['BindBody']['way']) => answerOf(server.POST('/api/quads/{id}/link/bind', { ...at(id), body: { way } })),
  leave: () => answerOf(server.POST('/api/bench/binding/leave')),
  plan: (body: Schemas['UpdateBody']) => answerOf(server.POST('/api/fleet/update', { body })),
}

/** What was measured at one place, newest first. */
export const useHistory = (quad: QuadView, path: string, open: boolean) =>
  useQuery({
    queryKey: ['history', quad.id, path, quad.seen],
    queryFn: () => answerOf(server.GET('/api/quads/{id}/history', { params: { path: { id: quad.id }, query: { path } } })),
    enabled: open,
    placeholderData: (before) => before,
  })

export const useFleet = (seen: string) =>
  useQuery({ queryKey: ['fleet', seen], queryFn: () => answerOf(server.GET('/api/fleet')), placeholderData: (before) => before })

export const useGear = () => useQuery({ queryKey: ['gear'], queryFn: () => answerOf(server.GET('/api/gear')) })

/** Own facts of a link. */
export const gear = {
  read: (file: string) => answerOf(server.POST('/api/gear/read', { body: { file } })),
  set: (version: number, file: string) => answerOf(server.POST('/api/gear', { body: { version, file } })),
  forget: (version: number, link: string) => answerOf(server.POST('/api/gear/forget', { body: { version, link } })),
}

export const captureHere = (id: number, path: Path, samples: Schemas['Sample'][], spinning: number[]) =>
  answerOf(server.POST('/api/quads/{id}/sticks/capture', { ...at(id), body: { path, samples, spinning } }))
export const radioHealth = (rest: Schemas['Sample'][], moved: Schemas['Sample'][]) => answerOf(server.POST('/api/radio/health', { body: { rest, moved } }))
export const assignMeaning = (id: number, body: Schemas['AssignBody']) => answerOf(server.POST('/api/quads/{id}/sticks/assign', { ...at(id), body }))
export const proposePlan = (id: number, query: { levelAtTop: boolean; blended: boolean }) =>
  answerOf(server.GET('/api/quads/{id}/sticks/proposal', { params: { path: { id }, query } }))
/** A scene flown in several modes; asked anew whenever the quad has changed. */
export const useModes = (quad: QuadView, scene: 'trace' | 'catch' | 'hang') =>
  useQuery({
    queryKey: ['modes', quad.id, quad.seen, scene],
    queryFn: () => answerOf(server.GET('/api/quads/{id}/modes', { params: { path: { id: quad.id }, query: { scene } } })),
    placeholderData: (before) => before,
    retry: false,
  })
export const radioCard = (id: number) => answerOf(server.GET('/api/quads/{id}/radio/card', at(id)))
export const takeRadioCard = (id: number, version: number, text: string) =>
  answerOf(server.POST('/api/quads/{id}/radio/card', { ...at(id), body: { version, text } }))

/** A three-way review; asked anew whenever the quad has changed. */
export const useReview = (quad: QuadView, ask: Schemas['ReviewTo']) =>
  useQuery({
    queryKey: ['review', quad.id, ask, quad.seen],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/review', { ...at(quad.id), body: ask })),
    enabled: ask.backup > 0,
    placeholderData: (before) => before,
    retry: false,
  })

export const choose = (id: number, ask: Schemas['ReviewTo'], choices: Record<string, string | null>) =>
  answerOf(server.POST('/api/quads/{id}/review/choose', { ...at(id), body: { ...ask, choices: choices as Record<string, string> } }))

export const reviewList = (id: number, text: string) => answerOf(server.POST('/api/quads/{id}/list/review', { ...at(id), body: { text } }))

export const useDictionaries = () => useQuery({ queryKey: ['dictionaries'], queryFn: () => answerOf(server.GET('/api/dictionaries')) })

export const dictionaries = {
  lesson: (id: number, body: Schemas['LessonBody']) => answerOf(server.POST('/api/quads/{id}/lesson', { ...at(id), body })),
  teach: (version: number, file: string) => answerOf(server.POST('/api/dictionaries', { body: { version, file } })),
  forget: (version: number, line: string) => answerOf(server.POST('/api/dictionaries/forget', { body: { version, line } })),
}

/** Where what a window showed and what stands now have gone apart. */
export const reconcile = (id: number, seen: unknown, values: Change[]) => answerOf(server.POST('/api/quads/{id}/apart', { ...at(id), body: { seen, values } }))

export const checkLinkImage = (id: number, text: string) => answerOf(server.POST('/api/quads/{id}/link/image', { ...at(id), body: { text } }))
export const checkImage = (id: number, text: string) => answerOf(server.POST('/api/quads/{id}/image', { ...at(id), body: { text } }))

export const bench = {
  things: (body: Schemas['ProtocolThings']) => answerOf(server.POST('/api/bench/things', { body })),
  stick: (body: Schemas['ProtocolStick']) => answerOf(server.POST('/api/bench/stick', { body })),
  adjust: (body: Schemas['ProtocolAdjust']) => answerOf(server.POST('/api/bench/adjust', { body })),
  radio: (body: Schemas['ProtocolRadioSet']) => answerOf(server.POST('/api/bench/radio', { body })),
  receiver: (body: Schemas['ProtocolReceiverSet']) => answerOf(server.POST('/api/bench/receiver', { body })),
  cut: () => answerOf(server.POST('/api/bench/cut')),
  place: (quad: string) => answerOf(server.POST('/api/bench/place', { body: { quad } })),
  stopFlash: () => answerOf(server.POST('/api/bench/flash/stop')),
}

export const useRehearsal = (id: number, wish: { shows: string; scenario: string; beginner: boolean }) =>
  useQuery({
    queryKey: ['rehearsal', id, wish],
    queryFn: ({ signal }) => answerOf(server.GET('/api/quads/{id}/rehearsal', { params: { path: { id }, query: wish }, signal })),
    staleTime: 60_000,
    enabled: id > 0,
    retry: false,
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
  })

export const usePilot = () => useQuery({ queryKey: ['pilot'], queryFn: () => answerOf(server.GET('/api/pilot')) })

export const setLimit = (version: number, key: string, value: unknown, reason: string) =>
  answerOf(server.POST('/api/pilot/limit', { body: { version, key, value, reason } }))

export const setShows = (version: number, shows: Schemas['Shows']) => answerOf(server.POST('/api/pilot/shows', { body: { version, shows } }))

/** The parts of a quad, and which other quads have the same. */
export const useParts = (quad: QuadView) =>
  useQuery({
    queryKey: ['parts', quad.id, quad.seen],
    queryFn: () => answerOf(server.GET('/api/quads/{id}/parts', at(quad.id))),
    placeholderData: (before) => before,
  })

/** Quads that have a part, a link or a firmware. */
export const useWhich = (typed: string) =>
  useQuery({
    queryKey: ['which', typed],
    queryFn: () => answerOf(server.GET('/api/hangar/which', { params: { query: { typed } } })),
    enabled: typed !== '',
    placeholderData: (before) => before,
  })

/** Parts of the catalogue that what was typed may mean. */
export const useCatalogue = (kind: Schemas['Entry']['kind'], typed: string, open: boolean, wish?: { diameter: number; cells: number }) =>
  useQuery({
    queryKey: ['catalogue', kind, typed, wish],
    queryFn: () => answerOf(server.GET('/api/catalogue', { params: { query: { kind: kind || 'frame', typed, ...wish } } })),
    enabled: open,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
  })

/** Acts that make a quad. */
export const quads = {
  begin: (body: Schemas['BeginBody']) => answerOf(server.POST('/api/quads', { body })),
  retire: (id: number, version: number, retired: boolean) => answerOf(server.POST('/api/quads/{id}/retire', { ...at(id), body: { version, retired } })),
  remove: (id: number, version: number) => answerOf(server.POST('/api/quads/{id}/delete', { ...at(id), body: { version } })),
  clone: (id: number, name: string) => answerOf(server.POST('/api/quads/{id}/clone', { ...at(id), body: { name } })),
  /** An archive goes as it is: reading it here would only lose digits. */
  bring: (text: string, name: string) =>
    answerOf(
      server.POST('/api/archive', {
        params: { query: { name } },
        body: text as never,
        bodySerializer: (b: unknown) => b as string,
        headers: { 'Content-Type': 'application/json' },
      }),
    ),
}
