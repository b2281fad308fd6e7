import { BANDS, type Band } from '../catalog/bands'
import type { Comb } from './comb'

/** Where the lines of a comb fall in the bands, and where they leave room. */

/** Where every line of a comb falls in a band, Hz. */
export function linesInBand(comb: Pick<Comb, 'spacingHz' | 'lines'>, band: Pick<Band, 'lowMHz' | 'highMHz'>): number[] {
  const anchor = comb.lines[0]!.hz - comb.lines[0]!.offHz
  const first = Math.ceil((band.lowMHz * 1e6 - anchor) / comb.spacingHz)
  const last = Math.floor((band.highMHz * 1e6 - anchor) / comb.spacingHz)
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => anchor + (first + i) * comb.spacingHz)
}

/**
 * The widest clear slots of a band for a mode's bandwidth, widest first: no line in them, nor the room a wavering one
 * wants.
 */
export function clearSlots(
  combs: readonly Comb[],
  band: Pick<Band, 'lowMHz' | 'highMHz'>,
  bandwidthHz: number,
  most = 5,
): { lowHz: number; highHz: number }[] {
  const blocked = combs
    .flatMap(c =>
      linesInBand(c, band).map(hz => {
        const guard = Math.max(50, 3 * c.waverHz)
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

/** Bands in which a comb has lines. */
export const bandsHit = (comb: Comb) => BANDS.filter(b => linesInBand(comb, b).length > 0).map(b => b.id)

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
