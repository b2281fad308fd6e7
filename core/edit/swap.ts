import { kindOf } from '../kinds/index'
import { leadsOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { exitOf, onto, partFromCatalogue } from '../plan/starter'
import { difference, tryPatch, type Patch } from './patch'
import { setField } from './set'

/**
 * Another part of the catalogue in the place of one, under its id: its leads land on it with what goes onto its
 * terminal. Null where a lead of it would have nowhere to land.
 */
export function swapPart(plan: Plan, partId: string, rowId: string): Patch | null {
  const added = partFromCatalogue(rowId, partId)
  const before = partById(plan, partId)
  if (!added || !before) return null
  const terminals = kindOf(added).terminals(added, [])
  if (!terminals.length) return null
  const isThere = (terminal: string) => terminals.some(t => t.id === terminal)
  const landing = (terminal: string) => (isThere(terminal) ? terminal : exitOf(added))
  const next = tryPatch(plan, [
    {
      op: 'replace',
      path: `/parts/${plan.parts.indexOf(before)}`,
      value: before.zone ? { ...added, zone: before.zone } : added,
    },
  ])!
  const landed = (lead: Lead) =>
    (['from', 'to'] as const)
      .filter(end => partIdOf(lead[end]) === partId)
      .flatMap(end => [
        ...setField(next, lead.id, end, landing(lead[end])),
        ...setField(next, lead.id, `ends.${end}`, { connector: onto(landing(lead[end]), added), method: 'crimp' }),
      ])
  const whole = tryPatch(next, leadsOf(next, partId).flatMap(landed))
  return whole && difference(plan, whole)
}
