import type { Conductor } from '../plan/schema'

/** What sizing is asked for, and what it changes. */

/** What is to be least. */
export type Aim = 'weight' | 'cost' | 'drop'

/** One conductor that may be used: its size, and how much of it there is; unsaid: as much as one likes. */
export interface Stock {
  conductor: Conductor
  metres?: number
  costPerM?: number
}

export interface SizeOptions {
  for: Aim
  /** Only what lies on the way to this load; unsaid: the whole plan. */
  row?: string
  /** Only these conductors; unsaid: every size one can buy. */
  owned?: Stock[]
  /** Limits that are let go here. */
  relax?: readonly Relaxed[]
}

/** A limit that a plan may let go: its share of drop, or contacts that do not take a conductor even now. */
export type Relaxed = 'share' | 'contacts'

export interface SizeChange {
  place: string
  what: 'conductor' | 'contact' | 'fuse' | 'port'
  words: string
}
