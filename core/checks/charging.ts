import { chemistry } from '../catalog/chemistries'
import { setField } from '../edit/set'
import { propose } from '../fixes/proposal'
import { chargersOf } from '../kinds/charging'
import { celsius } from '../units/show'
import type { Check, Found } from './check'
import { batteries, part } from './batteries'
import { lowestC } from './cold'

export const lithiumCold: Check = {
  id: 'lithium-cold',
  severities: ['danger'],
  looksAt: 'charging on the coldest day of the place the battery stands in',
  title: 'Lithium battery charged in the cold',
  why:
    'Below freezing lithium plates as metal on the anode instead of going in: capacity is lost for good and the ' +
    'cell can short inside later. Something has to keep the charge off.',
  source: "charging limits of the chemistry; the battery's own lowTempChargeC",
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const devices = chargersOf(battery.id, study.around)
      const limitC = battery.lowTempChargeC ?? battery.bms?.lowTempChargeC ?? chemistry(battery.chemistry).chargeAboveC
      const lowC = lowestC(study, battery.zone)
      if (
        !devices.length ||
        limitC === null ||
        lowC >= limitC ||
        !['lifepo4', 'nmc', 'lipo'].includes(battery.chemistry)
      )
        return []
      const locks = battery.lockOut || battery.bms?.lowTempChargeC !== undefined || devices.every(d => d.output.lockOut)
      if (locks) return []
      return [
        {
          severity: 'danger',
          place: battery.id,
          also: devices.map(d => d.partId),
          condition: 'charging/idle',
          title: `${study.name(battery)} may be charged at ${celsius(lowC)}`,
          message:
            `It gets down to ${celsius(lowC)} where ${study.name(battery)} stands; it may not be charged below ` +
            `${celsius(limitC)}, and nothing in the plan keeps the charge off.`,
          numbers: { lowC, limitC },
        },
      ]
    }),
  fixes: (found, study) => [
    propose('A pack or relay with a cold charge cut-off', setField(study.plan, found.place, 'lockOut', true)),
    ...(found.also!.length === 1
      ? [
          propose(
            `A temperature sensor on ${study.name(part(study, found.also![0]!))}`,
            setField(study.plan, found.also![0]!, 'lockOut', true),
          ),
        ]
      : []),
  ],
}

export const ventilation: Check = {
  id: 'ventilation',
  severities: ['danger'],
  looksAt: 'charging',
  title: 'Flooded battery charged without ventilation',
  why:
    'A flooded battery gives off hydrogen and oxygen on charge; a spark at a loose clamp is enough. The gas has ' +
    'to be led outdoors, and switches and fuses kept out of its way.',
  source: 'IEC 62485-2: ventilation of secondary batteries',
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      if (battery.chemistry !== 'flooded' || battery.ventilated) return []
      return [
        {
          severity: 'danger',
          place: battery.id,
          condition: 'charging/idle',
          title: `${study.name(battery)} gives off gas on charge`,
          message:
            `${study.name(battery)} is flooded and charged where it stands; the plan does not say that its ` +
            'gas is led outdoors.',
          numbers: { capacityAh: battery.capacityAh },
        },
      ]
    }),
  fixes: (found, study) => [
    propose('A vented box, its gas led outdoors', setField(study.plan, found.place, 'ventilated', true)),
  ],
}
