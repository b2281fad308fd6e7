import { conductorMm2 } from '../../../core/conductor/resistance'
import { describe, expect, it } from 'vitest'
import { applyEdit } from '../../../core/edit/patch'
import { addAdapter } from '../../../core/fixes/adapter'
import {
  gramsMore,
  shortenUntil,
  swapConductor,
  thickenPath,
  thickenTo,
  leastThatWorks,
  thickenUntil,
} from '../../../core/fixes/conductor'
import { addRegulator } from '../../../core/fixes/converter'
import { addDropperUntil } from '../../../core/fixes/dropper'
import { addFuse, moveFuse, refuse, smallestCarrying } from '../../../core/fixes/fuse'
import { changeEnd, changeTerminal, largerPart, moveToFreePort, strongerMating } from '../../../core/fixes/parts'
import type { Proposal } from '../../../core/fixes/proposal'
import { devicesOf, graphOf } from '../../../core/graph/graph'
import { connector } from '../../../core/catalog/connectors'
import { solveCorners, type SolvedPlan } from '../../../core/circuit/matrix'
import type { Lead, Plan } from '../../../core/plan/schema'
import { waysToJoin } from '../../../core/shelf/ways'
import { battery, fuse, lead, radio, smallPlan } from '../../data/plans'

/** The plan after a proposal; the test fails where it cannot be applied. */
function after(plan: Plan, proposal: Proposal | null): Plan {
  const result = applyEdit(plan, proposal!.patch)
  if (!result.ok) throw new Error(JSON.stringify(result.faults))
  return result.plan
}
const leadOf = (plan: Plan, id = 'l1') => plan.leads.find(l => l.id === id)!
const partOf = (plan: Plan, id: string) => plan.parts.find(p => p.id === id) as unknown as Record<string, unknown>

/** What the radio gets at the least over all points of a solved plan, V. */
const leastAt = (solved: SolvedPlan, id = 'hf') =>
  Math.min(...solved.points.map(p => p.volts[solved.network.nodeOf.get(id)!]!))
const most = (solved: SolvedPlan, id = 'hf') =>
  Math.max(...solved.points.map(p => p.volts[solved.network.nodeOf.get(id)!]!))

describe('another conductor', () => {
  const plan = smallPlan({ leads: [lead({ lengthM: 4, conductor: { awg: 16, insulationC: 105 } })] })
  const own = leadOf(plan)

  it('weighs what its copper weighs: 16 to 12 AWG, 4 m, both legs', () => {
    // 3.31 mm² less 1.31 mm², 8.93 g/cm³, 8 m of wire.
    expect(gramsMore(own, { awg: 12 })).toBeCloseTo((3.31 - 1.31) * 8.93 * 8, -0.5)
    expect(gramsMore({ ...own, return: 'chassis' } as Lead, { awg: 12 })).toBeCloseTo(
      gramsMore(own, { awg: 12 }) / 2,
      6,
    )
    expect(swapConductor(plan, own, { awg: 18 }).cost).toMatch(/^−\d+ g copper$/)
    expect(swapConductor(plan, own, { awg: 12 })).toMatchObject({ label: '12 AWG in lead l1', cost: '+143 g copper' })
    expect(swapConductor(plan, { ...own, name: 'Main' }, { awg: 12 }).label).toBe('12 AWG in Main')
  })

  it('is the next thicker one that passes, and keeps its insulation', () => {
    const passes = (s: SolvedPlan) => leastAt(s) > leastOf16 + 0.25
    const leastOf16 = solvedLeast(plan)
    const mended = after(plan, thickenUntil(plan, 'l1', passes))
    const { awg, insulationC } = leadOf(mended).conductor
    expect(insulationC).toBe(105)
    const thinner = after(plan, swapConductor(plan, own, { awg: (awg as number) + 2, insulationC: 105 }))
    expect(solvedLeast(mended)).toBeGreaterThan(leastOf16 + 0.25)
    expect(solvedLeast(thinner)).toBeLessThanOrEqual(leastOf16 + 0.25)
    expect(thickenUntil(plan, 'l1', () => false)).toBeNull()
  })

  it('by its own figure alone is the first that passes, or none', () => {
    expect(
      leadOf(
        after(
          plan,
          thickenTo(plan, own, c => c.awg === 10),
        ),
      ).conductor.awg,
    ).toBe(10)
    expect(thickenTo(plan, own, () => false)).toBeNull()
  })

  it('in a path goes round its leads, one size at a time, the first one first', () => {
    const two = smallPlan({
      parts: [
        battery(),
        { id: 'j', kind: 'block', feed: 'ring-m6', ports: [{ id: 'p1', connector: 'stack-45' }] },
        radio(),
      ],
      leads: [lead({ id: 'a', to: 'j.feed', ends: {} }), lead({ id: 'b', from: 'j.p1', inline: [], ends: {} })],
    })
    const areThick = ({ plan }: { plan: Plan }) =>
      conductorMm2(leadOf(plan, 'a').conductor) > 13 && conductorMm2(leadOf(plan, 'b').conductor) > 8
    const mended = after(two, thickenPath(two, ['a', 'b'], areThick))
    expect(leadOf(mended, 'a').conductor.awg).toBe(6)
    expect(leadOf(mended, 'b').conductor.awg).toBe(8)
    const proposal = thickenPath(two, ['a', 'b'], () => true)!
    expect(proposal.label).toBe('8 AWG in lead a')
    expect(thickenPath(two, ['a', 'b'], () => false)).toBeNull()
  })
})

describe('the least that works', () => {
  it('is the same as by trying one after the other', () => {
    for (let most = 0; most <= 20; most++)
      for (let needed = 1; needed <= 22; needed++)
        expect(leastThatWorks(most, n => n >= needed)).toBe(needed <= most ? needed : null)
  })
  it('asks no more than a halving takes, and but once where nothing works', () => {
    let asked = 0
    const counting = (works: boolean) => () => ++asked > 0 && works
    leastThatWorks(16, counting(true))
    expect(asked).toBe(5)
    asked = 0
    leastThatWorks(16, counting(false))
    expect(asked).toBe(1)
  })
})

const solvedOf = (plan: Plan) => solveCorners(plan)
const solvedLeast = (plan: Plan) => leastAt(solvedOf(plan))

describe('a shorter lead', () => {
  const plan = smallPlan({ leads: [lead({ lengthM: 3, inline: [fuse(20, 2.5)] })] })

  it('is cut by as few tenths of a metre as pass', () => {
    const lengths: number[] = []
    const passes = (s: SolvedPlan) => {
      lengths.push(s.network.plan.leads[0]!.lengthM)
      return s.network.plan.leads[0]!.lengthM <= 1.75
    }
    const proposal = shortenUntil(plan, 'l1', 'the radio', passes)!
    expect(proposal.label).toBe('Move the radio 1.3 m closer')
    expect(leadOf(after(plan, proposal)).lengthM).toBe(1.7)
    expect(Math.min(...lengths)).toBeGreaterThanOrEqual(1)
  })
  it('keeps its fuse on it', () => {
    const { inline, lengthM } = leadOf(
      after(
        plan,
        shortenUntil(plan, 'l1', 'it', () => true),
      ),
    )
    expect(inline![0]!.atM).toBeLessThanOrEqual(lengthM)
  })
  it('is not cut to under a third, nor where there is nothing to cut', () => {
    const passes = (s: SolvedPlan) => s.network.plan.leads[0]!.lengthM < 0.99
    expect(shortenUntil(plan, 'l1', 'it', passes)).toBeNull()
    const stub = smallPlan({ leads: [lead({ lengthM: 0.12 })] })
    expect(shortenUntil(stub, 'l1', 'it', () => true)).toBeNull()
  })
})

describe('a fuse', () => {
  const bare = smallPlan({ leads: [lead({ inline: [] })] })
  const own = leadOf(bare)

  it('is the smallest that carries 1.25 times the current, near the end it protects', () => {
    const proposal = addFuse(bare, own, 'from', { continuousA: 10, conductorAmps: 60 })!
    expect(proposal.label).toBe('15 A blade fuse, 0.12 m from bat')
    expect(leadOf(after(bare, proposal)).inline).toMatchObject([{ kind: 'fuse', type: 'blade', ratedA: 15, atM: 0.12 }])
    const farEnd = addFuse(bare, own, 'to', { continuousA: 10, conductorAmps: 60 })
    expect(leadOf(after(bare, farEnd)).inline![0]!.atM).toBeCloseTo(0.88, 9)
  })
  it('is of a class that has one, and none where the conductor is too thin for any', () => {
    const large = after(bare, addFuse(bare, own, 'from', { continuousA: 100, conductorAmps: 200 }))
    expect(leadOf(large).inline![0]).toMatchObject({ type: 'strip', ratedA: 125 })
    expect(addFuse(bare, own, 'from', { continuousA: 10, conductorAmps: 12 })).toBeNull()
  })
  it('carries exactly 1.25 times and protects exactly what the conductor bears', () => {
    expect(addFuse(bare, own, 'from', { continuousA: 12, conductorAmps: 15 })!.label).toContain('15 A')
    expect(addFuse(bare, own, 'from', { continuousA: 12.1, conductorAmps: 15 })).toBeNull()
  })

  const fused = smallPlan({ leads: [lead({ inline: [fuse(20, 0.7)] })] })
  it('is moved to the end named', () => {
    expect(leadOf(after(fused, moveFuse(fused, leadOf(fused), 'f1', 'from'))).inline![0]!.atM).toBe(0.12)
    expect(leadOf(after(fused, moveFuse(fused, leadOf(fused), 'f1', 'to'))).inline![0]!.atM).toBeCloseTo(0.88, 9)
  })

  const [device] = devicesOf(fused)
  it('is replaced by the largest or the smallest of its class that fits; by itself never', () => {
    const task = { continuousA: 10, conductorAmps: 33 }
    const large = refuse(fused, device!, task, 'largest')!
    expect(large.label).toBe('30 A fuse in place of 20 A')
    expect(leadOf(after(fused, large)).inline![0]).toMatchObject({ ratedA: 30 })
    expect(leadOf(after(fused, refuse(fused, device!, task, 'smallest'))).inline![0]).toMatchObject({ ratedA: 15 })
    expect(refuse(fused, device!, { continuousA: 16, conductorAmps: 20 }, 'largest')).toBeNull()
    expect(refuse(fused, device!, { continuousA: 30, conductorAmps: 20 }, 'largest')).toBeNull()
  })
  it('smallest that carries is of its own class where that has one, else of any', () => {
    expect(smallestCarrying('blade', 12)).toBe(15)
    expect(smallestCarrying('blade', 12.1)).toBe(20)
    expect(smallestCarrying('blade', 100)).toBe(125)
    expect(smallestCarrying('blade', 1e6)).toBeNull()
  })
})

describe('diodes in series', () => {
  const plan = smallPlan()
  const into = { lead: leadOf(plan), end: 'to' as const, activeA: 10 }

  it('are as few as pass, rated for 1.2 times the current, 0.2 m from the load', () => {
    const before = most(solvedOf(plan))
    const proposal = addDropperUntil(plan, into, s => most(s) < before - 1)!
    expect(proposal.label).toBe('2 diodes in series, 20 A, stripe toward the load')
    const [, dropper] = leadOf(after(plan, proposal)).inline!
    expect(dropper).toMatchObject({ kind: 'dropper', count: 2, ratedA: 20, stripe: 'to', atM: 0.8, labelled: true })
    expect(addDropperUntil(plan, into, () => true)!.label).toBe('Series diode, 20 A, stripe toward the load')
  })
  it('are at most four, and none is sold for 30 A', () => {
    let tried = 0
    expect(addDropperUntil(plan, into, () => ++tried > 4)).toBeNull()
    expect(tried).toBe(4)
    expect(addDropperUntil(plan, { ...into, activeA: 25 }, () => true)!.label).toContain('30 A')
    expect(addDropperUntil(plan, { ...into, activeA: 25.1 }, () => true)).toBeNull()
  })
})

describe('a regulator', () => {
  const plan = smallPlan({ leads: [lead({ lengthM: 2 })] })
  const [, load] = plan.parts
  const task = { lead: leadOf(plan), end: 'to' as const, load: load!, activeA: 10, passes: () => true }

  it('is the smallest that carries 1.1 times the current, before the load, with a lead of 0.3 m', () => {
    const proposal = addRegulator(plan, task)!
    const mended = after(plan, proposal)
    const regulator = mended.parts.find(p => p.kind === 'converter') as unknown as { id: string; maxOutA: number }
    expect(regulator.maxOutA).toBeGreaterThanOrEqual(11)
    expect(mended.leads.map(l => [l.from, l.to, l.lengthM])).toEqual([
      ['bat', `${regulator.id}.in`, 2],
      [`${regulator.id}.out`, 'hf', 0.3],
    ])
    expect(proposal.label).toContain('before hf')
    expect(proposal.cost).toContain('a new noise source')
  })
  it('is none where the lead is too short, returns by the chassis, nothing carries it or nothing passes', () => {
    expect(addRegulator(plan, { ...task, lead: { ...task.lead, lengthM: 0.3 } })).toBeNull()
    expect(addRegulator(plan, { ...task, lead: { ...task.lead, return: 'chassis' } as Lead })).toBeNull()
    expect(addRegulator(plan, { ...task, activeA: 1000 })).toBeNull()
    expect(addRegulator(plan, { ...task, passes: () => false })).toBeNull()
  })
})

describe('parts and connectors', () => {
  it('a larger part of its kind keeps its id, name and terminal', () => {
    const plan = smallPlan({ parts: [battery({ name: 'House', note: 'cold' }), radio()] })
    const mended = after(
      plan,
      largerPart(plan, 'bat', c => (c.capacityAh as number) >= 100),
    )
    expect(partOf(mended, 'bat')).toMatchObject({ kind: 'battery', name: 'House', note: 'cold', terminal: 'ring-m6' })
    expect(partOf(mended, 'bat').capacityAh).toBeGreaterThanOrEqual(100)
    expect(largerPart(plan, 'bat', () => false)).toBeNull()
  })

  const plan = smallPlan({
    parts: [
      battery(),
      {
        id: 'blk',
        kind: 'block',
        name: 'Block',
        feed: 'ring-m6',
        ports: [
          { id: 'p1', fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-30' },
          { id: 'p2', fuse: { type: 'blade', ratedA: 40 }, connector: 'stack-30' },
          { id: 'p3', fuse: { type: 'blade', ratedA: 20 }, connector: 'stack-30' },
          { id: 'p4', fuse: { type: 'blade', ratedA: 15 }, connector: 'stack-45' },
        ],
      },
      radio(),
    ],
    leads: [
      lead({ id: 'm', to: 'blk.feed', ends: {} }),
      lead({ from: 'blk.p1', inline: [], ends: { from: { connector: 'stack-30', method: 'crimp' } } }),
    ],
  })
  const own = leadOf(plan)

  it('another connector on a lead, on a terminal, on both sides of a mating', () => {
    const ended = changeEnd(plan, own, 'from', 'stack-45')
    expect(leadOf(after(plan, ended)).ends!.from).toMatchObject({ connector: 'stack-45' })
    expect(ended.label).toMatch(/ on lead l1 at .*, port 1$/)
    const ported = after(plan, changeTerminal(plan, 'blk.p1', 'stack-45'))
    expect(graphOf(ported).terminals.get('blk.p1')!.connector).toBe('stack-45')
    expect(leadOf(ported).ends!.from!.connector).toBe('stack-30')
    const both = after(
      plan,
      strongerMating(plan, own, 'from', id => id !== 'stack-15' && id !== 'stack-30'),
    )
    expect(graphOf(both).terminals.get('blk.p1')!.connector).toBe('stack-45')
    expect(leadOf(both).ends!.from!.connector).toBe('stack-45')
    expect(strongerMating(plan, own, 'from', () => false)).toBeNull()
  })
  it('a free port has the same connector, and the fuse nearest to the old one', () => {
    const proposal = moveToFreePort(plan, own, 'from')!
    expect(proposal.label).toBe('Move lead l1 to the free port p3 of Block')
    expect(leadOf(after(plan, proposal)).from).toBe('blk.p3')
    expect(moveToFreePort(plan, leadOf(plan, 'm'), 'from')).toBeNull()
  })
  it('an adapter stands between a lead and its terminal, with a pigtail of 0.1 m', () => {
    const lone = smallPlan({
      parts: [battery(), radio({ terminal: 'stack-30' })],
      leads: [lead({ ends: { to: { connector: 'barrel-5521', method: 'crimp' } } })],
    })
    const [way] = waysToJoin('barrel-5521', 'stack-30', 3, [])
    const mended = after(lone, addAdapter(lone, leadOf(lone), 'to', way!))
    const adapter = mended.parts.find(p => p.kind === 'adapter') as unknown as { id: string; ratedA?: number }
    // No more than the weaker of its two connectors bears.
    const { a, b } = way!.steps[0]!
    const bears = [a, b].map(id => connector(id).ratedA).filter(r => r !== null)
    expect(adapter.ratedA).toBe(Math.min(...bears))
    expect(adapter.ratedA).toBeLessThan(100)
    expect(mended.leads.map(l => [l.from, l.to])).toEqual([
      ['bat', `${adapter.id}.a`],
      [`${adapter.id}.b`, 'hf'],
    ])
    expect(mended.leads[1]!.lengthM).toBe(0.1)
    expect(mended.leads[1]!.ends!.to!.connector).toBe(way!.steps[0]!.b)
  })
})
