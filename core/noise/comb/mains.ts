import type { Comb, MainsBuzz } from './comb'

/** Mains keep to their frequency within this share; a small generator's do not, and are taken for a device's. */
const KEEPS = 2e-3
/** Rectified once and twice, Hz for each: the usual spacings of a buzz. */
const USUAL = [1, 2] as const
/** Of three phases, or every third line: told only where the spacing is known this well, as a share. */
const RARE = [3, 4, 5, 6] as const
const WELL_KNOWN = 1e-3

/** Lines at multiples of the mains frequency, however many of them. */
export const isMains = (comb: Comb) => mainsHzOf(comb) !== null

function mainsHzOf({ spacingHz, uncertaintyHz }: Comb): 50 | 60 | null {
  for (const mainsHz of [50, 60] as const) {
    const off = (times: number) => Math.abs(spacingHz - times * mainsHz)
    if (USUAL.some(times => off(times) <= KEEPS * times * mainsHz + 3 * uncertaintyHz)) return mainsHz
    const isWellKnown = uncertaintyHz <= WELL_KNOWN * spacingHz
    if (isWellKnown && RARE.some(times => off(times) <= WELL_KNOWN * times * mainsHz + uncertaintyHz)) return mainsHz
  }
  return null
}

/** One buzz, of however many rows it was found in. */
export function mainsOf(rows: readonly Comb[]): MainsBuzz | null {
  const [first] = rows
  if (!first) return null
  const mainsHz = mainsHzOf(first)!
  return {
    mainsHz,
    spacingHz: first.spacingHz,
    rare: first.spacingHz > (Math.max(...USUAL) + 0.5) * mainsHz,
    lines: rows.flatMap(r => r.lines.map(l => l.hz)).sort((a, b) => a - b),
  }
}
