import type { Plan } from '../plan/schema'

/** What a school is about in a plan: which side is built there, and how the other one is. */
export interface SchoolRule {
  /**
   * The sides that a plan may be on, read from how it is built; the first where it says none of them. Unsaid: building
   * does not tell, it is the one that the plan says.
   */
  shown?: (plan: Plan) => readonly string[]
  /** The plan built on a side; null where that cannot be: `why` says the reason. Unsaid: nothing has to be built. */
  build?: (plan: Plan, choice: string) => Plan | { why: string } | null
  /** What taking a side does, in a few words. */
  does?: string
}

/** The plan with a part changed. */
export const withPart = (plan: Plan, id: string, change: object): Plan => ({
  ...plan,
  parts: plan.parts.map(p => (p.id === id ? ({ ...p, ...change } as typeof p) : p)),
})

/** The plan with a lead changed. */
export const withLead = (plan: Plan, id: string, change: object): Plan => ({
  ...plan,
  leads: plan.leads.map(l => (l.id === id ? ({ ...l, ...change } as typeof l) : l)),
})

/** The plan without some of its parts and leads. */
export const without = (plan: Plan, ids: readonly string[]): Plan => ({
  ...plan,
  parts: plan.parts.filter(p => !ids.includes(p.id)),
  leads: plan.leads.filter(l => !ids.includes(l.id)),
})
