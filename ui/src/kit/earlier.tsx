import { TextButton } from './button'

/** Turns to what came before, where a list is shown page by page. */
export function Earlier({ pages, what }: { pages: { more: boolean; turning: boolean; turn: () => void }; what: string }) {
  if (!pages.more) return null
  return (
    <p className="border-t border-line pt-1.5">
      <TextButton disabled={pages.turning} onClick={pages.turn}>
        {pages.turning ? 'Turning back…' : `Earlier ${what}`}
      </TextButton>
    </p>
  )
}
