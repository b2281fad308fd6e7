import { describe, expect, it } from 'vitest'
import type { Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { randomPlan } from '../../data/randomPlans'

interface Burnt {
  lead: string
  overload: number
}

/** Every conductor that any short at the end of a lead burns though something opens, and by how much: one by one. */
function burntIn(plan: Plan): Burnt[] {
  const { study } = judge(plan)
  return study.shorts.shorts
    .filter(s => s.kind === 'lead-end' && s.opens.length > 0)
    .flatMap(s =>
      s.conductors
        .filter(c => !c.survives)
        .map(c => ({
          lead: c.lead,
          overload:
            c.i2t === null
              ? c.lastingA / study.ampacity(plan.leads.find(l => l.id === c.lead)!)
              : Math.sqrt(c.i2t / c.withstandsI2t),
        })),
    )
}

describe('a conductor that a short burns', () => {
  const plans = Array.from({ length: 80 }, (_, i) => randomPlan(i + 1)).filter(plan => plan !== null)

  it('is told once, wherever the short is, with the short that is worst for it', () => {
    let told = 0
    for (const plan of plans) {
      const burnt = burntIn(plan)
      const found = judge(plan).verdict.findings.filter(f => f.check === 'short-conductor')
      expect(found.map(f => f.place).sort(), plan.name).toEqual([...new Set(burnt.map(b => b.lead))].sort())
      for (const { place, numbers } of found) {
        const worst = Math.max(...burnt.filter(b => b.lead === place).map(b => b.overload))
        const { lastingA, ampacityA, i2t, withstandsI2t } = numbers
        expect(lastingA === undefined ? Math.sqrt(i2t! / withstandsI2t!) : lastingA / ampacityA!).toBe(worst)
        told++
      }
    }
    expect(told).toBeGreaterThan(40)
  })
})
