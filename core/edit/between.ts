import { conductorMm2 } from '../conductor/resistance'
import { fedEnd } from '../graph/fed'
import { kindOf, type Part } from '../kinds/index'
import type { Inline } from '../kinds/inline'
import { freeId, leadById, leadsOf, nameOf, partIdOf } from '../plan/find'
import type { Conductor, Lead, Plan } from '../plan/schema'
import { appendLead, appendPart, fittingEnds, identified } from './add'
import { landEnd } from './ends'
import type { LeadEnd } from './items'
import { difference, tryPatch, type Patch } from './patch'
import { removeAll } from './remove'
import { setField } from './set'
import { rounded } from '../units/number'

/** Into which lead, and at which end that is fed; unsaid: the one that it is. */
export interface Into {
  leadId: string
  fedAt?: LeadEnd
}

/**
 * Puts a part into the middle of a lead: what fed it now feeds the part, and a new lead of the same conductor goes on
 * from there.
 * What was wired into the lead stays in the half it was in. Null for a part with no way through.
 */
export function putBetween(
  plan: Plan,
  { leadId, fedAt }: Into,
  part: Omit<Part, 'id'>,
  stem: string,
): { patch: Patch; id: string } | null {
  const added = identified(plan, part, stem)
  const { between } = kindOf(added)
  if (!between) return null
  const told = leadById(plan, leadId)!
  const charges = kindOf(added).charge?.(added, () => []) ?? null
  const isTurned = (fedAt ?? fedEnd(plan, told, charges !== null)) === 'to'
  const lead = isTurned ? turned(told) : told
  const withPart = tryPatch(plan, appendPart(added))!
  const [inT, outT] = between.map(t => `${added.id}.${t}`) as [string, string]
  const half = toMillimetres(lead.lengthM / 2)
  const items = lead.inline ?? []
  const intoPart = fittingEnds(withPart, lead.from, inT).to
  const outOfPart = fittingEnds(withPart, outT, lead.to).from
  const first = withItems(
    { ...lead, to: inT, lengthM: half, ends: ends(lead.ends?.from, intoPart) },
    items.filter(i => (i.atM ?? 0) <= half),
  )
  const second = withItems(
    {
      ...lead,
      id: freeId(withPart, 'l'),
      name: `${nameOf(lead)}, on from ${nameOf(added)}`.slice(0, 200),
      from: outT,
      lengthM: toMillimetres(lead.lengthM - half),
      ends: ends(outOfPart, lead.ends?.to),
    },
    items.filter(i => (i.atM ?? 0) > half).map(i => ({ ...i, atM: toMillimetres((i.atM ?? 0) - half) })),
  )
  const asTold = (half: Lead) => (isTurned ? turned(half) : half)
  const replaced = wholeLead(plan, asTold(first))
  return { id: added.id, patch: [...appendPart(added), ...replaced, ...appendLead(asTold(second))] }
}

/**
 * Moves a part of the plan that has a way through into a lead: taken out of where it stands, its way made whole, and
 * put into the lead as it is. Null for a part with no way through, or where the lead goes with it.
 */
export function moveInto(plan: Plan, partId: string, leadId: string): Patch | null {
  const part = plan.parts.find(p => p.id === partId)
  const between = part && kindOf(part).between
  if (!part || !between) return null
  const taken = rejoin(plan, partId, `${partId}.${between[0]}`, `${partId}.${between[1]}`) ?? alone(plan, partId)
  const without = taken && tryPatch(plan, taken)
  if (!without || !leadById(without, leadId)) return null
  const { id, ...own } = part
  const put = putBetween(without, { leadId }, own as Omit<Part, 'id'>, id)
  const next = put && tryPatch(without, put.patch)
  return next ? difference(plan, next) : null
}

/** A part that nothing is joined to yet. */
const alone = (plan: Plan, partId: string): Patch | null =>
  leadsOf(plan, partId).length ? null : removeAll(plan, [partId])

/** Millimetres are enough for a lead. */
const toMillimetres = (m: number) => rounded(m, 3)

type End = NonNullable<Lead['ends']>['from']
const ends = (from: End, to: End): Lead['ends'] => ({ ...(from && { from }), ...(to && { to }) })

function withItems({ inline: _inline, ...lead }: Lead, items: Lead['inline']): Lead {
  return items?.length ? { ...lead, inline: items } : lead
}

const wholeLead = (plan: Plan, lead: Lead): Patch => [
  { op: 'replace', path: `/leads/${plan.leads.findIndex(l => l.id === lead.id)}`, value: lead },
]

/** What is put before the end of a lead. */
export interface BeforeEnd {
  end: LeadEnd
  part: Part
  /** Its terminals toward the lead and toward what the lead led to, with their connectors. */
  near: { terminal: string; connector: string | null }
  far: { terminal: string; connector: string }
  tailM: number
  tailName: string
  /** Unsaid: that of the lead. */
  tailConductor?: Conductor
  /** Connector at the tail's far end; unsaid: what the lead had there. */
  tailEnd?: string
}

/** Puts a part before the end of a lead: the lead lands on it, and a short tail goes on to where it landed. */
export function putBeforeEnd(plan: Plan, lead: Lead, put: BeforeEnd): Patch {
  const { end, part, near, far } = put
  const fitted = put.tailEnd === undefined ? lead.ends?.[end] : { connector: put.tailEnd, method: 'crimp' as const }
  const tail: Lead = {
    id: freeId(plan, 'l'),
    name: put.tailName,
    from: far.terminal,
    to: lead[end],
    lengthM: put.tailM,
    conductor: put.tailConductor ?? lead.conductor,
    ends: ends({ connector: far.connector, method: 'crimp' }, fitted),
  }
  return [
    ...appendPart(part),
    ...landEnd(plan, lead, end, near.terminal),
    ...(near.connector === null
      ? []
      : setField(plan, lead.id, `ends.${end}`, { connector: near.connector, method: 'crimp' })),
    ...appendLead(tail),
  ]
}

/**
 * Takes a part out of the way between a lead and its short tail, and the tail with it: the lead leads on to where the
 * tail led. Null where the part does not stand between exactly two leads.
 */
export function heal(plan: Plan, partId: string, from: string, to: string): Patch | null {
  const before = plan.leads.filter(l => l.from === from || l.to === from)
  const after = plan.leads.filter(l => l.from === to || l.to === to)
  if (before.length !== 1 || after.length !== 1 || leadsOf(plan, partId).length !== 2) return null
  const [first, second] = [before[0]!, after[0]!]
  const end: LeadEnd = first.to === from ? 'to' : 'from'
  const farEnd: LeadEnd = second.from === to ? 'to' : 'from'
  const fitted = second.ends?.[farEnd]
  return [
    ...landEnd(plan, first, end, second[farEnd]),
    ...(fitted && first.ends ? setField(plan, first.id, `ends.${end}`, fitted) : []),
    ...removeAll(plan, [second.id, partId]),
  ]
}

/**
 * Takes a part out of the way between two leads and makes them one: as long as the two, of the thicker conductor, with
 * all that was wired into either. Null where the part does not stand between exactly two leads.
 */
export function rejoin(plan: Plan, partId: string, from: string, to: string): Patch | null {
  const before = plan.leads.filter(l => l.from === from || l.to === from)
  const after = plan.leads.filter(l => l.from === to || l.to === to)
  if (before.length !== 1 || after.length !== 1 || leadsOf(plan, partId).length !== 2) return null
  const first = before[0]!.to === from ? before[0]! : turned(before[0]!)
  const second = after[0]!.from === to ? after[0]! : turned(after[0]!)
  // A way out and back to where it came from, or to the part itself, is no way.
  if (first.from === second.to || [first.from, second.to].some(t => partIdOf(t) === partId)) return null
  const items = [
    ...(first.inline ?? []),
    ...(second.inline ?? []).map(i => ({ ...i, atM: toMillimetres(first.lengthM + (i.atM ?? 0)) })),
  ]
  const isThicker = conductorMm2(second.conductor) > conductorMm2(first.conductor)
  const whole: Lead = withItems(
    {
      ...first,
      to: second.to,
      lengthM: toMillimetres(first.lengthM + second.lengthM),
      conductor: isThicker ? second.conductor : first.conductor,
      ...(first.ends && { ends: ends(first.ends.from, second.ends?.to) }),
    },
    ownIds(items),
  )
  const kept = before[0]!.to === from ? whole : turned(whole)
  return [...wholeLead(plan, kept), ...removeAll(plan, [second.id, partId])]
}

/** A lead told from its other end. */
function turned(lead: Lead): Lead {
  const items = (lead.inline ?? []).map((item): Inline => {
    const placed = { ...item, atM: toMillimetres(Math.max(0, lead.lengthM - (item.atM ?? 0))) }
    return placed.kind === 'dropper' ? { ...placed, stripe: placed.stripe === 'from' ? 'to' : 'from' } : placed
  })
  const { from, to, ends: own, ...others } = lead
  return withItems({ ...others, from: to, to: from, ...(own && { ends: ends(own.to, own.from) }) } as Lead, items)
}

/** Two items of one id: the later gets another. */
function ownIds(items: readonly Inline[]): Inline[] {
  const taken = new Set<string>()
  return items.map(item => {
    let id = item.id
    for (let n = 2; taken.has(id); n++) id = `${item.id}${n}`
    taken.add(id)
    return { ...item, id }
  })
}
