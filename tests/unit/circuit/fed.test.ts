import { describe, expect, it } from 'vitest'
import { solveMatrix } from '../../../core/circuit/matrix'
import { compile } from '../../../core/circuit/network'
import type { Plan } from '../../../core/plan/schema'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { ends } from '../../data/hard/hard'
import { battery, demoPlan, lead, load, radio, smallPlan } from '../../data/plans'

const dropper = (stripe: 'from' | 'to', id = 'd') => ({ id, kind: 'dropper', atM: 0.5, ratedA: 30, stripe })
const withIn = (plan: Plan, leadId: string, ...items: object[]): Plan => ({
  ...plan,
  leads: plan.leads.map(l => (l.id === leadId ? ({ ...l, inline: [...(l.inline ?? []), ...items] } as typeof l) : l)),
})
const without = (plan: Plan, partId: string): Plan => ({
  ...plan,
  parts: plan.parts.filter(p => p.id !== partId),
  leads: plan.leads.filter(l => l.to !== partId),
})
/** Volts of a part in each condition of the given load states. */
const voltsOf = (plan: Plan, id: string, states: readonly string[]) => {
  const { points, network } = solveMatrix(plan)
  return points
    .filter(p => states.includes(p.condition.loadState))
    .map(p => (p.status === 'ok' ? p.volts[network.nodeOf.get(id)!]! : NaN))
}
const failing = (plan: Plan) =>
  judge(plan)
    .verdict.findings.filter(f => f.severity === 'fail' || f.severity === 'danger')
    .map(f => `${f.check} ${f.place}: ${f.message}`)

describe('a diode the wrong way round', () => {
  const bench = demoPlan('clean-bench')
  it('leaves what is behind it dark, and the others as if that were not there', () => {
    const blocked = withIn(bench, 'l3', dropper('from'))
    expect(voltsOf(blocked, 'vhf', ['idle', 'all'])).toEqual([0, 0])
    const beside = voltsOf(without(bench, 'vhf'), 'hf', ['idle', 'all'])
    voltsOf(blocked, 'hf', ['idle', 'all']).forEach((v, i) => expect(v).toBeCloseTo(beside[i]!, 6))
    expect(failing(blocked)).toEqual([
      'dropper-direction l3: The stripe of the diode in VHF lead points away from VHF radio: it blocks.',
    ])
  })
  it('is found in a lead to a block as well, with all that it blocks, and once', () => {
    expect(failing(withIn(bench, 'l1', dropper('from')))).toEqual([
      'dropper-direction l1: The stripe of the diode in main lead points away from HF radio and VHF radio: it blocks.',
    ])
    expect(failing(withIn(bench, 'l1', dropper('to')))).not.toContain('dropper-direction')
  })
  it('takes nothing from a load that another lead feeds', () => {
    const spare = lead({ id: 'l9', from: 'blk.p3', to: 'vhf', ends: ends('stack-30', 'lead-t2') })
    const both = { ...bench, leads: [...bench.leads, spare] } as Plan
    const [idleV] = voltsOf(withIn(both, 'l3', dropper('from')), 'vhf', ['idle'])
    expect(idleV).toBeGreaterThan(13.5)
  })
  it('blocks both ways beside one that points the other way', () => {
    const opposed = withIn(bench, 'l3', dropper('from'), dropper('to', 'd2'))
    expect(voltsOf(opposed, 'vhf', ['all'])).toEqual([0])
    expect(failing(opposed).join()).toContain('VHF lead')
  })
})

describe('what passes no current backward', () => {
  it('leaves a load on the supply side of a gate dark while only the battery gives', () => {
    const gate = { id: 'g', kind: 'gate', maxA: 40, supply: 'stack-45', battery: 'stack-45', out: 'stack-45' }
    const plan = smallPlan({
      parts: [battery(), gate, radio(), load()],
      leads: [
        lead({ id: 'm', from: 'bat', to: 'g.battery' }),
        lead({ id: 'o', from: 'g.out', to: 'hf' }),
        lead({ id: 's', from: 'g.supply', to: 'pc' }),
      ],
    })
    const network = compile(plan)
    expect(['hf', 'pc'].map(id => network.unfed[network.nodeOf.get(id)!])).toEqual([0, 1])
  })
})

describe('what an open switch keeps dark', () => {
  const bench = demoPlan('clean-bench')
  const fixesOn = (plan: Plan, place: string) => {
    const { verdict, study } = judge(plan)
    const finding = verdict.findings.find(f => f.check === 'island' && f.place === place)!
    return fixesOf(finding, study, verdict).map(f => f.label)
  }
  it.each(['switch', 'breaker'])('is fed again by closing that %s, wherever on the way it is', kind => {
    const item = { id: 's', kind, atM: 0.4, closed: false, ...(kind === 'breaker' && { ratedA: 40 }) }
    const plan = withIn(bench, 'l1', item)
    for (const id of ['hf', 'vhf', 'blk']) expect(fixesOn(plan, id)).toEqual([`Close the ${kind} in main lead`])
  })
  it('is fed by no other switch, and by both where two stand in a row', () => {
    const open = (id: string) => ({ id, kind: 'switch', atM: 0.4, closed: false })
    expect(fixesOn(withIn(withIn(bench, 'l1', open('s')), 'l2', open('t')), 'vhf')).toEqual([
      'Close the switch in main lead',
    ])
    expect(fixesOn(withIn(withIn(bench, 'l1', open('s')), 'l2', open('t')), 'hf')).toEqual([
      'Close the switch in main lead; Close the switch in HF lead',
    ])
  })
})
