import { DC_CHARGER_TAKES, DC_CHARGERS_A } from '../catalog/dcChargers'
import { conditionWords } from '../circuit/conditions'
import type { SolvedPlan } from '../circuit/matrix'
import { setField } from '../edit/set'
import { addDcCharger } from '../fixes/charge'
import { turnDownAny } from '../fixes/power'
import { propose, type Proposal } from '../fixes/proposal'
import { judgedLimit } from '../kinds/batteryLimits'
import { asKind, kindOf, partsOf, type Part } from '../kinds/index'
import { partById } from '../plan/find'
import type { Study } from '../study/study'
import { amps, volts } from '../units/show'
import type { Check, Found } from './check'
import { anA, capital } from '../units/words'
import { asGiven } from '../units/number'

export const alternatorOverdrawn: Check = {
  id: 'alternator-overdrawn',
  severities: ['fail'],
  looksAt: 'engine on, charging; what is asked of each vehicle against what its alternator has to spare',
  title: 'Alternator asked for more than it has to spare',
  why:
    'A low lithium bank takes all an alternator has, for hours: alternators are not made for that and burn, and the ' +
    'starter battery is drawn down beside it. A DC-DC charger between them takes a fixed share.',
  source: "the vehicle's alternatorSpareA",
  find: study =>
    partsOf(study.plan.parts, 'vehicle').flatMap((vehicle): Found[] => {
      const point = study.points.find(p =>
        p.sources.some(s => s.partId === vehicle.id && (s.limit === 'gives-most' || s.limit === 'overdrawn')),
      )
      if (!point || vehicle.alternatorSpareA === undefined) return []
      const atV = study.solved.network.nodeOf.get(vehicle.id)
      return [
        {
          severity: 'fail',
          place: vehicle.id,
          condition: point.condition.id,
          title: `${study.name(vehicle)} gives all of its ${amps(vehicle.alternatorSpareA)}`,
          message:
            `With ${conditionWords(study.plan, point.condition.id)} more is asked of ${study.name(vehicle)} than the ` +
            `${amps(vehicle.alternatorSpareA)} its alternator has to spare; its voltage falls to ` +
            `${volts(point.volts[atV!]!)}.`,
          numbers: { alternatorSpareA: vehicle.alternatorSpareA, atV: point.volts[atV!]! },
        },
      ]
    }),
  fixes: (found, study) => {
    const vehicle = partById(study.plan, found.place)!
    const battery = study.around(vehicle.id).flatMap(a => asKind(a.part, 'battery') ?? [])[0]
    const lead = study.leadsOf(vehicle.id).find(l => [l.from, l.to].includes(vehicle.id))
    const mostA = Math.min(found.numbers.alternatorSpareA!, (battery && judgedLimit(battery, 'maxChargeA')?.amps) ?? 0)
    const between = battery && lead ? addDcCharger(study.plan, lead, { source: vehicle, battery, mostA }) : null
    const carries = (solved: SolvedPlan) =>
      solved.points.every(p => p.sources.every(s => s.partId !== vehicle.id || s.limit === undefined))
    const less = turnDownAny(study.plan, carries)
    return [between, less, ...smallerChargers(study, vehicle, found.numbers.alternatorSpareA!)].filter(p => p !== null)
  },
}

/** The DC-DC chargers on a vehicle, each as a smaller one that leaves the alternator something. */
function smallerChargers(study: Study, vehicle: Part, spareA: number): Proposal[] {
  return study.around(vehicle.id).flatMap(({ part }): Proposal[] => {
    const output = kindOf(part).charge?.(part, study.around)
    const smaller = DC_CHARGERS_A.filter(a => output && a < output.maxA && a * DC_CHARGER_TAKES <= spareA).at(-1)
    if (!output || smaller === undefined) return []
    const label = capital(anA(`${asGiven(smaller)} A DC-DC charger in place of ${study.name(part)}`))
    return [propose(label, setField(study.plan, part.id, output.fields.current, smaller))]
  })
}
