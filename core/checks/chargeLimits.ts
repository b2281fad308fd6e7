import { restedVolts } from '../battery/emf'
import { chemistry } from '../catalog/chemistries'
import { setField } from '../edit/set'
import { addDcCharger } from '../fixes/charge'
import { propose, type Proposal } from '../fixes/proposal'
import { conditionWords } from '../circuit/conditions'
import { judgedLimit } from '../kinds/batteryLimits'
import { chargersOf } from '../kinds/charging'
import { asKind, kindOf, type Part, type PartOf } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Study } from '../study/study'
import { amps, volts } from '../units/show'
import { severityAt, type Check, type Found } from './check'
import { batteries, pairs, part, batteryAt, outputOf, setTo } from './batteries'
import { fixed, rounded } from '../units/number'

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
            title: `${nameOf(device)} has no setting for ${label}`,
            message:
              `${nameOf(device)} knows ${known.map(id => chemistry(id).label).join(', ')}; ${nameOf(battery)} is ` +
              `${label}.`,
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
          title: `${nameOf(device)} is set to ${chemistry(output.chemistry).label}`,
          message:
            `${nameOf(device)} is set to ${chemistry(output.chemistry).label}` +
            `${output.absorptionV === null ? '' : ` (${volts(output.absorptionV)})`}; ${nameOf(battery)} is ${label}.`,
          numbers: output.absorptionV === null ? {} : { absorptionV: output.absorptionV },
        },
      ]
    }),
  fixes: (found, study) => [setTo(study, found.place, batteryAt(study, found.also![0]!))].filter(p => p !== null),
}

/** A device whose highest voltage is under that of an empty battery charges nothing. */
function otherSystem(battery: PartOf<'battery'>, device: Part, absorptionV: number): Found | null {
  const emptyV = restedVolts(battery, 0)
  if (absorptionV >= emptyV) return null
  return {
    severity: 'fail',
    place: device.id,
    also: [battery.id],
    condition: 'charging/idle',
    title: `${nameOf(device)} is for another system voltage`,
    message:
      `${nameOf(device)} charges to ${volts(absorptionV)}; ${nameOf(battery)} stands at ${volts(emptyV)} even when ` +
      'empty: nothing flows into it.',
    numbers: { absorptionV, emptyV },
  }
}

/** Left on a float that is too high. */
function floatsHigh(battery: PartOf<'battery'>, device: Part, floatV: number | null): Found | null {
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
    title: `${nameOf(device)} floats too high to be left on`,
    message: `${nameOf(device)} floats at ${volts(floatV)}; ${label} ${most}`,
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
            title: `${nameOf(device)} charges to ${volts(output.absorptionV)}`,
            message:
              `${nameOf(device)} charges to ${volts(output.absorptionV)}; ${label} with ${battery.seriesCells} ` +
              `cells stands ${volts(high)}.`,
            numbers: { absorptionV: output.absorptionV, highV: high },
          },
        ]
      }
      const other = otherSystem(battery, device, output.absorptionV)
      if (other) return [other]
      if (output.absorptionV < low - 0.05) {
        return [
          {
            ...at,
            severity: 'caution',
            title: `${nameOf(device)} never fills ${nameOf(battery)}`,
            message:
              `${nameOf(device)} charges to ${volts(output.absorptionV)}; ${label} with ${battery.seriesCells} ` +
              `cells fills from ${volts(low)}.`,
            numbers: { absorptionV: output.absorptionV, lowV: low },
          },
        ]
      }
      const float = floatsHigh(battery, device, output.floatV)
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
    const float = floatV ? `float ${floatV} V` : 'no float'
    const label = `Set ${nameOf(part(study, found.place))} to ${absorptionV} V, ${float}`
    return [
      propose(
        label,
        setField(study.plan, found.place, `${now.fields.profiles}.${now.chemistry}`, { absorptionV, floatV }),
      ),
    ]
  },
}

export const chargeCurrent: Check = {
  id: 'charge-current',
  severities: ['danger', 'caution'],
  looksAt: 'charging from low; what really flows into each battery from all that is wired to it',
  title: 'Battery charged faster than it may be',
  why:
    'Lithium cells charged too fast plate metal and can short inside; lead-acid gases and warms. A small pack ' +
    'wants a small charge current, and an alternator or a supply gives a low battery all it has.',
  source: "the battery's data sheet (maxChargeA, BMS limit); unsaid: a cautious class value",
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const limit = judgedLimit(battery, 'maxChargeA')
      const { value, condition } = study.partAmps(battery, 'least')
      const chargeA = -value
      if (!limit || chargeA <= limit.amps + 1e-6) return []
      const from = givingIn(study, battery.id, condition)
      return [
        {
          severity: severityAt('danger', limit, chargeA),
          limit: [battery.id, 'maxChargeA'],
          place: battery.id,
          also: from.map(p => p.id),
          condition,
          title: `${nameOf(battery)} charged with ${amps(chargeA)}`,
          message:
            `${amps(chargeA)} flows into ${nameOf(battery)} with ${conditionWords(study.plan, condition)}, from ` +
            `${from.map(nameOf).join(' and ')}; it takes ${amps(limit.amps)} ` +
            `(${fixed(limit.amps / battery.capacityAh, 1)} C)${limit.assumed ? `, ${limit.assumed}` : ''}.`,
          numbers: { chargeA, maxChargeA: limit.amps },
        },
      ]
    }),
  fixes: (found, study) =>
    found.also!.flatMap((id): Proposal[] => {
      const now = outputOf(study, id)
      if (!now) return throughDcCharger(study, found, id)
      const room = found.numbers.maxChargeA! - (found.numbers.chargeA! - now.maxA)
      if (room <= 0) return []
      return ofCurrent(study, id, a => a <= room, 'largest')
    }),
}

/** A vehicle's or a supply's charge through a DC-DC charger that gives no more than the battery takes. */
function throughDcCharger(study: Study, found: Found, id: string): Proposal[] {
  const battery = batteryAt(study, found.place)
  const source = part(study, id)
  const lead = study.leadsOf(id).find(l => l.to === battery.id || l.from === id)
  const between = lead && addDcCharger(study.plan, lead, { source, battery, mostA: found.numbers.maxChargeA! })
  return between ? [between] : []
}

/** The sources that give on a battery's wire in a condition. */
function givingIn(study: Study, batteryId: string, condition: string) {
  const { network } = study.solved
  const wire = network.component[network.nodeOf.get(batteryId)!]
  const flows = study.point(condition)?.sources ?? []
  const ids = flows.filter(s => s.amps > 1e-6 && network.component[s.node] === wire).map(s => s.partId)
  return [...new Set(ids)].filter(id => id !== batteryId).map(id => part(study, id))
}

/** Charge currents that devices are sold with, A. */
const SOLD_A = [0.5, 1, 2, 3, 4, 5, 8, 10, 15, 20, 30] as const

/**
 * A device made to charge with a current that fits: set to one of its choices, or another of that size in its place.
 */
function ofCurrent(
  study: Study,
  deviceId: string,
  fits: (amps: number) => boolean,
  prefer: 'largest' | 'least',
): Proposal[] {
  const device = part(study, deviceId)
  const { fields, choicesA } = outputOf(study, deviceId)!
  const fitting = (choicesA ?? SOLD_A).filter(fits)
  const chosen = prefer === 'largest' ? fitting.at(-1) : fitting[0]
  if (chosen === undefined) return []
  const another = `A ${chosen} A ${kindOf(device).label}`
  const inItsPlace = prefer === 'largest' ? `${another}, or limit it to that` : `${another} in its place`
  return [
    propose(
      choicesA ? `Set ${nameOf(device)} to ${chosen} A` : inItsPlace,
      setField(study.plan, deviceId, fields.current, chosen),
    ),
  ]
}

export const chargeRateLow: Check = {
  id: 'charge-rate-low',
  severities: ['caution'],
  looksAt: 'charging, all idle',
  title: 'Charges too slowly to keep up',
  why:
    'What the station takes while it only listens goes on day and night; a charge current below it never fills ' +
    'the battery.',
  source: 'charge current against the idle draw',
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const devices = chargersOf(battery.id, study.around)
      const chargeA = devices.reduce((sum, d) => sum + d.output.maxA, 0)
      const idle = study.point('charging/idle')
      if (!devices.length || !idle || idle.status !== 'ok') return []
      const idleA = study.batteryIdleA(battery.id)
      // One that has nothing to give, as a controller without its panel, is no slow one.
      if (idleA === null || chargeA <= 0 || chargeA >= idleA) return []
      return [
        {
          severity: 'caution',
          place: devices[0]!.partId,
          also: [battery.id],
          condition: 'charging/idle',
          title: `${amps(chargeA)} of charge does not keep up with ${amps(idleA)}`,
          message:
            `All idle the station takes ${amps(idleA)}; ` +
            `${devices.map(d => nameOf(part(study, d.partId))).join(' and ')} ` +
            `${devices.length > 1 ? 'give' : 'gives'} ${amps(chargeA)}.`,
          numbers: { chargeA, idleA },
        },
      ]
    }),
  fixes: (found, study) => ofCurrent(study, found.place, a => a >= found.numbers.idleA!, 'least'),
}
