import { connector, STRONGER_CONNECTORS } from '../catalog/connectors'
import { mate } from '../connector/mate'
import { counterpart } from '../edit/add'
import { freePortsOf } from '../graph/free'
import { fitEnd, landEnd, setTerminalConnector } from '../edit/ends'
import type { LeadEnd } from '../edit/items'
import { replacePart, setField } from '../edit/set'
import { graphOf } from '../graph/graph'
import { asKind, kindOf, type Part } from '../kinds/index'
import type { Terminal } from '../kinds/kind'
import { leadName, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Proposal } from './proposal'
import { partName, terminalName } from '../plan/names'
import { anA, capital } from '../units/words'
import { asGiven } from '../units/number'

/** What stays when a part is replaced by another of its kind. */
const KEPT = ['id', 'name', 'zone', 'note', 'terminal', 'outlets', 'charged']

/** The catalogue's next larger part of the same kind that passes, keeping its id, the name it was given, its place. */
export function largerPart(
  plan: Plan,
  partId: string,
  passes: (candidate: Record<string, unknown>) => boolean,
): Proposal | null {
  const part = partById(plan, partId)!
  const row = kindOf(part).catalogue.find(r => passes(r.part as Record<string, unknown>))
  if (!row) return null
  const { name, terminal, ...rest } = row.part as Record<string, unknown> & { terminal?: string }
  const kept = Object.fromEntries(Object.entries(part).filter(([key]) => KEPT.includes(key)))
  // The catalogue's own name says the size of what was there; a name that somebody gave stays.
  if (part.name !== undefined && kindOf(part).catalogue.some(r => r.part.name === part.name)) kept.name = name
  // What lands on the smaller one's terminal and goes onto the larger one's as well gets the larger one's.
  if (terminal !== undefined && landOn(plan, partId, terminal)) kept.terminal = terminal
  return { label: `${row.label} in its place`, patch: replacePart(plan, partId, { ...rest, ...kept }) }
}

/** Whether every lead of a part's one terminal goes onto another connector there. */
const landOn = (plan: Plan, partId: string, terminal: string): boolean =>
  plan.leads.every(lead =>
    (['from', 'to'] as const).every(end => {
      const fitted = lead.ends?.[end]
      return lead[end] !== partId || (fitted !== undefined && mate(fitted, { connector: terminal }).mates)
    }),
  )

/** Another connector on a lead's end. */
export function changeEnd(plan: Plan, lead: Lead, end: LeadEnd, connectorId: string): Proposal {
  return {
    label: `${connector(connectorId).label} on ${leadName(lead)} at ${terminalName(plan, lead[end])}`,
    patch: fitEnd(plan, lead, end, connectorId),
  }
}

/** Another connector on a terminal of a block or joint; null where the terminal is part of a device. */
export function changeTerminal(plan: Plan, terminal: string, connectorId: string): Proposal | null {
  const patch = setTerminalConnector(plan, terminal, connectorId)
  return patch && { label: `${connector(connectorId).label} at ${terminalName(plan, terminal)}`, patch }
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
    label: `${connector(choice).label} at ${terminalName(plan, lead[end])}, both sides`,
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
  const port = free.slice(part.id.length + 1)
  return {
    label: `Move ${leadName(lead)} to the free port ${port} of ${partName(plan, part.id)}`,
    patch: landEnd(plan, lead, end, free),
  }
}

/** Another free terminal of the same part that gives the current, with the end made to fit it. */
export function moveToTerminal(plan: Plan, lead: Lead, end: LeadEnd, amps: number): Proposal | null {
  const graph = graphOf(plan)
  const partId = partIdOf(lead[end])
  const gives = (t: Terminal) => {
    const ratings = [t.ratedA, t.connector === undefined ? null : connector(t.connector).ratedA]
    return t.id !== lead[end] && !graph.leadsAt(t.id).length && ratings.every(r => (r ?? Infinity) >= amps)
  }
  const other = graph.terminalsOf(partId).find(gives)
  if (!other) return null
  const fitted = other.connector === undefined ? [] : fitEnd(plan, lead, end, counterpart(other.connector))
  return {
    label: `Move ${leadName(lead)} to ${terminalName(plan, other.id)}`,
    patch: [...landEnd(plan, lead, end, other.id), ...fitted],
  }
}

/** What two parts of one kind have in common besides their size, where they say it: they do the same job. */
const SAME_JOB = [
  'topology',
  'outV',
  'setV',
  'requestV',
  'chemistry',
  'seriesCells',
  'type',
  'a',
  'b',
  'dropper',
] as const
const jobOf = (part: Readonly<Record<string, unknown>>) => JSON.stringify(SAME_JOB.map(field => part[field] ?? null))

/** What converters are sold to give, A (typical of the class). */
const CONVERTERS_A = [5, 10, 15, 20, 25, 30, 40, 60] as const

/**
 * The catalogue's next part that does the same job and gives the current at a terminal; else a converter like it of the
 * next size.
 */
export function withLargerPort(plan: Plan, part: Part, terminal: string, amps: number): Proposal | null {
  const job = jobOf(part as unknown as Record<string, unknown>)
  const nextA = CONVERTERS_A.find(a => a >= amps)
  const scaled =
    asKind(part, 'converter') && nextA !== undefined
      ? {
          label: capital(anA(`${kindOf(part).label} of ${asGiven(nextA)} A in place of ${partName(plan, part.id)}`)),
          patch: setField(plan, part.id, 'maxOutA', nextA),
        }
      : null
  const row = largerPart(plan, part.id, candidate => {
    const as = { ...candidate, id: part.id } as unknown as Part
    const port = kindOf(as)
      .terminals(as, graphOf(plan).landings)
      .find(t => t.id === `${part.id}.${terminal}`)
    return jobOf(candidate) === job && port?.ratedA !== undefined && port.ratedA >= amps
  })
  return row ?? scaled
}
