import { leadById, leadName, nameOf, partById } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Plan } from '../plan/schema'
import type { Finding } from './verdict'

/** From so many findings of one check on they are told as one, with their places. */
const MANY = 4

/** Findings that are alike: one of them is told, the others are a place each. */
export interface FindingGroup {
  key: string
  findings: Finding[]
}

/** Findings in their order, those of one check and one severity together where they are many. */
export function groupFindings(findings: readonly Finding[]): FindingGroup[] {
  const kindOfFinding = (f: Finding) => `${f.severity}/${f.check}`
  const alike = new Map<string, Finding[]>()
  for (const f of findings) {
    const same = alike.get(kindOfFinding(f))
    if (same) same.push(f)
    else alike.set(kindOfFinding(f), [f])
  }
  return [...alike].flatMap(([key, same]) =>
    same.length >= MANY ? [{ key, findings: same }] : same.map(f => ({ key: f.key, findings: [f] })),
  )
}

/** A place of a finding as the operator calls it: a part, a lead, what is in it, or one of its ends. */
export function placeName(plan: Plan, place: string): string {
  const [id = place] = place.split('.')
  if (partById(plan, id)) return terminalName(plan, place)
  const lead = leadById(plan, id)
  if (lead) return leadName(lead)
  const holder = plan.leads.find(l => l.inline?.some(i => i.id === id))
  const item = holder?.inline?.find(i => i.id === id)
  return item && holder ? `${nameOf(item)} in ${leadName(holder)}` : place
}
