import { describe, expect, it } from 'vitest'
import { SCHOOLS, type SchoolId } from '../../../core/catalog/schools'
import { applyEdit } from '../../../core/edit/patch'
import type { Plan } from '../../../core/plan/schema'
import { chooseSchool, schoolsOf } from '../../../core/schools/choose'
import { sideOf } from '../../../core/schools/compare'
import { battery, DEMOS, demoPlan, radio, smallPlan } from '../../data/plans'

function taken(plan: Plan, id: SchoolId, choice: string): Plan {
  const edit = applyEdit(plan, chooseSchool(plan, id, choice).patch)
  if (!edit.ok) throw new Error(`${id} ${choice}: ${JSON.stringify(edit.faults)}`)
  return edit.plan
}

describe('schools', () => {
  it('every choice of every school can be taken on every demo, is said by the plan after it, and taken back', () => {
    for (const demo of DEMOS) {
      const plan = demoPlan(demo)
      for (const s of SCHOOLS) {
        for (const c of s.choices) {
          const edit = applyEdit(plan, chooseSchool(plan, s.id, c.id).patch)
          if (!edit.ok) throw new Error(`${demo} ${s.id} ${c.id}: ${JSON.stringify(edit.faults)}`)
          expect(schoolsOf(edit.plan).find(x => x.id === s.id)!.now).toBe(c.id)
          const back = applyEdit(edit.plan, edit.undo)
          expect(back.ok && JSON.stringify(back.plan)).toBe(JSON.stringify(plan))
        }
      }
    }
  })
  it('each has a line from every side', () => {
    for (const s of SCHOOLS) {
      expect(s.choices.length).toBeGreaterThanOrEqual(2)
      expect(s.choices.map(c => c.id)).toContain(s.unsaid)
      for (const c of s.choices) expect(c.says.length).toBeGreaterThan(30)
    }
  })
  it('held at 13.8 V puts a regulator before each radio; direct takes them out again', () => {
    const plan = demoPlan('tern-rock-light')
    const held = taken(plan, 'hold', 'held')
    expect(held.parts.filter(p => p.kind === 'converter')).toHaveLength(2)
    const [before, after] = [sideOf(plan), sideOf(held)]
    expect(before.arrivals.hf!.lowV).toBeLessThan(11.7)
    expect(after.arrivals.hf!.lowV).toBeGreaterThan(13)
    expect(after.lossW!).toBeGreaterThan(before.lossW!)
    expect(after.grams).toBeGreaterThan(before.grams)
    const direct = taken(held, 'hold', 'direct')
    expect(direct.parts.filter(p => p.kind === 'converter')).toHaveLength(0)
    expect(sideOf(direct).arrivals.hf!.lowV).toBeCloseTo(before.arrivals.hf!.lowV, 6)
  })
  it('charging apart keeps the charging voltage from the radios', () => {
    const apart = sideOf(taken(demoPlan('tern-rock-light'), 'charging', 'apart'))
    expect(apart.arrivals.lamps!.highV).toBeLessThan(13.6)
  })
  it('both legs fuses both legs at the sources, and one leg again', () => {
    const both = taken(smallPlan(), 'fuseLegs', 'both')
    expect(both.leads[0]!.inline![0]).toMatchObject({ legs: 'both' })
    expect(taken(both, 'fuseLegs', 'positive').leads[0]!.inline![0]).toMatchObject({ legs: 'positive' })
  })
  it('two in parallel halves what each gives', () => {
    const two = taken(smallPlan(), 'packs', 'parallel')
    expect(two.parts.filter(p => p.kind === 'battery')).toHaveLength(2)
    expect(sideOf(two).arrivals.hf!.lowV).toBeGreaterThan(sideOf(smallPlan()).arrivals.hf!.lowV)
  })
  it('sized for what the battery can give makes the main lead carry it', () => {
    const plan = smallPlan({ parts: [battery({ continuousA: 70 }), radio()] })
    expect(taken(plan, 'conductorFor', 'source').leads[0]!.conductor.awg).toBe(8)
  })
  it("the owner's stop voltage is the end of the usable fraction to begin with", () => {
    const stop = taken(smallPlan(), 'end', 'stop-voltage').parts[0]
    expect(stop).toMatchObject({ stopV: 12.92 })
  })
})
