import { describe, expect, it } from 'vitest'
import { isCarried, largestAmps, solveCorners, type SolvedPlan } from '../../../core/circuit/matrix'
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
import { asKind, kindOf, partsOf, type Part } from '../../../core/kinds/index'
import { isLoadAssumed } from '../../../core/kinds/inverter'
import { partById } from '../../../core/plan/find'
import type { Plan } from '../../../core/plan/schema'
import { brokenPlan } from '../../data/brokenPlans'
import { battery, lead, radio, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

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
  it('of many radios is found without each being tried, where none is enough and where one is', () => {
    const ids = Array.from({ length: 24 }, (_, i) => `r${i}`)
    const many = smallPlan({
      parts: [battery(), ...ids.map(id => ({ ...big, id }))],
      leads: ids.map(id => lead({ id: `to-${id}`, to: id })),
    })
    const powerOf = ({ plan }: SolvedPlan, id: string) => asKind(partById(plan, id), 'radio')!.powerW!
    const asked = (passes: (solved: SolvedPlan) => boolean) => {
      let times = 0
      const proposal = turnDownAny(many, solved => {
        times++
        return passes(solved)
      })
      return { times, label: proposal?.label }
    }
    // As it is, all of them down, and each half of them.
    expect(asked(solved => ids.every(id => powerOf(solved, id) < 100))).toEqual({ times: 4, label: undefined })
    // As it is, 24, 12, 6, 3 and 1 or 2 of them in turn, and the levels of the last.
    const last = asked(solved => powerOf(solved, 'r23') <= 25)
    expect(last.label).toBe('Turn r23 down to 25 W')
    expect(last.times).toBeLessThanOrEqual(14)
  })
  it('is that of the first radio that is enough by itself, as trying one after the other finds', () => {
    let found = 0
    for (const make of [randomPlan, brokenPlan])
      for (let seed = 1; seed <= 60; seed++) {
        const plan = make(seed)
        const radios = plan ? partsOf(plan.parts, 'radio') : []
        if (!plan || radios.length < 2 || partsOf(plan.parts, 'inverter').some(isLoadAssumed)) continue
        for (const { id } of plan.leads.slice(0, 3)) {
          const ampsIn = (s: SolvedPlan) => largestAmps(s, s.network.branchOfLead.get(id)).value
          const mostA = 0.9 * ampsIn(solveCorners(plan))
          const passes = (s: SolvedPlan) => isCarried(s) && ampsIn(s) <= mostA
          const drawOf = (radio: Part) => kindOf(radio).sink!(radio, true).value
          const inTurn = radios
            .sort((a, b) => drawOf(b) - drawOf(a))
            .map(radio => turnDownUntil(plan, radio.id, passes))
            .find(proposal => proposal !== null)
          if (passes(solveCorners(plan))) continue
          if (inTurn) found++
          expect(turnDownAny(plan, passes), `${plan.name}, ${id}`).toEqual(inTurn ?? null)
        }
      }
    expect(found).toBeGreaterThan(20)
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
