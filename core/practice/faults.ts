import { contactOhmNow } from '../connector/mate'
import { compile } from '../circuit/network'
import { isDevice, isSwitch } from '../graph/device'
import type { Dropper, Inline } from '../kinds/inline'
import { kindOf } from '../kinds/index'
import { leadName, nameOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { jointsOf } from '../readings/places'

/** What may be wrong with a station that was built, one thing at a time. */

export type FaultKind = 'joint' | 'blown' | 'switch' | 'setting' | 'diode' | 'asleep' | 'colours' | 'far fuse'

export interface Fault {
  of: FaultKind
  place: string
  words: string
  /** What one should have seen, and by what. */
  shows: string
}

/** A bad contact has so many times its table's. */
const WORSE = 12
/** A fault in a copy of the plan. */
export interface Made {
  fault: Fault
  built: Plan
  /** A terminal at which plus and minus are crossed: a meter shows there what stands at the other end, below zero. */
  crossed?: { at: string; from: string }
}

/** Every fault that could be hidden in a plan. */
export function faultsOf(plan: Plan): Made[] {
  const words = new Map(jointsOf(compile(plan)).map(j => [j.place, j.words]))
  const joints = plan.leads.flatMap(lead =>
    (['from', 'to'] as const).flatMap(end => {
      const fitted = lead.ends?.[end]
      if (!fitted) return []
      const place = `${lead.id}.${end}`
      const bad = { ...fitted, contactOhm: WORSE * contactOhmNow(fitted) }
      const shows =
        'Idle all is well; with the key down volts are lost from one side of the mating to the other, and it gets warm.'
      const fault: Fault = { of: 'joint', place, words: `${words.get(place)} is bad`, shows }
      return [{ fault, built: withLead(plan, { ...lead, ends: { ...lead.ends, [end]: bad } }) }]
    }),
  )
  const blown = plan.leads.flatMap(lead =>
    (lead.inline ?? []).filter(isDevice).map(item => ({
      fault: {
        of: 'blown' as const,
        place: `${lead.id}.${item.id}`,
        words: `${item.kind} in ${leadName(lead)} is open`,
        shows: 'Full volts on one side of it and nothing on the other.',
      },
      built: { ...plan, leads: plan.leads.filter(l => l.id !== lead.id) },
    })),
  )
  const switches = plan.leads.flatMap(lead =>
    (lead.inline ?? [])
      .filter(i => isSwitch(i) && i.kind === 'switch' && i.closed !== false && i.by === undefined)
      .map(item => ({
        fault: {
          of: 'switch' as const,
          place: `${lead.id}.${item.id}`,
          words: `switch in ${leadName(lead)} was left off`,
          shows: 'Full volts before the switch and nothing behind it; nothing is hurt.',
        },
        built: withLead(plan, {
          ...lead,
          inline: lead.inline!.map(i => (i.id === item.id ? { ...i, closed: false } : i)) as NonNullable<
            Lead['inline']
          >,
        }),
      })),
  )
  const others = [...diodes(plan), ...asleep(plan), ...colours(plan), ...farFuses(plan)]
  return [...joints, ...blown, ...switches, ...settings(plan), ...others]
}

const isDropper = (item: Inline): item is Dropper => item.kind === 'dropper'

const withLead = (plan: Plan, lead: Lead): Plan => ({
  ...plan,
  leads: plan.leads.map(l => (l.id === lead.id ? lead : l)),
})

/** A diode soldered in the other way round: it blocks. */
const diodes = (plan: Plan): Made[] =>
  plan.leads.flatMap(lead =>
    (lead.inline ?? []).filter(isDropper).map(item => ({
      fault: {
        of: 'diode',
        place: `${lead.id}.${item.id}`,
        words: `diode in ${leadName(lead)} is the wrong way round`,
        shows: 'Full volts on one side of it and nothing on the other; its stripe points back at the source.',
      },
      built: { ...plan, leads: plan.leads.filter(l => l.id !== lead.id) },
    })),
  )

/** A bank that has gone to sleep, since what hangs on it takes too little when idle. */
const asleep = (plan: Plan): Made[] =>
  plan.parts
    .filter(p => kindOf(p).autoOffA?.(p) !== undefined)
    .map(part => ({
      fault: {
        of: 'asleep',
        place: part.id,
        words: `${nameOf(part)} has gone to sleep`,
        shows:
          'Its own output is dead, though it is full; a press of its button wakes it, and a small load keeps it so.',
      },
      built: { ...plan, leads: plan.leads.filter(l => !touches(l, part.id)) },
    }))

const touches = (lead: Lead, partId: string) => [lead.from, lead.to].some(t => t.split('.')[0] === partId)

/** A lead in which plus and minus are crossed: what hangs on it protects itself, or blows its fuse. */
const colours = (plan: Plan): Made[] =>
  plan.leads
    .filter(lead => plan.parts.some(p => p.id === lead.to && kindOf(p).role === 'load'))
    .map(lead => ({
      fault: {
        of: 'colours',
        place: `${lead.id}.colours`,
        words: `${leadName(lead)} has plus and minus crossed`,
        shows:
          'A meter reads below zero at the end of that lead, whatever its colours say. Meter a lead before it is used.',
      },
      built: { ...plan, leads: plan.leads.filter(l => l.id !== lead.id) },
      crossed: { at: lead.to, from: lead.from },
    }))

/** Nearer than this a fuse is at its end, m. */
const NEAR_M = 0.3

/** A fuse put in at the far end: everything works, and the lead before it burns when it shorts. */
const farFuses = (plan: Plan): Made[] =>
  plan.leads.flatMap(lead =>
    (lead.inline ?? [])
      .filter(isDevice)
      .filter(item => (item.atM ?? 0) < NEAR_M && lead.lengthM > 2 * NEAR_M && feedsFrom(plan, lead))
      .map(item => {
        const inline = lead.inline!.map(i => (i.id === item.id ? { ...item, atM: lead.lengthM } : i))
        const fault: Fault = {
          of: 'far fuse',
          place: `${lead.id}.${item.id}.far`,
          words: `${item.kind} in ${leadName(lead)} is at the far end`,
          shows: 'No meter shows it: follow each lead from the post by eye, the first thing on it must be its fuse.',
        }
        return { fault, built: withLead(plan, { ...lead, inline }) }
      }),
  )

const feedsFrom = (plan: Plan, lead: Lead) => {
  const part = plan.parts.find(p => p.id === lead.from.split('.')[0])
  return part !== undefined && kindOf(part).stores === true
}

/** A charging device set to another chemistry of those it knows. */
function settings(plan: Plan) {
  return plan.parts.flatMap(part => {
    const { chemistries, set } = part as { chemistries?: Record<string, unknown>; set?: string }
    const other = Object.keys(chemistries ?? {}).find(id => id !== set)
    if (!set || other === undefined) return []
    const fault: Fault = {
      of: 'setting',
      place: `${part.id}.set`,
      words: `${nameOf(part)} is set to another chemistry`,
      shows:
        'The battery stands at another voltage at the end of its charge than the plan says; its display tells which.',
    }
    return [
      {
        fault,
        built: { ...plan, parts: plan.parts.map(p => (p.id === part.id ? { ...p, set: other } : p)) as Plan['parts'] },
      },
    ]
  })
}
