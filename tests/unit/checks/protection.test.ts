import { describe, expect, it } from 'vitest'
import type { Plan } from '../../../core/plan/schema'
import { judge, type Finding } from '../../../core/verdict/verdict'
import { battery, fuse, lead, radio, smallPlan } from '../../data/plans'
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

  it('takes up no more than its largest current until what is named has opened', () => {
    const more = Array.from({ length: 400 }, (_, i) => randomPlan(i + 701)).filter(plan => plan !== null)
    const opened = more.flatMap(plan =>
      judge(plan).verdict.findings.filter(f => f.check === 'short-conductor' && f.numbers.i2t !== undefined),
    )
    expect(opened.filter(f => / opens last, /.test(f.message)).length).toBeGreaterThan(0)
    for (const { numbers, message } of opened) {
      const { amps, slowestS, i2t } = numbers
      expect(i2t! / (amps! ** 2 * slowestS!), message).toBeLessThan(1 + 1e-9)
    }
  })

  it('that two packs feed goes on until the slower of their fuses has opened', () => {
    const bare = (more: object) => lead({ ends: {}, ...more })
    const thin = { awg: 16, insulationC: 105 }
    const strip = fuse(100, 0.1, { type: 'strip' })
    const plan = smallPlan({
      parts: [
        battery(),
        battery({ id: 'b2', internalOhm: 0.004 }),
        { id: 'j', kind: 'joint', connector: 'ring-m6' },
        radio(),
      ],
      leads: [
        bare({ id: 'l1', to: 'j.a', inline: [fuse(20)] }),
        bare({ id: 'l2', from: 'b2', to: 'j.b', lengthM: 1.5, conductor: thin, inline: [strip] }),
        bare({ id: 'l3', from: 'j.c', to: 'hf', inline: [] }),
      ],
    })
    const found = judge(plan).verdict.findings.filter(f => f.check === 'short-conductor')
    // 655 A for 7 ms, then 263 A for 21 s: 1.46 · 10⁶ A²s.
    expect(found.map(f => [f.place, f.message])).toEqual([
      ['l2', expect.stringContaining('the 100 A fuse in lead l2 takes up to 21 s to open')],
      [
        'l3',
        expect.stringContaining('of what feeds it the 100 A fuse in lead l2 opens last, after up to 21 s: in all'),
      ],
    ])
    const [{ numbers: own }, { numbers: shared }] = found as [Finding, Finding]
    expect(shared.i2t).toBeCloseTo(own.amps! ** 2 * (shared.slowestS! - 0.0071) + shared.amps! ** 2 * 0.0071, -4)
  })
})
