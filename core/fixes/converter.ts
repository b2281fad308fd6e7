import type { SolvedPlan } from '../circuit/matrix'
import { identified } from '../edit/add'
import { putBeforeEnd } from '../edit/between'
import type { LeadEnd } from '../edit/items'
import { converter } from '../kinds/converter'
import type { Part } from '../kinds/index'

import { partName } from '../plan/names'
import type { Lead, Plan } from '../plan/schema'
import { solvedAfter } from './conductor'
import type { Proposal } from './proposal'
import { asGiven } from '../units/number'

/** Length of the new lead between a regulator and its load, m. */
const TAIL_M = 0.3

/** What a regulator must do: hold a load that takes so much, at the end of a lead, until the plan passes. */
export interface Regulated {
  lead: Lead
  end: LeadEnd
  load: Part
  activeA: number
  passes: (solved: SolvedPlan) => boolean
}

/**
 * A regulator that holds the load's voltage, put into the end of its lead; the smallest of the catalogue that carries
 * the current and passes.
 */
export function addRegulator(plan: Plan, { lead, end, load, activeA, passes }: Regulated): Proposal | null {
  const holds = (r: (typeof converter.catalogue)[number]) => r.part.topology === 'buck-boost' && !r.part.charges
  const row = converter.catalogue.find(r => holds(r) && r.part.maxOutA >= 1.1 * activeA)
  if (!row || lead.return === 'chassis' || lead.lengthM <= TAIL_M) return null
  const part = identified(plan, row.part, 'reg')
  const patch = putBeforeEnd(plan, lead, {
    end,
    part,
    near: { terminal: `${part.id}.in`, connector: row.part.in! },
    far: { terminal: `${part.id}.out`, connector: row.part.out! },
    tailM: TAIL_M,
    tailName: `lead from the regulator to ${partName(plan, load.id)}`,
  })
  const solved = solvedAfter(plan, patch)
  if (!solved || !passes(solved)) return null
  const cost = `${asGiven(row.part.massG!)} g, 8 % of the energy, a new noise source`
  return { label: `${row.label}, before ${partName(plan, load.id)}`, patch, cost }
}
