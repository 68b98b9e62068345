import { Collapsible } from 'radix-ui'
import type { ReactNode } from 'react'
import { join } from './join'

type Props = { words: ReactNode; open?: boolean; className?: string; children: ReactNode }

/** What is looked at when it is wanted: a line that opens and closes what belongs to it. */
export function Disclosure({ words, open, className, children }: Props) {
  return (
    <Collapsible.Root defaultOpen={open} className={join('border-t border-line pt-2', className)}>
      <Collapsible.Trigger className="group flex w-full items-center gap-1.5 py-0.5 text-left font-semibold text-soft">
        <svg
          width="9"
          height="9"
          viewBox="0 0 9 9"
          aria-hidden="true"
          className="transition-transform group-data-[state=open]:rotate-90 motion-reduce:transition-none"
        >
          <path d="M2 0.5v8l5-4z" fill="currentColor" />
        </svg>
        {words}
      </Collapsible.Trigger>
      <Collapsible.Content>{children}</Collapsible.Content>
    </Collapsible.Root>
  )
}
