import { expect, it } from 'vitest'
import { tryPatch } from '../../../core/edit/patch'
import { moveToFreePort, moveToTerminal } from '../../../core/fixes/parts'
import { regulators } from '../../../core/fixes/regulators'
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
