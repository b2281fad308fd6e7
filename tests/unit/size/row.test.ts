import { describe, expect, it } from 'vitest'
import { AWG_LADDER } from '../../../core/catalog/conductors'
import type { Conductor } from '../../../core/plan/schema'
import { sizePlan } from '../../../core/size/size'
import { judge } from '../../../core/verdict/verdict'
import { battery, fuse, lead, radio, smallPlan, withLead } from '../../data/plans'

describe('sizing of one row', () => {
  /** Two radios, each on a lead of its own; one cannot be satisfied by any conductor. */
  const plan = smallPlan({
    parts: [battery(), radio(), radio({ id: 'far', supply: { minV: 12.9, maxV: 16 } })],
    leads: [lead(), lead({ id: 'l2', to: 'far', lengthM: 3 })],
  })
  it('looks at that row alone: what is short elsewhere does not stand in its way', () => {
    const own = sizePlan(plan, { for: 'weight', row: 'hf' })
    expect(own.obstacles).toEqual([])
    expect(own.plan!.leads[1]).toEqual(plan.leads[1])
    expect(own.changes.map(c => c.place)).toContain('l1')
  })
  it('leaves a lead elsewhere that burns in a short as it was: only what gets worse stands in its way', () => {
    const burning = smallPlan({
      parts: [battery(), radio(), radio({ id: 'near' })],
      leads: [lead(), lead({ id: 'l2', to: 'near', conductor: { awg: 24 }, inline: [fuse(40)] })],
    })
    const own = sizePlan(burning, { for: 'weight', row: 'hf' })
    expect([own.obstacles, own.changes.map(c => c.place)]).toEqual([[], ['l1']])
    // Of the whole station it is a lead as any other.
    expect(sizePlan(burning, { for: 'weight' }).changes.map(c => c.place)).toContain('l2')
  })
  it('from a shelf takes what the rest of the station leaves there', () => {
    const shelf = (metres: number) => [
      { conductor: { awg: 10, insulationC: 105 }, metres },
      { conductor: { awg: 12, insulationC: 105 }, metres: 20 },
    ]
    // The other lead is 3 m of 10 AWG, 6 m of wire, which the shelf need not have; `l1` takes 2 m.
    const sized = (metres: number) =>
      sizePlan(plan, { for: 'drop', row: 'hf', owned: shelf(metres) }).plan?.leads[0]!.conductor.awg
    expect([8, 7.9, 6, 0].map(sized)).toEqual([10, 12, 12, 12])
  })
  it('says what is in the way of that row, and of the whole', () => {
    expect(sizePlan(plan, { for: 'weight', row: 'far' }).obstacles.join()).toContain('far')
    expect(sizePlan(plan, { for: 'weight' }).obstacles.join()).toContain('far')
    const { obstacles } = sizePlan(plan, { for: 'weight' })
    expect(obstacles).toHaveLength(1)
    // Even the thickest conductor leaves the source's own drop, the fuse's and the contacts'.
    const [, short] = /^no conductor that fits brings enough to far: ([\d.]+) V short with the thickest$/.exec(
      obstacles[0]!,
    )!
    const thickest = withLead(plan, 'l2', { conductor: { awg: AWG_LADDER.at(-1)!, insulationC: 105 } as Conductor })
    expect(Number(short)).toBeGreaterThan(12.9 - judge(thickest).verdict.arrivals.far!.low.value - 0.01)
  })
})
