import { kindOf, type Part } from '../kinds/index'
import type { IntoShort } from '../kinds/kind'

/** What a part drives into a dead short at its terminals. A BMS counts for nothing. */
export const shortSources = (part: Part): IntoShort[] => kindOf(part).intoShort(part)

/** Parts that drive a short without anything that feeds them. */
export const shortsByItself = (part: Part): IntoShort[] => shortSources(part).filter(s => s.by === 'itself')

/** Most a source can give for long, A; null for a battery or vehicle, whose limit is no protection. */
export function sourceLimitA(part: Part): number | null {
  const amps = shortSources(part).map(s => (s.kind === 'limited' ? s.amps : null))
  return amps.length && amps.every(a => a !== null) ? Math.max(...amps) : null
}

/** Into a short under this a source is a handful of dry cells, whose resistance only grows, A. */
const SMALL_SHORT_A = 20

/** Most that a source gives whatever hangs on it, A; null where a fuse is what holds it back. */
export function heldToA(part: Part): number | null {
  const shortA = prospectiveAtPost(part) ?? Infinity
  return sourceLimitA(part) ?? (shortA < SMALL_SHORT_A ? shortA : null)
}

/**
 * Whether a part's own limit is fuse enough for what carries it: by its nature, as a panel's, not by a regulator that
 * may fail.
 */
export const limitIsSure = (part: Part) => shortSources(part).every(s => s.kind === 'limited' && s.sure)

/** Current into a dead short at the posts, A; null where its internal resistance is not said. */
export function prospectiveAtPost(part: Part): number | null {
  const [first] = shortSources(part)
  if (!first) return null
  if (first.kind === 'limited') return first.amps
  return first.ohm > 0 ? first.emfV / first.ohm : null
}
