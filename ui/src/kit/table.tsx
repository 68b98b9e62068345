import type { ComponentProps } from 'react'
import { join } from './join'

/** A table of facts: quiet heads, a line above each row. On a phone it is moved sideways under the finger. */
export function Facts({ className, ...rest }: ComponentProps<'table'>) {
  return (
    <table
      {...rest}
      className={join(
        'w-full border-collapse phone:block phone:overflow-x-auto',
        '[&_th]:py-0.75 [&_th]:pr-3 [&_th]:text-left [&_th]:text-[13px] [&_th]:font-semibold [&_th]:text-soft',
        '[&_td]:border-t [&_td]:border-line [&_td]:py-1 [&_td]:pr-3',
        '[&_tbody_th[scope=row]]:border-t [&_tbody_th[scope=row]]:border-line [&_tbody_th[scope=row]]:text-[15px] [&_tbody_th[scope=row]]:text-ink',
        className,
      )}
    />
  )
}
