import { answersBy, type Answers } from '../reason/hypotheses'
import { alsoOf, pairKey, type Causes, type Part } from './cause'

/** What thousands of hypotheses have in common, worked out once for a list of causes. */
export interface Tables {
  /** Every source with its way and its when, once. */
  shares: readonly Part[]
  /** Of each hypothesis its first share, and its second; −1 for none. */
  first: Int32Array
  second: Int32Array
  /** Device and way, with another device beside it where there are two: what a cure goes by. */
  pairs: Answers
  /** Of each hypothesis the devices that have a part in it, by their places. */
  devices: readonly (readonly number[])[]
}

const KNOWN = new WeakMap<Causes, Tables>()

export function tablesOf(causes: Causes): Tables {
  const known = KNOWN.get(causes) ?? tabled(causes)
  KNOWN.set(causes, known)
  return known
}

function tabled({ priors, devices }: Causes): Tables {
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
  const placeOf = new Map(devices.map((d, i) => [d.id, i]))
  return {
    shares,
    first: Int32Array.from(priors, p => shareAt(p.cause)),
    second: Int32Array.from(priors, p => shareAt(p.cause.second)),
    pairs: answersBy(priors, ({ cause }) => pairKey({ ...cause, also: alsoOf(cause) })),
    devices: priors.map(({ cause }) => {
      const also = alsoOf(cause)
      return [cause, ...(also ? [also] : [])].map(p => placeOf.get(p.device)!)
    }),
  }
}
