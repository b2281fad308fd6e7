import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdit, type Patch } from '../../../core/edit/patch'
import { setField } from '../../../core/edit/set'
import { takeOut } from '../../../core/edit/takeOut'
import { swapPart } from '../../../core/edit/swap'
import { addVariant, editInVariant, inVariant, removeVariant } from '../../../core/edit/variants'
import { readPlanText, writePlan } from '../../../core/plan/faults'
import { partById } from '../../../core/plan/find'
import type { Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { demoPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

const bench = demoPlan('clean-bench')
function edited(plan: Plan, patch: Patch): Plan {
  const result = applyEdit(plan, patch)
  if (!result.ok) throw new Error(JSON.stringify(result.faults))
  return result.plan
}
function inWay(plan: Plan, id: string, patch: Patch): Plan {
  const result = editInVariant(plan, id, patch)
  if (!result.ok) throw new Error(JSON.stringify(result.faults))
  return result.plan
}
const withCar = (plan: Plan) => {
  const { id, patch } = addVariant(plan, 'Car', null)
  return { id, plan: edited(plan, patch) }
}

describe('another way of a station', () => {
  it('is the station itself to begin with', () => {
    const { id, plan } = withCar(bench)
    expect(inVariant(plan, id)).toEqual(bench)
    expect(inVariant(plan, null)).toEqual(bench)
  })
  it('keeps what is other in it, and follows the rest', () => {
    const { id, plan } = withCar(bench)
    const source = bench.parts.find(p => p.kind === 'supply')!
    const radio = bench.parts.find(p => p.kind === 'radio')!
    const car = inWay(plan, id, swapPart(inVariant(plan, id), source.id, 'vehicle-12')!)
    expect(partById(car, source.id)!.kind).toBe('supply')
    expect(partById(inVariant(car, id), source.id)!.kind).toBe('vehicle')
    // A change to the plan is a change of every way that does not say otherwise.
    const later = edited(car, setField(car, radio.id, 'name', 'New rig'))
    expect(partById(inVariant(later, id), radio.id)!.name).toBe('New rig')
    expect(partById(inVariant(later, id), source.id)!.kind).toBe('vehicle')
  })
  it('judges as the plan would that is written out in full', () => {
    const { id, plan } = withCar(bench)
    const source = bench.parts.find(p => p.kind === 'supply')!
    const car = inWay(plan, id, swapPart(inVariant(plan, id), source.id, 'agm-40')!)
    const titles = judge(inVariant(car, id)).verdict.findings.map(f => f.key)
    const whole = readPlanText(writePlan(inVariant(car, id)))
    expect(whole.ok && judge(whole.plan).verdict.findings.map(f => f.key)).toEqual(titles)
    expect(titles.length).toBeGreaterThan(0)
    expect(judge(inVariant(car, null)).verdict.findings).toEqual([])
  })
  it('refuses what would break it, and one undo takes an edit back', () => {
    const { id, plan } = withCar(bench)
    expect(editInVariant(plan, id, setField(plan, bench.leads[0]!.id, 'lengthM', -1)).ok).toBe(false)
    const made = editInVariant(plan, id, setField(plan, bench.leads[0]!.id, 'lengthM', 3))
    const back = made.ok && applyEdit(made.plan, made.undo)
    expect(back && back.ok && writePlan(back.plan)).toBe(writePlan(plan))
  })
  it('loses the leads of a part that the plan loses, and is a plan still', () => {
    const { id, plan } = withCar(bench)
    const [lead] = bench.leads
    const car = inWay(plan, id, setField(plan, lead!.id, 'lengthM', 3))
    const block = bench.parts.find(p => p.kind === 'block')!
    const less = edited(car, takeOut(car, block.id))
    const way = inVariant(less, id)
    expect(applyEdit(way, []).ok).toBe(true)
    expect(way.parts.some(p => p.id === block.id)).toBe(false)
  })
  it('goes as it came, and a copy of one begins like it', () => {
    const { id, plan } = withCar(bench)
    const car = inWay(plan, id, setField(plan, bench.leads[0]!.id, 'lengthM', 3))
    const { id: copy, patch } = addVariant(car, 'Car', id)
    const two = edited(car, patch)
    expect(copy).not.toBe(id)
    expect(inVariant(two, copy)).toEqual(inVariant(two, id))
    expect(edited(edited(two, removeVariant(two, copy)), removeVariant(car, id))).toEqual(bench)
  })
  it('of random plans under random edits is what the edit made of the plan', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), fc.nat(40), fc.constantFrom('out', 'name'), (seed, pick, what) => {
        const base = randomPlan(seed)
        if (!base) return
        const { id, plan } = withCar(base)
        const item = [...base.parts, ...base.leads][pick % (base.parts.length + base.leads.length)]!
        const patch = what === 'out' ? takeOut(base, item.id) : setField(base, item.id, 'name', 'other')
        const alone = applyEdit(base, patch)
        const way = editInVariant(plan, id, patch)
        expect(way.ok).toBe(alone.ok)
        if (!way.ok || !alone.ok) return
        const sorted = (p: Plan) => ({
          parts: [...p.parts].sort((a, b) => (a.id < b.id ? -1 : 1)),
          leads: [...p.leads].sort((a, b) => (a.id < b.id ? -1 : 1)),
          loadStates: p.loadStates,
        })
        expect(sorted(inVariant(way.plan, id))).toEqual(sorted(alone.plan))
        expect(inVariant(way.plan, null)).toEqual(applied(base))
      }),
      { seed: 5, numRuns: 80 },
    )
  })
  const applied = (plan: Plan) => edited(plan, [])
})
