import type { ComponentProps } from 'react'
import { join } from './join'

/** A place beside the line: it scrolls by itself, under one heading. */
export function Page({ className, ...rest }: ComponentProps<'main'>) {
  return <main {...rest} className={join('min-h-0 overflow-y-auto px-6 py-5.5 phone:p-3.5 [&_h1]:text-[26px]', className)} />
}
