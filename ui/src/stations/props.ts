import type { Perch, QuadView } from '../wire/client'

/** A station by its one name, the same in core, API, page and stories. */
export type Station = Exclude<Perch['id'], ''>

/** A station with its quad: the line alone, or with the figures that the station draws. */
export type StationProps<Q extends QuadView = QuadView> = { quad: Q; perch: Perch }
