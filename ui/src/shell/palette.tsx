import { Command as Cmdk } from 'cmdk'
import { useNavigate } from 'react-router'
import { Dialog } from '../kit/dialog'
import { useHangar, useQuad } from '../wire/client'
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
  const [words = '', place = ''] = keywords
  return found(words, search) ? 1 : found(`${words} ${place}`, search) ? 0.5 : 0
}

/** Everything that can be done from here, found by typing. */
export function Palette({ id, onClose }: { id: number; onClose: () => void }) {
  const commands = [...standing(), ...usePlaces(id)]
  return (
    <Dialog bare title="Find what to do" className="top-18 w-[min(640px,calc(100vw-24px))] translate-y-0 overflow-hidden p-0" onClose={onClose}>
      <Cmdk label="Find what to do" filter={rank} loop>
        <Cmdk.Input
          autoFocus
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
              keywords={[c.words, c.place]}
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

/** Where one can go: every quad, and every station of the one at hand. */
function usePlaces(id: number): Command[] {
  const go = useNavigate()
  const hangar = useHangar()
  const quad = useQuad(id)
  const to = (words: string, path: string, place: string): Command => ({ words, place, aside: true, run: () => void go(path) })
  return [
    to('Go to the hangar', '/hangar', 'Places'),
    ...(quad.data
      ? [
          ...quad.data.line.map((p) => to(`Go to ${p.name}, ${p.word}`, `/quads/${id}/${p.id}`, quad.data.name)),
          to('Go to the rehearsal', `/quads/${id}/rehearsal`, quad.data.name),
          to('Go to the book', `/quads/${id}/book`, quad.data.name),
          to('Go to the field card', `/quads/${id}/card`, quad.data.name),
        ]
      : []),
    ...(hangar.data?.quads ?? []).filter((q) => q.id !== id).map((q) => to(`Open ${q.name}`, `/quads/${q.id}/${q.next[0]?.station ?? 'airframe'}`, 'Hangar')),
  ]
}
