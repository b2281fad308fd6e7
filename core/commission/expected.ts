import { findCondition, sinkIn } from '../circuit/conditions'
import { sinkAmps } from '../kinds/draw'
import { isLoad, kindOf, needs } from '../kinds/index'
import { readingsOf, RESTED, type Log } from '../log/log'
import { nameOf, partById } from '../plan/find'
import type { Plan } from '../plan/schema'
import { expectedNow } from '../readings/joints'
import { SCALE_OFF, type Reading } from '../readings/reading'
import { figure, fixed } from '../units/number'
import { resistance } from '../units/show'
import { restedMeaning, restedOf } from './rested'
import { benchSource } from './steps'
import type { CommissionStep } from './step'

/** What each step should read, as far as the plan and what was read before say, and what a figure means. */

export interface Expectation {
  expected: number
  tolerance: number
}

/** A digit that nobody said, V. */
const USUAL_DIGIT = 0.01
/** A rested pack is not quite an idle one: its reading counts for so much there, V. */
const RESTED_DIGIT = 0.05

/** Of a day's work: what was read before today says nothing of how full the battery is. */
const readToday = (log: Log, day: string): Log => ({
  ...log,
  readings: log.readings.filter(r => r.time.startsWith(day)),
})

/** What a battery by itself rested at, the last of the day. */
function restedToday(log: Log): Map<string, number> {
  const rested = log.readings.filter(r => r.condition === RESTED && r.volts !== undefined && r.volts > 0 && !r.note)
  return new Map(rested.map(r => [r.at, r.volts!]))
}

/** The plan with its batteries as full as they were found. */
function asFound(plan: Plan, rested: ReadonlyMap<string, number>): Plan {
  const parts = plan.parts.map(p => {
    const volts = rested.get(p.id)
    return (volts !== undefined && kindOf(p).restingAt?.(p, volts)) || p
  })
  return { ...plan, parts: parts as Plan['parts'] }
}

/**
 * What was read with the key up, rested packs as idle ones: how full the batteries are and how the meter is off. What
 * was read with the key down says nothing of what it should be there: the joint one looks for is in it.
 */
function keyUp(plan: Plan, today: Log, rested: ReadonlyMap<string, number>): Reading[] {
  const idle = `${benchSource(plan)}/idle`
  if (typeof findCondition(plan, idle) === 'string') return []
  const asIdle = [...rested].map(([at, volts]): Reading => ({
    at,
    condition: idle,
    volts,
    digit: RESTED_DIGIT,
    line: 0,
  }))
  return [...asIdle, ...readingsOf(today).filter(r => r.condition === idle)]
}

/**
 * By the step's id; none where the plan has no operating point. No step's own reading says what it should be.
 * @param day of the readings that count
 */
export function expectationsOf(
  plan: Plan,
  log: Log,
  steps: readonly CommissionStep[],
  day: string,
): Record<string, Expectation> {
  const today = readToday(log, day)
  const rested = restedToday(today)
  const found = asFound(plan, rested)
  const evidence = keyUp(plan, today, rested)
  const asked = steps.filter(s => s.reading && s.reading.condition !== RESTED)
  const isOwn = (s: CommissionStep, r: Reading) => r.at === s.reading!.at && r.condition === s.reading!.condition
  const [own, others] = [
    asked.filter(s => evidence.some(r => isOwn(s, r))),
    asked.filter(s => !evidence.some(r => isOwn(s, r))),
  ]
  const told = (those: readonly CommissionStep[], by: readonly Reading[]) => {
    const places = those.map(s => ({ at: s.reading!.at, condition: s.reading!.condition, digit: USUAL_DIGIT }))
    const expected = places.length ? expectedNow(found, by, places) : []
    return those.flatMap((s, i) => (Number.isFinite(expected[i]!.expected) ? [[s.id, expected[i]!] as const] : []))
  }
  return Object.fromEntries([
    ...told(others, evidence),
    ...own.flatMap(s =>
      told(
        [s],
        evidence.filter(r => !isOwn(s, r)),
      ),
    ),
  ])
}

/** How far a meter may be off at a voltage, V: its last figure and its scale. */
const meterOff = (volts: number) => Math.hypot(USUAL_DIGIT, SCALE_OFF * volts)

export interface Meaning {
  verdict: 'good' | 'off' | 'stop'
  words: string
}

/** What a figure read at a step means. @param expectation null where the plan has no operating point there */
export function meaningOf(plan: Plan, step: CommissionStep, volts: number, expectation: Expectation | null): Meaning {
  const { at, condition, member } = step.reading!
  if (condition === RESTED) {
    const rested = restedOf(partById(plan, at)!)!
    const { verdict, words } = restedMeaning(rested, volts / (member?.share ?? 1), meterOff(volts))
    return { verdict, words: member ? words.replaceAll(nameOf(rested.part), member.name) : words }
  }
  const part = partById(plan, at)
  if (volts < -0.5)
    return {
      verdict: 'stop',
      words: 'The sign is the wrong way round: off at once, and find where red and black cross.',
    }
  const limits = part && isLoad(part) ? needs(part) : null
  if (limits && volts > limits.maxV)
    return { verdict: 'stop', words: `Over the ${figure(limits.maxV)} V that ${nameOf(part!)} stands: off at once.` }
  if (!expectation)
    return { verdict: 'off', words: 'The plan has no operating point there: what it should be is not known.' }
  const { expected, tolerance } = expectation
  const by = volts - expected
  const said = `${fixed(expected, 2)} ± ${fixed(tolerance, 2)} V was to be expected`
  const isUnder = limits !== null && volts < limits.minV
  if (Math.abs(by) <= tolerance && !isUnder) return { verdict: 'good', words: `As it should be: ${said}.` }
  if (Math.abs(volts) < NOTHING_V && expected > 2 * NOTHING_V)
    return { verdict: isUnder ? 'stop' : 'off', words: `Nothing arrives; ${said}. ${OPEN}` }
  const why =
    by < 0 ? tooLittle(plan, step, -by) : 'More than the plan gives: another setting, less drawn, or the meter.'
  const under = isUnder ? `Under the ${figure(limits.minV)} V that ${nameOf(part!)} needs. ` : ''
  return {
    verdict: isUnder ? 'stop' : 'off',
    words: `${under}${fixed(Math.abs(by), 2)} V ${by < 0 ? 'less' : 'more'}: ${said}. ${why}`,
  }
}

/** Under this a meter shows what it picks up, V. */
const NOTHING_V = 0.5
const OPEN =
  'A fuse, breaker or switch on the way is open, a management system has cut off, or a lead is not joined: ' +
  'measure from the source on until it is there.'

/** The least current of which a resistance is told, A. */
const TELLING_A = 0.5

function tooLittle(plan: Plan, { reading }: CommissionStep, volts: number): string {
  const condition = findCondition(plan, reading!.condition)
  const part = partById(plan, reading!.at)
  const sink = part && typeof condition !== 'string' ? sinkIn(part, condition) : undefined
  const amps = sink ? sinkAmps(sink, 12) : 0
  if (amps < TELLING_A) return 'The battery is less full, or a joint on the way is bad.'
  return `At ${figure(amps, 1)} A that is about ${resistance(volts / amps)} too much on the way: feel each joint.`
}
