import { describe, expect, it } from 'vitest'
import { sizePlan } from '../../../core/size/size'
import { demoPlan } from '../../data/plans'

describe('sizing', () => {
  it.each([
    ['a diode the wrong way round', { id: 'd', kind: 'dropper', atM: 0.5, ratedA: 30, stripe: 'from' }],
    ['an open switch', { id: 's', kind: 'switch', atM: 0.5, closed: false }],
  ])('leaves a lead as it is where %s keeps it dark: what will flow in it is not known', (_, item) => {
    const bench = demoPlan('clean-bench')
    const leads = bench.leads.map(l => (l.id === 'l3' ? ({ ...l, inline: [item] } as typeof l) : l))
    const { plan } = sizePlan({ ...bench, leads }, { for: 'weight' })
    expect(plan!.leads.find(l => l.id === 'l3')!.conductor).toEqual({ awg: 12, insulationC: 105 })
    expect(sizePlan(bench, { for: 'weight' }).plan!.leads.find(l => l.id === 'l3')!.conductor.awg).not.toBe(12)
  })
})
