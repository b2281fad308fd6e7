import { inTurn, type Patch } from '../edit/patch'
import { asKind, partsOf, type Part } from '../kinds/index'
import { partById, partIdOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { studyOf } from '../study/study'
import { addRegulator } from './converter'

/** A regulator before every radio that has none. */
export const regulators = (plan: Plan): Patch =>
  inTurn(plan, ...partsOf(plan.parts, 'radio').map(radio => (now: Plan) => regulatorFor(now, radio)))

function regulatorFor(plan: Plan, radio: Part): Patch {
  const lead = plan.leads.find(l => l.from === radio.id || l.to === radio.id)
  if (!lead) return []
  const end = lead.to === radio.id ? 'to' : 'from'
  const fedBy = partById(plan, partIdOf(lead[end === 'to' ? 'from' : 'to']))
  if (asKind(fedBy, 'converter')) return []
  const activeA = studyOf(plan).partAmps(radio).value
  return addRegulator(plan, { lead, end, load: radio, activeA, passes: () => true })?.patch ?? []
}
