import type { Belief, Pair } from './belief'
import { isPart } from './suspect'

/**
 * What is believed, as it is said: a device by a way; or two devices, whatever their ways, since both are to be cured
 * anyhow and a way is found for each when the other is quiet.
 */
export interface Verdict {
  devices: readonly string[]
  probability: number
  /** The likeliest pair of it. */
  pair: Pair
}

/** Verdicts of a belief, best first; their probabilities sum to 1, or to less where something is yet to be tried. */
export function verdictsOf({ pairs }: Pick<Belief, 'pairs'>): Verdict[] {
  const found = new Map<string, { devices: string[]; probability: number; pair: Pair }>()
  for (const pair of pairs) {
    const devices = pair.also ? [pair.device, pair.also.device] : [pair.device]
    const alone = isPart(pair.device) ? `${pair.device} by ${pair.way}` : pair.device
    const key = pair.also ? [...devices].sort().join(' + ') : alone
    const known = found.get(key)
    if (known) known.probability += pair.probability
    else found.set(key, { devices, probability: pair.probability, pair })
  }
  return [...found.values()].sort((a, b) => b.probability - a.probability)
}
