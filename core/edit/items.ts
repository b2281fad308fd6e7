import { fedEnd } from '../graph/fed'
import type { Inline } from '../kinds/inline'
import { leadById } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Patch } from './patch'
import { appendTo, setField, setFields } from './set'
import { rounded } from '../units/number'

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
  return rounded(atM, 3)
}

/** First letter of the ids that items of a kind get. */
const STEM: Record<Inline['kind'], string> = {
  fuse: 'f',
  breaker: 'b',
  switch: 's',
  dropper: 'd',
  meter: 'm',
  choke: 'c',
}

/** Puts an item into a lead, `fromEndM` away from one of its ends; unsaid: from the one that is fed. */
export function addItem(
  plan: Plan,
  leadId: string,
  item: NewItem,
  { end, fromEndM = FROM_END_M }: { end?: LeadEnd; fromEndM?: number } = {},
): Patch {
  const lead = leadById(plan, leadId)!
  const value = {
    id: freeItemId(lead, STEM[item.kind]),
    ...item,
    atM: placeFrom(lead, end ?? fedEnd(plan, lead), fromEndM),
  }
  return appendTo(plan, leadId, 'inline', value)
}

/** Puts an item in as one does by hand: near the end that is fed, a diode so that it passes what comes from there. */
export function putItem(plan: Plan, leadId: string, item: NewItem, fromEndM: number): Patch {
  const end = fedEnd(plan, leadById(plan, leadId)!)
  const faced =
    item.kind === 'dropper' ? { ...item, stripe: end === 'from' ? ('to' as const) : ('from' as const) } : item
  return addItem(plan, leadId, faced, { end, fromEndM })
}

/** Fields of an item in a lead; undefined takes one out. */
export function setItem(plan: Plan, leadId: string, itemId: string, fields: Readonly<Record<string, unknown>>): Patch {
  const index = leadById(plan, leadId)!.inline!.findIndex(i => i.id === itemId)
  const entries = Object.entries(fields).map(([field, value]) => [`inline.${index}.${field}`, value])
  return setFields(plan, leadId, Object.fromEntries(entries))
}

/** A lead of another length; what would lie beyond its end moves to it. */
export function setLength(plan: Plan, lead: Lead, lengthM: number): Patch {
  const beyond = (lead.inline ?? []).filter(i => i.atM !== undefined && i.atM > lengthM)
  return [
    ...beyond.flatMap(i => setItem(plan, lead.id, i.id, { atM: lengthM })),
    ...setField(plan, lead.id, 'lengthM', lengthM),
  ]
}
