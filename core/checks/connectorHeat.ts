import { connector, HOUSING_SOFTENS_C } from '../catalog/connectors'
import { conditionWords } from '../circuit/conditions'
import { largestAmps } from '../circuit/matrix'
import { contactRise } from '../connector/heat'
import { conductorMm2 } from '../conductor/resistance'
import { strongerMating } from '../fixes/parts'
import { turnDownAny } from '../fixes/power'
import type { Proposal } from '../fixes/proposal'
import { leadName } from '../plan/find'
import { amps, celsius } from '../units/show'
import type { Check, Found } from './check'
import type { Study } from '../study/study'
import { landingsOf, endOf, sharing, carriesAged, ampsAt, fitsContact } from './connector'

/** A stronger pair of contacts, or less current. */
export function mendHeat(
  found: Found,
  study: Study,
  passes: (ratedA: number, value: number, id: string) => boolean,
): Proposal[] {
  const landing = endOf(found, study)
  if (!landing || !landing.mating.mates) return []
  const { lead, end, mating, fitted } = landing
  const value = found.numbers.amps!
  const area = conductorMm2(lead.conductor)
  return [
    strongerMating(study.plan, lead, end, id => {
      const c = connector(id)
      return c.ratedA !== null && passes(c.ratedA, value, id) && fitsContact(id, area)
    }),
    turnDownAny(study.plan, solved => {
      const now = largestAmps(solved, solved.network.branchOfLead.get(lead.id)).value
      return passes(mating.ratedA!, now, fitted)
    }),
  ].filter((p): p is Proposal => p !== null)
}

export const agedC = (id: string, ratedA: number, value: number, ambientC: number) =>
  ambientC + contactRise(id, ratedA, value, true)

export const connectorHeat: Check = {
  id: 'connector-heat',
  severities: ['caution'],
  looksAt: 'all; the largest current through each mating, contacts as aged, in the hottest ambient of the site',
  title: 'Connector runs hot when aged',
  why:
    'Contacts age: with some years and matings their resistance is three to five times that of new ones, and the ' +
    'heat goes with it. Housings soften from about 145 °C; loads that share one contact add up in it.',
  source:
    'contact resistances of the catalogue; softening of polycarbonate and polyamide housings, ' +
    `${HOUSING_SOFTENS_C} °C`,
  find: study =>
    landingsOf(study).flatMap((landing): Found[] => {
      const { lead, mating, fitted, terminal } = landing
      const { value, condition } = ampsAt(study, landing)
      if (!mating.mates || mating.ratedA === null || value > mating.ratedA) return []
      const reachesC = agedC(fitted, mating.ratedA, value, study.site.ambientC.high)
      if (reachesC <= HOUSING_SOFTENS_C || sharing(study, lead, carriesAged(study, fitted, mating.ratedA)).length)
        return []
      return [
        {
          severity: 'caution',
          place: terminal,
          also: [lead.id],
          condition,
          title: `${connector(fitted).label} melts when aged`,
          message:
            `${amps(value)} passes the ${connector(fitted).label} of ${leadName(lead)} at ${terminal} with ` +
            `${conditionWords(study.plan, condition)}; once aged it reaches about ${celsius(reachesC)} at ` +
            `${celsius(study.site.ambientC.high)} ambient, and housings soften from ${celsius(HOUSING_SOFTENS_C)}.`,
          numbers: {
            amps: value,
            ratedA: mating.ratedA,
            reachesC,
            ambientC: study.site.ambientC.high,
            softensC: HOUSING_SOFTENS_C,
          },
        },
      ]
    }),
  fixes: (found, study) =>
    mendHeat(
      found,
      study,
      (ratedA, value, id) => value <= ratedA && agedC(id, ratedA, value, study.site.ambientC.high) <= HOUSING_SOFTENS_C,
    ),
}
