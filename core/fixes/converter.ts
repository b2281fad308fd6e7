import type { SolvedPlan } from '../circuit/matrix'
import { converter } from '../kinds/converter'
import { freeId, nameOf, pathOf } from '../plan/find'
import type { Part } from '../kinds/index'
import type { Lead, Plan } from '../plan/schema'
import { solvedAfter } from './conductor'
import type { Proposal } from './proposal'

/** Length of the new lead between a regulator and its load, m. */
const TAIL_M = 0.3

/** A regulator that holds the load's voltage, put into the end of its lead; the smallest of the catalogue that carries the current and passes. */
export function addRegulator(
  plan: Plan,
  lead: Lead,
  loadEnd: 'from' | 'to',
  load: Part,
  activeA: number,
  passes: (solved: SolvedPlan) => boolean,
): Proposal | null {
  const row = converter.catalogue.find(
    r => r.part.topology === 'buck-boost' && !r.part.charges && r.part.maxOutA >= 1.1 * activeA,
  )
  if (!row || lead.return === 'chassis' || lead.lengthM <= TAIL_M) return null
  const id = freeId(plan, 'reg')
  const { in: input, out } = row.part
  const fitted = lead.ends?.[loadEnd]
  const tail: Lead = {
    id: freeId(plan, 'l'),
    name: `lead from the regulator to ${nameOf(load)}`,
    from: `${id}.out`,
    to: lead[loadEnd],
    lengthM: TAIL_M,
    conductor: lead.conductor,
    ends: { from: { connector: out!, method: 'crimp' }, ...(fitted && { to: fitted }) },
  }
  const path = pathOf(plan, lead.id)
  const patch: Proposal['patch'] = [
    { op: 'add', path: '/parts/-', value: { ...row.part, id } },
    { op: 'replace', path: `${path}/${loadEnd}`, value: `${id}.in` },
    lead.ends
      ? { op: 'add', path: `${path}/ends/${loadEnd}`, value: { connector: input, method: 'crimp' } }
      : { op: 'add', path: `${path}/ends`, value: { [loadEnd]: { connector: input, method: 'crimp' } } },
    { op: 'add', path: '/leads/-', value: tail },
  ]
  const solved = solvedAfter(plan, patch)
  return solved && passes(solved)
    ? {
        label: `${row.label}, before ${nameOf(load)}`,
        patch,
        cost: `${row.part.massG} g, 8 % of the energy, a new noise source`,
      }
    : null
}
