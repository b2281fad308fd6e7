import { readPlan } from '../../core/plan/faults'
import type { Lead, Plan } from '../../core/plan/schema'

/** The same stations told another way: nothing that is said of them may change by it. */

function turnedLead(lead: Lead): Lead {
  const { from, to, ends, inline, lengthM } = lead
  return {
    ...lead,
    from: to,
    to: from,
    ...(ends && { ends: { ...(ends.to && { from: ends.to }), ...(ends.from && { to: ends.from }) } }),
    ...(inline && {
      inline: [...inline].reverse().map(item => ({
        ...item,
        atM: lengthM - (item.atM ?? 0),
        ...('stripe' in item &&
          item.stripe && { stripe: item.stripe === 'from' ? ('to' as const) : ('from' as const) }),
      })),
    }),
  }
}

/** Every lead told from its other end; null where the mirrored distances cannot be read. */
export function turned(plan: Plan): Plan | null {
  const read = readPlan({ ...plan, leads: plan.leads.map(turnedLead) })
  return read.ok ? read.plan : null
}
