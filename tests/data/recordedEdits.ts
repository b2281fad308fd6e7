import { batteryLife } from '../../core/log/batteries'
import { showEntry, readEntry } from '../../core/edit/entry'
import { addEntry, enter, removeEntry } from '../../core/edit/form'
import { tryPatch, type Patch } from '../../core/edit/patch'
import { removeAll } from '../../core/edit/remove'
import { takeOut } from '../../core/edit/takeOut'
import { addVariant, editInVariant, inVariant } from '../../core/edit/variants'
import { formOf } from '../../core/kinds/formOf'
import type { FormField } from '../../core/kinds/kind'
import { partsOf } from '../../core/kinds/index'
import { EMPTY_LOG, type Log } from '../../core/log/log'
import { mergedLogs } from '../../core/log/merge'
import { compareWays } from '../../core/mend/ways'
import { threeWay } from '../../core/merge/threeWay'
import { valueAt } from '../../core/plan/find'
import { itemForms, leadForm } from '../../core/plan/leadForm'
import type { Plan } from '../../core/plan/schema'
import { METRIC, type Units } from '../../core/units/quantity'
import { brokenPlan } from './brokenPlans'
import { DEMOS, demoPlan } from './plans'
import { dice, randomPlan } from './randomPlans'
import { on, some, tried } from './someOf'

/** What comes of entering, editing and merging: whole answers, as in `recorded.ts`. */

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

const DEMO_PLANS = DEMOS.map(name => demoPlan(name))
const ORDINARY = some(brokenPlan, [1, 2, 4, 5, 8, 11])
const WILD = some(randomPlan, [6, 8, 13])

export const RECORDED_EDITS: Record<string, () => unknown> = {
  'use-entries': entriesAnswer,
  'use-forms': on([...DEMO_PLANS, ...WILD], formsOn),
  'use-merged': on([...DEMO_PLANS, ...ORDINARY], mergedOf),
  'use-ways': on([...DEMO_PLANS, ...ORDINARY], waysOf),
  'use-logs': logsAnswer,
}
