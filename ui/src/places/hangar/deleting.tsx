import { Button, textLook } from '../../kit/button'
import { Dialog, DialogClose } from '../../kit/dialog'

/** The last word before a quad goes for good. */
export function Deleting({ name, busy, onDone, onClose }: { name: string; busy: boolean; onDone: () => void; onClose: () => void }) {
  return (
    <Dialog title={`Delete ${name} for good?`} onClose={onClose} className="w-115">
      <p className="py-2 text-soft">
        It never flew. Its settings, readings and proofs go with it, and cannot be brought back; an archive of it can. To keep it out of the way, retire it.
      </p>
      <div className="flex items-center gap-4">
        <Button disabled={busy} onClick={onDone}>
          Delete it
        </Button>
        <DialogClose className={textLook}>Cancel</DialogClose>
      </div>
    </Dialog>
  )
}
