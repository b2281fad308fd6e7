import type { Patch } from '../plan/edit'
import { leadById, pathOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'

/** An id not yet taken in a lead: f1, f2 … */
export function freeItemId(lead: Lead, stem: string): string {
  const taken = new Set(lead.inline?.map(i => i.id))
  let n = 1
  while (taken.has(`${stem}${n}`)) n++
  return `${stem}${n}`
}

/** Puts an item into a lead, `fromEndM` away from one of its ends. */
export function addItem(
  plan: Plan,
  leadId: string,
  stem: string,
  item: Record<string, unknown>,
  end: 'from' | 'to' = 'from',
  fromEndM = 0.12,
): Patch {
  const lead = leadById(plan, leadId)!
  const atM = Number(
    (end === 'from' ? Math.min(fromEndM, lead.lengthM) : Math.max(0, lead.lengthM - fromEndM)).toFixed(3),
  )
  const value = { id: freeItemId(lead, stem), ...item, atM }
  const path = `${pathOf(plan, leadId)}/inline`
  return lead.inline ? [{ op: 'add', path: `${path}/-`, value }] : [{ op: 'add', path, value: [value] }]
}

/** Replaces one field of an item in a lead. */
export function setItem(plan: Plan, leadId: string, itemId: string, field: string, value: unknown): Patch {
  const lead = leadById(plan, leadId)!
  return [
    {
      op: 'add',
      path: `${pathOf(plan, leadId)}/inline/${lead.inline!.findIndex(i => i.id === itemId)}/${field}`,
      value,
    },
  ]
}
