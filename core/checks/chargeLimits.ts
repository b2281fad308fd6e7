import { restedVolts } from '../battery/emf'
import { chemistry } from '../catalog/chemistries'
import { setField } from '../edit/set'
import { propose } from '../fixes/proposal'
import { asKind, type Part, type PartOf } from '../kinds/index'
import { against, volts } from '../units/show'
import type { Study } from '../study/study'
import type { Check, Found } from './check'
import { pairs, part, batteryAt, outputOf, setTo } from './batteries'
import { asGiven, rounded } from '../units/number'

/** What a charger or controller does to its battery: voltage, current, chemistry. */

export const chargeChemistry: Check = {
  id: 'charge-chemistry',
  severities: ['danger'],
  looksAt: 'charging; every charging device against the battery it is wired to',
  title: 'Charging device set to another chemistry',
  why:
    'Each chemistry has its own end-of-charge voltage. Over it cells vent or burn; under it the battery never ' +
    'fills. Lithium cells take no equalising and no constant float.',
  source: "the chemistry's charging voltages; the device's setting",
  find: study =>
    pairs(study).flatMap(({ battery, device, output }): Found[] => {
      const label = chemistry(battery.chemistry).label
      const known = Object.keys(output.profiles)
      if (known.length && !output.profiles[battery.chemistry]) {
        return [
          {
            severity: 'danger',
            place: device.id,
            also: [battery.id],
            condition: 'charging/idle',
            title: `${study.name(device)} has no setting for ${label}`,
            message:
              `${study.name(device)} knows ${known.map(id => chemistry(id).label).join(', ')}; ` +
              `${study.name(battery)} is ${label}.`,
            numbers: {},
          },
        ]
      }
      if (output.chemistry === undefined || output.chemistry === battery.chemistry) return []
      return [
        {
          severity: 'danger',
          place: device.id,
          also: [battery.id],
          condition: 'charging/idle',
          title: `${study.name(device)} is set to ${chemistry(output.chemistry).label}`,
          message:
            `${study.name(device)} is set to ${chemistry(output.chemistry).label}` +
            `${output.absorptionV === null ? '' : ` (${volts(output.absorptionV)})`}; ` +
            `${study.name(battery)} is ${label}.`,
          numbers: output.absorptionV === null ? {} : { absorptionV: output.absorptionV },
        },
      ]
    }),
  fixes: (found, study) => [setTo(study, found.place, batteryAt(study, found.also![0]!))].filter(p => p !== null),
}

type Pair = readonly [battery: PartOf<'battery'>, device: Part]

/** A device whose highest voltage is under that of an empty battery charges nothing. */
function otherSystem(study: Study, [battery, device]: Pair, absorptionV: number): Found | null {
  const emptyV = restedVolts(battery, 0)
  if (absorptionV >= emptyV) return null
  return {
    severity: 'fail',
    place: device.id,
    also: [battery.id],
    condition: 'charging/idle',
    title: `${study.name(device)} is for another system voltage`,
    message:
      `${study.name(device)} charges to ${volts(absorptionV)}; ${study.name(battery)} stands at ` +
      `${volts(emptyV)} even when empty: nothing flows into it.`,
    numbers: { absorptionV, emptyV },
  }
}

/** Left on a float that is too high. */
function floatsHigh(study: Study, [battery, device]: Pair, floatV: number | null): Found | null {
  const { floatV: floats, label } = chemistry(battery.chemistry)
  const highestFloat = floats && floats[1] * battery.seriesCells
  if (floatV === null || (highestFloat !== null && floatV <= highestFloat + 0.05)) return null
  const most =
    highestFloat === null
      ? 'is not left on float.'
      : `with ${battery.seriesCells} cells is left at ${volts(highestFloat)} at most.`
  return {
    severity: 'caution',
    place: device.id,
    also: [battery.id],
    condition: 'charging/idle',
    title: `${study.name(device)} floats too high to be left on`,
    message: `${study.name(device)} floats at ${volts(floatV)}; ${label} ${most}`,
    numbers: { floatV, ...(highestFloat !== null && { highestFloatV: highestFloat }) },
  }
}

export const chargeVoltage: Check = {
  id: 'charge-voltage',
  severities: ['danger', 'fail', 'caution'],
  looksAt: "charging; absorption and float voltage of every charging device against the battery's chemistry",
  title: 'Charging voltage outside what the battery wants',
  why:
    'Too high an absorption voltage harms cells at once; too low a one never fills them; a float above the ' +
    "chemistry's, left on for weeks, wears the battery out.",
  source: 'charging voltages of the chemistry',
  find: study =>
    pairs(study).flatMap(({ battery, device, output }): Found[] => {
      const { absorptionV: range, label } = chemistry(battery.chemistry)
      // Set to another chemistry: that is the finding.
      if (
        !range ||
        output.absorptionV === null ||
        (output.chemistry !== undefined && output.chemistry !== battery.chemistry)
      )
        return []
      const [low, high] = range.map(v => v * battery.seriesCells) as [number, number]
      const at = { place: device.id, also: [battery.id], condition: 'charging/idle' }
      if (output.absorptionV > high + 0.05) {
        return [
          {
            ...at,
            severity: 'danger',
            title: `${study.name(device)} charges to ${volts(output.absorptionV)}`,
            message:
              `${study.name(device)} charges to ${against(volts, output.absorptionV, high)}; ${label} with ` +
              `${battery.seriesCells} cells stands ${volts(high)}.`,
            numbers: { absorptionV: output.absorptionV, highV: high },
          },
        ]
      }
      const other = otherSystem(study, [battery, device], output.absorptionV)
      if (other) return [other]
      if (output.absorptionV < low - 0.05) {
        return [
          {
            ...at,
            severity: 'caution',
            title: `${study.name(device)} never fills ${study.name(battery)}`,
            message:
              `${study.name(device)} charges to ${against(volts, output.absorptionV, low)}; ${label} with ` +
              `${battery.seriesCells} cells fills from ${volts(low)}.`,
            numbers: { absorptionV: output.absorptionV, lowV: low },
          },
        ]
      }
      const float = floatsHigh(study, [battery, device], output.floatV)
      return float ? [float] : []
    }),
  fixes: (found, study) => {
    const battery = batteryAt(study, found.also![0]!)
    const other = setTo(study, found.place, battery)
    if (other) return [other]
    const device = part(study, found.place)
    if (asKind(device, 'charger')?.stages === 1)
      return [propose('A charger in its place that goes down to float', setField(study.plan, device.id, 'stages', 3))]
    const now = outputOf(study, found.place)
    const { absorptionV: range, floatV: floats } = chemistry(battery.chemistry)
    if (!now?.chemistry || !range) return []
    const whole = (perCell: number) => rounded(perCell * battery.seriesCells, 2)
    const absorptionV = whole((range[0] + range[1]) / 2)
    const floatV = floats && whole(floats[0])
    const float = floatV ? `float ${asGiven(floatV)} V` : 'no float'
    const label = `Set ${study.name(part(study, found.place))} to ${asGiven(absorptionV)} V, ${float}`
    return [
      propose(
        label,
        setField(study.plan, found.place, `${now.fields.profiles}.${now.chemistry}`, { absorptionV, floatV }),
      ),
    ]
  },
}
