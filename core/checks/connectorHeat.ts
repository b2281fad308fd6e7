import { connector, HOUSING_SOFTENS_C } from '../catalog/connectors'
import { conditionWords } from '../circuit/conditions'
import { largestAmps } from '../circuit/matrix'
import { fitsContact } from '../connector/fits'
import { contactRise } from '../connector/heat'
import { contactOhmNow } from '../connector/mate'
import { conductorMm2 } from '../conductor/resistance'
import { strongerMating } from '../fixes/parts'
import { turnDownAny } from '../fixes/power'
import type { Proposal } from '../fixes/proposal'
import { leadName } from '../plan/find'
import { terminalName } from '../plan/names'
import { amps, celsius } from '../units/show'
import type { Check, Found } from './check'
import type { Study } from '../study/study'
import { agedC, ampsAt, carriesAged, endOf, landingsOf, sharing } from './landings'
import { asGiven, fixed } from '../units/number'
import { capital } from '../units/words'

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

export const connectorHeat: Check = {
  id: 'connector-heat',
  severities: ['fail', 'caution'],
  looksAt:
    'all; the largest current through each mating, contacts as aged, or as measured where that is worse, in the ' +
    'hottest ambient of the site',
  title: 'Connector runs hot when aged',
  why:
    'Contacts age: with some years and matings their resistance is three to five times that of new ones, and the ' +
    'heat goes with it. Housings soften from about 145 °C; loads that share one contact add up in it.',
  source:
    'contact resistances of the catalogue; softening of polycarbonate and polyamide housings, ' +
    `${asGiven(HOUSING_SOFTENS_C)} °C`,
  find: study =>
    landingsOf(study).flatMap((landing): Found[] => {
      const { lead, mating, contact, fitted, terminal } = landing
      const { value, condition } = ampsAt(study, landing)
      if (!mating.mates || mating.ratedA === null || value > mating.ratedA) return []
      const ambientC = study.site.ambientC.high
      const reachesC = agedC(contact, mating.ratedA, value, ambientC)
      const nowC = ambientC + contactRise(fitted, mating.ratedA, value, contactOhmNow(contact))
      const isNow = nowC > HOUSING_SOFTENS_C
      if (reachesC <= HOUSING_SOFTENS_C) return []
      if (!isNow && sharing(study, lead, carriesAged(study, contact, mating.ratedA)).length) return []
      const known = contact.contactOhm === undefined ? '' : ` (${fixed(1000 * contact.contactOhm, 1)} mΩ measured)`
      return [
        {
          severity: isNow ? 'fail' : 'caution',
          place: terminal,
          also: [lead.id],
          condition,
          title: `${capital(connector(fitted).label)} melts${isNow ? '' : ' when aged'}`,
          message:
            `${amps(value)} passes the ${connector(fitted).label} of ${leadName(lead)} at ` +
            `${terminalName(study.plan, terminal)} with ${conditionWords(study.plan, condition)}; ` +
            `${isNow ? `as it is${known}` : 'once aged'} it reaches about ` +
            `${celsius(isNow ? nowC : reachesC)} at ${celsius(ambientC)} ambient, ` +
            `and housings soften from ${celsius(HOUSING_SOFTENS_C)}.`,
          numbers: {
            amps: value,
            ratedA: mating.ratedA,
            reachesC: isNow ? nowC : reachesC,
            ambientC,
            softensC: HOUSING_SOFTENS_C,
          },
        },
      ]
    }),
  fixes: (found, study) =>
    mendHeat(
      found,
      study,
      (ratedA, value, id) =>
        value <= ratedA && agedC({ connector: id }, ratedA, value, study.site.ambientC.high) <= HOUSING_SOFTENS_C,
    ),
}
