import { FUSE_AT_POST_M } from '../catalog/fuses'
import { ratingsCarrying } from '../fuse/fuse'
import { appendLead, appendPart, counterpart, identified } from '../edit/add'
import { putBeforeEnd } from '../edit/between'
import { fitEnd, freshEnd, landEnd } from '../edit/ends'
import type { LeadEnd } from '../edit/items'
import type { Part } from '../kinds/index'
import { conductorName } from '../conductor/resistance'
import { thickerSizes } from '../conductor/ladder'
import { freeId, leadName, partById, partIdOf } from '../plan/find'
import { partName, terminalName } from '../plan/names'
import type { Conductor, Lead, Plan } from '../plan/schema'
import { metres } from '../units/show'
import type { Proposal } from './proposal'
import { anA } from '../units/words'
import { asGiven } from '../units/number'

/** Joints put in where a lead or a terminal alone will not do. */

/** A short piece of another conductor at the end of a lead, m. */
const TAIL_M = 0.15
/** A crimped butt splice, a pole, Ω (typical). */
const SPLICE_OHM = 0.0003

/** A tail of a conductor that the contact takes, spliced to the end of a lead that does not fit it. */
export function addTail(plan: Plan, lead: Lead, end: LeadEnd, conductor: Conductor): Proposal | null {
  if (lead.return === 'chassis' || lead.lengthM <= TAIL_M) return null
  const splice = { kind: 'joint', style: 'splice', name: 'Butt splice', contactOhm: SPLICE_OHM }
  const part = identified(plan, splice as Omit<Part, 'id'>, 'j')
  const where = `${leadName(lead)} at ${terminalName(plan, lead[end])}`
  return {
    label: `${metres(TAIL_M)} of ${conductorName(conductor)} spliced to ${where}`,
    patch: putBeforeEnd(plan, lead, {
      end,
      part,
      near: { terminal: `${part.id}.a`, connector: 'bare' },
      far: { terminal: `${part.id}.b`, connector: 'bare' },
      tailM: TAIL_M,
      tailName: `tail of ${leadName(lead)}`.slice(0, 200),
      tailConductor: conductor,
    }),
    cost: 'two crimps more',
  }
}

/** What of a busbar's main lead must carry. */
export interface OnBusbar {
  terminal: string
  terminalConnector: string
  /** Leads to be moved onto it, each with what it carries, A. */
  moved: readonly { lead: Lead; amps: number }[]
  /** The largest fuse a conductor may have there, A. */
  largestFuseA: (conductor: Conductor) => number
}

/** From a terminal to its busbar, m. */
const MAIN_M = 0.3
const BUSBAR_STUD = 'ring-m6'
const WAYS = 'bcdefghijklmnopqrstuvwxyz'

/** A busbar beside a terminal with more leads than it takes: one lead with its fuse to the bar, the others on it. */
export function addBusbar(plan: Plan, { terminal, terminalConnector, moved, largestFuseA }: OnBusbar): Proposal | null {
  const totalA = moved.reduce((sum, m) => sum + m.amps, 0)
  const owner = partById(plan, partIdOf(terminal))!
  const bar = { kind: 'joint', style: 'busbar', name: 'Busbar', connector: BUSBAR_STUD, ratedA: 150 }
  const part = identified(plan, bar as Omit<Part, 'id'>, 'bus')
  const thickest = moved.map(m => m.lead.conductor).sort((a, b) => largestFuseA(b) - largestFuseA(a))[0]!
  const fuse = ['blade', 'strip', 'strip-high'].flatMap(type => {
    const ratedA = ratingsCarrying(type, totalA)[0]
    return ratedA === undefined ? [] : [{ type, ratedA }]
  })[0]
  const conductor = fuse && [thickest, ...thickerSizes(thickest)].find(c => largestFuseA(c) >= fuse.ratedA)
  if (!conductor || moved.length > WAYS.length) return null
  const main: Lead = {
    id: freeId(plan, 'l'),
    name: `lead to the busbar at ${partName(plan, owner.id)}`.slice(0, 200),
    from: terminal,
    to: `${part.id}.a`,
    lengthM: MAIN_M,
    conductor,
    ends: { from: freshEnd(counterpart(terminalConnector)), to: freshEnd(BUSBAR_STUD) },
    inline: [{ id: 'f1', kind: 'fuse', ...fuse, legs: 'positive', atM: FUSE_AT_POST_M }],
  }
  const onto = moved.flatMap(({ lead }, i) => {
    const end: LeadEnd = lead.from === terminal ? 'from' : 'to'
    return [...landEnd(plan, lead, end, `${part.id}.${WAYS[i]}`), ...fitEnd(plan, lead, end, BUSBAR_STUD)]
  })
  return {
    label:
      `A busbar at ${partName(plan, owner.id)}, over ${conductorName(conductor)} ` +
      `and ${anA(`${asGiven(fuse.ratedA)} A fuse`)}`,
    patch: [...appendPart(part), ...onto, ...appendLead(main)],
    cost: `a bar, ${metres(MAIN_M)} of lead, a fuse`,
  }
}
