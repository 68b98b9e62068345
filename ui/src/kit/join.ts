import { type ClassValue, clsx } from 'clsx'
import { twMerge } from 'tailwind-merge'

/** Joins utilities; of two that say the same thing the later one stands. */
export const join = (...parts: ClassValue[]) => twMerge(clsx(parts))
