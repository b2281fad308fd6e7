import { chemistry } from '../catalog/chemistries'
import { conditionWords } from '../circuit/conditions'
import { addItem } from '../edit/items'
import { setField } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { isSwitch } from '../graph/device'
import { asKind, kindOf, partsOf, type Part, type PartOf } from '../kinds/index'
import { leadName, partById } from '../plan/find'
import type { Lead } from '../plan/schema'
import type { Study } from '../study/study'
import { against, amps, volts, watts } from '../units/show'
import type { Check, Found } from './check'
import { batteries, part } from './batteries'
import { asGiven, fixed, rounded } from '../units/number'
import { anA, capital } from '../units/words'

/** What charges beside chargers: the vehicle, a supply, a generator behind a charger. */

export const vehicleEngineOff: Check = {
  id: 'vehicle-engine-off',
  severities: ['caution'],
  looksAt: 'what charges from a vehicle, inverters and what a thermostat switches on it, with its engine off',
  title: "What empties a vehicle's battery with the engine off",
  why:
    'With the engine off what charges, inverts or runs by itself comes out of the starter battery, and the next ' +
    'morning the vehicle does not ' +
    'start. A charger that starts with the engine, or a switch, keeps it.',
  source: 'practice of vehicle installs',
  find: study =>
    partsOf(study.plan.parts, 'vehicle').flatMap(vehicle =>
      study.around(vehicle.id).flatMap(({ part: drain, terminal }): Found[] => {
        if (!drains(drain, terminal) || asKind(drain, 'converter')?.ignition) return []
        const ways = [...study.leadsOf(vehicle.id), ...study.leadsOf(drain.id)]
        if (ways.some(l => l.inline?.some(isSwitch))) return []
        return [
          {
            severity: 'caution',
            place: drain.id,
            also: [vehicle.id],
            condition: null,
            title: `${study.name(drain)} drains ${study.name(vehicle)}`,
            message:
              `${study.name(drain)} hangs on ${study.name(vehicle)} with nothing to open the way: ` +
              `at ${volts(vehicle.engineOffV)}, engine off, it goes on drawing from the starter battery.`,
            numbers: { engineOffV: vehicle.engineOffV },
          },
        ]
      }),
    ),
  fixes: (found, study) => {
    const lead = study.leadsOf(found.also![0]!)[0]
    const drain = part(study, found.place)
    const ignition = asKind(drain, 'converter')
      ? [propose(`Start ${study.name(drain)} by the ignition`, setField(study.plan, drain.id, 'ignition', true))]
      : []
    return [...ignition, ...(lead ? [switchIn(study, lead, true, `A switch in ${leadName(lead)}`)] : [])]
  },
}

/** What empties a vehicle's battery with nobody there: what charges from it, an inverter, what runs by itself. */
const drains = (drain: Part, terminal: string) =>
  chargesFromWire(drain, terminal) || asKind(drain, 'inverter') !== null || kindOf(drain).runsByItself?.(drain) === true

/** Whether what stands on a vehicle's wire takes charge from it: a DC-DC charger by its input, or a battery. */
const chargesFromWire = (drain: Part, terminal: string) =>
  asKind(drain, 'battery') !== null || (Boolean(asKind(drain, 'converter')?.charges) && terminal.endsWith('.in'))

/** Where a hand reaches a switch, m from the lead's from end. */
const SWITCH_M = 0.3

const switchIn = (study: Study, lead: Lead, closed: boolean, label: string): Proposal => ({
  label,
  patch: addItem(study.plan, lead.id, { kind: 'switch', closed }, { fromEndM: SWITCH_M }),
})

export const supplyCharge: Check = {
  id: 'supply-charge',
  severities: ['fail'],
  looksAt: 'charging, all active',
  title: 'Supply too small for charge and transmit at once',
  why:
    'A gate charges the battery from the same supply that carries the station; together they may ask for more ' +
    'than it gives, just while transmitting.',
  source: "the supply's data sheet (continuousA)",
  find: study =>
    partsOf(study.plan.parts, 'supply').flatMap((supply): Found[] => {
      const { value, condition } = study.partAmps(supply)
      const chargeA = chargeOn(study, supply.id)
      if (chargeA === 0 || value <= supply.continuousA || value - chargeA > supply.continuousA) return []
      return [
        {
          severity: 'fail',
          limit: [supply.id, 'continuousA'],
          place: supply.id,
          condition,
          title: `${study.name(supply)} cannot charge and carry the station`,
          message:
            `${against(amps, value, supply.continuousA)} is drawn from ${study.name(supply)} ` +
            `with ${conditionWords(study.plan, condition)}, ` +
            `${amps(chargeA)} of it for charging; it gives ${amps(supply.continuousA)} for long.`,
          numbers: { amps: value, chargeA, continuousA: supply.continuousA },
        },
      ]
    }),
  fixes: (found, study) =>
    study.around(found.place).flatMap(({ part: other }): Proposal[] => {
      const gate = asKind(other, 'gate')
      const room = found.numbers.continuousA! - (found.numbers.amps! - found.numbers.chargeA!)
      const choice = gate?.chargeAmps?.filter(a => a <= room).at(-1)
      return gate && choice
        ? [propose(`Set ${study.name(gate)} to ${asGiven(choice)} A`, setField(study.plan, gate.id, 'chargeA', choice))]
        : []
    }),
}

/** What gates on a supply take from it for charging, A. */
export function chargeOn(study: Study, supplyId: string): number {
  const onSupply = study.around(supplyId).filter(a => a.terminal.endsWith('.supply'))
  return onSupply.reduce((sum, a) => sum + (asKind(a.part, 'gate')?.chargeA ?? 0), 0)
}

export const supplyAsCharger: Check = {
  id: 'supply-as-charger',
  severities: ['caution'],
  looksAt: 'charging; supplies of fixed output wired to a battery',
  title: 'Supply left on as a charger',
  why:
    "A supply at its fixed output is above most batteries' float voltage and below what fills them: left on it " +
    'wears the battery, and never makes it full.',
  source: 'charging voltages of the chemistry',
  find: study =>
    partsOf(study.plan.parts, 'supply').flatMap((supply): Found[] =>
      batteries(study).flatMap((battery): Found[] => {
        if (!study.around(supply.id).some(a => a.part.id === battery.id)) return []
        const { absorptionV, floatV } = chemistry(battery.chemistry)
        const highestFloat = floatV ? floatV[1] * battery.seriesCells : null
        const fills = absorptionV ? absorptionV[0] * battery.seriesCells : Infinity
        if ((highestFloat !== null && supply.setV <= highestFloat + 0.05) || supply.setV >= fills - 0.05) return []
        return [
          {
            severity: 'caution',
            place: supply.id,
            also: [battery.id],
            condition: null,
            title: `${study.name(supply)} left on ${study.name(battery)}`,
            message:
              `${study.name(supply)} stands at ${volts(supply.setV)}: ` +
              (highestFloat === null
                ? 'not a float voltage for this chemistry, '
                : `above the ${volts(highestFloat)} that ${study.name(battery)} may be left at, `) +
              `and under the ${volts(fills)} that fills it.`,
            numbers: {
              setV: supply.setV,
              ...(highestFloat !== null && { highestFloatV: highestFloat }),
              fillsV: fills,
            },
          },
        ]
      }),
    ),
  fixes: (found, study) => {
    const supply = part(study, found.place) as PartOf<'supply'>
    const floatV = found.numbers.highestFloatV === undefined ? null : rounded(found.numbers.highestFloatV, 2)
    const { adjustable } = supply
    const canSet = floatV !== null && adjustable && floatV >= adjustable.minV && floatV <= adjustable.maxV
    const lead = study.leadsOf(supply.id)[0]
    const hasSwitch = lead?.inline?.some(i => i.kind === 'switch')
    const set = canSet && setField(study.plan, supply.id, 'setV', floatV)
    return [
      ...(set ? [propose(`Set ${study.name(supply)} to ${asGiven(floatV)} V`, set)] : []),
      ...(lead && !hasSwitch
        ? [switchIn(study, lead, false, `A switch in ${leadName(lead)}, open when the battery is not in use`)]
        : []),
    ]
  },
}

export const generatorLoad: Check = {
  id: 'generator-load',
  severities: ['fail'],
  looksAt: 'everything on the generator at full output',
  title: 'Generator asked for more than it gives',
  why: 'Overloaded, a small generator slows down, its voltage sags and what hangs on it drops out or is harmed.',
  source: "the generator's label; efficiencies of 0.85",
  find: study =>
    partsOf(study.plan.parts, 'generator').flatMap((generator): Found[] => {
      const wanted = (generator.feeds ?? []).reduce((sum, id) => {
        const fed = partById(study.plan, id)
        return sum + (fed ? (kindOf(fed).acInputW?.(fed) ?? 0) : 0)
      }, 0)
      if (wanted <= generator.ratedW) return []
      return [
        {
          severity: 'fail',
          limit: [generator.id, 'ratedW'],
          place: generator.id,
          also: generator.feeds,
          condition: null,
          title: `${study.name(generator)} asked for ${fixed(wanted, 0)} W`,
          message:
            `What hangs on ${study.name(generator)} takes up to ${against(watts, wanted, generator.ratedW)} ` +
            `from it at full output; it ` +
            `gives ${asGiven(generator.ratedW)} W.`,
          numbers: { wantedW: wanted, ratedW: generator.ratedW },
        },
      ]
    }),
  fixes: (found, study) => {
    const size = [1000, 2000, 3000, 5000].find(w => w >= found.numbers.wantedW!)
    if (!size) return []
    return [propose(capital(anA(`${asGiven(size)} W generator`)), setField(study.plan, found.place, 'ratedW', size))]
  },
}
