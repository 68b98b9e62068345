import { Command as Cmdk } from 'cmdk'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Dialog } from '../kit/dialog'
import { words as said } from '../places/line/typed'
import { type Perch, useHangar, useQuad } from '../wire/client'
import { type Command, standing } from './commands'

/** Whether each word of a search begins a word of the text, in any order; an empty search finds everything. */
const found = (text: string, search: string) => {
  const words = text.toLowerCase().split(/[^\p{L}\p{N}]+/u)
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((w) => words.some((x) => x.startsWith(w)))
}

/** What is called so comes before what only lives in a place of that name. */
const rank = (_: string, search: string, keywords: string[] = []) => {
  const [words = '', place = '', also = ''] = keywords
  return found(words, search) ? 1 : found(`${words} ${place} ${also}`, search) ? 0.5 : 0
}

/** Everything that can be done from here, found by typing. */
export function Palette({ id, onClose }: { id: number; onClose: () => void }) {
  const [search, setSearch] = useState('')
  const settings = useSettings(id)
  // Every setting of a quad is too much to show before anything is looked for.
  const commands = [...standing(), ...usePlaces(id), ...(search.trim().length > 1 ? settings : [])]
  return (
    <Dialog bare title="Find what to do" className="top-18 w-[min(640px,calc(100vw-24px))] translate-y-0 overflow-hidden p-0" onClose={onClose}>
      <Cmdk label="Find what to do" filter={rank} loop>
        <Cmdk.Input
          autoFocus
          value={search}
          onValueChange={setSearch}
          aria-label="What do you want to do?"
          placeholder="What do you want to do?"
          className="w-full rounded-none border-0 border-b border-line bg-panel px-4.5 py-3.5 text-[17px] focus-visible:border-act focus-visible:shadow-[0_1px_0_var(--act)] focus-visible:outline-none"
        />
        <Cmdk.List label="What can be done" className="max-h-[min(440px,60vh)] overflow-y-auto">
          <Cmdk.Empty className="px-4.5 py-3.5 text-soft">Nothing here is called that.</Cmdk.Empty>
          {commands.map((c) => (
            <Cmdk.Item
              key={`${c.place} ${c.words}`}
              value={`${c.place} ${c.words}`}
              keywords={[c.words, c.place, c.also ?? '']}
              onSelect={() => {
                onClose()
                c.run()
              }}
              className="grid cursor-pointer grid-cols-[minmax(0,1fr)_auto_64px] items-baseline gap-3.5 px-4.5 py-1.5 data-[selected=true]:bg-act-bg data-[selected=true]:shadow-[inset_3px_0_0_var(--act)]"
            >
              <span>{c.words}</span>
              <span className="text-soft">{c.place}</span>
              {c.key ? <kbd className="justify-self-end">{c.shown ?? c.key}</kbd> : <span />}
            </Cmdk.Item>
          ))}
        </Cmdk.List>
      </Cmdk>
    </Dialog>
  )
}

/** What a pilot may call the subject of a station. */
const soughtBy: Record<Exclude<Perch['id'], ''>, string> = {
  airframe: 'parts frame weight mass motor propeller pack battery',
  'first-power': 'smoke short resistance polarity antenna',
  firmware: 'flash image version settings list backup save board target',
  wiring: 'ports pads uart solder serial',
  link: 'radio receiver bind phrase binding range telemetry',
  sticks: 'channels switches modes arm arming endpoints deadband',
  motors: 'order direction spin idle protocol outputs',
  senses: 'level gyro accelerometer compass calibrate',
  feel: 'rates expo gains filters throttle curve',
  'power-watch': 'battery pack voltage alarm current sag',
  'link-loss': 'failsafe radio lost drop land return',
  picture: 'video goggles camera channel power',
  'bench-proof': 'bench check stick frame',
  'first-flight': 'hover release wind site rehearsal',
}

/** Everything that is meant of the quad at hand, by its name: each at the station that relies on it first. */
function useSettings(id: number): Command[] {
  const go = useNavigate()
  const quad = useQuad(id).data
  if (!quad) return []
  return Object.entries(quad.leaves).flatMap(([path, leaf]) => {
    const at = quad.line.find((p) => p.meant.includes(path))
    const run = () => void go(`/quads/${id}/${at?.id}#${path}`)
    return at ? [{ words: `${leaf.label}: ${said(leaf.words)}`, place: at.name, aside: true, run }] : []
  })
}

/** Where one can go: every quad, and every station of the one at hand. */
function usePlaces(id: number): Command[] {
  const go = useNavigate()
  const hangar = useHangar()
  const quad = useQuad(id)
  const to = (words: string, path: string, place: string, also?: string): Command => ({ words, place, also, aside: true, run: () => void go(path) })
  return [
    to('Go to the hangar', '/hangar', 'Places'),
    ...(quad.data
      ? [
          ...quad.data.line.map((p) => to(`Go to ${p.name}, ${p.word}`, `/quads/${id}/${p.id}`, quad.data.name, p.id === '' ? '' : soughtBy[p.id])),
          to('Go to the rehearsal', `/quads/${id}/rehearsal`, quad.data.name),
          to('Go to the book', `/quads/${id}/book`, quad.data.name),
          to('Go to the field card', `/quads/${id}/card`, quad.data.name, 'print checklist'),
          to('Describe a firmware family', `/quads/${id}/dictionary`, quad.data.name, 'dictionary unknown settings list teach'),
        ]
      : []),
    ...(hangar.data?.quads ?? []).filter((q) => q.id !== id).map((q) => to(`Open ${q.name}`, `/quads/${q.id}/${q.next[0]?.station ?? 'airframe'}`, 'Hangar')),
  ]
}
