import { alsoOf, pairKey, type Causes, type Part } from './cause'

/** What thousands of hypotheses have in common, worked out once for a list of causes. */
export interface Tables {
  /** Every source with its way and its when, once. */
  shares: readonly Part[]
  /** Of each hypothesis its first share, and its second; −1 for none. */
  first: Int32Array
  second: Int32Array
  /** Of each hypothesis its pair, and of each pair one hypothesis that has it. */
  pair: Int32Array
  pairs: readonly number[]
}

const KNOWN = new WeakMap<Causes, Tables>()

export function tablesOf(causes: Causes): Tables {
  const known = KNOWN.get(causes) ?? tabled(causes)
  KNOWN.set(causes, known)
  return known
}

function tabled({ priors }: Causes): Tables {
  const shares: Part[] = []
  const at = new Map<string, number>()
  const shareAt = (part: Part | undefined) => {
    if (!part) return -1
    const key = `${part.device} ${part.way} ${part.when.kind} ${part.when.kind === 'over' ? part.when.share : ''}`
    const known = at.get(key)
    if (known !== undefined) return known
    at.set(key, shares.length)
    return shares.push(part) - 1
  }
  const pairs: number[] = []
  const pairAt = new Map<string, number>()
  const pair = Int32Array.from(priors, ({ cause }, i) => {
    const key = pairKey({ ...cause, also: alsoOf(cause) })
    const known = pairAt.get(key) ?? pairs.push(i) - 1
    pairAt.set(key, known)
    return known
  })
  return {
    shares,
    first: Int32Array.from(priors, p => shareAt(p.cause)),
    second: Int32Array.from(priors, p => shareAt(p.cause.second)),
    pair,
    pairs,
  }
}

/** Probability of each pair. */
export function pairMass({ pair, pairs }: Tables, probabilities: readonly number[]): Float64Array {
  const mass = new Float64Array(pairs.length)
  for (let i = 0; i < pair.length; i++) mass[pair[i]!]! += probabilities[i]!
  return mass
}
