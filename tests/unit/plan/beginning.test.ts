import { describe, expect, it } from 'vitest'
import { mend } from '../../../core/mend/mend'
import { beginPlan, pairPlan } from '../../../core/plan/beginning'
import { readPlan } from '../../../core/plan/faults'
import type { Plan } from '../../../core/plan/schema'
import { startingSources } from '../../../core/plan/starter'
import { judge } from '../../../core/verdict/verdict'

const read = (plan: Plan | null): Plan => {
  const result = readPlan(plan)
  if (!result.ok) throw new Error(JSON.stringify(result.faults))
  return result.plan
}
const asked = { name: 'x', lengthM: 2, conductor: { awg: 12 } } as const

describe('a station begun from several sources', () => {
  const beside = [
    {},
    { mains: 'supply-30' },
    { sun: 'panel-100' },
    { vehicle: 'vehicle-12' },
    { mains: 'supply-45', sun: 'panel-2x100', vehicle: 'vehicle-socket' },
  ]
  it('is a plan with every part joined, from whatever it starts', () => {
    for (const source of startingSources())
      for (const more of beside)
        for (const loads of [['hf-100', 'vhf-50'], ['cw-5']]) {
          const plan = read(beginPlan({ ...asked, source: source.id, loads, ...more }))
          const joined = new Set(plan.leads.flatMap(l => [l.from.split('.')[0], l.to.split('.')[0]]))
          expect(
            plan.parts.filter(p => !joined.has(p.id)),
            `${source.id} ${JSON.stringify(more)}`,
          ).toEqual([])
        }
  })
  it('a panel beside a gate puts no panel voltage onto the fuses behind it', () => {
    const plan = read(
      beginPlan({ ...asked, source: 'lifepo4-50', loads: ['hf-100'], mains: 'supply-30', sun: 'panel-2x100' }),
    )
    expect(judge(plan).verdict.findings.filter(f => f.check === 'fuse-voltage')).toEqual([])
  })
  it.each([
    ['lifepo4-100', 'vehicle-socket', 6],
    ['lifepo4-20', 'vehicle-12', 10],
    ['lifepo4-50', 'vehicle-12', 20],
    ['lifepo4-100', 'vehicle-12', 20],
    ['agm-40', 'vehicle-12', 8],
  ])('%s from %s is charged with %i A: what both stand', (source, vehicle, amps) => {
    const plan = read(beginPlan({ ...asked, source, loads: ['router-10'], vehicle }))
    expect(plan.parts.find(p => p.kind === 'converter')).toMatchObject({ maxOutA: amps })
  })
  it.each(['lifepo4-50', 'lifepo4-100', 'agm-40', 'flooded-110'])(
    'on an accessory socket %s can be mended whole',
    source => {
      const plan = read(beginPlan({ ...asked, source, loads: ['hf-100'], vehicle: 'vehicle-socket' }))
      expect(mend(plan, { for: 'change', ways: ['keep'] }).left).toEqual([])
    },
  )
  it('a flooded battery with mains gets a relay and a charger that knows it', () => {
    const plan = read(beginPlan({ ...asked, source: 'flooded-110', loads: ['hf-20'], mains: 'supply-10' }))
    expect(plan.parts.find(p => p.kind === 'gate')).toMatchObject({ name: 'Changeover relay' })
    expect(plan.parts.find(p => p.kind === 'charger')).toMatchObject({ set: 'flooded' })
    expect(mend(plan, { for: 'change' }).left.filter(l => l.severity === 'danger' || l.severity === 'fail')).toEqual([])
  })
  it("a small supply's main fuse is one that its own current does not open before the load's", () => {
    const plan = read(beginPlan({ ...asked, source: 'supply-10', loads: ['qrp-10', 'qrp-10'], lengthM: 1 }))
    // It gives 12 A for a moment, through a post of 15 A.
    expect(plan.leads.find(l => l.id === 'main')!.inline).toMatchObject([{ type: 'blade', ratedA: 15 }])
    expect(judge(plan).verdict.findings.map(f => f.check)).not.toContain('fuse-selectivity')
    expect(mend(plan, { for: 'change' }).left).toEqual([])
  })
  it("a socket's main fuse is as large as its contact carries", () => {
    const plan = read(beginPlan({ ...asked, source: 'vehicle-socket', loads: ['cw-5', 'computer-30'], lengthM: 1 }))
    expect(plan.leads.find(l => l.id === 'main')!.inline).toMatchObject([{ type: 'blade', ratedA: 10 }])
    expect(judge(plan).verdict.findings.map(f => f.check)).not.toContain('fuse-selectivity')
  })
  it("what is mended by a larger part has the larger one's name and terminal", () => {
    const plan = read(beginPlan({ ...asked, source: 'supply-10', loads: ['vhf-50', 'vhf-50'], lengthM: 1 }))
    const [way] = mend(plan, { for: 'change', ways: ['keep'] }).ways
    expect(way!.remains).toEqual([])
    expect(way!.plan.parts[0]).toMatchObject({ continuousA: 23, name: 'Mains supply 23 A', terminal: 'screw' })
  })
  it('is null where something is not in the catalogue', () => {
    expect(beginPlan({ ...asked, source: 'lifepo4-50', loads: ['no-such'] })).toBeNull()
    expect(beginPlan({ ...asked, source: 'lifepo4-50', loads: ['hf-100'], sun: 'no-such' })).toBeNull()
  })
})

/** Rested volts full and at the end of the usable part, and internal ohms, from the tables of the class. */
const SOURCES = {
  'lifepo4-20': [13.6, 12.92, 0.02],
  'lifepo4-100': [13.6, 12.92, 0.006],
  'agm-40': [12.85, 12.3, 0.012],
  'flooded-110': [12.7, 12.15, 0.006],
  'supply-23': [13.8, 13.8, 0.01],
} as const

describe('one source on one radio', () => {
  const area = (awg: number) => (Math.PI * (0.127 * 92 ** ((36 - awg) / 39)) ** 2) / 4
  it.each(Object.entries(SOURCES))('%s: what arrives is one subtraction by hand', (source, [full, low, ohm]) => {
    for (const [minV, maxV] of [
      [11.7, 15.9],
      [12.42, 15.18],
      [9, 14],
      [11, 13.5],
    ])
      for (const [amps, awg, m] of [
        [1, 16, 2],
        [5, 14, 1],
        [20, 10, 3],
      ] as const) {
        const radio = {
          kind: 'radio',
          name: 'R',
          supply: { minV, maxV },
          draw: { model: 'constant-current', idleA: 0.05 * amps, activeA: amps },
        } as never
        const plan = read(pairPlan({ ...asked, load: radio, source, lengthM: m, conductor: { awg } }))
        const { verdict } = judge(plan)
        const arrival = verdict.arrivals.rig!
        const { ratedA } = plan.leads[0]!.inline![0] as { ratedA: number }
        const wire = (2 * m * 0.017241 * 1.02) / area(awg)
        const handLow = low - amps * (ohm + wire + 0.075 / ratedA)
        const handHigh = full - 0.05 * amps * (ohm + wire + 0.075 / ratedA)
        // Contacts take a few milliohms more, and the wire warms.
        const more = amps * (0.006 + 0.12 * wire) + 0.005
        expect(arrival.low.value).toBeLessThanOrEqual(handLow + 0.002)
        expect(arrival.low.value).toBeGreaterThanOrEqual(handLow - more)
        expect(Math.abs(arrival.high.value - handHigh)).toBeLessThan(0.01)
        const found = (check: string) => verdict.findings.some(f => f.check === check)
        if (Math.abs(handLow - minV!) > more) expect(found('arrival-under')).toBe(handLow < minV!)
        if (Math.abs(handHigh - maxV!) > 0.02) expect(found('arrival-over')).toBe(handHigh > maxV!)
      }
  })
})

describe('an inverter of which nobody has said what hangs on it', () => {
  const begun = (loads: string[], source: string, more: object = {}) =>
    read(beginPlan({ ...asked, source, loads, ...more }))
  const mendedBy = (plan: Plan) => mend(plan, { for: 'change' }).ways[0]!.steps.map(s => s.label)

  it('stands on the stud of the pack where no port of a block carries it, the others on the block', () => {
    const plan = begun(['inverter-600', 'lamps-12'], 'lifepo4-100')
    expect(plan.leads.map(l => [l.from, l.to])).toEqual([
      ['src', 'blk.feed'],
      ['blk.p1', 'lamps'],
      ['src', 'inverter.in'],
    ])
    expect(judge(plan).verdict.findings.filter(f => f.severity === 'fail')).toEqual([])
  })
  it('needs no block by itself; mains then fill the pack by a charger', () => {
    const plan = begun(['inverter-600'], 'lifepo4-100', { mains: 'supply-30' })
    expect(plan.parts.map(p => p.kind)).toEqual(['battery', 'inverter', 'charger'])
  })
  it('stands on the block where it is small, or where the pack has a plug', () => {
    expect(begun(['inverter-300'], 'lifepo4-100').leads.at(-1)!.from).toBe('blk.p1')
    expect(begun(['inverter-600'], 'lifepo4-20').leads.at(-1)!.from).toBe('blk.p1')
  })
  it('is judged with all it is rated for: 1200 W are 1378 W of the pack, some 112 A of its 100 A', () => {
    const plan = begun(['inverter-1200'], 'lifepo4-100')
    const over = judge(plan).verdict.findings.find(f => f.check === 'battery-continuous')!
    const { low } = judge(plan).verdict.arrivals.inverter!
    expect(over.numbers.amps).toBeCloseTo((1200 / 0.88 + 14) / low.value, 0)
    expect(over.numbers.amps).toBeGreaterThan(100)
    expect(mendedBy(plan)).toEqual(['At most 960 W hung on Inverter 1200 W'])
  })
  it('gives way before a radio is turned down', () => {
    expect(mendedBy(begun(['inverter-300', 'hf-100'], 'lifepo4-50')).join('; ')).toMatch(/^At most 240 W/)
  })
  it('keeps what its owner says hangs on it', () => {
    const plan = begun(['inverter-1200'], 'lifepo4-100')
    const drill = { ...plan.parts.at(-1)!, acLoads: [{ name: 'Drill', watts: 1200 }] }
    const { ways } = mend({ ...plan, parts: plan.parts.with(-1, drill as Plan['parts'][number]) }, { for: 'change' })
    expect(JSON.stringify(ways)).not.toContain(' hung on ')
  })
})
