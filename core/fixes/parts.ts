import { connector, STRONGER_CONNECTORS } from '../catalog/connectors'
import { kindOf } from '../kinds/index'
import type { Patch } from '../plan/edit'
import { nameOf, partById, partIdOf, pathOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Proposal } from './proposal'

/** The catalogue's next larger part of the same kind that passes, keeping its id, name and connector. */
export function largerPart(
  plan: Plan,
  partId: string,
  passes: (candidate: Record<string, unknown>) => boolean,
): Proposal | null {
  const part = partById(plan, partId)!
  const row = kindOf(part).catalogue.find(r => passes(r.part as Record<string, unknown>))
  if (!row) return null
  const { name: _name, terminal: _terminal, ...rest } = row.part as Record<string, unknown>
  const kept = Object.fromEntries(
    Object.entries(part).filter(([key]) =>
      ['id', 'name', 'zone', 'note', 'terminal', 'outlets', 'charged'].includes(key),
    ),
  )
  return {
    label: `${row.label} in its place`,
    patch: [{ op: 'replace', path: pathOf(plan, partId), value: { ...rest, ...kept } }],
  }
}

/** JSON Pointer to the connector of a terminal, and whether it can be changed: a radio's inlet cannot. */
function terminalConnectorPath(plan: Plan, terminal: string): string | null {
  const part = partById(plan, partIdOf(terminal))!
  const path = pathOf(plan, part.id)
  if (part.kind === 'joint') return `${path}/connector`
  if (part.kind !== 'block') return null
  if (terminal === `${part.id}.feed`) return `${path}/feed`
  return `${path}/ports/${part.ports.findIndex(p => `${part.id}.${p.id}` === terminal)}/connector`
}

function endPatch(plan: Plan, lead: Lead, end: 'from' | 'to', connectorId: string): Patch {
  const path = `${pathOf(plan, lead.id)}/ends`
  const fitted = lead.ends?.[end]
  const value = { connector: connectorId, method: connectorId === 'pair-60' ? 'solder' : 'crimp' }
  if (fitted)
    return [
      {
        op: 'replace',
        path: `${path}/${end}`,
        value: { ...value, ...(fitted.method && fitted.method !== 'screw' && { method: fitted.method }) },
      },
    ]
  return lead.ends ? [{ op: 'add', path: `${path}/${end}`, value }] : [{ op: 'add', path, value: { [end]: value } }]
}

/** Another connector on a lead's end. */
export function changeEnd(plan: Plan, lead: Lead, end: 'from' | 'to', connectorId: string): Proposal {
  return {
    label: `${connector(connectorId).label} on the ${lead[end]} end of ${lead.name ?? lead.id}`,
    patch: endPatch(plan, lead, end, connectorId),
  }
}

/** Another connector on a terminal of a block or joint; null where the terminal is part of a device. */
export function changeTerminal(plan: Plan, terminal: string, connectorId: string): Proposal | null {
  const path = terminalConnectorPath(plan, terminal)
  return path === null
    ? null
    : { label: `${connector(connectorId).label} at ${terminal}`, patch: [{ op: 'add', path, value: connectorId }] }
}

/** A stronger family on both sides of one mating, small to large, that passes; the lead's side alone where the terminal is fixed. */
export function strongerMating(
  plan: Plan,
  lead: Lead,
  end: 'from' | 'to',
  passes: (connectorId: string) => boolean,
): Proposal | null {
  const path = terminalConnectorPath(plan, lead[end])
  const choice = STRONGER_CONNECTORS.find(passes)
  if (path === null || choice === undefined) return null
  return {
    label: `${connector(choice).label} at ${lead[end]}, both sides`,
    patch: [...endPatch(plan, lead, end, choice), { op: 'add', path, value: choice }],
  }
}

/** A free port of the same block with the same connector. */
export function moveToFreePort(plan: Plan, lead: Lead, end: 'from' | 'to'): Proposal | null {
  const part = partById(plan, partIdOf(lead[end]))!
  if (part.kind !== 'block') return null
  const taken = new Set(plan.leads.flatMap(l => [l.from, l.to]))
  const now = part.ports.find(p => `${part.id}.${p.id}` === lead[end])
  const free = part.ports
    .filter(p => !taken.has(`${part.id}.${p.id}`) && p.connector === now?.connector)
    .sort(
      (a, b) =>
        Math.abs((a.fuse?.ratedA ?? 0) - (now?.fuse?.ratedA ?? 0)) -
        Math.abs((b.fuse?.ratedA ?? 0) - (now?.fuse?.ratedA ?? 0)),
    )[0]
  if (!free) return null
  return {
    label: `Move ${lead.name ?? lead.id} to the free port ${free.id} of ${nameOf(part)}`,
    patch: [{ op: 'replace', path: `${pathOf(plan, lead.id)}/${end}`, value: `${part.id}.${free.id}` }],
  }
}

/** One field of a part set to a value. */
export function setField(plan: Plan, partId: string, field: string, value: unknown, label: string): Proposal {
  return { label, patch: [{ op: 'add', path: `${pathOf(plan, partId)}/${field}`, value }] }
}
