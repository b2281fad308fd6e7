import { HOUSING_SOFTENS_C } from '../catalog/connectors'
import type { LoadPart } from '../circuit/conditions'
import { contactRise } from '../connector/heat'
import { contactOhmAged, mate, type FittedContact, type Mating } from '../connector/mate'
import type { Lead } from '../plan/schema'
import type { Study } from '../study/study'
import type { Found } from './check'
import { wayTo } from './placement'

/** Where leads land on terminals: what the checks of contacts look at. */

/** A lead's end on its terminal, where both say what they are. */
export interface Landing {
  lead: Lead
  end: 'from' | 'to'
  fitted: string
  contact: FittedContact
  terminal: string
  terminalConnector: string
  mating: Mating
}

const landings = new WeakMap<Study, Landing[]>()

export function landingsOf(study: Study): Landing[] {
  let list = landings.get(study)
  if (!list) {
    list = study.plan.leads.flatMap(lead =>
      (['from', 'to'] as const).flatMap((end): Landing[] => {
        const fitted = lead.ends?.[end]
        const terminal = study.solved.network.terminals.get(lead[end])
        if (!fitted || !terminal?.connector) return []
        const mating = mate(fitted, { connector: terminal.connector, sex: terminal.sex })
        return [
          {
            lead,
            end,
            fitted: fitted.connector,
            contact: fitted,
            terminal: terminal.id,
            terminalConnector: terminal.connector,
            mating,
          },
        ]
      }),
    )
    landings.set(study, list)
  }
  return list
}

export const endOf = (found: Found, study: Study): Landing | undefined =>
  landingsOf(study).find(l => l.terminal === found.place && found.also?.includes(l.lead.id))

/** Current in a landing: that of its lead. */
export const ampsAt = (study: Study, landing: Landing) => study.leadAmps(landing.lead)

/** What a contact reaches once it has aged, °C. */
export const agedC = (contact: FittedContact, ratedA: number, value: number, ambientC: number) =>
  ambientC + contactRise(contact.connector, ratedA, value, contactOhmAged(contact))

/**
 * Loads that share a contact which carries each of them alone, though not all together; none where one of them alone is
 * too much.
 */
export function sharing(
  study: Study,
  lead: Lead,
  carries: (currentA: number) => boolean,
): { load: LoadPart; amps: number }[] {
  const loads = study.loads
    .map(load => ({ load, amps: study.partAmps(load).value }))
    .filter(s => s.amps > 0.5 && wayTo(study, s.load.id).includes(lead))
  return loads.length > 1 && loads.every(s => carries(s.amps)) ? loads : []
}

export const carriesNew = (ratedA: number) => (currentA: number) => currentA <= ratedA + 1e-9

export const carriesAged = (study: Study, contact: FittedContact, ratedA: number) => (currentA: number) =>
  currentA <= ratedA && agedC(contact, ratedA, currentA, study.site.ambientC.high) <= HOUSING_SOFTENS_C
