import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { FUSE_COLD_DROP_V, fuseClass } from '../../../core/catalog/fuses'
import { CONDUCTOR_COST } from '../../../core/catalog/prices'
import { conductorGramsPerM, conductorOhmPerM, resistanceFactorAt } from '../../../core/conductor/resistance'
import { applyEdit } from '../../../core/edit/patch'
import { openingTime } from '../../../core/fuse/opening'
import type { Lead, Plan } from '../../../core/plan/schema'
import { candidate, costPerM, merge, pareto, type Entry } from '../../../core/size/candidates'
import { brought, tidied } from '../../../core/size/beside'
import { leadChanges, portChanges } from '../../../core/size/changes'
import { freeFuses, fuseRatings, SELECTIVE_RATIO } from '../../../core/size/fuses'
import { overloadedPorts, placePorts } from '../../../core/size/ports'
import { overdrawn, totals } from '../../../core/size/totals'
import { studyOf } from '../../../core/study/study'
import { judge } from '../../../core/verdict/verdict'
import { battery, fuse, lead, radio, smallPlan, withLead } from '../../data/plans'

const NOTHING = { conductor: { awg: 10 }, dropV: 0, cost: 0 } as const
const entry = (allowsV: number, cost: number): Entry => ({
  allowsV,
  cost,
  lead: 'l1',
  candidate: NOTHING,
  children: [],
  fuses: [],
})
const figures = (entries: { allowsV: number; cost: number }[]) => entries.map(e => [e.allowsV, e.cost])

describe('what is kept of entries', () => {
  it('is each that allows less only where it costs less', () => {
    const all = [entry(1, 5), entry(3, 9), entry(2, 9), entry(2, 7), entry(1, 7), entry(0.5, 5)]
    expect(figures(pareto(all))).toEqual([
      [3, 9],
      [2, 7],
      [1, 5],
    ])
  })
  it('leaves none that another beats, and loses none that stands', () => {
    const any = fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 9 })), { maxLength: 20 })
    fc.assert(
      fc.property(any, pairs => {
        const kept = figures(pareto(pairs.map(([v, c]) => entry(v, c))))
        for (const [v, c] of pairs) expect(kept.some(([kv, kc]) => kv! >= v && kc! <= c)).toBe(true)
        for (const [v, c] of kept) expect(kept.filter(([kv, kc]) => kv! >= v! && kc! <= c!)).toHaveLength(1)
      }),
    )
  })
})

describe('branches at one node', () => {
  const one = [entry(3, 9), entry(2, 7), entry(1, 5)]
  const other = [entry(2.5, 4), entry(0.5, 1)]
  it('cost together what each costs at the drop that is allowed before them', () => {
    const merged = merge([one, other], 2)
    // At 2 V before: 7 + 4; at 1 V: 5 + 4; at 0.5 V: 5 + 1.
    expect(figures(merged).sort(([a], [b]) => b! - a!)).toEqual([
      [2, 11],
      [1, 9],
      [0.5, 6],
    ])
  })
  it('allow no level that one of them cannot', () => {
    expect(Math.max(...merge([one, other], 9).map(m => m.allowsV))).toBe(2.5)
    expect(merge([one, [entry(0.2, 1)]], 9).map(m => m.allowsV)).toEqual([0.2])
  })
  it('that are none leave what the node itself allows', () =>
    expect(merge([], 1.5)).toEqual([{ allowsV: 1.5, cost: 0, entries: [] }]))
  it('cost the least there is, whatever choice is tried', () => {
    const list = fc
      .array(fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 9 })), { minLength: 1, maxLength: 5 })
      .map(pairs => pareto(pairs.map(([v, c]) => entry(v, c))))
    fc.assert(
      fc.property(list, list, fc.integer({ min: 0, max: 6 }), (a, b, ownV) => {
        const every = a.flatMap(x => b.map(y => [Math.min(x.allowsV, y.allowsV, ownV), x.cost + y.cost] as const))
        const cheapestAt = (rows: readonly (readonly number[])[], level: number) =>
          Math.min(...rows.filter(([v]) => v! >= level).map(([, c]) => c!))
        const merged = figures(merge([a, b], ownV))
        for (let level = 0; level <= 6; level++) expect(cheapestAt(merged, level)).toBe(cheapestAt(every, level))
      }),
    )
  })
})

describe('a conductor as a candidate', () => {
  const plan = smallPlan({ leads: [lead({ lengthM: 3, ends: {}, inline: [] })] })
  const study = studyOf(plan)
  const [l] = plan.leads as [Lead]
  const amps = study.leadAmps(l).value
  it('weighs both its legs, one where the chassis brings the current back', () => {
    const grams = (of: Lead) => candidate(study, of, { awg: 12 }, { for: 'weight' }).cost
    expect(grams(l)).toBeCloseTo(2 * 3 * conductorGramsPerM({ awg: 12 }), 9)
    expect(grams({ ...l, return: 'chassis' })).toBeCloseTo(3 * conductorGramsPerM({ awg: 12 }), 9)
  })
  it('drops its current times its resistance, warm: more than at the site, less than a tenth more', () => {
    const { dropV } = candidate(study, l, { awg: 12, insulationC: 105 } as Lead['conductor'], { for: 'drop' })
    const cold = amps * 6 * conductorOhmPerM({ awg: 12 }) * resistanceFactorAt(20)
    expect(dropV).toBeGreaterThan(cold)
    expect(dropV).toBeLessThan(1.1 * cold)
  })
  it('costs by the metre what its owner says, else what its copper does', () => {
    const owned = [{ conductor: { awg: 12 } as Lead['conductor'], costPerM: 0.5 }]
    expect(costPerM({ awg: 12 }, owned)).toBe(0.5)
    const usual = CONDUCTOR_COST.perM + CONDUCTOR_COST.perGram * conductorGramsPerM({ awg: 10 })
    expect(costPerM({ awg: 10 }, owned)).toBeCloseTo(usual, 9)
    expect(candidate(study, l, { awg: 12 }, { for: 'cost', owned }).cost).toBeCloseTo(6 * 0.5, 9)
  })
  it('for least drop is the one that is there, where another drops as much', () => {
    const same = candidate(study, l, l.conductor, { for: 'drop' })
    expect(same.cost).toBe(same.dropV)
    const other = candidate(study, l, { awg: 8 }, { for: 'drop' })
    expect(other.cost).toBeGreaterThan(other.dropV)
    expect(other.cost - other.dropV).toBeLessThan(1e-6)
  })
})

describe('totals and stocks', () => {
  const two = smallPlan({
    parts: [battery(), radio(), radio({ id: 'vhf', draw: { model: 'constant-current', idleA: 0, activeA: 5 } })],
    leads: [
      lead({ id: 'a', lengthM: 2, conductor: { awg: 10 }, ends: {} }),
      lead({ id: 'b', to: 'vhf', lengthM: 1.5, conductor: { awg: 10 }, return: 'chassis', ends: {} }),
    ],
  })
  it('add up both legs of each lead, one of a chassis return, and take the worst drop', () => {
    const { grams, cost, worstDropShare } = totals(studyOf(two))
    expect(grams).toBeCloseTo(5.5 * conductorGramsPerM({ awg: 10 }), 6)
    expect(cost).toBeCloseTo(5.5 * costPerM({ awg: 10 }, undefined), 6)
    const alone = (id: string) => totals(studyOf({ ...two, leads: two.leads.filter(l => l.id === id) })).worstDropShare
    expect(worstDropShare).toBeCloseTo(Math.max(alone('a'), alone('b')), 2)
  })
  it.each([
    [5.5, null],
    [5.49, '10 AWG'],
    [100, null],
  ])('of %d m in the drawer: %s runs short', (metres, short) =>
    expect(overdrawn(two, [{ conductor: { awg: 10 } as Lead['conductor'], metres }])).toBe(short),
  )
  it.each([
    [9, null],
    // `a` takes 4 m, and `b`, which is not sized, 1.5 m more.
    [5.5, null],
    [5.49, '10 AWG'],
    [1, '10 AWG'],
  ])('of %d m in the drawer a lead that is sized gets what the others leave: %s runs short', (metres, short) => {
    const owned = [{ conductor: { awg: 10 } as Lead['conductor'], metres }]
    expect(overdrawn(two, owned, id => id === 'a')).toBe(short)
    // None of it is in what is sized: nothing runs short there, though the others ask for more than there is.
    expect(overdrawn(two, owned, () => false)).toBeNull()
  })
  it('of which nobody says how much there is never run short; no drawer, no shortage', () => {
    expect(overdrawn(two, [{ conductor: { awg: 10 } as Lead['conductor'] }])).toBeNull()
    expect(overdrawn(two, undefined)).toBeNull()
  })
})

describe('fuses', () => {
  // 10 A for the radio: 12.5 A at least, so 15 A of the blades.
  const fused = (ratedA: number, more = {}) => smallPlan({ leads: [lead({ inline: [fuse(ratedA, 0.1, more)] })] })
  const ratings = (plan: Plan, of: Parameters<typeof fuseRatings>[1]) => [
    ...fuseRatings(studyOf(plan), of, null).values(),
  ]
  it('are the smallest of their class that carry a quarter more than flows', () => {
    expect(ratings(fused(30), { raised: new Set() })).toEqual([15])
    expect(ratings(fused(5), { raised: new Set() })).toEqual([15])
  })
  it('stay what they are where they are asked to, as long as they carry it', () => {
    expect(ratings(fused(30), 'own')).toEqual([30])
    expect(ratings(fused(5), 'own')).toEqual([15])
  })
  it('that are raised are the next larger ones', () => {
    const plan = fused(30)
    const [key] = [...fuseRatings(studyOf(plan), 'own', null).keys()]
    expect(ratings(plan, { raised: new Set([key!]) })).toEqual([20])
  })
  it('elsewhere than where they are free, breakers, and those without current are left alone', () => {
    expect([...fuseRatings(studyOf(fused(30)), 'own', new Set(['elsewhere']))]).toEqual([])
    const breaker = { id: 'b1', kind: 'breaker', ratedA: 30, atM: 0.1, legs: 'positive' }
    expect(ratings(smallPlan({ leads: [lead({ inline: [breaker] })] }), { raised: new Set() })).toEqual([])
    const idle = radio({ draw: { model: 'constant-current', idleA: 0, activeA: 0 } })
    const still = smallPlan({ parts: [battery(), idle], leads: [lead({ inline: [fuse(30)] })] })
    expect(ratings(still, { raised: new Set() })).toEqual([])
  })
  it('that are free drop by their rating, twice where both legs are fused', () => {
    const study = (more = {}) => studyOf(fused(30, more))
    const [one] = freeFuses(study(), () => true).get('l1')!
    const amps = study().leadAmps(study().plan.leads[0]!).value
    expect(one!.ratings.map(r => r.ratedA)).toEqual(fuseClass('blade').ratingsA.filter(a => a >= 12.5))
    const at15 = one!.ratings.find(r => r.ratedA === 15)!
    expect(at15.moreV).toBeCloseTo(amps * FUSE_COLD_DROP_V * (1 / 15 - 1 / 30), 9)
    const [both] = freeFuses(study({ legs: 'both' }), () => true).get('l1')!
    expect(both!.ratings.find(r => r.ratedA === 15)!.moreV).toBeCloseTo(2 * at15.moreV, 4)
    expect(freeFuses(study({ ohm: 0.002 }), () => true).size).toBe(0)
    expect(freeFuses(study(), () => false).size).toBe(0)
  })
})

describe('ports of a block', () => {
  const port = (id: string, ratedA: number, connector = 'stack-30') => ({ id, ratedA, connector })
  const block = (...ports: object[]) => ({ id: 'blk', kind: 'block', ratedA: 60, feed: 'stack-45', ports })
  const withPorts = (...ports: object[]) =>
    smallPlan({
      parts: [battery(), block(...ports), radio()],
      leads: [
        lead({ id: 'm', to: 'blk.feed', ends: {} }),
        lead({ id: 'r', from: 'blk.p1', to: 'hf', ends: {}, inline: [] }),
      ],
    })
  const landed = (plan: Plan) => {
    const made = applyEdit(plan, placePorts(studyOf(plan)))
    return made.ok ? made.plan.leads.find(l => l.id === 'r')!.from : made.faults
  }
  it('that give too little are left for a free one that gives enough and has the same connector', () => {
    expect(landed(withPorts(port('p1', 5), port('p2', 5), port('p3', 15)))).toBe('blk.p3')
    expect(landed(withPorts(port('p1', 5), port('p2', 15, 'stack-45'), port('p3', 15)))).toBe('blk.p3')
  })
  it('are never the one that feeds it, though it may be free', () => {
    const fedByPort = smallPlan({
      parts: [battery(), { ...block(port('p1', 5), port('p2', 40)), feed: 'stack-30' }, radio()],
      leads: [
        lead({ id: 'm', to: 'blk.p2', ends: {} }),
        lead({ id: 'r', from: 'blk.p1', to: 'hf', ends: {}, inline: [] }),
      ],
    })
    expect(landed(fedByPort)).toBe('blk.p1')
  })
  it('are given to the largest first, or it would find the one it needs taken', () => {
    const draw = (activeA: number) => ({ draw: { model: 'constant-current', idleA: 1, activeA } })
    const plan = smallPlan({
      parts: [
        battery(),
        block(port('p1', 5), port('p2', 5), port('p3', 30), port('p4', 15)),
        radio({ id: 'small', ...draw(10) }),
        radio({ id: 'large', ...draw(20) }),
      ],
      leads: [
        lead({ id: 'm', to: 'blk.feed', ends: {} }),
        lead({ id: 's', from: 'blk.p1', to: 'small', ends: {}, inline: [] }),
        lead({ id: 'l', from: 'blk.p2', to: 'large', ends: {}, inline: [] }),
      ],
    })
    const made = applyEdit(plan, placePorts(studyOf(plan)))
    if (!made.ok) throw new Error(JSON.stringify(made.faults))
    expect(made.plan.leads.map(l => l.from)).toEqual(['bat', 'blk.p4', 'blk.p3'])
    expect(overloadedPorts(studyOf(made.plan))).toEqual([])
  })
  it('that give enough, to the last bit, are kept', () => {
    expect(landed(withPorts(port('p1', 10), port('p2', 30)))).toBe('blk.p1')
    expect(overloadedPorts(studyOf(withPorts(port('p1', 10))))).toEqual([])
  })
  it('of which none gives enough are told, by what flows and what it gives', () => {
    const plan = withPorts(port('p1', 5), port('p2', 8))
    expect(landed(plan)).toBe('blk.p1')
    expect(overloadedPorts(studyOf(plan))).toEqual([
      'blk, port 1 gives 5 A, 10 A is taken, and no free one gives enough',
    ])
  })
})

describe('what belongs to sizes', () => {
  it('may be a fuse in a lead that is there', () => {
    const fused = smallPlan({ leads: [lead({ inline: [fuse(20)] })] })
    const bare = smallPlan({ leads: [lead({ inline: [] })] })
    // 1.25 × 10 A: the next blade is 15 A.
    expect(tidied(judge(fused).verdict, judge(bare)).study.plan.leads[0]!.inline).toMatchObject([
      { kind: 'fuse', ratedA: 15 },
    ])
  })
  it('is never a reason against them where it is a mere note, as a little power given up', () => {
    const sagging = (awg: number) =>
      smallPlan({
        parts: [battery(), radio({ fullPowerAboveV: 12.5 })],
        leads: [lead({ lengthM: 3, conductor: { awg }, inline: [fuse(20)] })],
      })
    const before = judge(sagging(10)).verdict
    const checks = (plan: Plan) => judge(plan).verdict.findings.map(f => f.check)
    expect([checks(sagging(10)), checks(sagging(14))]).toEqual([[], ['power-sag']])
    expect(brought(before, judge(sagging(14)).verdict)).toEqual([])
  })
})

describe('what a sized plan has other', () => {
  const plan = smallPlan({ leads: [lead({ inline: [fuse(30)], conductor: { awg: 10 } })] })
  const words = (sized: Plan) => leadChanges(plan, sized).map(c => `${c.what}: ${c.words}`)
  it('is told by kind, place and both figures; nothing where nothing is other', () => {
    expect(words(plan)).toEqual([])
    expect(portChanges(plan, plan)).toEqual([])
    const sized = withLead(plan, 'l1', {
      conductor: { awg: 8 },
      inline: [{ ...plan.leads[0]!.inline![0]!, ratedA: 20 } as never],
    })
    const [name] = [plan.leads[0]!.name ?? 'l1']
    expect(words(sized)).toEqual([`conductor: ${name}: 10 AWG → 8 AWG`, `fuse: fuse in ${name}: 30 A → 20 A`])
  })
})

describe('two blade fuses in a row', () => {
  const opens = (ratedA: number, amps: number) => openingTime('blade', ratedA, amps)!
  /** Shorts so strong that both are at constant I²t. */
  const shorts = [200, 500, 900]

  it('are selective from √5 times the rating on', () => {
    expect(SELECTIVE_RATIO).toBeCloseTo(2.236, 3)
    for (const amps of shorts) {
      expect(opens(10, amps).slowestS).toBeLessThanOrEqual(opens(10 * SELECTIVE_RATIO, amps).fastestS * (1 + 1e-9))
      expect(opens(10, amps).slowestS).toBeGreaterThan(opens(10 * SELECTIVE_RATIO * 0.98, amps).fastestS)
    }
  })
})
