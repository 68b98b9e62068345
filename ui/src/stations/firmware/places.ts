/** The places of the way that the settings go. */
export const places = ['saved', 'carry', 'write', 'board', 'flash', 'cable', 'unseen'] as const
export type Place = (typeof places)[number]
