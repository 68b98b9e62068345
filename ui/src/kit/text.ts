/** Words as a sentence begins with them. */
export const upper = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)

/** Words as they stand within a sentence. */
export const lower = (words: string) => words.charAt(0).toLowerCase() + words.slice(1)
