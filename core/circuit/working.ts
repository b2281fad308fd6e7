import { conductorTemperature } from '../conductor/ampacity'
import { ambientOf, siteOf } from '../plan/schema'
import { largestAmps, type SolvedPlan } from './matrix'

/** How hot each lead's conductors are at their largest current in the hottest air, °C, by lead. */
export function workingTemperatures(solved: SolvedPlan): ReadonlyMap<string, number> {
  const { plan, network } = solved
  const { ampacity } = siteOf(plan)
  return new Map(
    plan.leads.map(lead => {
      const amps = largestAmps(solved, network.branchOfLead.get(lead.id)).value
      const around = { amps, ambientC: ambientOf(plan, lead).high, bundledConductors: lead.bundledConductors }
      return [lead.id, conductorTemperature(lead.conductor, ampacity, around)]
    }),
  )
}
