import { describe, expect, it } from 'vitest'
import type { z } from 'zod'
import { readEntry, showEntry } from '../../../core/edit/entry'
import { addEntry, enter, enterKeyed, removeEntry } from '../../../core/edit/form'
import { applyEdit, type Patch } from '../../../core/edit/patch'
import { formOf } from '../../../core/kinds/formOf'
import { kindOf, KINDS, type Part } from '../../../core/kinds/index'
import { inlineSchema } from '../../../core/kinds/inline'
import type { FormField } from '../../../core/kinds/kind'
import { readPlan } from '../../../core/plan/faults'
import { partById, valueAt } from '../../../core/plan/find'
import { endForm, itemForms, leadForm } from '../../../core/plan/leadForm'
import { leadSchema, type Plan } from '../../../core/plan/schema'
import { METRIC } from '../../../core/units/quantity'
import { loadStateForm, siteForm, zoneForm } from '../../../core/plan/siteForm'
import { planSchema } from '../../../core/plan/schema'
import { planOf } from '../../data/engines'

interface Def {
  type: string
  innerType?: Node
  element?: Node
  options?: Node[]
}
type Node = z.ZodType & { shape?: Record<string, Node> }

/** Every field of a schema that holds a value, as `supply.minV`, `ports[].fuse.ratedA`, `chemistries{}.floatV`. */
function leavesOf(schema: Node, path = ''): string[] {
  const def = schema._zod.def as unknown as Def & { valueType?: Node }
  if (def.innerType) return leavesOf(def.innerType, path)
  const under = (key: string) => (path ? `${path}.${key}` : key)
  if (schema.shape) return Object.entries(schema.shape).flatMap(([key, s]) => leavesOf(s, under(key)))
  if (def.type === 'array') return leavesOf(def.element!, `${path}[]`)
  if (def.type === 'record') return leavesOf(def.valueType!, `${path}{}`)
  if (def.type === 'union') return [...new Set(def.options!.flatMap(o => leavesOf(o, path)))]
  return [path]
}

/** Lists that are one field: typed in one line, or chosen together. */
const WHOLE = new Set(['size', 'words', 'currents', 'parts'])
const enteredBy = (fields: readonly FormField[], before = '') =>
  fields.flatMap(f => (f.quantity === 'window' ? [] : [before + f.path + (WHOLE.has(f.quantity) ? '[]' : '')]))

/** What no form enters, and why. */
const BESIDE: Record<string, string> = {
  id: 'a part keeps its id: leads, findings and history go by it',
  kind: 'another kind is another part',
  'members[].id': 'a name for findings; its name is entered',
  'efficiency[].outA': 'of what is rated in watts, watts are entered',
  'efficiency[].outW': 'of what is rated in amps, amps are entered',
}

const parts = [...KINDS.values()].flatMap(k =>
  k.catalogue.map(row => ({ ...structuredClone(row.part), id: 'x' }) as Part),
)
const onePerKind = [...new Map(parts.map(p => [p.kind, p])).values()]
const bat = parts.find(p => p.kind === 'battery')!
const rig = parts.find(p => p.kind === 'radio')!
const feed = parts.find(p => p.kind === 'supply')!
const planWith = (part: Part): Plan => ({
  ...planOf([{ ...bat, id: 'other', name: 'Pack' }, { ...rig, id: 'rig' }, { ...feed, id: 'feed' }, part], []),
  site: { zones: [{ id: 'shed', ambientC: { low: 0, typical: 10, high: 20 } }] },
})

const SAMPLES: Record<string, unknown> = {
  text: 'pine',
  note: 'two lines\nof it',
  yes: true,
  voltage: 13,
  current: 2,
  power: 60,
  resistance: 0.01,
  charge: 5,
  count: 2,
  fraction: 0.5,
  mass: 100,
  length: 1,
  energy: 50,
  frequency: 1e5,
  temperature: 5,
  number: 0.001,
  size: [120, 80, 45],
  words: ['20 m'],
  currents: [2, 5],
  connector: 'stack-45',
  part: 'rig',
  parts: ['feed'],
  zone: 'shed',
  window: { minV: 11, maxV: 15 },
}
const sampleOf = (f: FormField) => {
  const [first] = f.choices ?? []
  if (first === undefined) return SAMPLES[f.quantity]
  return typeof first === 'string' ? first : first.id
}
/** Figures that stand between each other: a little beside what is there, a nominal voltage in the middle. */
function besideOf(part: Part, { path, quantity }: FormField): number | undefined {
  if (quantity !== 'voltage' && quantity !== 'current') return undefined
  const window = valueAt(part, path.replace(/\.nominalV$/, '')) as { minV: number; maxV: number } | undefined
  if (path.endsWith('.nominalV') && window?.minV !== undefined) return (window.minV + window.maxV) / 2
  const before = valueAt(part, path)
  return typeof before === 'number' ? before * 0.9995 : undefined
}
function edited(plan: Plan, patch: Patch): Plan {
  const result = applyEdit(plan, patch)
  if (!result.ok) throw new Error(result.faults.map(f => `${f.path} ${f.wrong}`).join())
  return result.plan
}

describe('the form of every kind', () => {
  it.each(onePerKind.map(p => [p.kind, p] as const))('%s: every field of its schema can be entered', (_kind, part) => {
    const { fields, lists } = formOf(part)
    const entered = new Set([
      ...enteredBy(fields),
      ...lists.flatMap(l => enteredBy(l.fields, `${l.path}${l.keyed ? '{}' : '[]'}.`)),
    ])
    const missing = leavesOf(kindOf(part).schema as Node).filter(leaf => !entered.has(leaf) && !BESIDE[leaf])
    expect(missing).toEqual([])
  })

  it.each(parts.map((p, i) => [`${p.kind} ${i}`, p] as const))(
    '%s: what is entered stands in the plan',
    (_id, part) => {
      for (const field of formOf(part).fields) {
        if (field.when && !field.when(part as never)) continue
        const plan = planWith(part)
        const value = besideOf(part, field) ?? sampleOf(field)
        const next = edited(plan, enter(plan, { id: 'x' }, field, value))
        if (field.quantity === 'window') expect(valueAt(partById(next, 'x'), 'supply')).toMatchObject(value as object)
        else expect(valueAt(partById(next, 'x'), field.path), field.path).toEqual(value)
      }
    },
  )

  it.each(onePerKind.map(p => [p.kind, p] as const))(
    '%s: a list begins, grows, is entered and is emptied',
    (_kind, part) => {
      for (const list of formOf(part).lists) {
        const plan = planWith(part)
        const keys = list.keyed?.choices(part as never).map(c => c.id) ?? []
        const sizeOf = (p: Plan) =>
          Object.keys((valueAt(partById(p, 'x'), list.path) as object | undefined) ?? {}).length
        const taken = Object.keys((valueAt(part, list.path) as object | undefined) ?? {})
        const key = keys.find(k => !taken.includes(k))
        if (list.keyed && key === undefined) continue
        const one = edited(plan, addEntry(plan, 'x', list, key))
        expect(sizeOf(one), list.path).toBeGreaterThan(sizeOf(plan))
        const at = sizeOf(one) - 1
        for (const field of list.fields) {
          if (field.path === 'id') continue
          const value = sampleOf(field)
          const patch = list.keyed
            ? enterKeyed(one, { id: 'x', key: key! }, { list, field: field.path }, value)
            : enter(one, { id: 'x', under: `${list.path}.${at}.` }, field, value)
          const next = edited(one, patch)
          const entry = (valueAt(partById(next, 'x'), list.path) as Record<string, unknown>)[key ?? at]
          expect(valueAt(entry, field.path), `${list.path} ${field.path}`).toEqual(value)
        }
        const gone = edited(one, removeEntry(one, 'x', list, key ?? at))
        expect(sizeOf(gone)).toBeLessThan(sizeOf(one))
      }
    },
  )
})

describe('a form', () => {
  const vehicle = parts.find(p => p.kind === 'vehicle' && !('fuse' in p && p.fuse))!
  const own = formOf(vehicle).fields.find(f => f.path === 'fuse.ratedA')!
  it('makes what a figure is part of, and takes it away with the figure', () => {
    const plan = planWith(vehicle)
    const one = edited(plan, enter(plan, { id: 'x' }, own, 20))
    expect(partById(one, 'x')).toMatchObject({ fuse: { type: 'blade', ratedA: 20 } })
    const none = edited(one, enter(one, { id: 'x' }, own, undefined))
    expect(partById(none, 'x')).not.toHaveProperty('fuse')
  })
  it('a port that gets another name takes its lead with it', () => {
    const block = parts.find(p => p.kind === 'block')!
    const plan = planWith(block)
    const lead = {
      id: 'l',
      from: 'other',
      to: 'x.p1',
      lengthM: 1,
      conductor: { awg: 10 },
    }
    const joined = { ...plan, leads: [lead] } as Plan
    const ports = formOf(block).lists.find(l => l.path === 'ports')!
    const next = edited(joined, enter(joined, { id: 'x', under: 'ports.0.' }, ports.fields[0]!, 'radio'))
    expect(next.leads[0]!.to).toBe('x.radio')
  })
  it('another law of a draw keeps what it takes at the nominal voltage', () => {
    const radio = parts.find(p => p.kind === 'radio')! as Extract<Part, { kind: 'radio' }>
    const model = formOf(radio).fields.find(f => f.path === 'draw.model')!
    const plan = planWith(radio)
    const next = edited(plan, enter(plan, { id: 'x' }, model, 'constant-power'))
    const draw = radio.draw as { activeA: number; idleA: number }
    expect(partById(next, 'x')).toMatchObject({
      draw: {
        model: 'constant-power',
        activeW: Number((draw.activeA * radio.supply.nominalV!).toPrecision(4)),
        idleW: Number((draw.idleA * radio.supply.nominalV!).toPrecision(4)),
      },
    })
    const back = edited(next, enter(next, { id: 'x' }, model, 'constant-current'))
    expect((partById(back, 'x') as typeof radio).draw).toEqual(radio.draw)
  })
})

describe('a lead, its ends, what is in it, and the site', () => {
  it('every field of a lead can be entered', () => {
    const entered = new Set([
      ...enteredBy(leadForm),
      ...['from', 'to'].flatMap(end => enteredBy(endForm, `ends.${end}.`)),
      'conductor.awg',
      'conductor.mm2',
    ])
    const leaves = leavesOf(leadSchema as unknown as Node).filter(l => !l.startsWith('inline'))
    expect(leaves.filter(l => !entered.has(l) && !BESIDE[l])).toEqual([])
  })
  it('every field of what is wired into it can be entered', () => {
    const options = (inlineSchema._zod.def as unknown as { options: Node[] }).options
    for (const option of options) {
      const kind = [
        ...(option.shape!.kind!._zod.def as unknown as { values: string[] }).values,
      ][0] as keyof typeof itemForms
      const entered = new Set(enteredBy(itemForms[kind]))
      expect(leavesOf(option).filter(l => !entered.has(l) && !BESIDE[l])).toEqual([])
    }
  })
  it('every field of the plan and its site can be entered', () => {
    const entered = new Set([
      ...enteredBy(siteForm),
      ...enteredBy(zoneForm, 'site.zones[].'),
      ...enteredBy(loadStateForm, 'loadStates[].'),
    ])
    const WHY: Record<string, string> = {
      format: 'what the file is',
      version: 'what the file is',
      madeUp: 'sample stations say it of themselves',
      'hookUp[]': 'moved up and down on the build sheet',
      'site.zones[].id': 'its name, given with it',
      'loadStates[].id': 'made of its name',
      'loadStates[].active[].part': 'ticked, with the power beside it',
      'loadStates[].active[].powerW': 'ticked, with the power beside it',
    }
    const leaves = leavesOf(planSchema as unknown as Node).filter(
      l => !/^(parts|leads|variants)\b/.test(l) && !l.startsWith('site.schools.'),
    )
    expect(leaves.filter(l => !entered.has(l) && !WHY[l])).toEqual([])
  })
})

describe('text and value of a field', () => {
  it.each([
    ['120 × 80 x 45 mm', 'size', [120, 80, 45]],
    ['2, 5 A, 500 mA', 'currents', [2, 5, 0.5]],
    ['20 m, 15 m', 'words', ['20 m', '15 m']],
    ['-0.003', 'number', -0.003],
    ['41 F', 'temperature', 5],
    ['13.8 V ± 15 %', 'window', { minV: 11.73, nominalV: 13.8, maxV: 15.87 }],
    ['DC 13.8 V ± 15 % (negative ground)', 'window', { minV: 11.73, nominalV: 13.8, maxV: 15.87 }],
    ['13.8VDC ±15%', 'window', { minV: 11.73, nominalV: 13.8, maxV: 15.87 }],
    ['11.7-15.9VDC', 'window', { minV: 11.7, maxV: 15.9 }],
    ['12 V (10.5 to 15 V)', 'window', { minV: 10.5, nominalV: 12, maxV: 15 }],
    ['between 11 and 16 V', 'window', { minV: 11, maxV: 16 }],
    ['min. 11.7 V, max. 15.9 V', 'window', { minV: 11.7, maxV: 15.9 }],
    ['11.7 V min / 15.9 V max', 'window', { minV: 11.7, maxV: 15.9 }],
    ['13.8V +/-10%', 'window', { minV: 12.42, nominalV: 13.8, maxV: 15.18 }],
    ['13,8 ± 1,5 V', 'window', { minV: 12.3, nominalV: 13.8, maxV: 15.3 }],
    ['12 V +20 % −10 %', 'window', { minV: 10.8, nominalV: 12, maxV: 14.4 }],
    ['12 V -10/+20 %', 'window', { minV: 10.8, nominalV: 12, maxV: 14.4 }],
    ['11.7 to 15.9 V', 'window', { minV: 11.7, maxV: 15.9 }],
    ['9-14', 'window', { minV: 9, maxV: 14 }],
    ['1 1/2 ft', 'length', 0.4572],
    ['¾ in', 'length', 0.01905],
    ['5½ m', 'length', 5.5],
    ['480 mV', 'voltage', 0.48],
  ] as const)('%s is read as %s', (text, quantity, value) => {
    const read = readEntry(text, quantity, METRIC)
    expect(read).toEqual({ ok: true, value })
    const again = readEntry(showEntry(value, quantity, METRIC), quantity, METRIC)
    expect(again).toEqual({ ok: true, value })
  })
  it.each([
    ['13.8 V ± ', 'window'],
    ['± 15 %', 'window'],
    ['15 to 11 V', 'window'],
    ['13.8 V ± 120 %', 'window'],
    ['120 × 80', 'size'],
    ['2, much', 'currents'],
    ['1/0 m', 'length'],
    ['', 'window'],
  ] as const)('"%s" is refused as %s, and said how to write it', (text, quantity) => {
    const read = readEntry(text, quantity, METRIC)
    expect(read.ok).toBe(false)
    if (!read.ok) expect(read.wrong.length).toBeGreaterThan(10)
  })
})

it('the plans of these tests are plans', () => {
  for (const part of onePerKind) expect(readPlan(planWith(part)).ok).toBe(true)
})
