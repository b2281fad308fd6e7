import type { Inline } from '../kinds/inline'
import { leadById } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Patch } from './patch'
import { appendTo, setField } from './set'

export type LeadEnd = 'from' | 'to'

/** Without an id and a place: both are found for it. */
type NewItem = { [K in Inline['kind']]: Omit<Extract<Inline, { kind: K }>, 'id' | 'atM'> }[Inline['kind']]

/** Usual distance of a new item from the end it is put at, m: past the connector's boot. */
const FROM_END_M = 0.12

/** An id not yet taken in a lead: f1, f2 … */
export function freeItemId(lead: Lead, stem: string): string {
  const taken = new Set(lead.inline?.map(i => i.id))
  let n = 1
  while (taken.has(`${stem}${n}`)) n++
  return `${stem}${n}`
}

/** Metres from a lead's from end of a point `fromEndM` away from one of its ends, within the lead. */
export function placeFrom(lead: Lead, end: LeadEnd, fromEndM: number): number {
  const atM = end === 'from' ? Math.min(fromEndM, lead.lengthM) : Math.max(0, lead.lengthM - fromEndM)
  return Number(atM.toFixed(3))
}

/** Puts an item into a lead, `fromEndM` away from one of its ends. */
export function addItem(
  plan: Plan,
  leadId: string,
  stem: string,
  item: NewItem,
  { end = 'from', fromEndM = FROM_END_M }: { end?: LeadEnd; fromEndM?: number } = {},
): Patch {
  const lead = leadById(plan, leadId)!
  const value = { id: freeItemId(lead, stem), ...item, atM: placeFrom(lead, end, fromEndM) }
  return appendTo(plan, leadId, 'inline', value)
}

/** One field of an item in a lead; undefined takes it out. */
export function setItem(plan: Plan, leadId: string, itemId: string, field: string, value: unknown): Patch {
  const index = leadById(plan, leadId)!.inline!.findIndex(i => i.id === itemId)
  return setField(plan, leadId, `inline.${index}.${field}`, value)
}

/** A lead of another length; what would lie beyond its end moves to it. */
export function setLength(plan: Plan, lead: Lead, lengthM: number): Patch {
  const beyond = (lead.inline ?? []).filter(i => i.atM !== undefined && i.atM > lengthM)
  return [
    ...beyond.flatMap(i => setItem(plan, lead.id, i.id, 'atM', lengthM)),
    ...setField(plan, lead.id, 'lengthM', lengthM),
  ]
}
