import { Toast } from 'radix-ui'
import { TextButton } from './button'

/** How long a sentence stands that nobody dismisses, ms. */
const stands = 12_000

/** A sentence at the foot of the page, which goes by itself, by its button, or by Escape. */
export function Sentence({ says, onGone }: { says: string; onGone: () => void }) {
  return (
    <Toast.Provider duration={stands} label="What was refused" swipeDirection="left">
      {says && (
        <Toast.Root key={says} open className="flex items-baseline gap-4 rounded-lg bg-ink px-4 py-2.5 text-panel" onOpenChange={(open) => !open && onGone()}>
          <Toast.Description>{says}</Toast.Description>
          <Toast.Close asChild>
            <TextButton className="text-panel underline">Dismiss</TextButton>
          </Toast.Close>
        </Toast.Root>
      )}
      <Toast.Viewport label="What was refused ({hotkey})" className="fixed bottom-20 left-6 z-30 max-w-140 phone:right-3.5 phone:bottom-3.5 phone:left-3.5" />
    </Toast.Provider>
  )
}
