import { Slider as Radix } from 'radix-ui'
import { join } from './join'

type Props = { label: string; value: number; min: number; max: number; step?: number; onMove: (value: number) => void; className?: string }

/** A figure that is moved: by finger, by pointer, by the arrows, and to its ends by Home and End. */
export function Slider({ label, value, min, max, step = 1, onMove, className }: Props) {
  return (
    <Radix.Root
      value={[value]}
      min={min}
      max={max}
      step={step}
      onValueChange={([v]) => v !== undefined && onMove(v)}
      className={join('relative flex h-6 touch-none items-center select-none pointer-coarse:h-9', className)}
    >
      <Radix.Track className="relative h-1.5 grow rounded-full border border-faint bg-sunk">
        <Radix.Range className="absolute h-full rounded-full bg-act" />
      </Radix.Track>
      <Radix.Thumb aria-label={label} className="block size-4 rounded-full border-2 border-panel bg-act shadow-[0_0_0_1px_var(--act)]" />
    </Radix.Root>
  )
}
