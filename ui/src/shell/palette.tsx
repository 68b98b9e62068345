import { useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
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

/** Everything that can be done from here, found by typing. */
export function Palette({ id, onClose }: { id: number; onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null)
  const [search, setSearch] = useState('')
  const [at, setAt] = useState(0)
  const commands = [...standing(), ...usePlaces(id)]
  // What is called so comes before what only lives in a place of that name.
  const list = [
    ...commands.filter((c) => found(c.words, search)),
    ...commands.filter((c) => !found(c.words, search) && found(`${c.words} ${c.place}`, search)),
  ].slice(0, 60)
  const here = Math.min(at, list.length - 1)
  useEffect(() => {
    dialog.current?.showModal()
  }, [])
  useEffect(() => {
    document.getElementById(`command-${here}`)?.scrollIntoView({ block: 'nearest' })
  }, [here])
  const run = (c: Command | undefined) => {
    if (!c) return
    dialog.current?.close()
    c.run()
  }
  const onKey = (e: React.KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[e.key]
    if (by) {
      e.preventDefault()
      setAt(Math.max(0, Math.min(list.length - 1, here + by)))
    } else if (e.key === 'Enter') {
      e.preventDefault()
      run(list[here])
    }
  }
  return (
    <dialog ref={dialog} className="palette" aria-label="Find what to do" onClose={onClose}>
      <input
        type="text"
        role="combobox"
        aria-expanded="true"
        aria-controls="commands"
        aria-activedescendant={list.length > 0 ? `command-${here}` : undefined}
        aria-label="What do you want to do?"
        placeholder="What do you want to do?"
        value={search}
        onChange={(e) => {
          setSearch(e.target.value)
          setAt(0)
        }}
        onKeyDown={onKey}
      />
      {/* The field keeps the keyboard and names the option it is at: the pattern of a combobox. */}
      <div id="commands" role="listbox" aria-label="What can be done">
        {list.map((c, i) => (
          // biome-ignore lint/a11y/useFocusableInteractive: the field above has the focus
          // biome-ignore lint/a11y/useKeyWithClickEvents: the field above has the keys
          <div key={`${c.place} ${c.words}`} id={`command-${i}`} role="option" aria-selected={i === here} onClick={() => run(c)}>
            <span>{c.words}</span>
            <span className="tone-soft">{c.place}</span>
            {c.key ? <kbd>{c.shown ?? c.key}</kbd> : <span />}
          </div>
        ))}
      </div>
      {list.length === 0 && <p className="tone-soft">Nothing here is called that.</p>}
    </dialog>
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
    ...(hangar.data ?? []).filter((q) => q.id !== id).map((q) => to(`Open ${q.name}`, `/quads/${q.id}/${q.next[0]?.station ?? 'airframe'}`, 'Hangar')),
  ]
}
