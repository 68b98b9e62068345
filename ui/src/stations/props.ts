import type { Perch, QuadView } from '../wire/client'

/** A station by its one name, the same in core, API, page and stories. */
export type Station = Exclude<Perch['id'], ''>

export type StationProps = { quad: QuadView; perch: Perch }
