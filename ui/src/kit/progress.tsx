import { Progress } from 'radix-ui'

/** How far something is, in percent. */
export function Bar({ percent, label }: { percent: number; label: string }) {
  return (
    <Progress.Root value={percent} aria-label={label} className="h-2 w-full overflow-hidden rounded-sm bg-sunk">
      <Progress.Indicator asChild>
        {/* Drawn, not styled: a width of its own would need a style the content policy does not let through. */}
        <svg viewBox="0 0 100 1" preserveAspectRatio="none" className="block h-full w-full fill-act" aria-hidden="true">
          <rect width={percent} height="1" />
        </svg>
      </Progress.Indicator>
    </Progress.Root>
  )
}
