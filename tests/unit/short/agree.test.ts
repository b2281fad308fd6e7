import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/verdict/verdict'
import { DEMOS, battery, demoPlan, fuse, lead, radio, smallPlan } from '../../data/plans'
import { PAIRS } from '../../data/pairs'

/** The short study and the verdict are one truth: a conductor that does not live through a short is a danger. */
const plans = [
  ...Object.entries(PAIRS).flatMap(([check, pair]) => [
    [`${check} fires`, pair.fires] as const,
    [`${check} near`, pair.near] as const,
  ]),
  ...DEMOS.map(name => [name, demoPlan(name)] as const),
]

describe('the verdict and the short study', () => {
  it.each(plans)('of %s agree: where a lead burns in a short, a danger names one of its leads', (_name, plan) => {
    const { verdict, study } = judge(plan)
    const dangers = verdict.findings.filter(f => f.severity === 'danger').flatMap(f => [f.place, ...(f.also ?? [])])
    for (const short of study.shorts.shorts.filter(s => !s.survives)) {
      const leads = [short.lead, ...short.conductors.map(c => c.lead)]
      expect(leads.some(id => id !== null && dangers.includes(id))).toBe(true)
    }
  })
  it('a stage after the first fuse is judged by its own current, not by that of the first', () => {
    // 680 A until the pack's fuse opens, then the charger's 10 A for good, which 10 AWG carries.
    const plan = smallPlan({
      parts: [
        battery({ internalOhm: 0.02 }),
        { id: 'chg', kind: 'charger', maxA: 10, set: 'lifepo4', chemistries: { lifepo4: { absorptionV: 14.4 } } },
        { id: 'j', kind: 'joint' },
        radio(),
      ],
      leads: [
        lead({ id: 'b', from: 'bat', to: 'j.a', inline: [fuse(30)] }),
        lead({ id: 'c', from: 'chg', to: 'j.b', inline: [] }),
        lead({ id: 'l', from: 'j.c', to: 'hf', inline: [] }),
      ],
    })
    const short = judge(plan).study.shorts.shorts.find(s => s.lead === 'l')!
    expect(short.conductors.find(c => c.lead === 'l')).toMatchObject({
      i2t: null,
      lastingA: expect.closeTo(10, 1),
      survives: true,
    })
    expect(short.survives).toBe(true)
  })
  it('a gate passes no current of its battery back into a short at its supply', () => {
    const plan = smallPlan({
      parts: [
        battery(),
        { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 30 },
        { id: 'g', kind: 'gate' },
        radio(),
      ],
      leads: [
        lead({ id: 's', from: 'psu', to: 'g.supply', inline: [] }),
        lead({ id: 'b', from: 'bat', to: 'g.battery', inline: [fuse(40)] }),
        lead({ id: 'o', from: 'g.out', to: 'hf', inline: [] }),
      ],
    })
    const { shorts } = judge(plan).study.shorts
    expect(shorts.find(s => s.lead === 's')!.from.map(f => f.source)).toEqual(['psu'])
    expect(
      shorts
        .find(s => s.lead === 'o')!
        .from.map(f => f.source)
        .sort(),
    ).toEqual(['bat', 'psu'])
  })
})
