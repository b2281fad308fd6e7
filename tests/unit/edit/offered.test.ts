import { describe, expect, it } from 'vitest'
import { moveInto } from '../../../core/edit/between'
import { branchOf, pasteBranch } from '../../../core/edit/branch'
import { setLength } from '../../../core/edit/items'
import { feedsFor, join, landingsFor } from '../../../core/edit/join'
import { leadsAlike, setConductors } from '../../../core/edit/lead'
import { applyEdit, type Patch } from '../../../core/edit/patch'
import { takeOut, takeOutOnto, takersFor } from '../../../core/edit/takeOut'
import { swapPart } from '../../../core/edit/swap'
import { kindOf } from '../../../core/kinds/index'
import { writePlan } from '../../../core/plan/faults'
import { partIdOf } from '../../../core/plan/find'
import type { Plan } from '../../../core/plan/schema'
import { demoPlan, DEMOS } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

/** Every edit that a screen offers is one that the plan takes, and that can be taken back to the byte. */

interface Offered {
  what: string
  on: Plan
  patch: Patch | null
}

function* offeredOn(plan: Plan): Generator<Offered> {
  const bench = demoPlan('clean-bench')
  for (const { id } of [...plan.parts, ...plan.leads])
    yield { what: `take ${id} out`, on: plan, patch: takeOut(plan, id) }
  for (const part of plan.parts) {
    const { id } = part
    for (const to of takersFor(plan, id))
      yield { what: `take ${id} out onto ${to}`, on: plan, patch: takeOutOnto(plan, id, to) }
    for (const lead of plan.leads) yield { what: `${id} into ${lead.id}`, on: plan, patch: moveInto(plan, id, lead.id) }
    for (const terminal of feedsFor(plan, id).slice(0, 4))
      yield { what: `feed ${id} from ${terminal}`, on: plan, patch: join(plan, { partId: id }, terminal) }
    for (const row of kindOf(part).catalogue)
      yield { what: `${row.id} for ${id}`, on: plan, patch: swapPart(plan, id, row.id) }
    for (const on of [bench, plan])
      yield { what: `copy ${id} to ${on.name}`, on, patch: pasteBranch(on, branchOf(plan, [id])) }
  }
  for (const lead of plan.leads) {
    for (const end of ['from', 'to'] as const)
      for (const terminal of landingsFor(plan, { lead, end }).slice(0, 5))
        yield { what: `${lead.id} ${end} ${terminal}`, on: plan, patch: join(plan, { lead, end }, terminal) }
    yield { what: `${lead.id} alike`, on: plan, patch: setConductors(plan, leadsAlike(plan, lead), { mm2: 4 }) }
    yield { what: `${lead.id} shorter`, on: plan, patch: setLength(plan, lead, 0.3) }
  }
}

const random = [1009, 1014, 1016, 1021, 1024].map(seed => [`random ${seed}`, randomPlan(seed)!] as const)
const plans = [...DEMOS.map(name => [name, demoPlan(name)] as const), ...random].filter(([, plan]) => plan)

describe('edits that are offered', () => {
  it.each(plans)('on %s are taken, keep every lead landed and every item within its lead, and go back', (_, plan) => {
    let taken = 0
    for (const { what, on, patch } of offeredOn(plan)) {
      if (!patch?.length) continue
      taken++
      const before = writePlan(on)
      const edit = applyEdit(on, patch)
      expect(edit.ok ? [] : edit.faults, what).toEqual([])
      if (!edit.ok) continue
      const ids = new Set(edit.plan.parts.map(p => p.id))
      for (const lead of edit.plan.leads) {
        expect([lead.from, lead.to].every(t => ids.has(partIdOf(t)))).toBe(true)
        for (const item of lead.inline ?? []) expect(item.atM ?? 0, what).toBeLessThanOrEqual(lead.lengthM + 1e-9)
      }
      const back = applyEdit(edit.plan, edit.undo)
      expect(back.ok && writePlan(back.plan), what).toBe(before)
    }
    expect(taken).toBeGreaterThan(5)
  })
})
