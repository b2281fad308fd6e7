import { beforeAll, describe, expect, it, vi } from 'vitest'
import type * as Engines from '../../data/engines'
import type { Regulator } from '../../data/madeUpKinds'

/**
 * Kinds that no file of the program knows: what they say of themselves must reach every engine, and their limits must
 * be judged.
 * They are listed beside the real ones, as a newcomer would list a file of their own.
 */
vi.mock('../../../core/kinds/all', async original => {
  const { ALL } = await original<{ ALL: readonly unknown[] }>()
  const { MADE_UP } = await import('../../data/madeUpKinds')
  return { ALL: [...ALL, ...MADE_UP] }
})

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
  it('is judged by all that it takes where nothing of it comes out again', () => {
    const { verdict, fixes } = throughBank({}, { ratedA: 4.9 })
    expect(verdict.findings.map(f => `${f.severity} ${f.check} ${f.place}`)).toContain('fail block-rating bcn')
    const offered = fixes.find(f => f.finding.check === 'block-rating')!.fixes.map(f => f.label)
    expect(offered).toContain('A beacon rated 5 A in its place')
    expect(found(throughBank({}, { ratedA: 5.1 })).join()).not.toContain('block-rating')
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
  it('a source that no charger can be set to begins a station alone, whatever would fill it', async () => {
    const { beginPlan, canBeFilled } = await import('../../../core/plan/beginning')
    const answers = { name: 'begun', lengthM: 2, conductor: { awg: 10 }, loads: ['hf-20'] } as const
    const plan = beginPlan({ ...answers, source: 'flywheel-14', sun: 'panel-100', mains: 'supply-30' })!
    expect(plan.parts.map(p => p.kind as string).sort()).toEqual(['block', 'flywheel', 'radio'])
    expect(canBeFilled(plan.parts.find(p => (p.kind as string) === 'flywheel')!)).toBe(false)
    expect(beginPlan({ ...answers, source: 'lifepo4-50', sun: 'panel-100' })!.parts.map(p => p.kind)).toContain('panel')
  })
  it('one that holds energy and comes in one size has hours, and no other sizes', async () => {
    const { throughRoomsBeside } = await import('../../data/roomsBeside')
    const flywheel = { id: 'fly', kind: 'flywheel', volts: 14 }
    const plan = engines.planOf([flywheel, lamp()], [lead('l1', 'fly.out', 'bcn.dc')])
    const { hours, ...beside } = throughRoomsBeside(plan)
    engines.refuseNonsense(beside, '')
    // 0.88 of 20 Wh comes out. On the air 0.3 of the time, 0.4 of that keyed: 5 A; else 0.1 A; at 13.3 V in the mean.
    expect(hours!.run.ends!.atH).toBeCloseTo((0.88 * 20) / ((0.1 + 0.12 * 4.9) * 13.3), 1)
    expect(hours!.sets).toBeNull()
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
