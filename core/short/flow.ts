import type { ShortFeed } from './network'

/** The currents of a dead short, wherever it is put. */
export interface ShortFlow {
  /** Current of a dead short at a node where nothing limits itself, A: enough to compare two places by. */
  prospective: (node: number) => number
  /** Puts a dead short at a node: its current, A. Every current asked for afterwards is with it. */
  short: (node: number) => number
  /** Current of a branch, from a to b, A. */
  branchAmps: (branch: number) => number
  feedAmps: (feed: ShortFeed) => number
  /** Where there is one way only, its branches from the short to its source: cut anywhere, nothing comes. Else null. */
  way: () => readonly number[] | null
}
