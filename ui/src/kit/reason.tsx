import type { FormEvent } from 'react'
import { Button, TextButton } from './button'
import { Dialog } from './dialog'

type Props = { title: string; words?: string; act: string; busy: boolean; error?: string; onDone: (why: string) => void; onClose: () => void }

/** Asks why something is taken back; the reason stays beside it. */
export function Reason({ title, words, act, busy, error, onDone, onClose }: Props) {
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    onDone(String(new FormData(e.currentTarget).get('why')))
  }
  return (
    <Dialog title={title} onClose={onClose} className="w-115">
      <form className="mt-2 grid gap-2.5" onSubmit={submit}>
        {words && <p className="text-soft">{words}</p>}
        <label className="grid text-[13px] text-soft">
          Why? The reason stays beside it.
          <input name="why" type="text" required maxLength={200} />
        </label>
        {error && (
          <p role="alert" className="text-stop">
            {error}
          </p>
        )}
        <div className="flex items-center gap-4">
          <Button type="submit" main disabled={busy}>
            {act}
          </Button>
          <TextButton onClick={onClose}>Cancel</TextButton>
        </div>
      </form>
    </Dialog>
  )
}
