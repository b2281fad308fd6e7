import { batteryLife } from '../../core/log/batteries'
import { conditionsOf } from '../../core/circuit/conditions'
import { meaningOf } from '../../core/commission/expected'
import { apartWords, restedMeaning, restedOf } from '../../core/commission/rested'
import { singleFailures, sparesOf } from '../../core/commission/spares'
import { commissionSteps } from '../../core/commission/steps'
import { showEntry, readEntry } from '../../core/edit/entry'
import { addEntry, enter, removeEntry } from '../../core/edit/form'
import { tryPatch, type Patch } from '../../core/edit/patch'
import { removeAll } from '../../core/edit/remove'
import { takeOut } from '../../core/edit/takeOut'
import { addVariant, editInVariant, inVariant } from '../../core/edit/variants'
import { readLine, shownFigure } from '../../core/instruments/protocol'
import { SimulatedInstruments } from '../../core/instruments/simulated'
import { formOf } from '../../core/kinds/formOf'
import type { FormField } from '../../core/kinds/kind'
import { partsOf } from '../../core/kinds/index'
import { EMPTY_LOG, type Log } from '../../core/log/log'
import { mergedLogs } from '../../core/log/merge'
import { mend } from '../../core/mend/mend'
import { compareWays } from '../../core/mend/ways'
import { threeWay } from '../../core/merge/threeWay'
import { valueAt } from '../../core/plan/find'
import { itemForms, leadForm } from '../../core/plan/leadForm'
import type { Plan } from '../../core/plan/schema'
import { inferJoints } from '../../core/readings/joints'
import { nextReadings } from '../../core/readings/next'
import { consequencesOf, jointWords } from '../../core/readings/tell'
import { believeSymptom } from '../../core/symptoms/believe'
import { SYMPTOM_IDS } from '../../core/symptoms/symptom'
import { POWER_TESTS } from '../../core/symptoms/tests'
import { METRIC, type Units } from '../../core/units/quantity'
import { brokenPlan } from './brokenPlans'
import { DEMOS, demoPlan } from './plans'
import { dice, randomPlan } from './randomPlans'
import { madeUpReadings } from './readings'

/** What comes of entering, editing, merging, measuring and asking: whole answers, as in `recorded.ts`. */

const FEET: Units = { length: 'ft', conductor: 'mm2', temperature: 'F' }

/** As people write figures, right and wrong. */
const WRITTEN = [
  ...['5', '5 V', '13,8 V', '1.2 kW', '60 mA', '1,000 W', '1.000,5', '2,500 mAh', '5 MW', '5 V 3 V', '−4 °C', '41 F'],
  ...[
    '10 AWG',
    '1/0',
    '2/0 AWG',
    '6 mm2',
    '2.5mm²',
    '18 awg cca',
    '4 ft',
    '4\' 6"',
    '12 in',
    '1 m 20',
    '250 cm',
    '3 yd',
  ],
  ...['13.8 V ± 15 %', '11.7–15.9', '11 to 15 V', '12 V +20 -10 %', 'max. 15 V', '10..16', '80 %', '0.8', '1 lb 4 oz'],
  ...[
    '12 mΩ',
    '0.012 ohm',
    '100 Wh',
    '50 Ah',
    '120 kHz',
    '14.2 MHz',
    '2 kg',
    'red, blue; green',
    '2, 5, 10 A',
    '4',
    '',
  ],
  ...['100 × 200 × 50 mm', '10x20x5 cm', 'abc', '1e3', '--', '+5', '1 000', '½', '12 V (typ.)', 'ca. 12 V', '~ 3 A'],
]
const QUANTITIES = [
  ...['voltage', 'current', 'power', 'resistance', 'charge', 'energy', 'mass', 'fraction', 'frequency', 'count'],
  ...['length', 'conductor', 'window', 'temperature', 'number', 'words', 'currents', 'size', 'text', 'time'],
]

const entriesAnswer = () =>
  Object.fromEntries(
    QUANTITIES.map(quantity => [
      quantity,
      [METRIC, FEET].map(units =>
        WRITTEN.map(text => {
          const read = tried(() => readEntry(text, quantity, units))
          return isRead(read) ? [text, read, tried(() => showEntry(read.value, quantity, units))] : [text, read]
        }),
      ),
    ]),
  )

const isRead = (read: unknown): read is { ok: true; value: unknown } =>
  typeof read === 'object' && read !== null && 'ok' in read && read.ok === true

/** A quantity that nothing has is a mistake of ours, and thrown. */
function tried(work: () => unknown): unknown {
  try {
    return work()
  } catch (error) {
    return `thrown: ${(error as Error).message.slice(0, 80)}`
  }
}

const VALUES: Record<string, unknown> = { voltage: 12, current: 3, power: 40, text: 'else', flag: true }

/** What is entered into a line: its last choice where it has choices. */
function valueFor({ quantity, choices }: FormField): unknown {
  const last = choices?.at(-1)
  if (last === undefined) return VALUES[quantity] ?? 0.5
  return typeof last === 'string' ? last : last.id
}

/** Every line of every form of a plan, entered and taken out; every list one longer and one shorter. */
function formsOn(plan: Plan) {
  const outcome = (patch: Patch) => [patch, tryPatch(plan, patch) !== null]
  const ofPart = plan.parts.map(part => {
    const { fields, lists } = formOf(part)
    const subject = { id: part.id }
    return {
      part: part.id,
      fields: fields.map(field => [
        field.path,
        outcome(enter(plan, subject, field, valueFor(field))),
        valueAt(part, field.path) !== undefined && tried(() => outcome(enter(plan, subject, field, undefined))),
      ]),
      lists: lists.map(list => [
        list.path,
        outcome(addEntry(plan, part.id, list, list.keyed?.choices(part)[0]?.id)),
        Array.isArray(valueAt(part, list.path)) && outcome(removeEntry(plan, part.id, list, 0)),
      ]),
    }
  })
  const ofLead = plan.leads.map(lead => ({
    lead: lead.id,
    fields: leadForm.map(field => [field.path, outcome(enter(plan, { id: lead.id }, field, valueFor(field)))]),
    items: (lead.inline ?? []).flatMap((item, i) =>
      itemForms[item.kind].map(field => [
        field.path,
        outcome(enter(plan, { id: lead.id, under: `inline.${i}.` }, field, valueFor(field))),
      ]),
    ),
  }))
  return { ofPart, ofLead }
}

/** Two people change one plan: each takes something out or changes a figure; one of them in a way of its own. */
function mergedOf(plan: Plan) {
  const d = dice(plan.name.length)
  const change = (of: Plan): Plan => {
    const part = d.of(of.parts)
    const lead = d.of(of.leads)
    const patch = d.of<() => Patch>([
      () => takeOut(of, part.id),
      () => removeAll(of, [lead.id]),
      () => [{ op: 'replace', path: `/leads/${of.leads.indexOf(lead)}/lengthM`, value: d.between(1, 9) }],
      () => [{ op: 'replace', path: '/name', value: `named ${d.between(1, 9)}` }],
      () => [{ op: 'add', path: '/parts/-', value: { ...part, id: 'one-more' } }],
    ])()
    return tryPatch(of, patch) ?? of
  }
  return Array.from({ length: 6 }, () => {
    const [mine, theirs] = [change(change(plan)), change(change(plan))]
    const merged = threeWay(plan, mine, theirs, { renames: d.chance(0.5) })
    return {
      clashes: merged.clashes,
      parts: merged.value.parts.map(p => p.id),
      leads: merged.value.leads.map(l => [l.id, l.lengthM]),
    }
  })
}

function waysOf(plan: Plan) {
  const { patch, id } = addVariant(plan, 'another way', null)
  const way = tryPatch(plan, patch)!
  const edits = [takeOut(plan, plan.parts.at(-1)!.id), [{ op: 'replace', path: '/leads/0/lengthM', value: 7 }] as Patch]
  return edits.map(edit => {
    const edited = editInVariant(way, id, edit)
    if (!edited.ok) return edited.faults
    const own = inVariant(edited.plan, id)
    return {
      variants: edited.plan.variants,
      own: own.leads.map(l => [l.id, l.lengthM]),
      compared: compareWays(edited.plan),
    }
  })
}

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
      const expectation = { expected: 12.8, off: 0.05 } as never
      return [0, -0.4, 11.2, 12.6, 12.8, 13.1, 14.6, 25].map(v => tried(() => meaningOf(plan, step, v, expectation)))
    })
}

const logsAnswer = () => {
  const entry = (id: string, volts: number) => ({
    id,
    at: '2026-06-13T10:00',
    place: 'bat',
    condition: 'full/idle',
    volts,
  })
  const log = (ids: string[]): Log => ({ ...EMPTY_LOG, readings: ids.map((id, i) => entry(id, 12 + i / 10)) as never })
  const [base, mine, theirs] = [log(['a', 'b']), log(['a', 'b', 'c']), log(['b', 'd'])]
  return {
    merged: [mergedLogs(mine, theirs), mergedLogs(mine, theirs, base), mergedLogs(theirs, mine, base)],
    lives: DEMOS.flatMap(name => partsOf(demoPlan(name).parts, 'battery').map(part => batteryLife(part, EMPTY_LOG))),
  }
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

const some = (make: (seed: number) => Plan | null, seeds: readonly number[]) => seeds.flatMap(seed => make(seed) ?? [])
const on = (plans: readonly Plan[], answer: (plan: Plan) => unknown) => () =>
  Object.fromEntries(plans.map(plan => [plan.name, answer(plan)]))

const DEMO_PLANS = DEMOS.map(name => demoPlan(name))
const ORDINARY = some(brokenPlan, [1, 2, 4, 5, 8, 11])
const WILD = some(randomPlan, [1, 3, 6, 8, 13, 17])

export const RECORDED_USE: Record<string, () => unknown> = {
  'use-entries': entriesAnswer,
  'use-forms': on([...DEMO_PLANS, ...WILD.slice(0, 3)], formsOn),
  'use-merged': on([...DEMO_PLANS, ...ORDINARY], mergedOf),
  'use-ways': on([...DEMO_PLANS, ...ORDINARY], waysOf),
  'use-instruments': on([...DEMO_PLANS, ...ORDINARY.slice(0, 3)], instrumentsOf),
  'use-lines': () => ({ lines: linesAnswer(), shown: shownAnswer(), apart: apartAnswer() }),
  'use-readings': on([...DEMO_PLANS, ...ORDINARY], readingsOf),
  'use-symptoms': on([...DEMO_PLANS, ...ORDINARY, ...WILD], symptomsOf),
  'use-meanings': on([...DEMO_PLANS, ...ORDINARY], meaningsOf),
  'use-logs': logsAnswer,
  'use-mended': on(ORDINARY, mendedOf),
  'use-failures': on([...ORDINARY, ...WILD], plan => [singleFailures(plan), sparesOf(plan)]),
}
