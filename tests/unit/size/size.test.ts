import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { AWG_LADDER } from '../../../core/catalog/conductors'
import { studyOf } from '../../../core/study/study'
import { conductorMm2 } from '../../../core/conductor/resistance'
import { applyEdit } from '../../../core/edit/patch'
import type { Conductor, Plan } from '../../../core/plan/schema'
import { sizePlan, type Aim, type SizeResult } from '../../../core/size/size'
import { totals } from '../../../core/size/totals'
import { judge } from '../../../core/verdict/verdict'
import { madeUpPlan } from '../../bench/plans'
import { battery, demoPlan, fuse, lead, radio, smallPlan } from '../../data/plans'
import { dice } from '../../data/randomPlans'

const bare = (more: Record<string, unknown>) => lead({ ends: {}, inline: [], ...more })

/** A battery, a main lead to a joint, and some radios behind it, each with a window and a current of its own. */
const aTree = fc
  .record({
    mainM: fc.double({ min: 0.3, max: 3, noNaN: true }),
    loads: fc.array(
      fc.record({
        lengthM: fc.double({ min: 0.3, max: 6, noNaN: true }),
        amps: fc.double({ min: 1, max: 12, noNaN: true }),
        minV: fc.double({ min: 11.9, max: 12.5, noNaN: true }),
      }),
      { minLength: 1, maxLength: 3 },
    ),
  })
  .map(({ mainM, loads }): Plan =>
    smallPlan({
      site: { dropShare: 1 },
      parts: [
        battery({ internalOhm: 0.004 }),
        { id: 'j', kind: 'joint' },
        ...loads.map((l, i) =>
          radio({
            id: `r${i}`,
            supply: { minV: l.minV, maxV: 16 },
            draw: { model: 'constant-current', idleA: 0, activeA: l.amps },
          }),
        ),
      ],
      leads: [
        bare({ id: 'm', to: 'j.a', lengthM: mainM, inline: [fuse(40, 0.1, { type: 'strip' })] }),
        ...loads.map((l, i) => bare({ id: `l${i}`, from: `j.${'bcd'[i]}`, to: `r${i}`, lengthM: l.lengthM })),
      ],
    }),
  )

type Chosen = Pick<Plan['leads'][number], 'conductor' | 'inline'>

/** Every choice of sizes there is, each solved by the whole circuit; with `fuses` every rating of each lead's own. */
function bruteForce(
  plan: Plan,
  sizes: readonly number[],
  fuses: (lead: Plan['leads'][number]) => readonly number[] = () => [],
): number | null {
  let best: number | null = null
  const rated = (lead: Plan['leads'][number], ratedA: number): Chosen['inline'] =>
    lead.inline!.map(i => (i.kind === 'fuse' ? { ...i, ratedA } : i))
  const choose = (i: number, chosen: Chosen[]): void => {
    const at = plan.leads[i]
    if (at) {
      const items = fuses(at).length ? fuses(at).map(a => rated(at, a)) : [at.inline]
      for (const inline of items)
        for (const awg of sizes)
          choose(i + 1, [...chosen, { conductor: { awg, insulationC: 105 } as Conductor, ...(inline && { inline }) }])
      return
    }
    const tried = { ...plan, leads: plan.leads.map((l, k) => ({ ...l, ...chosen[k]! })) }
    const study = studyOf(tried)
    const fits =
      study.loads.every(l => study.arrival(l.id)!.low.value >= (l as { supply: { minV: number } }).supply.minV) &&
      tried.leads.every(l => study.ampacity(l) >= study.leadAmps(l).value) &&
      study.overfused.length === 0 &&
      study.shorts.shorts.every(s => s.survives || !s.opens.length)
    const { grams } = totals(studyOf(tried))
    if (fits && (best === null || grams < best)) best = grams
  }
  choose(0, [])
  return best
}

describe('sizing', () => {
  it('finds on a tree what trying every choice finds', () => {
    const sizes = [16, 14, 12, 10, 8] as const
    const owned = sizes.map(awg => ({ conductor: { awg, insulationC: 105 } as Conductor }))
    fc.assert(
      fc.property(aTree, plan => {
        const sized = sizePlan(plan, { for: 'weight', owned })
        // The fuse is sized along with it; brute force takes the one that came out, or the plan's own.
        const best = bruteForce(sized.plan ?? plan, sizes)
        if (best === null) expect(sized.plan).toBeNull()
        else expect(sized.after!.grams).toBeCloseTo(best, 6)
      }),
      { numRuns: 15 },
    )
  })

  it('where it says that nothing is less, no choice of sizes and fuses is, taps and all', () => {
    const sizes = [20, 18, 16, 14, 12, 10, 8] as const
    const owned = sizes.map(awg => ({ conductor: { awg, insulationC: 105 } as Conductor }))
    let proven = 0
    for (let seed = 1; seed <= 12; seed++) {
      const d = dice(seed)
      const [amps, minV] = [d.between(1, 12), 12 + 0.5 * d.roll()]
      const plan = smallPlan({
        site: { dropShare: 1 },
        parts: [
          battery({ internalOhm: 0.004 }),
          { id: 'j', kind: 'joint' },
          radio({ supply: { minV, maxV: 16 }, draw: { model: 'constant-current', idleA: 0, activeA: amps } }),
        ],
        leads: [
          bare({ id: 'm', to: 'j.a', lengthM: d.between(0.3, 3), inline: [fuse(40, 0.1, { type: 'strip' })] }),
          bare({ id: 'l', from: 'j.b', to: 'hf', lengthM: d.between(0.5, 5), inline: [fuse(15, 0.05)] }),
        ],
      })
      const ratings = { m: [30, 40, 50], l: [1, 2, 3, 5, 7.5, 10, 15, 20].filter(a => a >= 1.25 * amps).slice(0, 3) }
      const least = bruteForce(plan, sizes, l => ratings[l.id as 'm' | 'l'])
      const sized = sizePlan(plan, { for: 'weight', owned })
      if (!sized.plan || !sized.exact) continue
      proven++
      expect(sized.after!.grams).toBeLessThanOrEqual(least! + 0.01)
    }
    expect(proven).toBeGreaterThan(2)
  })

  it("keeps the plan's larger fuse where the smallest drops too much", () => {
    const tight = smallPlan({
      site: { dropShare: 1, ambientC: { low: 0, typical: 20, high: 35 } },
      parts: [
        battery({ internalOhm: 0.004 }),
        { id: 'j', kind: 'joint' },
        ...[
          [12.4989, 10.601130248405196],
          [11.9, 8.046307525139317],
          [11.9, 1.2833480733021092],
        ].map(([minV, activeA], i) =>
          radio({ id: `r${i}`, supply: { minV, maxV: 16 }, draw: { model: 'constant-current', idleA: 0, activeA } }),
        ),
      ],
      leads: [
        bare({ id: 'm', to: 'j.a', lengthM: 1.860818064757599, inline: [fuse(40, 0.1, { type: 'strip' })] }),
        ...[3.1165411719100855, 0.3, 0.3].map((lengthM, i) =>
          bare({ id: `l${i}`, from: `j.${'bcd'[i]}`, to: `r${i}`, lengthM }),
        ),
      ],
    })
    const owned = ([16, 14, 12, 10, 8] as const).map(awg => ({ conductor: { awg, insulationC: 105 } as Conductor }))
    const sized = sizePlan(tight, { for: 'weight', owned })
    expect(sized.obstacles).toEqual([])
    expect(sized.changes.filter(c => c.what === 'fuse')).toEqual([])
    expect(sized.after!.grams).toBeCloseTo(bruteForce(tight, [16, 14, 12, 10, 8])!, 6)
  })

  const AIMS = ['weight', 'cost', 'drop'] as const
  const stations = [demoPlan('tern-rock-light'), demoPlan('clean-bench'), madeUpPlan(60)].map(plan => ({
    plan,
    sized: Object.fromEntries(AIMS.map(aim => [aim, sizePlan(plan, { for: aim })])) as Record<Aim, SizeResult>,
  }))
  it.each<Aim>(AIMS)('for least %s leaves no limit broken, and the patch makes the plan it shows', aim => {
    for (const { plan, sized } of stations) {
      const result = sized[aim]
      expect(result.obstacles).toEqual([])
      const edit = applyEdit(plan, result.patch!)
      expect(edit.ok && JSON.stringify(edit.plan)).toBe(JSON.stringify(result.plan))
      const sizing = [
        'ampacity',
        'arrival-under',
        'drop',
        'fuse-over-conductor',
        'fuse-nuisance',
        'short-conductor',
        'connector-conductor',
      ]
      expect(
        judge(result.plan!)
          .verdict.findings.filter(f => sizing.includes(f.check))
          .map(f => `${f.check} ${f.place}`),
      ).toEqual([])
      const key = { weight: 'grams', cost: 'cost', drop: 'worstDropShare' }[aim] as 'grams'
      for (const other of AIMS) {
        const theirs = sized[other].after!
        if (aim !== 'drop') expect(result.after![key]).toBeLessThanOrEqual(theirs[key] + 1e-9)
      }
    }
  })
  it('is done when done: a sized plan is its own answer', () => {
    const once = sizePlan(madeUpPlan(60), { for: 'weight' }).plan!
    expect(sizePlan(once, { for: 'weight' }).changes).toEqual([])
  })
  it('of one row changes nothing off its way', () => {
    const { changes } = sizePlan(demoPlan('tern-rock-light'), { for: 'weight', row: 'hf' })
    expect(changes.filter(c => c.what === 'conductor').map(c => c.place)).toEqual(['l2'])
  })
  it('out of the shelf takes only what is there, as much as there is', () => {
    const owned = [
      { conductor: { awg: 8, insulationC: 105 } as Conductor, metres: 40 },
      { conductor: { awg: 10, insulationC: 105 } as Conductor, metres: 8 },
      { conductor: { awg: 16, insulationC: 105 } as Conductor, metres: 20 },
      { conductor: { awg: 12, insulationC: 105 } as Conductor, metres: 4.1 },
    ]
    const result = sizePlan(demoPlan('tern-rock-evening'), { for: 'weight', owned })
    expect(result.obstacles).toEqual([])
    const areas = owned.map(o => conductorMm2(o.conductor))
    for (const l of result.plan!.leads) expect(areas).toContain(conductorMm2(l.conductor))
    for (const o of owned) {
      const used = result
        .plan!.leads.filter(l => conductorMm2(l.conductor) === conductorMm2(o.conductor))
        .reduce((m, l) => m + 2 * l.lengthM, 0)
      expect(used).toBeLessThanOrEqual(o.metres + 1e-9)
    }
  })
  it('says what is in the way where nothing fits', () => {
    const plan = smallPlan({ parts: [battery(), radio({ supply: { minV: 12.9, maxV: 16 } })] })
    const result = sizePlan(plan, { for: 'weight' })
    expect(result).toMatchObject({ plan: null, patch: null, after: null })
    expect(result.obstacles.join()).toContain('hf')
    expect(sizePlan(plan, { for: 'weight', owned: [] }).obstacles.join()).toContain('no conductor on the shelf')
  })
  it('moves a load to a port that gives enough', () => {
    const plan = smallPlan({
      parts: [
        battery(),
        {
          id: 'blk',
          kind: 'block',
          feed: 'ring-m6',
          ports: [
            { id: 'p1', ratedA: 5, fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-45' },
            { id: 'p2', ratedA: 20, fuse: { type: 'blade', ratedA: 5 }, connector: 'stack-45' },
          ],
        },
        radio(),
      ],
      leads: [lead({ id: 'm', to: 'blk.feed', ends: {} }), lead({ from: 'blk.p1', inline: [], ends: {} })],
    })
    const result = sizePlan(plan, { for: 'weight' })
    expect(result.plan!.leads[1]!.from).toBe('blk.p2')
    expect(result.changes.map(c => c.what)).toContain('port')
    expect(AWG_LADDER).toContain(result.plan!.leads[1]!.conductor.awg)
  })
})

describe('ports while sizing', () => {
  /** A block with a lead on p1 that takes more than its port gives, and two other ports. */
  const blockPlan = (others: Record<string, unknown>[]) =>
    smallPlan({
      parts: [
        battery(),
        {
          id: 'blk',
          kind: 'block',
          feed: 'ring-m6',
          ports: [{ id: 'p1', ratedA: 5, fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-45' }, ...others],
        },
        radio(),
      ],
      leads: [lead({ id: 'm', to: 'blk.feed', ends: {} }), lead({ from: 'blk.p1', inline: [], ends: {} })],
    })
  const port = (id: string, ratedA: number | undefined, connector = 'stack-45') => ({
    id,
    ...(ratedA !== undefined && { ratedA }),
    fuse: { type: 'blade', ratedA: 15 },
    connector,
  })
  const movedTo = (others: Record<string, unknown>[]) =>
    sizePlan(blockPlan(others), { for: 'weight' }).plan?.leads[1]!.from

  it.each([
    ['one that gives exactly enough', [port('p2', 10)], 'blk.p2'],
    ['one without a rating of its own', [port('p2', undefined)], 'blk.p2'],
    ['not one of another connector', [port('p2', 20, 'stack-30'), port('p3', 20)], 'blk.p3'],
    ['not one that gives too little', [port('p2', 9.9), port('p3', 20)], 'blk.p3'],
  ])('a load moves to %s', (_what, others, to) => expect(movedTo(others)).toBe(to))
  it('and where none does, that is said', () => {
    const result = sizePlan(blockPlan([port('p2', 9), port('p3', 20, 'stack-30')]), { for: 'weight' })
    expect(result.plan).toBeNull()
    expect(result.obstacles).toEqual(['blk, port 1 gives 5 A, 10 A is taken, and no free one gives enough'])
  })
})
