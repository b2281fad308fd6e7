import { describe, expect, it } from 'vitest'
import { CONDUCTOR_COST } from '../../../core/catalog/prices'
import type { Plan } from '../../../core/plan/schema'
import { sizePlan } from '../../../core/size/size'
import { judge } from '../../../core/verdict/verdict'
import { battery, fuse, lead, radio, smallPlan } from '../../data/plans'
import { dice, type Dice } from '../../data/randomPlans'

/**
 * Trees of up to six leads, each over the whole ladder of sizes and all ratings of its fuse, against every choice that
 * there is, worked out here by the formulas of the field alone: no circuit, no study, none of the sizing's own.
 */

const LADDER = [24, 22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0, -1, -2, -3]
/** Amps of 105 °C insulation in free air at 30 °C. */
const TABLE_A: Record<number, number> = {
  18: 20,
  16: 25,
  14: 35,
  12: 45,
  10: 60,
  8: 80,
  6: 120,
  4: 160,
  2: 210,
  1: 245,
  0: 285,
  [-1]: 330,
  [-2]: 385,
  [-3]: 445,
}
const STRIP = [30, 40, 50, 60, 70, 80, 100, 125, 150, 175, 200]
const BLADE = [1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40]
const AMBIENT_C = { typical: 20, high: 35 }

const mm2 = (awg: number) => (Math.PI / 4) * (0.127 * 92 ** ((36 - awg) / 39)) ** 2
/** Thinner than the table: the slope of its first step goes on, both axes logarithmic. */
const openA = (awg: number) => {
  const slope = Math.log(25 / 20) / Math.log(mm2(16) / mm2(18))
  return TABLE_A[awg] ?? 20 * (mm2(awg) / mm2(18)) ** slope
}
const carriesA = (awg: number) => openA(awg) * Math.sqrt((105 - AMBIENT_C.high) / 75)
const grams = (awg: number, lengthM: number) => 2 * lengthM * mm2(awg) * 8.96
/** Money, as the catalogue prices wire: so much a metre, and so much for its copper. */
const cost = (awg: number, lengthM: number) =>
  2 * lengthM * CONDUCTOR_COST.perM + CONDUCTOR_COST.perGram * grams(awg, lengthM)
const MEASURES = { weight: grams, cost } as const
type Measure = (typeof MEASURES)[keyof typeof MEASURES]
/** Volts that both legs of a lead drop, warm from the current in it. */
function dropV(awg: number, lengthM: number, amps: number): number {
  const conductorC = AMBIENT_C.typical + 75 * (amps / openA(awg)) ** 2
  const ohmPerM = ((1.02 * 0.017241) / mm2(awg)) * (1 + 0.00393 * (conductorC - 20))
  return amps * 2 * lengthM * ohmPerM
}

/** Of the battery: so much that no fuse has more to break than it can, Ω. */
const OHM = 0.02

/** A lead with what hangs on it; its own fuse free among ratings, or none. */
interface Branch {
  id: string
  lengthM: number
  ratings: readonly number[] | null
  load: { amps: number; minV: number } | null
  on: Branch[]
}

const ampsOf = (b: Branch): number => (b.load ? b.load.amps : b.on.reduce((sum, o) => sum + ampsOf(o), 0))

/** Least weight of a branch for what is left of the voltage before it, with the fuse that stands before it. */
function least(b: Branch, beforeV: number, upstreamA: number, measure: Measure): number {
  const amps = ampsOf(b)
  let best = Infinity
  const ratings = b.ratings ? b.ratings.filter(a => a >= 1.25 * amps - 1e-9) : [null]
  for (const rated of ratings) {
    const protectedBy = rated ?? upstreamA
    for (const awg of LADDER) {
      if (carriesA(awg) < protectedBy || carriesA(awg) < amps) continue
      const atEnd = beforeV - dropV(awg, b.lengthM, amps) - (rated === null ? 0 : (amps * 0.075) / rated)
      if (b.load && atEnd < b.load.minV + 1e-5) continue
      const behind = b.on.reduce((sum, o) => sum + least(o, atEnd, protectedBy, measure), 0)
      best = Math.min(best, measure(awg, b.lengthM) + behind)
    }
  }
  return best
}

const aLoad = (d: Dice, id: string): Branch => ({
  id,
  lengthM: d.between(0.3, 5),
  ratings: d.chance(0.5) ? BLADE : null,
  load: { amps: d.between(1, 9), minV: d.between(11.9, 12.6) },
  on: [],
})

function aTree(d: Dice): Branch {
  const loads = [0, 1, 2, 3].slice(0, d.of([1, 2, 3])).map(i => aLoad(d, `l${i}`))
  const on = d.chance(0.6)
    ? [
        ...loads,
        {
          id: 's',
          lengthM: d.between(0.3, 3),
          ratings: d.chance(0.5) ? BLADE : null,
          load: null,
          on: [aLoad(d, 'k0'), ...(d.chance(0.5) ? [aLoad(d, 'k1')] : [])],
        },
      ]
    : loads
  return { id: 'm', lengthM: d.between(0.3, 3), ratings: STRIP, load: null, on }
}

/** The same tree as a plan, on 14 AWG and the fuses that come first. */
function planOf(tree: Branch): Plan {
  const parts: Record<string, unknown>[] = [
    battery({ internalOhm: OHM, continuousA: 200, peakA: 400, capacityAh: 100 }),
  ]
  const leads: Record<string, unknown>[] = []
  const place = (b: Branch, from: string) => {
    const to = b.load ? b.id : `j${b.id}.a`
    const { load } = b
    if (load)
      parts.push(
        radio({
          id: `r${b.id}`,
          supply: { minV: load.minV, maxV: 16 },
          draw: { model: 'constant-current', idleA: 0, activeA: load.amps },
        }),
      )
    else parts.push({ id: `j${b.id}`, kind: 'joint' })
    const own =
      b.ratings &&
      fuse(
        b.ratings.find(a => a >= 1.25 * ampsOf(b)) ?? b.ratings.at(-1)!,
        0.05,
        b.ratings === STRIP ? { type: 'strip' } : {},
      )
    leads.push(
      lead({
        id: b.id,
        from,
        to: load ? `r${b.id}` : to,
        lengthM: b.lengthM,
        conductor: { awg: 14, insulationC: 105 },
        ends: {},
        inline: own ? [own] : [],
      }),
    )
    b.on.forEach((o, i) => place(o, `j${b.id}.${'bcdefg'[i]}`))
  }
  place(tree, 'bat')
  return smallPlan({ site: { dropShare: 1 }, parts, leads })
}

/** LiFePO4 at the end of its usable fraction: four times 3.23 V, behind its resistance. */
const lowV = (amps: number) => 4 * 3.23 - OHM * amps

/** Sixty of them were tried by hand. */
const SEEDS = 12

describe('sizing trees of up to six leads over every size and every fuse', () => {
  it.each(['weight', 'cost'] as const)('for %s it is what trying everything finds where it says so', aim => {
    const measure = MEASURES[aim]
    let [proven, feasible] = [0, 0]
    for (let seed = 1; seed <= SEEDS; seed++) {
      const tree = aTree(dice(seed))
      const plan = planOf(tree)
      const best = least(tree, lowV(ampsOf(tree)), Infinity, measure)
      const sized = sizePlan(plan, { for: aim })
      if (best === Infinity) {
        expect(`${seed} ${sized.plan === null}`).toBe(`${seed} true`)
        continue
      }
      feasible++
      if (!sized.plan) {
        // What no drop forbids may bring a finding of another kind, as two fuses that are not selective.
        for (const words of sized.obstacles) expect(`${seed}: ${words}`).toMatch(/it would bring this/)
        continue
      }
      const found = sized.plan.leads.reduce((g, l) => g + measure(l.conductor.awg as number, l.lengthM), 0)
      expect(found).toBeGreaterThan(best - 0.01)
      if (sized.exact) {
        proven++
        expect(`${seed} ${found.toFixed(1)}`).toBe(`${seed} ${best.toFixed(1)}`)
      }
      const before = new Set(judge(plan).verdict.findings.map(f => `${f.check} ${f.place}`))
      const brought = judge(sized.plan).verdict.findings.filter(
        f => f.severity !== 'note' && !before.has(`${f.check} ${f.place}`),
      )
      expect(`${seed} ${brought.map(f => f.title).join()}`).toBe(`${seed} `)
    }
    expect(feasible).toBeGreaterThan(6)
    expect(proven).toBeGreaterThan(2)
  })

  it('a fuse on no way to a load is the smallest that carries, whatever is chosen along with the others', () => {
    // A charger of 5 A behind 30 A: 7.5 A is enough for it, and so is the thinnest wire that 7.5 A protects; the radio
    // beside it is held up by a main fuse far larger than it carries.
    const charged = (ratedA: number) =>
      smallPlan({
        site: { dropShare: 1 },
        parts: [
          battery({ internalOhm: 0.01 }),
          { id: 'chg', kind: 'charger', maxA: 5, chemistries: { lifepo4: { absorptionV: 14.4 } }, set: 'lifepo4' },
          radio({ supply: { minV: 12.72, maxV: 16 } }),
        ],
        leads: [
          lead({ ends: {}, id: 'l1', inline: [fuse(20)] }),
          lead({ ends: {}, id: 'c', from: 'chg', to: 'bat', inline: [fuse(ratedA, 0.9)] }),
        ],
      })
    const [large, small] = [30, 7.5].map(a => sizePlan(charged(a), { for: 'weight' }))
    expect([large!.exact, small!.exact]).toEqual([true, true])
    expect(large!.after!.grams).toBeCloseTo(small!.after!.grams, 6)
  })
})
