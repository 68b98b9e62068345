import type { Schemas } from './client'

// A star of the sheet stands for a name: of an output, a port, a switch.
type Named<T extends string> = T extends `${infer Before}*${infer After}` ? `${Before}${string}${Named<After>}` : T

/** The address of a place of a quad. What the page misspells here does not compile. */
export type Path = Named<Schemas['QuadPath']>

/** A place as the program itself named it. */
export const asNamed = (path: string) => path as Path
