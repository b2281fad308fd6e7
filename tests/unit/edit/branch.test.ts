import { describe, expect, it } from 'vitest'
import { branchOf, pasteBranch } from '../../../core/edit/branch'
import { feedOf, feedsFor, join, landingsFor } from '../../../core/edit/join'
import { applyEdit, type Patch } from '../../../core/edit/patch'
import { readPlan } from '../../../core/plan/faults'
import { leadById, leadsOf, partById } from '../../../core/plan/find'
import type { Plan } from '../../../core/plan/schema'
import { DEMOS, demoPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

function edited(plan: Plan, patch: Patch): Plan {
  const result = applyEdit(plan, patch)
  if (!result.ok) throw new Error(result.faults.map(f => `${f.path} ${f.wrong}`).join())
  return result.plan
}
const tern = demoPlan('tern-rock-light')
const bench = demoPlan('clean-bench')

describe('a branch', () => {
  it('is what only the chosen part feeds, with the leads among it', () => {
    const block = tern.parts.find(p => p.kind === 'block')!
    const { parts, leads, feeds } = branchOf(tern, [block.id])
    expect(parts.map(p => p.id)).toContain(block.id)
    expect(parts.map(p => p.id)).toContain('hf')
    expect(parts.some(p => p.kind === 'battery')).toBe(false)
    for (const lead of leads) expect(parts.some(p => lead.to === p.id || lead.to.startsWith(`${p.id}.`))).toBe(true)
    expect(feeds).toHaveLength(1)
  })
  it('of one radio is the radio and its feeding lead', () => {
    const { parts, leads, feeds } = branchOf(tern, ['hf'])
    expect([parts.map(p => p.id), leads, feeds.map(f => f.lead.to)]).toEqual([['hf'], [], ['hf']])
  })
  it('put into another station is a plan still, with every part and no id twice', () => {
    for (const demo of DEMOS)
      for (const part of demoPlan(demo).parts) {
        const branch = branchOf(demoPlan(demo), [part.id])
        const next = edited(bench, pasteBranch(bench, branch))
        expect(next.parts).toHaveLength(bench.parts.length + branch.parts.length)
        const ids = [...next.parts, ...next.leads].map(x => x.id)
        expect(new Set(ids).size).toBe(ids.length)
      }
  })
  it('is put into its own station as well, twice', () => {
    const branch = branchOf(tern, ['hf'])
    const once = edited(tern, pasteBranch(tern, branch))
    const twice = edited(once, pasteBranch(once, branch))
    expect(twice.parts.filter(p => p.kind === 'radio')).toHaveLength(
      tern.parts.filter(p => p.kind === 'radio').length + 2,
    )
  })
  it('lands on a free port, where the fuse then fits it', () => {
    const free = {
      ...bench,
      parts: bench.parts.map(p =>
        p.kind === 'block'
          ? { ...p, ports: [...p.ports, { id: 'free', fuse: { type: 'blade', ratedA: 1 }, connector: 'stack-45' }] }
          : p,
      ),
    } as Plan
    const next = edited(free, pasteBranch(free, branchOf(tern, ['hf'])))
    const radio = next.parts.at(-1)!
    expect(leadsOf(next, radio.id)).toHaveLength(1)
    expect(feedOf(next, radio.id)!.lead.from).toMatch(/^\w+\.\w+$/)
  })
  it('of random plans, into random plans, makes plans', () => {
    for (let seed = 1; seed < 40; seed++) {
      const [from, to] = [randomPlan(seed), randomPlan(seed + 100)]
      if (!from || !to) continue
      const result = applyEdit(to, pasteBranch(to, branchOf(from, [from.parts[seed % from.parts.length]!.id])))
      expect(result.ok ? [] : result.faults).toEqual([])
      if (result.ok) expect(readPlan(result.plan).ok).toBe(true)
    }
  })
})

describe('joining', () => {
  it('moves a load to every port that is offered, and feeds one that nothing feeds', () => {
    const hf = feedOf(tern, 'hf')!
    const offered = landingsFor(tern, hf)
    expect(offered.length).toBeGreaterThan(1)
    for (const terminal of offered) {
      const next = edited(tern, join(tern, { partId: 'hf' }, terminal))
      const { from, to } = leadById(next, hf.lead.id)!
      expect([from, to]).toContain(terminal)
    }
    const alone = { ...tern, leads: tern.leads.filter(l => l.id !== hf.lead.id) }
    const [port] = feedsFor(alone, 'hf')
    const fed = edited(alone, join(alone, { partId: 'hf' }, port!))
    expect(feedOf(fed, 'hf')!.lead.from).toBe(port)
  })
  it('never offers the terminal it is on, its own part, or one that is taken', () => {
    for (const demo of DEMOS) {
      const plan = demoPlan(demo)
      for (const lead of plan.leads)
        for (const end of ['from', 'to'] as const)
          for (const terminal of landingsFor(plan, { lead, end })) {
            expect(terminal).not.toBe(lead[end])
            edited(plan, join(plan, { lead, end }, terminal))
          }
    }
    expect(partById(tern, 'hf')).toBeDefined()
  })
})
