import type { Study } from '../study/study'
import { conductorGramsPerM, conductorName } from '../conductor/resistance'
import { needs } from '../kinds/index'
import { nominalVolts } from '../kinds/draw'
import { legsOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Stock } from './options'
import { costPerM } from './candidates'
import { figure } from '../units/number'

/** What a plan weighs, costs and drops. */

export interface Totals {
  grams: number
  cost: number
  /** Largest share of its nominal voltage that any radio's or load's wires drop. */
  worstDropShare: number
}

/**
 * The first conductor of which the leads that are sized need more than the others leave of it, by name. What the
 * others need beyond the shelf is nothing that sizes change.
 */
export function overdrawn(
  plan: Plan,
  owned: Stock[] | undefined,
  isSized: (leadId: string) => boolean = () => true,
): string | null {
  const short = owned?.find(({ conductor, metres = Infinity }) => {
    const made = plan.leads.filter(l => conductorName(l.conductor) === conductorName(conductor))
    const sizedM = wireM(made.filter(l => isSized(l.id)))
    const otherM = wireM(made.filter(l => !isSized(l.id)))
    return sizedM > Math.max(0, metres - otherM) + TOLERANCE_M
  })
  return short ? conductorName(short.conductor) : null
}

/** Last bits of a sum of lengths do not count, m. */
const TOLERANCE_M = 1e-9

/** Wire in leads, there and back, m. */
const wireM = (leads: readonly Lead[]) => leads.reduce((m, l) => m + legsM(l), 0)
const legsM = (lead: Lead) => legsOf(lead) * lead.lengthM

/** Weight and cost of a plan's conductors, and the largest share that any radio's wires drop. */
export function totals(study: Study, owned?: Stock[]): Totals {
  const { plan } = study
  const shares = study.loads.map(load => {
    const low = study.arrival(load.id)?.low
    const stairs = low ? study.staircase(load.id, low.condition) : null
    return (
      (stairs?.steps ?? []).filter(s => s.kind === 'wire').reduce((v, s) => v + s.dropV, 0) / nominalVolts(needs(load))
    )
  })
  return {
    grams: plan.leads.reduce((g, l) => g + legsM(l) * conductorGramsPerM(l.conductor), 0),
    cost: plan.leads.reduce((c, l) => c + legsM(l) * costPerM(l.conductor, owned), 0),
    worstDropShare: Math.max(0, ...shares),
  }
}

export const amps = (a: number) => `${figure(a, 1)} A`
