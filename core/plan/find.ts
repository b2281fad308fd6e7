import type { Part } from '../kinds/index'
import type { Lead, Plan } from './schema'

export function partById(plan: Plan, id: string): Part | undefined {
  return plan.parts.find(p => p.id === id)
}

export function leadById(plan: Plan, id: string): Lead | undefined {
  return plan.leads.find(l => l.id === id)
}

/** The part a terminal belongs to: `blk.p1` → `blk`. */
export function partIdOf(terminal: string): string {
  const dot = terminal.indexOf('.')
  return dot < 0 ? terminal : terminal.slice(0, dot)
}

/** Leads that land on a part. */
export function leadsOf(plan: Plan, partId: string): Lead[] {
  return plan.leads.filter(l => partIdOf(l.from) === partId || partIdOf(l.to) === partId)
}

/** Conductors that a lead is made of: there and back, or one where the chassis carries the return. */
export const legsOf = (lead: Lead): 1 | 2 => (lead.return === 'chassis' ? 1 : 2)

/** What to call a part or lead in a sentence. */
export function nameOf(item: { id: string; name?: string }): string {
  return item.name ?? item.id
}

/** What to call a lead in the middle of a sentence: "main lead", "lead l3". */
export function leadName(lead: { id: string; name?: string }): string {
  return lead.name ?? `lead ${lead.id}`
}

/** What stands at a dotted path of an object, as `supply.minV`; undefined where nothing does. */
export const valueAt = (item: unknown, path: string): unknown =>
  path.split('.').reduce<unknown>((v, key) => (v as Record<string, unknown> | undefined)?.[key], item)

/** JSON Pointer of a part or lead, for patches. */
export function pathOf(plan: Plan, id: string): string {
  const part = plan.parts.findIndex(p => p.id === id)
  if (part >= 0) return `/parts/${part}`
  const lead = plan.leads.findIndex(l => l.id === id)
  if (lead >= 0) return `/leads/${lead}`
  throw new Error(`no part or lead ${id}`)
}

/** Longest stem of an id made of a name: room for a number after it. */
const STEM_LETTERS = 36

/** An id made of a name: "Tent, north" → `tent-north`, `unnamed` where nothing is left; numbered where it is taken. */
export function idOfName(name: string, taken: readonly string[], unnamed: string): string {
  const stem =
    name
      .normalize('NFKD')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, STEM_LETTERS) || unnamed
  let id = stem
  for (let n = 2; taken.includes(id); n++) id = `${stem}${n}`
  return id
}

/** An id not yet taken: stem, stem2, stem3 … */
export function freeId(plan: Plan, stem: string): string {
  const taken = new Set([...plan.parts.map(p => p.id), ...plan.leads.map(l => l.id)])
  if (!taken.has(stem)) return stem
  let n = 2
  while (taken.has(`${stem}${n}`)) n++
  return `${stem}${n}`
}

/** Whether a plan has a part, a terminal's part or a lead of this name. */
export const hasPlace = (plan: Plan, id: string): boolean => Boolean(leadById(plan, id) ?? partById(plan, partIdOf(id)))
