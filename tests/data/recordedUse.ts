import { conditionsOf } from '../../core/circuit/conditions'
import { meaningOf } from '../../core/commission/expected'
import { apartWords, restedMeaning, restedOf } from '../../core/commission/rested'
import { singleFailures, sparesOf } from '../../core/commission/spares'
import { commissionSteps } from '../../core/commission/steps'
import { readLine, shownFigure } from '../../core/instruments/protocol'
import { SimulatedInstruments } from '../../core/instruments/simulated'
import { mend } from '../../core/mend/mend'
import type { Plan } from '../../core/plan/schema'
import { inferJoints } from '../../core/readings/joints'
import { nextReadings } from '../../core/readings/next'
import { consequencesOf, jointWords } from '../../core/readings/tell'
import { believeSymptom } from '../../core/symptoms/believe'
import { SYMPTOM_IDS } from '../../core/symptoms/symptom'
import { POWER_TESTS } from '../../core/symptoms/tests'
import { brokenPlan } from './brokenPlans'
import { DEMOS, demoPlan } from './plans'
import { dice, randomPlan } from './randomPlans'
import { madeUpReadings } from './readings'
import { on, some, tried } from './someOf'

/** What comes of measuring and asking: whole answers, as in `recorded.ts`. */

/** What simulated instruments say, a fault hidden or not, with the probe moved and the state changed. */
function instrumentsOf(plan: Plan) {
  const states = conditionsOf(plan).map(c => c.id)
  return [null, 1, 2, 3, 4, 5].map(hide => {
    const instruments = new SimulatedInstruments(plan, { hide })
    const probes = plan.leads.slice(0, 4).map(l => `probe ${l.to}`)
    const told = [...probes, `state ${states.at(-1)}`, 'state nowhere', 'probe nowhere', 'zzz'].flatMap(command => [
      ...instruments.command(command),
      ...instruments.tick('2026-06-13T12:00:00Z'),
    ])
    const lines = [...instruments.greeting(), ...told]
    return { fault: instruments.fault, lines, heard: lines.map(readLine) }
  })
}

/** Lines of instruments, each as it is and with one thing wrong. */
const linesAnswer = () =>
  [
    ...[
      'wireman-instruments 1',
      'wireman-instruments 2',
      '',
      'zzz',
      'simulated Tern Rock',
      'simulated',
      'error',
      'error no such',
    ],
    ...['channel m V 0.01 bat House pack', 'channel m W 0.01 bat x', 'channel m V 0 bat x', 'channel m V 101 bat x'],
    ...[
      'channel m V 100 bat x',
      'channel m V 0.01 bat',
      'channel m V 0.01',
      'channel M! V 0.01 bat x',
      'channel m % 1 - x',
    ],
    ...['state full/idle', 'state', 'state a b', 'read m 12.81 2026-06-13T12:00:00Z', 'read m - 2026-06-13T12:00:00Z'],
    ...['read m 12.81', 'read m 12.81 yesterday', 'read m 1e9 2026-06-13T12:00:00Z', 'read m abc 2026-06-13T12:00:00Z'],
    ...['read m -0.5 2026-06-13T12:00:00Z x', `simulated ${'x'.repeat(300)}`, '  state   low/all  ', 'toString x'],
  ].map(line => [line, readLine(line)])

const FIGURES = [0, 0.04, 1.005, 12.3456, -12.3456, 99.95, 1234.5]
const shownAnswer = () => [0.001, 0.01, 0.1, 1, 10].map(digit => FIGURES.map(value => shownFigure(value, digit)))

/** What readings of a station with one bad joint, or none, tell. */
function readingsOf(plan: Plan) {
  return [0, 6, 25].map((times, n) => {
    const { readings, bad } = madeUpReadings(plan, { seed: 3 + n, times, leastV: 0.01 })
    const found = inferJoints(
      plan,
      readings.filter((_, i) => i % 2 === 0),
    )
    return {
      bad,
      misfit: found.misfit,
      joints: found.joints,
      next: nextReadings(plan, found),
      words: consequencesOf(plan, found).map((does, i) => jointWords(found.joints[i]!, does)),
    }
  })
}

/** What a symptom comes of after two or three tests with any outcome. */
function symptomsOf(plan: Plan) {
  const d = dice(plan.parts.length + 40)
  const at = plan.parts.find(p => p.kind === 'radio')?.id
  return Array.from({ length: 6 }, () => {
    const findings = Array.from({ length: d.of([1, 2, 3]) }, () => {
      const test = d.of(POWER_TESTS)
      return { test: test.id, outcome: d.of(test.outcomes).id }
    })
    const { causes, together, next, taken, doubts } = believeSymptom(plan, { symptom: d.of(SYMPTOM_IDS), at, findings })
    const told = next.slice(0, 3).map(({ test, bits, rate, outcomes }) => [test.id, bits, rate, outcomes])
    return { findings, causes: causes.slice(0, 6), together, told, taken, doubts }
  })
}

/** What figures read at each step of building mean, right, a little off and far off. */
function meaningsOf(plan: Plan) {
  return commissionSteps(plan)
    .filter(step => step.reading)
    .map(step => {
      const expectation = { expected: 12.8, tolerance: 0.05 }
      return [0, -0.4, 11.2, 12.6, 12.8, 13.1, 14.6, 25].map(v => tried(() => meaningOf(plan, step, v, expectation)))
    })
}

/** Two packs that are to be joined, as they rest. */
function apartAnswer() {
  const packs = DEMOS.flatMap(name => demoPlan(name).parts.flatMap(part => restedOf(part) ?? []))
  const volts = [12.2, 12.8, 13.1, 13.3]
  return packs.map(pack => [
    [-12.6, 9, ...volts, 15].map(v => restedMeaning(pack, v, 0.05)),
    packs.map(other => volts.map(v => apartWords(pack, other, v, 13.2))),
  ])
}

function mendedOf(plan: Plan) {
  const { ways, ...more } = mend(plan, { for: 'weight', tries: 12 })
  return { ...more, ways: ways.map(({ plan: _plan, patch: _patch, ...way }) => way) }
}

const DEMO_PLANS = DEMOS.map(name => demoPlan(name))
const ORDINARY = some(brokenPlan, [1, 2, 4, 5, 8, 11])
const WILD = some(randomPlan, [1, 3, 6, 8, 13, 17])

export const RECORDED_USE: Record<string, () => unknown> = {
  'use-instruments': on([...DEMO_PLANS, ...ORDINARY.slice(0, 3)], instrumentsOf),
  'use-lines': () => ({ lines: linesAnswer(), shown: shownAnswer(), apart: apartAnswer() }),
  'use-readings': on([...DEMO_PLANS, ...ORDINARY], readingsOf),
  'use-symptoms': on([...DEMO_PLANS, ...ORDINARY, ...WILD], symptomsOf),
  'use-meanings': on([...DEMO_PLANS, ...ORDINARY], meaningsOf),
  'use-mended': on(ORDINARY, mendedOf),
  'use-failures': on([...ORDINARY, ...WILD], plan => [singleFailures(plan), sparesOf(plan)]),
}
