import { randomFrom } from '../chance/random'
import { conditionsOf, transmittersOf } from '../circuit/conditions'
import { solveMatrix, type SolvedPlan } from '../circuit/matrix'
import { kindOf, needs } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { counted } from '../units/words'
import { faultsOf, type Fault, type FaultKind, type Made } from './faults'

/** A station with one fault in it that nobody is told, to be found with a meter, eyes and fingers. */

export interface Hidden {
  plan: Plan
  fault: Fault
  /** The station as it is. */
  built: SolvedPlan
  crossed?: Made['crossed']
  /** What the operator complains of. */
  complaint: string
  seed: number
}

/** A meter's last figure, and its scale. */
const DIGIT_V = 0.01
const SCALE_OFF = 0.003

/**
 * A fault hidden in a plan, the same for the same seed.
 * @param of only such a one; unsaid: any
 * @returns null where a plan has nothing in which it would show
 */
export function hiddenIn(plan: Plan, seed: number, of?: FaultKind): Hidden | null {
  const may = faultsOf(plan).filter(f => of === undefined || f.fault.of === of)
  const all = may.flatMap(({ fault, built, crossed }) => {
    const solved = solveMatrix(built)
    const complaint = complaintOf(plan, solved, fault)
    return complaint ? [{ fault, built: solved, complaint, ...(crossed && { crossed }) }] : []
  })
  if (!all.length) return null
  const random = randomFrom(104_729 * seed)
  random.uniform()
  // First which kind: else a plan of many leads would hide joints alone.
  const kinds = [...new Set(all.map(a => a.fault.of))]
  const kind = kinds[Math.floor(random.uniform() * kinds.length)]!
  const its = all.filter(a => a.fault.of === kind)
  return { plan, seed, ...its[Math.floor(random.uniform() * its.length)]! }
}

/** Less than this against what it was is not noticed, V. */
const NOTICED_V = 0.25

/** What somebody notices, without knowing why; null where nobody would. */
function complaintOf(plan: Plan, built: SolvedPlan, { of }: Fault): string | null {
  const planned = solveMatrix(plan)
  const source = sourceOf(plan)
  const volts = (solved: SolvedPlan, id: string, state: string) => voltsAt(solved, id, `${source}/${state}`)
  if (of === 'setting') return 'The battery is not as it should be after a charge.'
  if (of === 'far fuse') return 'All works. A friend has made one lead anew: look it over before it is left alone.'
  for (const radio of transmittersOf(plan)) {
    const [idle, keyed] = [volts(built, radio.id, 'idle'), volts(built, radio.id, `only:${radio.id}`)]
    if (idle < 1) return `${nameOf(radio)} is dead.`
    if (keyed < needs(radio).minV) return `${nameOf(radio)} cuts out on transmit.`
    const was = volts(planned, radio.id, `only:${radio.id}`)
    if (was - keyed > NOTICED_V) return `${nameOf(radio)} is weaker than it was.`
  }
  const dead = plan.parts.find(
    p => kindOf(p).role === 'load' && volts(planned, p.id, 'idle') > 1 && volts(built, p.id, 'idle') < 1,
  )
  return dead ? `${nameOf(dead)} is dead.` : null
}

const sourceOf = (plan: Plan) => {
  const states = conditionsOf(plan).map(c => c.source)
  return states.includes('full') ? 'full' : states[0]!
}

function voltsAt({ network, points }: SolvedPlan, at: string, condition: string): number {
  const point = points.find(p => p.condition.id === condition)
  const node = network.nodeOf.get(at)
  return point?.status === 'ok' && node !== undefined ? point.volts[node]! : 0
}

/** What a meter shows at a terminal. The same reading taken again shows nearly the same. @param n the how-manieth */
export function meterAt({ built, seed, crossed }: Hidden, at: string, condition: string, n: number): number {
  const random = randomFrom(31 * seed + 7 * n)
  random.uniform()
  const scale = 1 + SCALE_OFF * randomFrom(seed).normal()
  const isCrossed = crossed?.at === at
  const volts = isCrossed ? -voltsAt(built, crossed!.from, condition) : voltsAt(built, at, condition)
  const shown = volts * scale + 0.4 * DIGIT_V * random.normal()
  return Math.round((isCrossed ? shown : Math.max(0, shown)) / DIGIT_V) * DIGIT_V
}

const LOOKS: Record<FaultKind, string> = {
  joint: 'Warm, and a little brown.',
  blown: 'Its strip is gone.',
  switch: 'It is off.',
  setting: 'Its display names another chemistry than the battery is of.',
  diode: 'Its stripe points to the source.',
  asleep: 'Its lamp is out; a press of its button wakes it.',
  colours: 'Red at one end is black at the other.',
  'far fuse': 'There is no fuse before the far end.',
}

/** What eyes and fingers tell of a place, after a minute of transmitting. */
export const lookedAt = ({ fault }: Hidden, place: string): string =>
  place === fault.place ? LOOKS[fault.of] : 'Nothing to be seen; cold.'

export interface Score {
  right: boolean
  words: string
  /** 0–100: found, in few tests, and without doing more harm. */
  points: number
}

/** So many readings and looks are enough for somebody who knows how. */
const PAR = 4
const POINTS_A_TEST = 8
/** So many readings under load tell a bad joint; each further one heats it. */
const KEYED_ENOUGH = 2
const POINTS_A_HEATING = 6

/** How the search went. `conditions`: what was on, reading by reading; `looks`: places that were looked at. */
export interface Search {
  conditions: readonly string[]
  looks: number
}

/** Readings that did harm: with the key down through a bad joint, or at the charger that is set wrong. */
export function harmOf({ fault }: Hidden, { conditions }: Search): number {
  if (fault.of === 'joint') return Math.max(0, conditions.filter(c => !c.endsWith('/idle')).length - KEYED_ENOUGH)
  if (fault.of === 'setting') return Math.max(0, conditions.filter(c => /^(charging|bulk)\//.test(c)).length - 1)
  return 0
}

const HARM: Partial<Record<FaultKind, (n: number) => string>> = {
  joint: n => `The bad joint was heated ${counted(n, 'time')} more than it took.`,
  setting: n => `The battery was charged ${counted(n, 'time')} more on the wrong setting.`,
}

/** Looking at each place in turn is no art. */
export function scoreOf(hidden: Hidden, guess: string, search: Search): Score {
  const { fault } = hidden
  const right = guess === fault.place
  const over = Math.max(0, search.conditions.length + 2 * search.looks - PAR)
  const harm = harmOf(hidden, search)
  const points = right ? Math.max(10, 100 - POINTS_A_TEST * over - POINTS_A_HEATING * harm) : 0
  const said = [`${fault.words}. ${fault.shows}`, ...(harm ? [HARM[fault.of]!(harm)] : [])].join(' ')
  return { right, points, words: right ? `Found: ${said}` : `No. ${said}` }
}
