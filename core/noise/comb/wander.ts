import type { Comb } from './comb'
import { fewLines, spacingUncertainty } from './harmonics'

/**
 * A line that wanders leaves several tones, of which a row takes the ones that lie best: what they stray says too
 * little of how well its spacing is known. The tones beside its lines say the rest.
 */

/** How far beside the nearest place of a comb a tone lies, Hz. */
export function besideHz({ lines, spacingHz }: Comb, hz: number): number {
  const middle = lines[Math.floor(lines.length / 2)]!
  const apart = (hz - middle.hz + middle.offHz) / spacingHz
  return (apart - Math.round(apart)) * spacingHz
}

/**
 * Tones no farther beside a line than one of these shares of the spacing, this many Hz, and so many times what its
 * lines stray anyhow may be its own: of what wanders little a wider reach takes in too much that is chance.
 */
const REACH = { shares: [0.03, 0.06], hz: 700, strays: 12 }

/**
 * A comb with what it wanders, and the uncertainty that this gives its spacing and fundamental, neither less than
 * before.
 * @param tones Hz: all that no other comb explains, its own among them
 */
export function wandering(comb: Comb, tones: readonly number[]): Comb {
  // What stands beside the lines of a comb with ripple are their sidebands.
  if (comb.rippleHz !== null) return comb
  const waverHz = Math.max(...REACH.shares.map(share => wander(comb, tones, share)))
  const places = comb.lines.map(l => l.index)
  const uncertaintyHz = spacingUncertainty(places, waverHz * fewLines(places.length))
  if (uncertaintyHz <= comb.uncertaintyHz) return comb
  const { fundamentalUncertaintyHz } = comb
  return {
    ...comb,
    waverHz: Math.max(comb.waverHz, waverHz),
    uncertaintyHz,
    fundamentalUncertaintyHz:
      fundamentalUncertaintyHz && (fundamentalUncertaintyHz * uncertaintyHz) / comb.uncertaintyHz,
  }
}

/** How far its tones and those beside them lie from their places, rms, Hz; 0 where no more are there than by chance. */
function wander(comb: Comb, tones: readonly number[], share: number): number {
  const { lines, spacingHz } = comb
  const own = new Set(lines.map(l => l.hz))
  const [lowHz, highHz] = [Math.min(...own) - spacingHz / 2, Math.max(...own) + spacingHz / 2]
  const others = tones.filter(hz => !own.has(hz) && hz > lowHz && hz < highHz)
  const squares = lines.reduce((sum, l) => sum + l.offHz ** 2, 0)
  const reachHz = Math.min(share * spacingHz, REACH.hz, REACH.strays * Math.sqrt(squares / lines.length))
  const near = others.map(hz => besideHz(comb, hz)).filter(off => Math.abs(off) <= reachHz)
  const byChance = (others.length * 2 * reachHz) / spacingHz
  const more = near.length - byChance
  if (more <= Math.sqrt(byChance)) return 0
  // What chance puts there lies anywhere within reach.
  const besides = near.reduce((sum, off) => sum + off ** 2, 0) - (byChance * reachHz ** 2) / 3
  return Math.sqrt(Math.max(0, squares + besides) / (lines.length + more))
}
