import { formOf } from '../kinds/formOf'
import type { FormField } from '../kinds/kind'
import { leadName, partById } from './find'
import { itemForms, leadForm } from './leadForm'
import { partName } from './names'
import type { Plan } from './schema'
import { siteForm } from './siteForm'

/** What a form calls a place: the field that it is, or that it lies in; else the words of the place itself. */
function fieldWords(fields: readonly FormField[], place: readonly string[]): string {
  for (let length = place.length; length > 0; length--) {
    const path = place.slice(0, length).join('.')
    const field = fields.find(f => f.path === path)
    if (field) return field.label
  }
  return place.join(' ')
}

const told = (name: string, field: string) => (field ? `${name}: ${field}` : name)

/**
 * What two windows both changed, in words: "HF lead: Length, one way".
 * @param path of ids, as a merge tells it (core/merge/threeWay.ts): /leads/l2/lengthM
 */
export function clashWords(plan: Plan, path: string): string {
  const [list, id, ...place] = path.split('/').slice(1)
  const part = list === 'parts' && id !== undefined && partById(plan, id)
  if (part) return told(partName(plan, part.id), fieldWords(formOf(part).fields, place))
  const lead = list === 'leads' && plan.leads.find(l => l.id === id)
  if (!lead)
    return (
      fieldWords(
        siteForm,
        [list, id, ...place].filter(p => p !== undefined),
      ) || 'the plan as a whole'
    )
  const item = place[0] === 'inline' && lead.inline?.find(i => i.id === place[1])
  if (!item) return told(leadName(lead), fieldWords(leadForm, place))
  return told(`${leadName(lead)}, its ${item.kind}`, fieldWords(itemForms[item.kind], place.slice(2)))
}
