/**
 * One line of a comb: the tone that was heard, its place in the row, and its harmonic number where the comb is one of
 * multiples.
 */
export interface CombLine {
  hz: number
  index: number
  harmonic: number | null
  offHz: number
}

/** Evenly spaced tones. */
export interface Comb {
  /** Between neighbouring lines. */
  spacingHz: number
  /** Standard uncertainty of the spacing. */
  uncertaintyHz: number
  /** How surely there is such a row, 0–1: of claims at 0.95, 95 in a hundred hold (docs/noise.md). */
  confidence: number
  /** False where so few lines, or lines read so coarsely, could be even by chance: a likely spacing, no more. */
  proven: boolean
  /** Its spacing is a step of stations' channels: they make such a row as well, and it is never proven a device's. */
  channelStep: boolean
  lines: CombLine[]
  /**
   * What its lines are multiples of, Hz: the spacing, or half of it where only odd multiples are there; null where they
   * are none, or where it cannot be told.
   */
  fundamentalHz: number | null
  /** Standard uncertainty of the fundamental, where it is known. */
  fundamentalUncertaintyHz: number | null
  oddOnly: boolean
  /** How far the lines stray from even spacing, Hz: what an oscillator that is not radio grade does. */
  waverHz: number
  /** Lines that would lie between the outermost ones, where tones were looked for, but were not heard. */
  missing: number
  /** Its lines have sidebands so far apart, Hz: mains ripple on its supply or load; null where they have none. */
  rippleHz: number | null
}

/** Carriers on the broadcasters' raster: evenly spaced, but no fault of the station's. */
export interface Broadcast {
  spacingHz: number
  lines: number[]
  /** By how much all of them are off, millionths: the receiver's own error. */
  ppm: number
}

/** Lines at multiples of the mains frequency: no switching device's. */
export interface MainsBuzz {
  mainsHz: 50 | 60
  spacingHz: number
  /** Its lines are three times the mains frequency apart, or more: a clock of just that speed makes such ones too. */
  rare: boolean
  lines: number[]
}

export interface CombResult {
  combs: Comb[]
  broadcast: Broadcast | null
  mains: MainsBuzz | null
  unexplained: number[]
}

/** Lines at offset + k · spacing. */
export interface Row {
  spacing: number
  offset: number
}

/** A row that was fitted to tones. */
export interface Fit extends Row {
  matched: readonly Place[]
  /** Standard deviation of a tone from its place, Hz. */
  sigmaHz: number
  /** Natural logarithm of how much likelier the tones are with this row than strewn at random. */
  evidence: number
  /** The same of how many of its places are taken: a row of half the spacing leaves every second one free. */
  taken: number
  /** Places between its ends where tones were looked for. */
  places: number
}

/** A tone in a row. */
export interface Place {
  hz: number
  k: number
}
