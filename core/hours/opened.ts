import { fedIn } from '../graph/fed'
import type { Plan } from '../plan/schema'
import { switchedOff, type Use } from './users'

/** A plan while load terminals stand open. */
export interface Opened {
  plan: Plan
  /** The loads that have nothing else to live on. */
  off: ReadonlySet<string>
}

/** Takes off what hangs on some load terminals. @param open the terminals */
export function withOpen(plan: Plan, open: ReadonlySet<string>): Opened {
  const without = { ...plan, leads: plan.leads.filter(l => !open.has(l.from) && !open.has(l.to)) }
  const [before, after] = [fedIn(plan), fedIn(without)]
  return { plan: without, off: new Set([...before].filter(id => !after.has(id))) }
}

/** What loads do when some are off. */
export const usesWithout = (uses: readonly Use[], off: ReadonlySet<string>): Use[] =>
  uses.map(u => (off.has(u.part.id) ? switchedOff(u) : u))
