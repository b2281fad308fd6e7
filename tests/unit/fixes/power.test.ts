import { describe, expect, it } from 'vitest'
import type { SolvedPlan } from '../../../core/circuit/matrix'
import { applyEdit } from '../../../core/edit/patch'
import {
  lessHung,
  lessHungOnAll,
  setSupplyUntil,
  signalGivenUp,
  turnDownAny,
  turnDownUntil,
} from '../../../core/fixes/power'
import type { Proposal } from '../../../core/fixes/proposal'
import { asKind } from '../../../core/kinds/index'
import { partById } from '../../../core/plan/find'
import type { Plan } from '../../../core/plan/schema'
import { battery, lead, radio, smallPlan } from '../../data/plans'

function partAfter(plan: Plan, proposal: Proposal, id: string) {
  const result = applyEdit(plan, proposal.patch)
  if (!result.ok) throw new Error(JSON.stringify(result.faults))
  return result.plan.parts.find(p => p.id === id)
}

describe('less power', () => {
  const big = radio({ powerW: 100, draw: { model: 'constant-current', idleA: 2, activeA: 22 } })
  const plan = smallPlan({ parts: [battery(), big] })

  it('is the highest level that passes: 50 W takes idle and 0.707 of the rest, 3 dB less', () => {
    const isHalved = (solved: SolvedPlan) => (asKind(partById(solved.plan, 'hf'), 'radio')?.powerW ?? Infinity) <= 50
    const proposal = turnDownUntil(plan, 'hf', isHalved)!
    expect(proposal).toMatchObject({
      label: 'Turn hf down to 50 W',
      cost: '−3.0 dB signal, current estimated at 16.1 A',
    })
    expect(partAfter(plan, proposal, 'hf')).toMatchObject({ powerW: 50, draw: { activeA: 16.1, idleA: 2 } })
  })
  it('is one of the levels listed, the highest below the one set', () => {
    const levels = [
      { powerW: 5, activeA: 4 },
      { powerW: 100, activeA: 22 },
      { powerW: 20, activeA: 9 },
    ]
    const listed = smallPlan({ parts: [battery(), { ...big, levels }] })
    expect(turnDownUntil(listed, 'hf', () => true)).toMatchObject({
      label: 'Turn hf down to 20 W',
      cost: '−7.0 dB signal',
    })
    expect(turnDownUntil(listed, 'bat', () => true)).toBeNull()
    expect(turnDownUntil(listed, 'hf', () => false)).toBeNull()
  })
  it('is estimated where levels are listed and none is set', () => {
    const unset = radio({ draw: big.draw, levels: [{ powerW: 5, activeA: 4 }] })
    const plan = smallPlan({ parts: [battery(), unset] })
    expect(turnDownUntil(plan, 'hf', () => true)?.label).toContain('to 80 %')
  })
  it('of several radios is that of the one that takes most', () => {
    const small = radio({ id: 'vhf', powerW: 50, draw: { model: 'constant-current', idleA: 1, activeA: 12 } })
    const two = smallPlan({
      parts: [battery(), small, big],
      leads: [lead({ to: 'vhf' }), lead({ id: 'l2' })],
    })
    expect(turnDownAny(two, s => s.network.plan !== two)!.label).toContain('Turn hf')
    // It passes as it is: power is not what is wrong.
    expect(turnDownAny(two, () => true)).toBeNull()
    expect(turnDownAny(two, s => (s.network.plan.parts[1] as { powerW?: number }).powerW! < 50)!.label).toContain('vhf')
  })
  it('or a supply set otherwise: by tenths, within what it can be set to', () => {
    const supply = {
      id: 'psu',
      kind: 'supply',
      setV: 13.8,
      adjustable: { minV: 13.5, maxV: 14.2 },
      continuousA: 30,
      peakA: 30,
      terminal: 'ring-m6',
    }
    const mains = smallPlan({ parts: [supply, radio()], leads: [lead({ from: 'psu', ends: {} })] })
    const volts: number[] = []
    const set = (s: SolvedPlan) => (s.network.plan.parts[0] as unknown as { setV: number }).setV
    const seen = (s: SolvedPlan) => {
      volts.push(set(s))
      return false
    }
    expect(setSupplyUntil(mains, 'psu', 1, seen)).toBeNull()
    expect(setSupplyUntil(mains, 'psu', -1, seen)).toBeNull()
    expect(volts).toEqual([13.9, 14, 14.1, 14.2, 13.7, 13.6, 13.5])
    expect(setSupplyUntil(mains, 'psu', -1, s => set(s) < 13.65)!.label).toBe('Set psu to 13.6 V')
    expect(setSupplyUntil(mains, 'hf', 1, () => true)).toBeNull()
  })
})

describe('signal given up', () => {
  const sending = (activeA: number, more = {}) =>
    smallPlan({ parts: [battery(), radio({ draw: { model: 'constant-current', idleA: 1, activeA }, ...more })] })

  it('is told by power where both say it, else by the square of what the sender takes over listening', () => {
    // A tenth of the power is −10 dB; half of the 9 A over listening a quarter, −6 dB.
    expect(signalGivenUp(sending(10, { powerW: 100 }), sending(5, { powerW: 10 }))).toEqual([
      { name: 'hf', dB: expect.closeTo(-10, 6) },
    ])
    expect(signalGivenUp(sending(10), sending(5.5))).toEqual([{ name: 'hf', dB: expect.closeTo(-6.02, 2) }])
    // Where only one of them says its watts, by what it takes.
    expect(signalGivenUp(sending(10, { powerW: 100 }), sending(5.5))).toEqual([
      { name: 'hf', dB: expect.closeTo(-6.02, 2) },
    ])
  })
  it('is none where nobody hears it', () => expect(signalGivenUp(sending(10), sending(9.99))).toEqual([]))
})

describe('less on an inverter of which nobody said what hangs there', () => {
  const inverter = (watts: number, name = 'All it is rated for') => ({
    id: 'inv',
    kind: 'inverter' as const,
    ratedW: 600,
    acLoads: [{ name, watts }],
  })
  const offered = (watts: number, name?: string) =>
    lessHung({ ...smallPlan(), parts: [inverter(watts, name)] } as never, inverter(watts, name) as never).map(p =>
      p.label.replace(/\D+(\d+).*/, '$1'),
    )

  it('is each share of its rating that is less than hangs there now', () => {
    expect(offered(600)).toEqual(['480', '360', '300', '240', '180', '120', '60'])
    expect(offered(360)).toEqual(['300', '240', '180', '120', '60'])
  })
  it('is none where somebody has said what hangs there', () => expect(offered(600, 'kettle')).toEqual([]))

  const wired = (id: string, watts: number, name?: string) => ({
    ...inverter(watts, name),
    id,
    input: { minV: 10, maxV: 16 },
    efficiency: 0.9,
    idleW: 1,
  })
  /** Beside a radio two of them, each made for 600 W and one held to 120, and one of which it is said. */
  const two = smallPlan({
    parts: [battery(), radio({ powerW: 100 }), wired('a', 600), wired('b', 120), wired('c', 500, 'kettle')],
    leads: [lead(), lead({ id: 'la', to: 'a.in' }), lead({ id: 'lb', to: 'b.in' }), lead({ id: 'lc', to: 'c.in' })],
  })
  const wattsOf = ({ parts }: Plan) =>
    parts.flatMap(p => asKind(p, 'inverter')?.acLoads?.map(l => l.watts) ?? asKind(p, 'radio')?.powerW ?? [])
  const madeBy = (proposal: Proposal | null) => {
    const made = applyEdit(two, proposal!.patch)
    if (!made.ok) throw new Error(JSON.stringify(made.faults))
    return [proposal!.label, wattsOf(made.plan)]
  }
  const passesAt = (enough: (watts: number[]) => boolean) => (solved: SolvedPlan) =>
    enough(wattsOf(solved.network.plan))

  it('is asked of all of them where one is not enough, each by the same share of its rating', () => {
    expect(lessHungOnAll(two).map(p => p.label)).toEqual([
      ...[480, 360, 300, 240, 180, 120].map(w => `At most ${w} W hung on a`),
      'At most 60 W hung on a and 60 W hung on b',
    ])
    const both = turnDownAny(
      two,
      passesAt(([, a, b]) => a! <= 100 && b! <= 100),
    )
    expect(madeBy(both)).toEqual(['At most 60 W hung on a and 60 W hung on b', [100, 60, 60, 500]])
    expect(lessHungOnAll(smallPlan())).toEqual([])
  })
  it('is asked beside a radio turned down where neither is enough', () => {
    const beside = turnDownAny(
      two,
      passesAt(([radioW, a, b]) => radioW! <= 50 && a! <= 100 && b! <= 100),
    )
    expect(madeBy(beside)).toEqual([
      'At most 60 W hung on a and 60 W hung on b, and turn hf down to 50 W',
      [50, 60, 60, 500],
    ])
    expect(turnDownAny(two, () => false)).toBeNull()
  })
})
