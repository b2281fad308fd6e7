import { connector } from '../catalog/connectors'
import { identified } from '../edit/add'
import { putBeforeEnd } from '../edit/between'
import type { LeadEnd } from '../edit/items'
import type { Part } from '../kinds/index'
import { terminalName } from '../plan/names'
import type { Lead, Plan } from '../plan/schema'
import { ADAPTER_OHM, type Way } from '../shelf/ways'
import { fixed } from '../units/number'
import { capital } from '../units/words'
import type { Proposal } from './proposal'

/** An adapter's pigtail, m. */
const PIGTAIL_M = 0.1

/** Puts one adapter between a lead's end and its terminal: the lead lands on it, a pigtail goes on. */
export function addAdapter(plan: Plan, lead: Lead, end: LeadEnd, way: Way): Proposal {
  const { a, b, words } = way.steps[0]!
  const ratings = [connector(a).ratedA, connector(b).ratedA].filter(r => r !== null)
  const adapter = {
    kind: 'adapter',
    name: `Adapter ${connector(a).label} to ${connector(b).label}`.slice(0, 200),
    a,
    b,
    ohm: ADAPTER_OHM,
    ...(ratings.length && { ratedA: Math.min(...ratings) }),
  }
  const part = identified(plan, adapter as Omit<Part, 'id'>, 'ad')
  return {
    label: capital(words),
    patch: putBeforeEnd(plan, lead, {
      end,
      part,
      near: { terminal: `${part.id}.a`, connector: null },
      far: { terminal: `${part.id}.b`, connector: b },
      tailM: PIGTAIL_M,
      tailName: `pigtail to ${terminalName(plan, lead[end])}`,
      tailEnd: b,
    }),
    cost: `${fixed(way.dropV, 2)} V, ${way.failures} contacts${way.money ? `, about ${way.money}` : ''}`,
  }
}
