// What recurs in many places and has no behaviour of its own: each a string of utilities, to be joined with more.

/** Two columns; one on a phone. */
export const two = 'grid grid-cols-2 gap-7.5 phone:grid-cols-1 phone:gap-3 phone:[&_section>svg]:h-auto phone:[&_section>svg]:max-w-full'

/** Two columns, of which the left one is wanted first. */
export const wideLeft =
  'grid grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-7.5 phone:grid-cols-1 phone:gap-3 phone:[&_section>svg]:h-auto phone:[&_section>svg]:max-w-full'

/** Where an instrument stands: its drawing takes what room is left. */
export const stage = 'flex min-h-0 flex-col gap-2.5 [&>svg]:min-h-0 [&>svg]:w-full [&>svg]:flex-1 phone:has-[>div>[data-instead]]:[&>svg]:hidden'

/** Fields in a row, each under its name. */
export const fieldRow =
  'mt-1.25 flex flex-wrap items-end gap-x-2.5 gap-y-1.5 [&_input[type=text]]:w-27.5 [&_label]:grid [&_label]:text-[13px] [&_label]:text-soft'

/** What can be done about something, in a row below it. */
export const ways = 'mt-1 flex flex-wrap items-center gap-2'

/** Steps one after the other, of which one is done now; the first part of each is its mark. */
export const steps = [
  'mt-1 mb-2.5',
  '[&_li]:grid [&_li]:grid-cols-[30px_minmax(0,1fr)] [&_li]:border-b [&_li]:border-line [&_li]:py-1.25 [&_li]:pr-2',
  '[&_li>:not(:first-child)]:col-start-2 [&_li>span:nth-child(2)]:row-start-1',
  '[&_li>:first-child]:font-semibold [&_li>:first-child]:text-faint [&_li[data-is=done]>:first-child]:text-ok',
  '[&_li[data-is=now]]:bg-act-bg [&_li[data-is=now]>:first-child]:pl-1.5 [&_li[data-is=now]>:first-child]:text-act',
].join(' ')

/** What a light shows, and what that means. */
export const lights = '[&_li]:flex [&_li]:items-center [&_li]:gap-3 [&_li]:py-0.5 [&_li]:pr-1.5 [&_li]:text-[14px] [&_li[data-here=true]]:bg-act-bg'

/** Remarks on what was read, as many as there are. */
export const remarks = 'mb-2.5 max-h-47.5 overflow-y-auto [&_li]:border-t [&_li]:border-line [&_li]:py-0.75'

export const causes = '[&_li]:py-1.25'

export const plot = 'max-h-75 w-full [&_text]:fill-soft'
