import { describe, expect, it } from 'vitest'
import { tryPatch } from '../../../core/edit/patch'
import { swapConductor } from '../../../core/fixes/conductor'
import { addBusbar } from '../../../core/fixes/joints'
import { moveToFreePort, moveToTerminal } from '../../../core/fixes/parts'
import { regulators } from '../../../core/fixes/regulators'
import type { Conductor } from '../../../core/plan/schema'
import { battery, lead, radio, smallPlan } from '../../data/plans'

it('a lead goes to another terminal of its part that gives the current, with the end made to fit it', () => {
  const outlets = [
    { id: 'small', connector: 'barrel-5521', ratedA: 3 },
    { id: 'large', connector: 'stack-45', ratedA: 40 },
  ]
  const { terminal: _one, ...pack } = battery({ outlets })
  const jacked = smallPlan({ parts: [pack, radio()], leads: [lead({ from: 'bat.small', ends: {} })] })
  const [own] = jacked.leads
  const [moved] = tryPatch(jacked, moveToTerminal(jacked, own!, 'from', 10)!.patch)!.leads
  expect([moved!.from, moved!.ends!.from!.connector]).toEqual(['bat.large', 'stack-45'])
  expect(moveToTerminal(jacked, own!, 'from', 41)).toBeNull()
})

it('a lead goes to the free port whose fuse is nearest to that of the port now used', () => {
  const port = (id: string, ratedA: number) => ({ id, fuse: { type: 'blade', ratedA }, connector: 'stack-45' })
  const block = { id: 'blk', kind: 'block', ports: [port('p1', 20), port('p2', 5), port('p3', 15), port('p4', 30)] }
  const ends = { to: { connector: 'stack-45', method: 'crimp' } }
  const plan = smallPlan({
    parts: [battery(), block, radio()],
    leads: [lead({ to: 'blk.feed', ends: {} }), lead({ id: 'l2', from: 'blk.p1', ends, inline: [] })],
  })
  const moved = moveToFreePort(plan, plan.leads[1]!, 'from')!
  expect(moved.label).toContain('free port p3')
  expect(tryPatch(plan, moved.patch)!.leads[1]!.from).toBe('blk.p3')
})

it('a regulator goes before a radio whose lead is told from the radio', () => {
  const turned = { from: 'hf', to: 'bat', ends: { from: { connector: 'stack-45' }, to: { connector: 'ring-m6' } } }
  const plan = smallPlan({ parts: [battery(), radio()], leads: [lead({ ...turned, inline: [] })] })
  const after = tryPatch(plan, regulators(plan))!
  const [added] = after.parts.filter(p => p.kind === 'converter')
  const at = (terminal: string) => after.leads.filter(l => [l.from, l.to].includes(terminal)).map(l => [l.from, l.to])
  expect(at('hf')).toEqual([expect.arrayContaining(['hf', `${added!.id}.out`])])
  expect(at('bat')).toEqual([expect.arrayContaining(['bat', `${added!.id}.in`])])
})

it('a regulator goes before each radio that is fed by none, and before none that is not wired', () => {
  const held = {
    id: 'reg',
    kind: 'converter',
    topology: 'buck-boost',
    input: { minV: 9, maxV: 30 },
    outV: 13.8,
    maxOutA: 30,
    efficiency: 0.92,
  }
  const plan = smallPlan({
    parts: [battery({ outlets: undefined }), held, radio(), radio({ id: 'direct' }), radio({ id: 'loose' })],
    leads: [
      lead({ to: 'reg.in', ends: {} }),
      lead({ id: 'l2', from: 'reg.out', to: 'hf', ends: {}, inline: [] }),
      lead({ id: 'l3', to: 'direct', ends: {} }),
    ],
  })
  const after = tryPatch(plan, regulators(plan))!
  const added = after.parts.filter(p => !plan.parts.some(was => was.id === p.id))
  expect(added.map(p => p.kind)).toEqual(['converter'])
  const feedsDirect = after.leads.find(l => l.to === 'direct')!
  expect(feedsDirect.from).toBe(`${added[0]!.id}.out`)
  expect(after.leads.find(l => l.to === 'hf')!.from).toBe('reg.out')
})

describe('a busbar beside a terminal', () => {
  const conductor = { awg: 10, insulationC: 105 }
  function bar(amps: readonly number[], largestFuseA: (c: Conductor) => number) {
    const parts = amps.map((_, i) => radio({ id: `r${i}` }))
    const leads = amps.map((_, i) => lead({ id: `l${i}`, to: `r${i}`, conductor, inline: [] }))
    const plan = smallPlan({ parts: [battery(), ...parts], leads })
    const moved = plan.leads.map((lead, i) => ({ lead, amps: amps[i]! }))
    const made = addBusbar(plan, { terminal: 'bat', terminalConnector: 'ring-m6', moved, largestFuseA })
    return made && { ...made, leads: tryPatch(plan, made.patch)!.leads }
  }
  /** A size of 3 AWG more carries twice as much: 40 A for 10 AWG. */
  const doubling = ({ awg }: Conductor) => 40 * 2 ** ((10 - Number(awg)) / 3)

  it.each([
    // 1.25 × 32 A is a fuse's own size; a little more needs the next, of the next class.
    [[20, 12], 'blade', 40, 10],
    [[20, 12.1], 'strip', 50, 8],
    [[70, 70], 'strip', 175, 2],
    [[90, 90], 'strip-high', 250, 2],
  ] as const)(
    'for %j A has the least fuse for all of it, and a conductor that this protects',
    (amps, type, ratedA, awg) => {
      const { leads, label } = bar(amps, doubling)!
      const main = leads.at(-1)!
      expect(main.inline).toEqual([expect.objectContaining({ type, ratedA, atM: 0.12, legs: 'positive' })])
      expect(main.conductor.awg).toBe(awg)
      expect([main.from, main.to]).toEqual(['bat', 'bus.a'])
      expect(leads.slice(0, 2).map(l => l.from)).toEqual(['bus.b', 'bus.c'])
      expect(label).toContain(`${ratedA} A fuse`)
    },
  )
  it('is none where no conductor carries its fuse, no fuse is so large, or there are more leads than ways', () => {
    expect(bar([20, 12], () => 30)).toBeNull()
    expect(bar([200, 200], () => 1000)).toBeNull()
    expect(
      bar(
        Array.from({ length: 25 }, () => 1),
        doubling,
      ),
    ).not.toBeNull()
    expect(
      bar(
        Array.from({ length: 26 }, () => 1),
        doubling,
      ),
    ).toBeNull()
  })
})

it('a conductor says what it weighs more or less, both legs', () => {
  const plan = smallPlan()
  const weighs = (awg: number) => swapConductor(plan, plan.leads[0]!, { awg }).cost
  expect(weighs(10)).toBe('+0 g copper')
  // 10 AWG has 5.26 mm² (× 1.02 for its strands), 8 AWG 8.37, 12 AWG 3.31; 8.96 g/cm³, two metres of it.
  expect(weighs(8)).toBe('+56 g copper')
  expect(weighs(12)).toBe('−35 g copper')
})
