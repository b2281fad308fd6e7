import type { Plan } from '../../plan/schema'
import { rounded } from '../../units/number'
import { nextTests, outcomeRows } from '../advice'
import type { AtHand } from '../test'
import { testsFor } from '../tests'
import { entropyBits } from '../../reason/odds'
import { believe, BELIEVED, pairsOf } from '../belief'
import type { Causes } from '../cause'
import type { Advice } from '../advice'
import type { Way } from '../cause'
import type { Fault } from './fault'
import type { Observation } from '../observation'
import type { SimulatedReceiver } from './receiver'

export interface Solved {
  right: boolean
  tests: number
  minutes: number
  euro: number
  named: { device: string; way: Way }
  log: { test: Advice; observation: Observation }[]
}

/** After so many tests an operator gives up. */
const MOST_TESTS = 15

/** Finds a hidden fault by following the advice to the letter. */
export function followAdvice(
  plan: Plan,
  causes: Causes,
  { receiver, fault }: { receiver: SimulatedReceiver; fault: Fault },
  atHand: AtHand,
): Solved {
  const log: Solved['log'] = []
  let [minutes, euro] = [0, 0]
  const bought = new Set(atHand)
  for (;;) {
    const belief = believe(
      causes,
      log.map(l => l.observation),
    )
    const best = belief.pairs[0]!
    // A test is made once; made twice it would mostly repeat its own error.
    const evidence = log.map(l => l.observation)
    const test = nextTests({ plan, causes, belief, atHand: bought, evidence }).find(
      t => !log.some(l => l.test.id === t.id),
    )
    if (best.probability >= BELIEVED || log.length >= MOST_TESTS || !test) {
      return {
        right: !best.also && best.device === fault.cause.device && best.way === fault.cause.way,
        tests: log.length,
        minutes,
        euro,
        named: { device: best.device, way: best.way },
        log,
      }
    }
    minutes += test.minutes
    euro += test.euro
    test.needs.forEach(n => bought.add(n))
    log.push({ test, observation: receiver.perform(test, `o${log.length + 1}`, '2026-01-01T00:00:00Z') })
  }
}

/** How often device and way are to be named rightly. */
export const ACCURACY = 0.95

/**
 * Fewest tests that could do on average, by information alone: the bits between device and way that must be told to
 * name them rightly
 * so often (Fano's inequality), over the most that any one test can tell, however the causes were spread (its channel's
 * capacity).
 */
export function informationBound(plan: Plan, causes: Causes): { bits: number; bitsPerTest: number; tests: number } {
  const prior = believe(causes, [])
  const pairs = pairsOf(causes, prior.probabilities)
  const bits = entropyBits(pairs.map(p => p.probability))
  const open = Math.min(
    bits,
    entropyBits([ACCURACY, 1 - ACCURACY]) + (1 - ACCURACY) * Math.log2(Math.max(1, pairs.length - 1)),
  )
  const bitsPerTest = Math.max(
    ...testsFor({ plan, causes, belief: prior }).map(t => capacityBits(distinct(outcomeRows(t, causes)))),
  )
  return { bits, bitsPerTest, tests: (bits - open) / bitsPerTest }
}

/** One column of outcome probabilities for each kind of cause that the test can tell apart. */
function distinct(outcomes: { row: number[] }[]): number[][] {
  const columns = new Map<string, number[]>()
  for (let h = 0; h < outcomes[0]!.row.length; h++) {
    const column = outcomes.map(o => o.row[h]!)
    const total = column.reduce((s, v) => s + v, 0)
    const shares = column.map(v => v / total)
    columns.set(shares.map(v => rounded(v, 3)).join(' '), shares)
  }
  return [...columns.values()]
}

/**
 * Capacity of a discrete channel, bits, by Blahut and Arimoto (IEEE Trans. IT-18, 1972). @param rows outcome
 * probabilities, one row an input
 */
export function capacityBits(rows: readonly (readonly number[])[]): number {
  let inputs = rows.map(() => 1 / rows.length)
  let bits = 0
  for (let round = 0; round < 200; round++) {
    const outputs = rows[0]!.map((_, o) => rows.reduce((s, row, i) => s + inputs[i]! * row[o]!, 0))
    const gains = rows.map(row => row.reduce((s, p, o) => s + (p > 0 ? p * Math.log2(p / outputs[o]!) : 0), 0))
    const weights = inputs.map((p, i) => p * 2 ** gains[i]!)
    const total = weights.reduce((s, w) => s + w, 0)
    bits = Math.log2(total)
    if (Math.max(...gains) - bits < 1e-4) break
    inputs = weights.map(w => w / total)
  }
  return bits
}
