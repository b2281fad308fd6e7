import { BANDS, type Band } from '../../catalog/bands'
import type { Comb } from './comb'

/** Where the lines of a comb fall in the bands, and where they leave room. */

type Span = Pick<Band, 'lowMHz' | 'highMHz'>

/** A line where it was not heard, with the standard uncertainty of its place. */
export interface ExpectedLine {
  hz: number
  uncertaintyHz: number
}

/**
 * Where every line of a comb falls in a band. From its fundamental where that is known; else counted on from the lines
 * that were heard, and the error of the spacing with them.
 */
export function linesInBand(comb: Comb, band: Span): ExpectedLine[] {
  const { first, spacingHz, errorAt } = carriedFrom(comb)
  const from = Math.ceil((band.lowMHz * 1e6 - first) / spacingHz)
  const to = Math.floor((band.highMHz * 1e6 - first) / spacingHz)
  return Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => {
    const hz = first + (from + i) * spacingHz
    return { hz, uncertaintyHz: errorAt(hz) }
  })
}

/** Lines are told in a band where three times their error is under this share of the spacing. */
const TOLD_SHARE = 0.25

/** Whether the spacing is known well enough to say where in a band its lines are. */
export function isToldIn(comb: Comb, band: Span): boolean {
  const { spacingHz, errorAt } = carriedFrom(comb)
  return 3 * Math.max(errorAt(band.lowMHz * 1e6), errorAt(band.highMHz * 1e6)) < TOLD_SHARE * spacingHz
}

/** A line of it, how far apart they are, and how exactly one is known at a frequency. */
function carriedFrom(comb: Comb): { first: number; spacingHz: number; errorAt: (hz: number) => number } {
  const { lines, spacingHz, uncertaintyHz, waverHz, fundamentalHz, fundamentalUncertaintyHz, oddOnly } = comb
  const middle = lines[Math.floor(lines.length / 2)]!
  const anchor = middle.hz - middle.offHz
  /** An oscillator wanders by a share of itself. */
  const wander = (hz: number) => (waverHz * hz) / anchor / Math.sqrt(lines.length)
  if (fundamentalHz !== null && fundamentalUncertaintyHz !== null) {
    const share = fundamentalUncertaintyHz / fundamentalHz
    return {
      first: fundamentalHz,
      spacingHz: oddOnly ? 2 * fundamentalHz : fundamentalHz,
      errorAt: hz => Math.hypot(share * hz, wander(hz)),
    }
  }
  const errorAt = (hz: number) => Math.hypot(((hz - anchor) / spacingHz) * uncertaintyHz, wander(hz))
  return { first: anchor, spacingHz, errorAt }
}

/** Room that is kept from a line, Hz at least, and in wavers and errors of it. */
const GUARD_HZ = 50
const GUARD = 3

/**
 * The widest clear slots of a band for a mode's bandwidth, widest first: no line in them, nor the room that a wavering
 * one or the error of its place wants. None where some comb's lines cannot be told there.
 */
export function clearSlots(
  combs: readonly Comb[],
  band: Span,
  bandwidthHz: number,
  most = 5,
): { lowHz: number; highHz: number }[] {
  if (!combs.every(c => isToldIn(c, band))) return []
  const blocked = combs
    .flatMap(c =>
      linesInBand(c, band).map(({ hz, uncertaintyHz }) => {
        const waverHz = (c.waverHz * hz) / c.lines[0]!.hz + (c.rippleHz ?? 0)
        const guard = Math.max(GUARD_HZ, GUARD * Math.hypot(waverHz, uncertaintyHz))
        return { low: hz - guard, high: hz + guard }
      }),
    )
    .sort((a, b) => a.low - b.low)
  const slots: { lowHz: number; highHz: number }[] = []
  let from = band.lowMHz * 1e6
  for (const b of [...blocked, { low: band.highMHz * 1e6, high: Infinity }]) {
    if (b.low - from >= bandwidthHz) slots.push({ lowHz: from, highHz: Math.min(b.low, band.highMHz * 1e6) })
    from = Math.max(from, b.high)
  }
  return slots.sort((a, b) => b.highHz - b.lowHz - (a.highHz - a.lowHz)).slice(0, most)
}

/** Above this a converter's harmonics are too weak to be heard, MHz (edges of tens of nanoseconds). */
const HEARD_TO_MHZ = 300

/** Bands in which a comb has lines that may be heard, as far as it can be told. */
export const bandsHit = (comb: Comb) =>
  BANDS.filter(b => b.highMHz < HEARD_TO_MHZ && isToldIn(comb, b) && linesInBand(comb, b).length > 0).map(b => b.id)

/**
 * A switching part of the plan whose frequency could make a comb: its spacing is the frequency, or twice it (odd lines,
 * full wave).
 */
export function suspects(
  comb: Comb,
  parts: readonly { id: string; switchingHz: number }[],
): { id: string; relation: 'fundamental' | 'twice'; offShare: number }[] {
  const base = comb.fundamentalHz ?? comb.spacingHz
  return parts
    .flatMap(({ id, switchingHz }) =>
      (
        [
          ['fundamental', 1],
          ['twice', 2],
        ] as const
      ).flatMap(([relation, factor]) => {
        const offShare = Math.abs(base / (switchingHz * factor) - 1)
        // A maker's figure is a class, an oscillator of its kind strays by some percent.
        return offShare <= 0.06 ? [{ id, relation, offShare }] : []
      }),
    )
    .sort((a, b) => a.offShare - b.offShare)
}
