import type { CombResult } from '#core/noise/comb/comb'
import type { Comparison, ListenedTo, Switched } from '#core/noise/listen/listening'
import type { Plan } from '#core/plan/schema'

/** What the page says to the worker that listens, and what it hears from it. */

export type ToLive =
  | { start: ListenedTo }
  | { samples: Float32Array[] }
  | { switched: Switched | null }
  | { forget: true }
  | { level: { hz: number; widthHz: number } }
  /** A made-up evening in place of a sound card: its culprit on or off. */
  | { simulate: { plan: Plan; bands: string[]; centreHz: number; sampleRateHz: number } }
  | { culprit: Switched }

export interface LiveFrame {
  /** Newest row of the waterfall, a byte a column. */
  row: Uint8Array
  lowHz: number
  highHz: number
  levelDb: number
  /** Seconds listened. */
  seconds: number
}

export type FromLive = { frame: LiveFrame } | { combs: CombResult } | { compared: Comparison | null }

export const COLUMNS = 800
