import type { Device } from '../graph/device'
import { graphOf } from '../graph/graph'
import { leadById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { setItem, type LeadEnd } from './items'
import type { Patch } from './patch'
import { setField } from './set'

/** How a family is put on a conductor. */
const methodFor = (connectorId: string) => (connectorId === 'pair-60' ? ('solder' as const) : ('crimp' as const))

/** An end with a connector, put on as that family is. */
export const freshEnd = (connectorId: string) => ({ connector: connectorId, method: methodFor(connectorId) })

/** Another connector on a lead's end; how it was put on stays, where that is not a screw. */
export function fitEnd(plan: Plan, lead: Lead, end: LeadEnd, connectorId: string): Patch {
  const before = lead.ends?.[end]
  const keeps = before?.method && before.method !== 'screw' && connectorId !== 'pair-60'
  return setField(plan, lead.id, `ends.${end}`, {
    connector: connectorId,
    method: keeps ? before.method : methodFor(connectorId),
  })
}

/** A lead's end on another terminal. */
export const landEnd = (plan: Plan, lead: Lead, end: LeadEnd, terminal: string): Patch =>
  setField(plan, lead.id, end, terminal)

/** Another connector on a terminal; null where it is part of a device and cannot be changed. */
export function setTerminalConnector(plan: Plan, terminal: string, connectorId: string): Patch | null {
  const field = graphOf(plan).terminals.get(terminal)?.fields?.connector
  return field === undefined ? null : setField(plan, partIdOf(terminal), field, connectorId)
}

/** A figure of a fuse or breaker where it sits; null where the plan cannot say it there. */
export function setDevice(
  plan: Plan,
  device: Device,
  field: 'ratedA' | 'type' | 'breakingA',
  value: unknown,
): Patch | null {
  if (device.item !== null) return setItem(plan, leadById(plan, device.place)!.id, device.item, { [field]: value })
  const opener = graphOf(plan).terminals.get(device.place)?.fields?.opener
  if (opener === undefined || (opener === '' && field === 'type')) return null
  return setField(plan, partIdOf(device.place), [opener, field].filter(Boolean).join('.'), value)
}
