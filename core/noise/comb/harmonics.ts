import type { Comb, Fit } from './comb'
import { offOf, ROUNDED, rms, rowThrough } from './fit'

/** Harmonic numbers are told where their standard uncertainty is under this. */
const TOLD = 0.12
/** How far from a whole number (or a half) a row of multiples may lie, beside three times its uncertainty. */
const NEAR = 0.02

/** Student's t against the normal at 68 %, by degrees of freedom: few lines say little of their scatter. */
const FEW_LINES = [Infinity, 1.84, 1.32, 1.2, 1.14, 1.11, 1.09]

/** What the scatter of so many lines about their row is multiplied with to stand for one line's own. */
export const fewLines = (n: number) => Math.sqrt(n / (n - 2)) * (FEW_LINES[n - 2] ?? 1)

/** Standard uncertainty of the spacing of a row whose lines stray so far each, at these places. */
export function spacingUncertainty(places: readonly number[], eachHz: number): number {
  const mean = places.reduce((sum, k) => sum + k, 0) / places.length
  return eachHz / Math.sqrt(places.reduce((sum, k) => sum + (k - mean) ** 2, 0))
}

/** What is made of a fitted row: a comb with its uncertainty, and what its lines are multiples of. */
export function combOf(fit: Fit, { confidence, resolutionHz }: { confidence: number; resolutionHz: number }): Comb {
  const matched = [...fit.matched].sort((a, b) => a.k - b.k)
  const row = rowThrough(matched)
  const n = matched.length
  const waverHz = rms(row, matched)
  const scatter = waverHz * fewLines(n)
  const roundedHz = resolutionHz * ROUNDED
  const eachHz = Math.max(scatter, roundedHz)
  const uncertaintyHz = spacingUncertainty(
    matched.map(m => m.k),
    eachHz,
  )
  const known = fundamentalOf({ ...fit, ...row, matched }, { uncertaintyHz, eachHz, roundedHz })
  const first = matched[0]!.k
  return {
    spacingHz: row.spacing,
    uncertaintyHz,
    confidence,
    proven: true,
    channelStep: false,
    ...known,
    waverHz,
    missing: fit.places - n,
    rippleHz: null,
    lines: matched.map(m => ({
      hz: m.hz,
      index: m.k - first,
      harmonic: known.fundamentalHz === null ? null : Math.round(m.hz / known.fundamentalHz),
      offHz: offOf(row, m),
    })),
  }
}

/**
 * Whether the lines are whole multiples of the spacing, or odd ones of half of it. High up, where the spacing is not
 * known well enough to count from zero to the first line, it is not told.
 */
function fundamentalOf(
  { spacing, offset, matched }: Fit,
  { uncertaintyHz, eachHz, roundedHz }: { uncertaintyHz: number; eachHz: number; roundedHz: number },
): Pick<Comb, 'fundamentalHz' | 'fundamentalUncertaintyHz' | 'oddOnly'> {
  const UNKNOWN = { fundamentalHz: null, fundamentalUncertaintyHz: null, oddOnly: false }
  const middle = Math.round(matched.reduce((s, m) => s + m.k, 0) / matched.length)
  /** How many spacings its middle line lies above zero. */
  const count = offset / spacing + middle
  const uncertain = Math.hypot(count * uncertaintyHz, eachHz / Math.sqrt(matched.length)) / spacing
  if (uncertain > TOLD) return UNKNOWN
  const tolerance = NEAR + 3 * uncertain
  const oddOnly = Math.abs(count - Math.round(count)) > tolerance
  if (oddOnly && Math.abs(count - Math.floor(count) - 0.5) > tolerance) return UNKNOWN
  const harmonics = matched.map(({ k }) =>
    oddOnly ? 2 * (Math.floor(count) + k - middle) + 1 : Math.round(count) + k - middle,
  )
  if (harmonics.some(h => h < 1)) return UNKNOWN
  const squares = harmonics.reduce((s, h) => s + h * h, 0)
  return {
    oddOnly,
    fundamentalHz: harmonics.reduce((s, h, i) => s + h * matched[i]!.hz, 0) / squares,
    // Where the spacing is nearly a multiple of the last figure, all lines are rounded alike: that averages nothing.
    fundamentalUncertaintyHz: Math.max(eachHz / Math.sqrt(squares), roundedHz / Math.max(...harmonics)),
  }
}
