import { connector } from '../catalog/connectors'
import { fuseClass } from '../catalog/fuses'
import { conductorGramsPerM, conductorMm2, conductorName } from '../conductor/resistance'
import { fedIn, type Broken } from '../graph/fed'
import { deviceKey, isDevice } from '../graph/device'
import { devicesOf } from '../graph/graph'
import { isLoad, kindOf } from '../kinds/index'
import { leadName, nameOf, partById } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Lead, Plan } from '../plan/schema'
import { asGiven } from '../units/number'

/** What single failure takes which radio off the air, and the spares that cover most of them at least weight. */

/** One thing that fails, and what is dead then. */
export interface SingleFailure {
  what: string
  /** Loads that have no other way to be fed. */
  takes: string[]
  /** How often such a thing fails, against a part: judgement. */
  odds: number
  /** The spare that mends it. */
  spare: string
}

export interface Spare {
  id: string
  what: string
  count: number
  /** g; null where the plan does not say what it weighs. */
  massG: number | null
  /** Failures it mends, in words. */
  covers: string[]
  /** Of all that takes a transmitter off the air, weighed by how often it fails, 0–1. */
  share: number
  /** With those before it. */
  together: number
}

/** Fuses blow, leads are trodden on; boxes seldom fail (judgement). */
const ODDS = { fuse: 5, lead: 3, part: 1 }
/** A fuse, and a pair of contacts on a lead's end, g (typical). */
const FUSE_G = 3
const END_G = 12
/** Two of each fuse: the second blows where the first did. */
const FUSES = 2

/** Every single failure that leaves a load without a way. */
export function singleFailures(plan: Plan): SingleFailure[] {
  const whole = fedIn(plan)
  const taken = (broken: Broken) => {
    const left = fedIn(plan, broken)
    return [...whole].filter(id => !left.has(id))
  }
  const failure = (f: Omit<SingleFailure, 'takes'>, broken: Broken): SingleFailure[] => {
    const takes = taken(broken)
    return takes.length ? [{ ...f, takes }] : []
  }
  const fuses = plan.leads.flatMap(lead =>
    (lead.inline ?? []).filter(isDevice).flatMap(item => {
      const what = `${asGiven(item.ratedA)} A ${item.kind} of ${leadName(lead)}`
      const label = item.kind === 'fuse' ? fuseClass(item.type ?? 'blade').label : 'breaker'
      const spare = `fuse ${label} ${item.ratedA}`
      return failure({ what, odds: ODDS.fuse, spare }, { leads: new Set([lead.id]) })
    }),
  )
  const inside = devicesOf(plan)
    .filter(d => !plan.leads.some(l => l.id === d.place))
    .flatMap(d => {
      const what = `${asGiven(d.ratedA)} A ${d.kind} of ${terminalName(plan, d.place)}`
      const spare = `fuse ${d.kind === 'fuse' ? fuseClass(d.type).label : 'breaker'} ${d.ratedA}`
      return failure({ what, odds: ODDS.fuse, spare }, { devices: new Set([deviceKey(d)]) })
    })
  const leads = plan.leads.flatMap(lead =>
    failure({ what: leadName(lead), odds: ODDS.lead, spare: familyOf(lead) }, { leads: new Set([lead.id]) }),
  )
  const parts = plan.parts
    .filter(p => !isLoad(p))
    .flatMap(p => failure({ what: nameOf(p), odds: ODDS.part, spare: `part ${p.id}` }, { parts: new Set([p.id]) }))
  return [...fuses, ...inside, ...leads, ...parts]
}

/** Leads with the same two ends: one spare stands in for any of them. */
function familyOf({ ends }: Lead): string {
  const both = [ends?.from?.connector ?? 'bare', ends?.to?.connector ?? 'bare'].sort()
  return `lead ${both.join(' ')}`
}

/** The kit, most cover for its weight first. What the plan gives no weight for comes after what it does. */
export function sparesOf(plan: Plan): Spare[] {
  const transmitters = new Set(plan.parts.filter(p => kindOf(p).transmits).map(p => p.id))
  const failures = singleFailures(plan)
  const worth = (f: SingleFailure) => f.odds * f.takes.filter(id => transmitters.has(id)).length
  const all = failures.reduce((sum, f) => sum + worth(f), 0)
  const ids = [...new Set(failures.map(f => f.spare))]
  const spares = ids.map(id => {
    const its = failures.filter(f => f.spare === id)
    const share = all > 0 ? its.reduce((sum, f) => sum + worth(f), 0) / all : 0
    return { id, ...spareOf(plan, id), covers: its.map(f => f.what), share }
  })
  const rate = (s: (typeof spares)[number]) => (s.massG === null ? 0 : s.share / Math.max(1, s.massG))
  spares.sort((a, b) => rate(b) - rate(a) || b.share - a.share)
  let together = 0
  return spares.map(s => ({ ...s, together: (together += s.share) }))
}

function spareOf(plan: Plan, id: string): Pick<Spare, 'what' | 'count' | 'massG'> {
  const [kind] = id.split(' ')
  if (kind === 'fuse') return { what: `${id.slice(5)} A`, count: FUSES, massG: FUSES * FUSE_G }
  if (kind === 'part') {
    const part = partById(plan, id.slice(5))!
    return { what: `another ${nameOf(part)}`, count: 1, massG: part.massG ?? null }
  }
  // As long as the longest and as thick as the thickest that it stands in for.
  const its = plan.leads.filter(l => familyOf(l) === id)
  const lengthM = Math.max(...its.map(l => l.lengthM))
  const [thickest] = [...its].sort((a, b) => conductorMm2(b.conductor) - conductorMm2(a.conductor))
  const { conductor } = thickest!
  const ends = (['from', 'to'] as const).map(end => connector(thickest!.ends?.[end]?.connector ?? 'bare').label)
  return {
    what: `lead of ${asGiven(lengthM)} m, ${conductorName(conductor)}: ${ends.join(' to ')}`,
    count: 1,
    massG: Math.round(2 * lengthM * conductorGramsPerM(conductor) + 2 * END_G),
  }
}
