import { nextTests } from '../../core/noise/advice'
import { believe, BELIEVED, type Pair } from '../../core/noise/belief'
import { causesOf, type Causes } from '../../core/noise/cause'
import type { Observation } from '../../core/noise/observation'
import { randomFrom } from '../../core/chance/random'
import { isPart } from '../../core/noise/suspect'
import type { Plan } from '../../core/plan/schema'
import { ALL_AT_HAND, NOISY_STATIONS } from './noisy'
import { hide, Operator, type Hidden, type Noisy } from './physicsStation'

export interface Trial {
  hidden: Hidden
  best: Pair
  tests: number
  device: boolean
  way: boolean
}

/** After so many tests an operator gives up. */
const MOST_TESTS = 18

const noisy = (causes: Causes): Noisy[] => causes.devices.filter(d => isPart(d.id))

/** Whether the devices named are those that are there, and the way of the loudest. */
function judged(hidden: Hidden, best: Pair): { device: boolean; way: boolean } {
  const idOf = (c: Hidden['culprits'][number]) => c.device?.id ?? c.where
  const there = hidden.culprits.map(idOf)
  const named = [best.device, ...(best.also ? [best.also.device] : [])]
  const wayOf = (id: string) => (id === best.device ? best.way : best.also!.way)
  const device = there.length === named.length && named.every(n => there.includes(n))
  return { device, way: device && hidden.culprits.every(c => wayOf(idOf(c)) === c.main) }
}

/** Follows the advice at a station with hidden noise until something is believed. */
export function followedTrial(plan: Plan, causes: Causes, seed: number): Trial {
  const random = randomFrom(seed)
  const hasData = causes.priors.some(p => p.cause.way === 'data')
  const hidden = hide(noisy(causes), hasData, random)
  const operator = new Operator(hidden, noisy(causes), random)
  const evidence: Observation[] = []
  const made = new Set<string>()
  for (;;) {
    const belief = believe(causes, evidence)
    const best = belief.pairs[0]!
    const test = nextTests({ plan, causes, belief, evidence, atHand: ALL_AT_HAND }).find(t => !made.has(t.id))
    if (best.probability >= BELIEVED || made.size >= MOST_TESTS || !test)
      return { hidden, best, tests: made.size, ...judged(hidden, best) }
    made.add(test.id)
    evidence.push(operator.perform(test, `o${made.size}`))
  }
}

/** So many hidden faults over the made-up stations. */
export function physicsTrials(count: number, seed = 1): Trial[] {
  const stations = NOISY_STATIONS.map(s => ({ plan: s.plan(), bands: s.bands })).map(s => ({
    ...s,
    causes: causesOf(s.plan, { bands: s.bands }),
  }))
  return Array.from({ length: count }, (_, i) => {
    const { plan, causes } = stations[i % stations.length]!
    return followedTrial(plan, causes, Math.imul(seed * 1009 + i, 0x9e3779b1))
  })
}

export interface Shares {
  name: string
  count: number
  device: number
  way: number
}

/** How often verdicts are right: of those that are sure, of two culprits, of what is no part. */
export function shares(trials: readonly Trial[]): Shares[] {
  const of = (name: string, some: readonly Trial[]): Shares => ({
    name,
    count: some.length,
    device: some.filter(t => t.device).length / Math.max(1, some.length),
    way: some.filter(t => t.way).length / Math.max(1, some.length),
  })
  const sure = trials.filter(t => t.best.probability >= BELIEVED)
  return [
    of('all', trials),
    of('stated at 90 % and above', sure),
    of(
      'stated at 97 % and above',
      trials.filter(t => t.best.probability >= 0.97),
    ),
    of(
      'two culprits there',
      trials.filter(t => t.hidden.culprits.length > 1),
    ),
    of(
      'two culprits stated',
      sure.filter(t => t.best.also),
    ),
    of(
      'stated: outside',
      sure.filter(t => t.best.device === 'outside' && !t.best.also),
    ),
    of(
      'stated: the receiver',
      sure.filter(t => t.best.device === 'receiver' && !t.best.also),
    ),
    of(
      'outside there',
      trials.filter(t => t.hidden.culprits[0]!.where === 'outside'),
    ),
    of(
      'receiver there',
      trials.filter(t => t.hidden.culprits[0]!.where === 'receiver'),
    ),
  ]
}
