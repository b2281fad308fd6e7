import type { Lead, Plan } from '../plan/schema'
import type { SchoolRule } from './rule'

const crimped = (plan: Plan) =>
  plan.leads.flatMap(l => [l.ends?.from?.method, l.ends?.to?.method]).filter(m => m === 'crimp' || m === 'crimp+solder')

/** How ends are made. */
export const termination: SchoolRule = {
  shown: plan => {
    const methods = crimped(plan)
    if (!methods.length) return ['crimp', 'crimp+solder']
    return methods.filter(m => m === 'crimp').length * 2 >= methods.length ? ['crimp'] : ['crimp+solder']
  },
  build: (plan, choice) => {
    const method = choice === 'crimp' ? 'crimp' : 'crimp+solder'
    const made = (end: NonNullable<Lead['ends']>['from']) =>
      end?.method === 'crimp' || end?.method === 'crimp+solder' ? { ...end, method } : end
    const ends = (e: NonNullable<Lead['ends']>) => ({
      ...(e.from && { from: made(e.from)! }),
      ...(e.to && { to: made(e.to)! }),
    })
    return { ...plan, leads: plan.leads.map(l => (l.ends ? { ...l, ends: ends(l.ends) as Lead['ends'] } : l)) }
  },
  does: 'crimped ends are made so',
}
