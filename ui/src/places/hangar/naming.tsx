import { useState } from 'react'
import { Button, textLook } from '../../kit/button'
import { Dialog, DialogClose } from '../../kit/dialog'
import { fieldRow } from '../../kit/looks'

/** Asks for a name; what is refused is said there. */
export function Naming(props: { title: string; says: string; act: string; onClose: () => void; onName: (name: string) => Promise<unknown> }) {
  const [says, setSays] = useState('')
  return (
    <Dialog title={props.title} onClose={props.onClose}>
      <p className="text-soft">{props.says}</p>
      <form
        className={fieldRow}
        onSubmit={(e) => {
          e.preventDefault()
          props.onName(String(new FormData(e.currentTarget).get('name'))).catch((err: Error) => setSays(err.message))
        }}
      >
        <label>
          Name
          <input name="name" type="text" required maxLength={80} />
        </label>
        <Button type="submit" small main>
          {props.act}
        </Button>
        <DialogClose className={textLook}>Cancel</DialogClose>
      </form>
      {says && (
        <p role="alert" className="text-stop">
          {says}
        </p>
      )}
    </Dialog>
  )
}
