import { beforeAll, describe, expect, it, vi } from 'vitest'
import { z } from 'zod'
import type { PartKind } from '../../../core/kinds/kind'
import type * as Engines from '../../data/engines'

/**
 * Kinds that no file of the program knows: what they say of themselves must reach every engine, and their limits must
 * be judged.
 * They are listed beside the real ones, as a newcomer would list a file of their own.
 */
vi.mock('../../../core/kinds/all', async original => {
  const { ALL } = await original<{ ALL: readonly unknown[] }>()
  return { ALL: [...ALL, capacitorBank, windmill, beacon, regulator] }
})

const NOTHING = {
  links: () => [],
  passes: () => [],
  windows: () => [],
  limits: () => [],
  says: { box: () => ['made up'], line: () => 'made up' },
  noise: null,
  cautions: () => [],
  form: [],
}

interface Bank {
  id: string
  kind: 'capacitorBank'
  maxV: number
  ratedA: number
}
/** Stores a little and stands a voltage; passes a current from a to b. */
const capacitorBank: PartKind<Bank> = {
  ...NOTHING,
  kind: 'capacitorBank',
  label: 'bank of capacitors',
  role: 'between',
  schema: z.strictObject({ id: z.string(), kind: z.literal('capacitorBank'), maxV: z.number(), ratedA: z.number() }),
  entry: part => `${part.id}.a`,
  terminals: part => [{ id: `${part.id}.a` }, { id: `${part.id}.b` }],
  between: ['a', 'b'],
  links: part => [{ a: `${part.id}.a`, b: `${part.id}.b`, ohm: 0.001 }],
  intoShort: part => [{ at: `${part.id}.b`, by: 'itself', kind: 'emf', emfV: part.maxV, ohm: 0.002 }],
  windows: part => [{ at: `${part.id}.a`, minV: 0, maxV: part.maxV, field: 'maxV', hurts: true }],
  limits: part => [{ of: 'passes', continuousA: part.ratedA, fields: ['ratedA'] }],
  noise: { odds: 5, hasMains: true },
  worksWithA: part => part.ratedA,
  switching: () => ({ hz: 50e3, what: 'balancer' }),
  hookUp: () => ({ turn: 'between', live: 3, meter: 'Discharge the bank first.', caution: 'It keeps its charge.' }),
  cautions: () => [{ id: 'mains', line: 'A made-up danger.', beforeShorts: true }],
  catalogue: [],
}

interface Windmill {
  id: string
  kind: 'windmill'
  volts: number
  mostA: number
  on?: string
}
/** A source that limits itself and says what it gives; names another part. */
const windmill: PartKind<Windmill> = {
  ...NOTHING,
  kind: 'windmill',
  label: 'windmill',
  role: 'source',
  store: () => null,
  schema: z.strictObject({
    id: z.string(),
    kind: z.literal('windmill'),
    volts: z.number(),
    mostA: z.number(),
    on: z.string().optional(),
  }),
  terminals: part => [{ id: `${part.id}.out` }],
  entry: part => `${part.id}.out`,
  sources: part => [{ at: `${part.id}.out`, emfV: part.volts, ohm: 0.05 }],
  intoShort: part => [
    { at: `${part.id}.out`, by: 'itself', kind: 'limited', volts: part.volts, amps: part.mostA, sure: true },
  ],
  limits: part => [{ of: 'gives', continuousA: part.mostA, fields: ['mostA'] }],
  mentions: part => (part.on === undefined ? [] : [{ field: 'on', ids: part.on }]),
  highestV: (part, lowestC) => (lowestC < 0 ? 4 * part.volts : part.volts),
  hookUp: () => ({ turn: 'gives', live: 2 }),
  catalogue: [],
}

interface Beacon {
  id: string
  kind: 'beacon'
  minV: number
  maxV: number
  amps: number
}
/** A load whose terminal is not named by its id alone. */
const beacon: PartKind<Beacon> = {
  ...NOTHING,
  kind: 'beacon',
  label: 'beacon',
  role: 'load',
  schema: z.strictObject({
    id: z.string(),
    kind: z.literal('beacon'),
    minV: z.number(),
    maxV: z.number(),
    amps: z.number(),
  }),
  entry: part => `${part.id}.dc`,
  terminals: part => [{ id: `${part.id}.dc` }],
  needs: part => ({ at: `${part.id}.dc`, minV: part.minV, nominalV: 13, maxV: part.maxV, field: 'minV' }),
  sink: (part, active) => ({ at: `${part.id}.dc`, law: 'current', value: active ? part.amps : 0.1 }),
  transmits: true,
  intoShort: () => [],
  hookUp: () => ({ turn: 'load', live: 0 }),
  catalogue: [],
}

interface Regulator {
  id: string
  kind: 'regulator'
  outV: number
  dropV: number
  idleW: number
  mostA: number
}
/** Burns what it does not pass on: takes the very current that it gives, and its own. */
const regulator: PartKind<Regulator> = {
  ...NOTHING,
  kind: 'regulator',
  label: 'linear regulator',
  role: 'between',
  schema: z.strictObject({
    id: z.string(),
    kind: z.literal('regulator'),
    outV: z.number(),
    dropV: z.number(),
    idleW: z.number(),
    mostA: z.number(),
  }),
  entry: part => `${part.id}.in`,
  terminals: part => [{ id: `${part.id}.in` }, { id: `${part.id}.out` }],
  transfers: ({ id, outV: setV, dropV, idleW, mostA }) => [
    {
      ...{ from: `${id}.in`, to: `${id}.out`, relation: 'at-most-input', takes: 'current' },
      ...{ setV, dropV, idleW, efficiency: 1, mostA },
    },
  ],
  intoShort: part => [
    { at: `${part.id}.out`, by: 'input', kind: 'limited', volts: part.outV, amps: part.mostA, sure: false },
  ],
  limits: part => [{ of: 'gives', continuousA: part.mostA, fields: ['mostA'] }],
  hookUp: () => ({ turn: 'between', live: 0 }),
  catalogue: [],
}

let engines: typeof Engines
beforeAll(async () => {
  engines = await import('../../data/engines')
})

const pack = {
  id: 'bat',
  kind: 'battery',
  chemistry: 'lifepo4',
  seriesCells: 4,
  capacityAh: 100,
  internalOhm: 0.01,
  continuousA: 100,
  terminal: 'ring-m8',
}
const lead = (id: string, from: string, to: string, ratedA = 20) => ({
  id,
  from,
  to,
  lengthM: 1,
  conductor: { awg: 10, insulationC: 105 },
  inline: [{ id: 'f', kind: 'fuse', type: 'blade', ratedA, atM: 0.1 }],
})
const bank = (more: object = {}) => ({ id: 'cap', kind: 'capacitorBank', maxV: 16, ratedA: 20, ...more })
const lamp = (more: object = {}) => ({ id: 'bcn', kind: 'beacon', minV: 11, maxV: 15, amps: 5, ...more })
const throughBank = (bankMore: object, lampMore: object = {}) =>
  engines.throughEveryEngine(
    engines.planOf([pack, bank(bankMore), lamp(lampMore)], [lead('l1', 'bat', 'cap.a'), lead('l2', 'cap.b', 'bcn.dc')]),
  )
const found = (answers: ReturnType<(typeof Engines)['throughEveryEngine']>) =>
  answers.verdict.findings.map(f => `${f.severity} ${f.check} ${f.place}`)

describe('a kind of which only its own file knows', () => {
  it('a capacitor of 5 V on a 14 V wire is a danger, one of 16 V is none', () => {
    expect(found(throughBank({ maxV: 5 }))).toContain('danger part-window cap')
    expect(found(throughBank({ maxV: 16 })).join()).not.toContain('part-window')
  })
  it('what may pass it is judged', () => {
    expect(found(throughBank({ ratedA: 4.9 }))).toContain('fail block-rating cap')
    expect(found(throughBank({ ratedA: 5.1 })).join()).not.toContain('block-rating')
  })
  it('drives a short: 16 V over 2 mΩ and the contact of its own terminal', () => {
    const { shorts } = throughBank({}).shorts
    const there = shorts.find(s => s.at === 'cap.b' && s.kind === 'terminal')!
    // 8000 A of its own, and the battery's over its lead beside it.
    expect(there.from.find(f => f.source === 'cap')!.amps).toBeCloseTo(8000, 0)
  })
  it('is a suspect with its own odds, frequency and mains side', () => {
    expect(throughBank({}).suspects).toEqual([
      {
        id: 'cap',
        name: 'cap',
        kind: 'capacitorBank',
        switchingHz: 50e3,
        mostA: 20,
        hasMains: true,
        charges: false,
        needsSun: false,
      },
    ])
  })
  it('its caution, its metering and its words stand on the sheets and on the path', () => {
    const { sheet, svg } = throughBank({})
    expect(sheet.cautions).toContain('A made-up danger.')
    const step = sheet.hookUp.connect.find(s => s.lead === 'l2')!
    expect(step.before).toBe('Discharge the bank first.')
    expect(step.caution).toBe('It keeps its charge.')
    expect(svg).toContain('made up')
  })
  it('a load fed by a terminal of its own is judged by its window', () => {
    const answers = throughBank({}, { minV: 13.1 })
    expect(found(answers)).toContain('fail arrival-under bcn')
    expect(answers.verdict.findings.find(f => f.check === 'arrival-under')!.message).toContain('it needs 13.10 V')
    // 10 mΩ of the pack, two leads of 6.6 mΩ with 3.75 mΩ of fuse each, 1 mΩ of the bank: 0.16 V at 5 A.
    expect(answers.verdict.arrivals.bcn!.low.value).toBeCloseTo(12.92 - 5 * 0.0317, 2)
  })
  it('a source that says what it gives is asked for no more', () => {
    const from = (mostA: number) =>
      engines.throughEveryEngine(
        engines.planOf(
          [{ id: 'mill', kind: 'windmill', volts: 14, mostA, on: 'bcn' }, lamp()],
          [lead('l1', 'mill.out', 'bcn.dc')],
        ),
      )
    expect(found(from(4.9))).toContain('fail supply-overload mill')
    expect(found(from(5.1)).join()).not.toContain('supply-overload')
  })
  describe('what passes its current on at a voltage of its own', () => {
    const regulated = (more: Partial<Regulator> = {}, packMore: object = {}, lampMore: object = {}) => {
      const made = { id: 'reg', kind: 'regulator', outV: 9, dropV: 1.5, idleW: 0.5, mostA: 4, ...more }
      const plan = engines.planOf(
        [{ ...pack, ...packMore }, made, lamp({ minV: 8, maxV: 10, amps: 2, ...lampMore })],
        [lead('l1', 'bat', 'reg.in'), lead('l2', 'reg.out', 'bcn.dc')],
      )
      const { points, ...answers } = engines.throughEveryEngine(plan)
      return { ...answers, all: points.find(p => p.condition === 'nominal/all')! }
    }
    it('takes what it gives and its own, and burns the rest', () => {
      const { all } = regulated()
      const { inA, inV, outA, lossW } = all.parts.reg as Record<string, number>
      expect(all.nodes['reg.out']!.volts).toBeCloseTo(9, 6)
      expect(outA).toBeCloseTo(2, 7)
      expect(inA).toBeCloseTo(2 + 0.5 / inV!, 6)
      expect(lossW).toBeCloseTo(0.5 + 2 * (inV! - 9), 5)
    })
    it('gives its input less what it drops where that is all there is', () => {
      const { all, verdict } = regulated({ outV: 13 })
      expect(all.nodes['reg.out']!.volts).toBeCloseTo(all.nodes['reg.in']!.volts! - 1.5, 6)
      expect(verdict.findings.map(f => f.check)).toContain('arrival-over')
    })
    it('stands behind more than half of the voltage lost: a current has no root below', () => {
      const { all } = regulated({ outV: 3, dropV: 1 }, { internalOhm: 4.2 }, { minV: 2, maxV: 4 })
      const volts = all.nodes['reg.in']!.volts!
      expect(all.status).toBe('ok')
      // 13.2 V, 4.2 Ω within and 10 mΩ of lead: V = E − (2 + 0.5 / V)·R, the upper root.
      const half = (13.2 - 2 * 4.2103) / 2
      expect(volts).toBeCloseTo(half + Math.sqrt(half ** 2 - 0.5 * 4.2103), 1)
    })
    it('asked for more than it gives it is told, and the netlist takes the current along', () => {
      expect(found(regulated({ mostA: 1.9 }) as never)).toContain('fail supply-overload reg')
      expect(regulated().netlist).toMatch(/Bi0 ti0x 0 I=I\(Vo0\)\+0\.5\/max\(V\(ti0x\)/)
    })
  })
  it('parts it names must be there, and its mention goes with them', async () => {
    const { readPlan } = await import('../../../core/plan/faults')
    const { applyEdit } = await import('../../../core/edit/patch')
    const { remove } = await import('../../../core/edit/remove')
    const mill = { id: 'mill', kind: 'windmill', volts: 14, mostA: 5, on: 'nobody' }
    const read = readPlan({ format: 'wireman-plan', version: 1, name: 'x', parts: [mill], leads: [] })
    expect(!read.ok && read.faults[0]!.path).toBe('/parts/0/on')
    const plan = engines.planOf([{ ...mill, on: 'bcn' }, lamp()], [])
    const edit = applyEdit(plan, remove(plan, 'bcn'))
    expect(edit.ok && edit.plan.parts).toEqual([{ id: 'mill', kind: 'windmill', volts: 14, mostA: 5 }])
  })
  it('stands in the published schema', async () => {
    const { planJsonSchema } = await import('../../../core/formats/jsonSchema')
    expect(JSON.stringify(planJsonSchema())).toContain('"const":"capacitorBank"')
  })
})
