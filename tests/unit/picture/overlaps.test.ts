import { describe, expect, it } from 'vitest'
import { beginPlan } from '../../../core/plan/beginning'
import { foldable } from '../../../core/picture/fold'
import { overlapsIn } from '../../data/overlaps'
import { DEMOS, demoPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

/** No word on another, no line through a word or a box, no box on another. */
describe('the picture holds', () => {
  it.each([930, 1400])('of the demo stations, %d px wide', width => {
    for (const demo of DEMOS) expect(overlapsIn(demoPlan(demo), width), demo).toEqual([])
  })
  it('of a station with everything beside its pack', () => {
    const plan = beginPlan({
      name: 'All',
      lengthM: 2,
      conductor: { awg: 12 },
      source: 'lifepo4-50',
      loads: ['hf-100', 'vhf-50', 'hf-20'],
      mains: 'supply-45',
      sun: 'panel-100',
      vehicle: 'vehicle-12',
    })!
    expect(overlapsIn(plan)).toEqual([])
  })
  it('of random plans', () => {
    const told = Array.from({ length: 160 }, (_, i) => [i + 1, randomPlan(i + 1)] as const).flatMap(([seed, plan]) =>
      plan ? overlapsIn(plan).map(o => `${seed} ${o}`) : [],
    )
    expect(told).toEqual([])
  })
  it('of random plans with their blocks folded', () => {
    const told = Array.from({ length: 60 }, (_, i) => [i + 1, randomPlan(i + 1)] as const).flatMap(([seed, plan]) => {
      const folded = new Set(plan?.parts.map(p => p.id).filter(id => foldable(plan, id)))
      return plan && folded.size ? overlapsIn(plan, 930, folded).map(o => `${seed} ${o}`) : []
    })
    expect(told).toEqual([])
  })
  it('of long names in a narrow pane', () => {
    const plan = demoPlan('clean-bench')
    const crowded = { ...plan, parts: plan.parts.map(p => ({ ...p, name: 'x'.repeat(18) })) }
    // Too narrow a pane is no crowd: the picture is wider than it, and scrolls.
    expect(overlapsIn(crowded, 300)).toEqual([])
  })
})
