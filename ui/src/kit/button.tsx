import type { ComponentProps } from 'react'
import { join } from './join'

type Look = {
  /** The one that is meant to be pressed next. */
  main?: boolean
  small?: boolean
  /** One of several answers, none of them more right. */
  quiet?: boolean
}

/** How a button looks, for what is none but looks like one. */
export const buttonLook = ({ main, small, quiet }: Look = {}, ...more: (string | undefined)[]) =>
  join(
    'rounded-[7px] border border-act bg-panel px-3.5 py-2 font-semibold whitespace-nowrap text-act hover:bg-act-bg pointer-coarse:min-h-10',
    'disabled:border-line disabled:bg-sunk disabled:text-faint aria-disabled:border-line aria-disabled:bg-sunk aria-disabled:text-faint',
    main && 'bg-act text-panel hover:bg-act-deep',
    quiet && 'border-line text-soft',
    small && 'px-2.5 py-0.75 text-[14px]',
    more,
  )

export function Button({ main, small, quiet, className, ...rest }: Look & ComponentProps<'button'>) {
  return <button type="button" {...rest} className={buttonLook({ main, small, quiet }, className)} />
}

/** How words look that do something. */
export const textLook = 'text-left font-semibold text-act hover:underline pointer-coarse:min-h-10'

/** Words that do something where they stand. */
export function TextButton({ quiet, className, ...rest }: Pick<Look, 'quiet'> & ComponentProps<'button'>) {
  return <button type="button" {...rest} className={join(textLook, quiet && 'font-normal text-soft', className)} />
}
