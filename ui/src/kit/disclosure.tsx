import { ChevronRight } from 'lucide-react'
import { Collapsible } from 'radix-ui'
import type { ReactNode } from 'react'
import { join } from './join'

type Props = { words: ReactNode; open?: boolean; className?: string; children: ReactNode }

/** What is looked at when it is wanted: a line that opens and closes what belongs to it. */
export function Disclosure({ words, open, className, children }: Props) {
  return (
    <Collapsible.Root defaultOpen={open} className={join('border-t border-line pt-2', className)}>
      <Collapsible.Trigger className="group flex w-full items-center gap-1.5 py-0.5 text-left font-semibold text-soft">
        <ChevronRight
          size={15}
          strokeWidth={2.5}
          aria-hidden
          className="transition-transform group-data-[state=open]:rotate-90 motion-reduce:transition-none"
        />
        {words}
      </Collapsible.Trigger>
      <Collapsible.Content>{children}</Collapsible.Content>
    </Collapsible.Root>
  )
}
