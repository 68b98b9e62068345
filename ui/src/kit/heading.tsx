import type { ReactNode } from 'react'
import { join } from './join'

/** The name of a part of a page, no larger than its text. */
export function Subhead({ id, className, children }: { id?: string; className?: string; children: ReactNode }) {
  return (
    <h2 id={id} className={join('font-body text-[13px]/[normal] font-semibold text-soft [section>&]:mb-1.25', className)}>
      {children}
    </h2>
  )
}
