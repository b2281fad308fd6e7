/** What somebody read off an instrument on a station. */
export interface Reading {
  /** Volts: a terminal, or a lead's own side of a mating (`l2.to`); amps: a lead. */
  at: string
  condition: string
  volts?: number
  amps?: number
  /** When, as it was written. */
  time?: string
  /** The instrument, of several: each has a scale of its own. */
  with?: string
  /** Last figure that was written, V or A: an instrument shows no finer. */
  digit: number
  /** Line of the file it stands in; 0 where it was entered by hand. */
  line: number
  /** Its entry in a log. */
  id?: string
}

/** A reading that cannot be used, kept with the reason. */
export interface Aside {
  line: number
  text: string
  wrong: string
  right: string
}

/** What was seen or felt at a joint: how much likelier it makes a bad one. */
export const SEEN = {
  oxidised: 12,
  warm: 10,
  discoloured: 25,
  loose: 15,
  cleaned: 0.2,
  tight: 0.5,
} as const
export type Sight = keyof typeof SEEN

export interface Seen {
  /** A joint: `l2.to`, `l1.f1`, `blk.p1`. */
  place: string
  saw: Sight
}

/**
 * How far an instrument is off, V or A: its last figure is right to about half of itself and flickers by as much; a
 * scale that is off by half a percent is off for all readings alike (3½ digits, typical).
 */
export const SCALE_OFF = 0.005
/** Nothing is held against a probe for less, V or A. */
export const LEAST_OFF = 0.004
export const LEAST_AMPS_OFF = 0.02
/** Of a figure written to a digit. */
export const offOf = ({ digit, volts }: Reading): number =>
  Math.max(volts === undefined ? LEAST_AMPS_OFF : LEAST_OFF, 0.6 * digit)

/** The instruments of readings, those read most first, each with a scale of its own; at least one. */
export function scalesOf(readings: readonly Reading[]): { off: number; instruments: string[] } {
  const counts = new Map<string, number>()
  for (const { with: id = '' } of readings) counts.set(id, (counts.get(id) ?? 0) + 1)
  const instruments = [...counts].sort((a, b) => b[1] - a[1]).map(([id]) => id)
  return { off: SCALE_OFF, instruments: instruments.length ? instruments : [''] }
}
