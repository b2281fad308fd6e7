import { connector } from '../catalog/connectors'
import { freeId, pathOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { ADAPTER_OHM, type Way } from '../shelf/ways'
import type { Proposal } from './proposal'

/** An adapter's pigtail, m. */
const PIGTAIL_M = 0.1

/** Puts one adapter between a lead's end and its terminal: the lead lands on it, a pigtail goes on. */
export function addAdapter(plan: Plan, lead: Lead, end: 'from' | 'to', way: Way): Proposal {
  const [step] = way.steps
  const id = freeId(plan, 'ad')
  const path = pathOf(plan, lead.id)
  const pigtail: Lead = {
    id: freeId(plan, 'l'),
    name: `pigtail of ${id}`,
    from: `${id}.b`,
    to: lead[end],
    lengthM: PIGTAIL_M,
    conductor: lead.conductor,
    ends: { from: { connector: step!.b, method: 'crimp' }, to: { connector: step!.b, method: 'crimp' } },
  }
  const ratings = [connector(step!.a).ratedA, connector(step!.b).ratedA].filter(r => r !== null)
  return {
    label: step!.words[0]!.toUpperCase() + step!.words.slice(1),
    patch: [
      {
        op: 'add',
        path: '/parts/-',
        value: {
          id,
          kind: 'adapter',
          name: `Adapter ${connector(step!.a).label} to ${connector(step!.b).label}`.slice(0, 200),
          a: step!.a,
          b: step!.b,
          ohm: ADAPTER_OHM,
          ...(ratings.length && { ratedA: Math.min(...ratings) }),
        },
      },
      { op: 'replace', path: `${path}/${end}`, value: `${id}.a` },
      { op: 'add', path: '/leads/-', value: pigtail },
    ],
    cost: `${way.dropV.toFixed(2)} V, ${way.failures} contacts${way.money ? `, about ${way.money}` : ''}`,
  }
}
