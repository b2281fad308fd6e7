import { describe, expect, it } from 'vitest'
import { threeWay } from '../../../core/merge/threeWay'
import { clashWords } from '../../../core/plan/clashWords'
import type { Plan } from '../../../core/plan/schema'
import { demoPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const changed = (change: (plan: Plan) => unknown): Plan => {
  const plan = structuredClone(tern)
  change(plan)
  return plan
}
/** What two windows are asked about, where each makes its own change. */
const asked = (mine: (plan: Plan) => unknown, theirs: (plan: Plan) => unknown) =>
  threeWay(tern, changed(mine), changed(theirs)).clashes.map(path => clashWords(tern, path))
const lead = (plan: Plan, id: string) => plan.leads.find(l => l.id === id)!
const part = (plan: Plan, id: string) => plan.parts.find(p => p.id === id) as never as Record<string, unknown>

describe('what two windows both changed', () => {
  it('is told by its name and by what its form calls it', () => {
    expect(
      asked(
        p => (lead(p, 'l2').lengthM = 2),
        p => (lead(p, 'l2').lengthM = 3),
      ),
    ).toEqual(['HF lead: Length, one way'])
    expect(
      asked(
        p => (part(p, 'hf').powerW = 50),
        p => (part(p, 'hf').powerW = 80),
      ),
    ).toEqual(['HF radio: Transmit power'])
    expect(
      asked(
        p => (p.name = 'one'),
        p => (p.name = 'other'),
      ),
    ).toEqual(['Name'])
    expect(
      asked(
        p => (p.site!.ambientC!.low = -9),
        p => (p.site!.ambientC!.low = -2),
      ),
    ).toEqual(['Coldest'])
  })
  it('of what is wired into a lead it names the thing', () => {
    const [words] = asked(
      p => (lead(p, 'l1').inline![0]!.atM = 0.1),
      p => (lead(p, 'l1').inline![0]!.atM = 0.3),
    )
    expect(words).toMatch(/^main lead, its fuse: /)
  })
  it('what no form has is told by its place, and what is gone by its list', () => {
    expect(clashWords(tern, '/parts/hf/unheardOf/deep')).toBe('HF radio: unheardOf deep')
    expect(clashWords(tern, '/parts/gone/name')).toBe('parts gone name')
    expect(clashWords(tern, '/')).toBe('the plan as a whole')
  })
})
