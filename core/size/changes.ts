import { connector } from '../catalog/connectors'
import { conductorName } from '../conductor/resistance'
import { devicesIn } from '../graph/device'
import { graphOf } from '../graph/graph'
import { nameOf } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Plan } from '../plan/schema'
import type { SizeChange } from './options'
import { asGiven } from '../units/number'

/** What a sized plan has other than the plan it was made from, in words. */

/** What is other in the leads: conductor, port, fuses. */
export function leadChanges(plan: Plan, sized: Plan): SizeChange[] {
  return plan.leads.flatMap((lead, i) => {
    const to = sized.leads[i]!
    const [wire, other] = [conductorName(lead.conductor), conductorName(to.conductor)]
    const changes: SizeChange[] = []
    const say = (what: SizeChange['what'], words: string) => changes.push({ place: lead.id, what, words })
    if (wire !== other) say('conductor', `${nameOf(lead)}: ${wire} → ${other}`)
    for (const end of ['from', 'to'] as const) {
      if (lead[end] !== to[end])
        say('port', `${nameOf(lead)}: ${terminalName(plan, lead[end])} → ${terminalName(plan, to[end])}`)
      const [was, now] = [lead.ends?.[end]?.connector, to.ends?.[end]?.connector]
      if (now && was !== now)
        say('contact', `${nameOf(lead)} at ${terminalName(plan, to[end])}: ${connector(now).label}, both sides`)
    }
    const after = devicesIn(to)
    devicesIn(lead).forEach((device, k) => {
      const rated = after[k]!.ratedA
      if (device.ratedA === rated) return
      say('fuse', `fuse in ${nameOf(lead)}: ${asGiven(device.ratedA)} A → ${asGiven(rated)} A`)
    })
    return changes
  })
}

/** Fuses of ports that are other. */
export function portChanges(plan: Plan, sized: Plan): SizeChange[] {
  const { terminals } = graphOf(plan)
  const after = graphOf(sized).terminals
  // Sizing takes no terminal away.
  return [...terminals.values()].flatMap(({ id, opener }): SizeChange[] => {
    const rated = after.get(id)!.opener?.ratedA
    if (!opener || rated === undefined || opener.ratedA === rated) return []
    const words = `fuse of ${terminalName(plan, id)}: ${asGiven(opener.ratedA)} A → ${asGiven(rated)} A`
    return [{ place: id, what: 'fuse', words }]
  })
}
