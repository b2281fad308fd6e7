import { Study } from '../study/study'
import { solveCorners } from '../circuit/matrix'
import { conductorGramsPerM, conductorName } from '../conductor/resistance'
import { needs } from '../kinds/index'
import { nominalVolts } from '../kinds/draw'
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

/** The first conductor of which the plan needs more than there is, by name. */
export function overdrawn(plan: Plan, owned: Stock[] | undefined): string | null {
  const usedM = (name: string) =>
    plan.leads
      .filter(l => conductorName(l.conductor) === name)
      .reduce((m, l) => m + (l.return === 'chassis' ? 1 : 2) * l.lengthM, 0)
  const names = (owned ?? []).flatMap(({ conductor, metres = Infinity }) => {
    const name = conductorName(conductor)
    return usedM(name) > metres + 1e-9 ? [name] : []
  })
  return names[0] ?? null
}

/** Weight and cost of a plan's conductors, and the largest share that any radio's wires drop. */
export function totals(plan: Plan, owned?: Stock[]): Totals {
  const study = new Study(solveCorners(plan))
  const legs = (l: Lead) => (l.return === 'chassis' ? 1 : 2) * l.lengthM
  const shares = study.loads.map(load => {
    const low = study.arrival(load.id)?.low
    const stairs = low ? study.staircase(load.id, low.condition) : null
    return (
      (stairs?.steps ?? []).filter(s => s.kind === 'wire').reduce((v, s) => v + s.dropV, 0) / nominalVolts(needs(load))
    )
  })
  return {
    grams: plan.leads.reduce((g, l) => g + legs(l) * conductorGramsPerM(l.conductor), 0),
    cost: plan.leads.reduce((c, l) => c + legs(l) * costPerM(l.conductor, owned), 0),
    worstDropShare: Math.max(0, ...shares),
  }
}

export const amps = (a: number) => `${figure(a, 1)} A`
