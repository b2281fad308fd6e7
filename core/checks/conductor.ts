import { setField } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { AMPACITY } from '../catalog/conductors'
import { conditionWords } from '../circuit/conditions'
import { ampacityA, conductorTemperature } from '../conductor/ampacity'
import { conductorName } from '../conductor/resistance'
import { thickenTo } from '../fixes/conductor'
import { turnDownAny } from '../fixes/power'
import { leadById, leadName } from '../plan/find'
import { against, amps, celsius } from '../units/show'
import { capital } from '../units/words'
import type { Check, Found } from './check'
import { largestAmps } from '../circuit/matrix'

const otherSchool = { open: 'enclosed', enclosed: 'open' } as const

export const ampacity: Check = {
  id: 'ampacity',
  severities: ['danger'],
  looksAt: 'all; the largest current of each lead, in the hottest ambient of the site',
  title: "Current over the conductor's ampacity",
  why:
    'Over its ampacity a conductor runs hotter than its insulation stands; the insulation softens, and what ' +
    'touches it can burn. Derated for the ambient, for bundles, and by the school the plan names.',
  source: `${AMPACITY.open.source}; ${AMPACITY.enclosed.source}`,
  find: study =>
    study.plan.leads.flatMap((lead): Found[] => {
      const { value, condition } = study.leadAmps(lead)
      const limit = study.ampacity(lead)
      if (value <= limit) return []
      const other = otherSchool[study.site.ampacity]
      const otherLimit = study.ampacity(lead, other)
      const hotC = study.ambient(lead).high
      const reachesC = conductorTemperature(lead.conductor, study.site.ampacity, {
        amps: value,
        ambientC: hotC,
        bundledConductors: lead.bundledConductors,
      })
      const says =
        value <= otherLimit ? `would pass it: ${amps(otherLimit)}` : `would refuse it too: ${amps(otherLimit)}`
      return [
        {
          severity: 'danger',
          place: lead.id,
          condition,
          title: `${conductorName(lead.conductor)} too thin for ${amps(value)}`,
          message:
            `${against(amps, value, limit)} flows in ${leadName(lead)} (${conductorName(lead.conductor)}) with ` +
            `${conditionWords(study.plan, condition)}; at ${celsius(hotC)} ambient it carries ${amps(limit)} ` +
            `(${AMPACITY[study.site.ampacity].words}). It would reach ${celsius(reachesC)}.`,
          numbers: { amps: value, ampacityA: limit, ambientC: hotC, reachesC },
          otherSchool: `The ${other} school (${AMPACITY[other].words}) ${says}.`,
        },
      ]
    }),
  fixes: (found, study) => {
    const lead = leadById(study.plan, found.place)!
    const needed = found.numbers.amps!
    const { ampacity: school } = study.site
    const branch = (solved: typeof study.solved) => solved.network.branchOfLead.get(lead.id)
    return [
      thickenTo(
        study.plan,
        lead,
        c => ampacityA(c, school, study.ambient(lead).high, lead.bundledConductors) >= needed,
      ),
      turnDownAny(study.plan, solved => largestAmps(solved, branch(solved)).value <= found.numbers.ampacityA!),
    ].filter((p): p is Proposal => p !== null)
  },
}

export const copperClad: Check = {
  id: 'copper-clad',
  severities: ['caution'],
  looksAt: 'all',
  title: 'Copper-clad aluminium',
  why: 'It has 1.6 times the resistance of copper, breaks when flexed and works loose in a crimp made for copper.',
  source: 'resistivity of copper-clad aluminium against IEC 60028 copper',
  find: study =>
    study.plan.leads
      .filter(l => l.conductor.material === 'cca')
      .map((lead): Found => ({
        severity: 'caution',
        place: lead.id,
        condition: null,
        title: `${capital(leadName(lead))} is copper-clad aluminium`,
        message:
          `${capital(leadName(lead))} is ${conductorName(lead.conductor)}: 1.6 times the resistance of copper, ` +
          'counted so here.',
        numbers: { resistanceFactor: 1.6 },
      })),
  fixes: (found, study) => [
    propose('Copper of the same size', setField(study.plan, found.place, 'conductor.material', 'copper')),
  ],
}
