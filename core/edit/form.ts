import type { FormField, FormList } from '../kinds/kind'
import { kindOf } from '../kinds/index'
import { partById, partIdOf, valueAt } from '../plan/find'
import type { Plan } from '../plan/schema'
import type { Patch } from './patch'
import { addPort } from './ports'
import { setByHand, setField } from './set'

/** What a line of a form makes of the plan. */

/** The part or lead that a form is of; `under` is where the entry of a list stands in it, as `ports.0.`. */
export interface Subject {
  id: string
  under?: string
}

/** Sets a field as a form's line enters it; undefined takes it out, with the object it is required in. */
export function enter(plan: Plan, { id, under = '' }: Subject, field: FormField, value: unknown): Patch {
  const path = under + field.path
  if (field.within) {
    const whole = under + field.within.path
    if (value === undefined) return setField(plan, id, whole, undefined)
    if (valueAt(itemOf(plan, id), whole) === undefined) return setField(plan, id, whole, field.within.fresh(value))
  }
  if (isPortName(plan, id, path)) return renamePort(plan, id, path, value)
  return setByHand(plan, id, path, value)
}

/** One entry more in a list; under a key where it has keys. */
export function addEntry(plan: Plan, id: string, list: FormList, key?: string): Patch {
  const item = itemOf(plan, id) as Record<string, unknown>
  const known = valueAt(item, list.path)
  if (list.keyed) {
    const entries = (known ?? {}) as Record<string, unknown>
    return key === undefined ? [] : setField(plan, id, list.path, { ...entries, [key]: list.fresh(item) })
  }
  const part = partById(plan, id)
  if (part && kindOf(part).ports?.distributes && kindOf(part).ports?.field === list.path) return addPort(plan, id)
  const entries = Array.isArray(known) ? (known as unknown[]) : []
  const added = entries.length || !list.begins ? [list.fresh(item)] : list.begins
  return setField(plan, id, list.path, [...entries, ...added])
}

/** Takes an entry out: the list with it where it was the last, or where fewer than it begins with would be left. */
export function removeEntry(plan: Plan, id: string, list: FormList, at: string | number): Patch {
  const known = valueAt(itemOf(plan, id), list.path)
  if (list.keyed) {
    const { [at]: _gone, ...left } = (known ?? {}) as Record<string, unknown>
    return setField(plan, id, list.path, Object.keys(left).length ? left : undefined)
  }
  const left = (known as unknown[]).filter((_, i) => i !== at)
  return setField(plan, id, list.path, left.length >= (list.begins?.length ?? 1) ? left : undefined)
}

/** Sets a field of a keyed entry: its key may hold points, so that the whole list is written. */
export function enterKeyed(plan: Plan, { id, key }: Subject & { key: string }, entry: KeyedField, value: unknown) {
  const { list, field } = entry
  const entries = valueAt(itemOf(plan, id), list.path) as Record<string, Record<string, unknown>>
  const { [field]: _before, ...others } = entries[key]!
  const now = value === undefined ? others : { ...others, [field]: value }
  return setField(plan, id, list.path, { ...entries, [key]: now })
}

/** A field of an entry of a list with keys. */
interface KeyedField {
  list: FormList
  field: string
}

const itemOf = (plan: Plan, id: string) => partById(plan, id) ?? plan.leads.find(l => l.id === id)

/** Whether a path is the id of one of a part's own terminals, by which leads name it. */
function isPortName(plan: Plan, id: string, path: string): boolean {
  const part = partById(plan, id)
  const field = part && kindOf(part).ports?.field
  return field !== undefined && new RegExp(`^${field}\\.\\d+\\.id$`).test(path)
}

/** Gives a port another name, and with it the ends of the leads that land on it. */
function renamePort(plan: Plan, id: string, path: string, name: unknown): Patch {
  const before = `${id}.${String(valueAt(partById(plan, id), path))}`
  const ends = plan.leads.flatMap(l =>
    (['from', 'to'] as const)
      .filter(end => l[end] === before && partIdOf(l[end]) === id)
      .flatMap(end => setField(plan, l.id, end, `${id}.${String(name)}`)),
  )
  return [...setField(plan, id, path, name), ...ends]
}
