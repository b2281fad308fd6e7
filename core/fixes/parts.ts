import { connector, STRONGER_CONNECTORS } from '../catalog/connectors'
import { freePortsOf } from '../edit/add'
import { fitEnd, landEnd, setTerminalConnector } from '../edit/ends'
import type { LeadEnd } from '../edit/items'
import { replacePart } from '../edit/set'
import { graphOf } from '../graph/graph'
import { kindOf } from '../kinds/index'
import { nameOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Proposal } from './proposal'

/** What stays when a part is replaced by another of its kind. */
const KEPT = ['id', 'name', 'zone', 'note', 'terminal', 'outlets', 'charged']

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
  const kept = Object.fromEntries(Object.entries(part).filter(([key]) => KEPT.includes(key)))
  return { label: `${row.label} in its place`, patch: replacePart(plan, partId, { ...rest, ...kept }) }
}

/** Another connector on a lead's end. */
export function changeEnd(plan: Plan, lead: Lead, end: LeadEnd, connectorId: string): Proposal {
  return {
    label: `${connector(connectorId).label} on the ${lead[end]} end of ${lead.name ?? lead.id}`,
    patch: fitEnd(plan, lead, end, connectorId),
  }
}

/** Another connector on a terminal of a block or joint; null where the terminal is part of a device. */
export function changeTerminal(plan: Plan, terminal: string, connectorId: string): Proposal | null {
  const patch = setTerminalConnector(plan, terminal, connectorId)
  return patch && { label: `${connector(connectorId).label} at ${terminal}`, patch }
}

/**
 * A stronger family on both sides of one mating, small to large, that passes; the lead's side alone where the terminal
 * is fixed.
 */
export function strongerMating(
  plan: Plan,
  lead: Lead,
  end: LeadEnd,
  passes: (connectorId: string) => boolean,
): Proposal | null {
  const choice = STRONGER_CONNECTORS.find(passes)
  const terminal = choice === undefined ? null : setTerminalConnector(plan, lead[end], choice)
  if (choice === undefined || terminal === null) return null
  return {
    label: `${connector(choice).label} at ${lead[end]}, both sides`,
    patch: [...fitEnd(plan, lead, end, choice), ...terminal],
  }
}

/** A free port of the same block with the same connector, its fuse the nearest to that of the port now used. */
export function moveToFreePort(plan: Plan, lead: Lead, end: LeadEnd): Proposal | null {
  const part = partById(plan, partIdOf(lead[end]))!
  const { terminals } = graphOf(plan)
  const now = terminals.get(lead[end])
  const fuseA = (terminal: string) => terminals.get(terminal)?.opener?.ratedA ?? 0
  const apart = (terminal: string) => Math.abs(fuseA(terminal) - fuseA(lead[end]))
  const free = freePortsOf(plan, part)
    .filter(t => terminals.get(t)?.connector === now?.connector)
    .sort((a, b) => apart(a) - apart(b))[0]
  if (free === undefined) return null
  return {
    label: `Move ${lead.name ?? lead.id} to the free port ${free.slice(part.id.length + 1)} of ${nameOf(part)}`,
    patch: landEnd(plan, lead, end, free),
  }
}
