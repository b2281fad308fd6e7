import { restedVolts } from '../battery/emf'
import { chemistry } from '../catalog/chemistries'
import { conditionWords } from '../circuit/conditions'
import { setField } from '../edit/set'
import { addController, addDcCharger } from '../fixes/charge'
import { propose, type Proposal } from '../fixes/proposal'
import { judgedLimit } from '../kinds/batteryLimits'
import { chargersOf } from '../kinds/charging'
import { asKind, isLoad, kindOf, partsOf, type Part, type PartOf } from '../kinds/index'
import { partById, partIdOf } from '../plan/find'
import type { Study } from '../study/study'
import { amps, volts } from '../units/show'
import { someOf } from '../units/words'
import { batteries, pairs, setTo } from './batteries'
import type { Check, Found } from './check'
import { asGiven, rounded } from '../units/number'

/** What is wired to a battery, or stands in for one, and should not be. */

/** What the solver's last digits and a meter's may differ by, V. */
const MARGIN_V = 0.05

export const sourceOverBattery: Check = {
  id: 'source-over-battery',
  severities: ['danger'],
  looksAt: 'end of charge; every source on a battery that has no setting for it',
  title: 'A source holds the battery above what it stands',
  why:
    'A supply, an alternator or a bare panel does not know the battery: it holds its own voltage for as long as it ' +
    'is there. Above the end-of-charge voltage lithium cells vent and burn, and lead-acid boils dry.',
  source: "the chemistry's charging voltages; the source's own",
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const { absorptionV: range, label } = chemistry(battery.chemistry)
      const span = study.arrival(battery.id)
      if (!range || !span) return []
      const highV = range[1] * battery.seriesCells
      const { value, condition } = span.high
      const culprits = value > highV + MARGIN_V ? withoutSetting(study, battery.id, condition) : []
      if (!culprits.length) return []
      return [
        {
          severity: 'danger',
          place: battery.id,
          also: culprits.map(c => c.id),
          condition,
          title: `${volts(value)} on ${study.name(battery)}`,
          message:
            `${someOf(culprits.map(study.name))} ${culprits.length > 1 ? 'bring' : 'brings'} ` +
            `${study.name(battery)} to ` +
            `${volts(value)} with ${conditionWords(study.plan, condition)}; ${label} with ${battery.seriesCells} ` +
            `cells stands ${volts(highV)}.`,
          numbers: { atV: value, highV },
        },
      ]
    }),
  fixes: (found, study) =>
    found.also!.flatMap((id): Proposal[] => {
      const source = partById(study.plan, id)!
      const battery = asKind(partById(study.plan, found.place)!, 'battery')!
      return [setToFloat(study, source, battery), throughCharger(study, source, battery)].filter(p => p !== null)
    }),
}

/** A supply turned down to what the battery may be left on. */
function setToFloat(study: Study, source: Part, battery: PartOf<'battery'>): Proposal | null {
  const supply = asKind(source, 'supply')
  const { floatV } = chemistry(battery.chemistry)
  const wanted = floatV && rounded(floatV[1] * battery.seriesCells, 2)
  const range = supply?.adjustable
  if (!supply || !range || wanted === null || wanted < range.minV || wanted > range.maxV) return null
  return propose(`Set ${study.name(supply)} to ${asGiven(wanted)} V`, setField(study.plan, supply.id, 'setV', wanted))
}

/** A DC-DC charger of the battery's chemistry between a source and the battery. */
function throughCharger(study: Study, source: Part, battery: PartOf<'battery'>): Proposal | null {
  const ends = [source.id, battery.id]
  const lead = study.leadsOf(source.id).find(l => ends.every(id => [l.from, l.to].some(t => partIdOf(t) === id)))
  const mostA = judgedLimit(battery, 'maxChargeA')?.amps ?? 0
  return lead ? addDcCharger(study.plan, lead, { source, battery, mostA }) : null
}

/** Sources that give on a battery's wire in a condition, and are no chargers with a setting. */
function withoutSetting(study: Study, batteryId: string, condition: string): Part[] {
  const { network } = study.solved
  const wire = network.component[network.nodeOf.get(batteryId)!]
  const chargers = new Set(chargersOf(batteryId, study.around).map(c => c.partId))
  const flows = study.point(condition)?.sources ?? []
  const ids = flows
    .filter(s => network.component[s.node] === wire && s.amps > 1e-6 && s.partId !== batteryId)
    .map(s => s.partId)
  return [...new Set(ids)].filter(id => !chargers.has(id)).map(id => partById(study.plan, id)!)
}

export const panelDirect: Check = {
  id: 'panel-direct',
  severities: ['danger'],
  looksAt: 'what stands on the same wire as a panel',
  title: 'Panel without a charge controller',
  why:
    "A panel's voltage is the sun's affair: open it stands far above a radio's limit, and on a battery it goes on " +
    'charging when that is full. It wants a controller made for the battery.',
  source: 'practice of solar systems; no panel feeds a battery or a load without a controller',
  find: study =>
    partsOf(study.plan.parts, 'panel').flatMap((panel): Found[] => {
      const on = study.around(panel.id)
      const hasController = on.some(a => a.terminal.endsWith('.panel'))
      const fed = on.filter(a => isLoad(a.part) || kindOf(a.part).stores).map(a => a.part)
      if (hasController || !fed.length) return []
      return [
        {
          severity: 'danger',
          place: panel.id,
          also: fed.map(p => p.id),
          condition: null,
          title: `${study.name(panel)} is wired straight to ${someOf(fed.map(study.name))}`,
          message:
            `No controller stands between ${study.name(panel)} and ${someOf(fed.map(study.name))}: it gives up to ` +
            `${volts(panel.openCircuitV)} and ${amps(panel.shortCircuitA)}, and nothing ends the charge.`,
          numbers: { openCircuitV: panel.openCircuitV, shortCircuitA: panel.shortCircuitA },
        },
      ]
    }),
  fixes: (found, study) => {
    const panel = asKind(partById(study.plan, found.place)!, 'panel')!
    const battery = found.also!.map(id => asKind(partById(study.plan, id)!, 'battery')).find(b => b !== null)
    const [lead] = study.leadsOf(panel.id)
    const between = battery && lead ? addController(study.plan, lead, panel, battery) : null
    return between ? [between] : []
  },
}

export const chargerUnset: Check = {
  id: 'charger-unset',
  severities: ['caution'],
  looksAt: 'every charging device on a battery',
  title: 'Charging device whose setting is not said',
  why:
    'One left unset charges for whatever it was made with, which is often lead-acid. Look at its setting before the ' +
    'battery goes on.',
  source: "the device's manual",
  find: study =>
    pairs(study).flatMap(({ battery, device, output }): Found[] => {
      if (output.chemistry !== undefined) return []
      const label = chemistry(battery.chemistry).label
      return [
        {
          severity: 'caution',
          place: device.id,
          also: [battery.id],
          condition: null,
          title: `${study.name(device)} is set to nothing`,
          message:
            `The plan does not say which chemistry ${study.name(device)} is set to; ${study.name(battery)} ` +
            `is ${label}. It is judged at its highest setting.`,
          numbers: {},
        },
      ]
    }),
  fixes: (found, study) => {
    const battery = asKind(partById(study.plan, found.also![0]!)!, 'battery')
    const set = battery && setTo(study, found.place, battery)
    return set ? [set] : []
  },
}

export const chargerLoop: Check = {
  id: 'charger-loop',
  severities: ['fail'],
  looksAt: 'chargers fed by an inverter',
  title: 'Charger fed by an inverter on its own battery',
  why:
    'The battery feeds the inverter, the inverter the charger, the charger the battery: each turn loses a quarter, ' +
    'and the battery is emptied by its own charger.',
  source: 'conservation of energy',
  find: study =>
    partsOf(study.plan.parts, 'charger').flatMap((charger): Found[] => {
      const inverter = charger.fedBy === undefined ? undefined : partById(study.plan, charger.fedBy)
      if (!inverter || !asKind(inverter, 'inverter')) return []
      const own = study.around(charger.id).filter(a => kindOf(a.part).stores)
      const loop = own.find(b => study.around(`${inverter.id}.in`).some(a => a.part.id === b.part.id))
      if (!loop) return []
      return [
        {
          severity: 'fail',
          place: charger.id,
          also: [inverter.id, loop.part.id],
          condition: null,
          title: `${study.name(charger)} empties ${study.name(loop.part)}`,
          message:
            `${study.name(charger)} hangs on ${study.name(inverter)}, which takes its power from ` +
            `${study.name(loop.part)}, the battery it charges.`,
          numbers: {},
        },
      ]
    }),
  fixes: (found, study) => [propose('Hang it on the mains', setField(study.plan, found.place, 'fedBy', undefined))],
}

export const chargedElsewhere: Check = {
  id: 'charged-elsewhere',
  severities: ['caution'],
  looksAt: 'batteries that are said to be charged elsewhere',
  title: 'Said to be charged elsewhere, with its charger wired',
  why:
    'A battery charged elsewhere never shows its loads the charging voltage, so the plan is not judged for it. With ' +
    'a charger wired to it, it will be charged in place one day.',
  source: "the plan: the battery's charged",
  find: study =>
    partsOf(study.plan.parts, 'battery').flatMap((battery): Found[] => {
      if (battery.charged !== 'elsewhere') return []
      const devices = chargersOf(battery.id, study.around).map(c => partById(study.plan, c.partId)!)
      if (!devices.length) return []
      return [
        {
          severity: 'caution',
          place: battery.id,
          also: devices.map(d => d.id),
          condition: null,
          title: `${study.name(battery)} has ${someOf(devices.map(study.name))} wired to it`,
          message:
            `The plan says that ${study.name(battery)} is charged elsewhere, and ${someOf(devices.map(study.name))} ` +
            `${devices.length > 1 ? 'are' : 'is'} wired to it: the charging voltage is not judged.`,
          numbers: {},
        },
      ]
    }),
  fixes: (found, study) => [
    propose('Say that it is charged in place', setField(study.plan, found.place, 'charged', 'in-place')),
  ],
}

export const stringsUnfused: Check = {
  id: 'strings-unfused',
  severities: ['danger', 'caution'],
  looksAt: 'packs in parallel: the strings of one battery',
  title: 'Packs in parallel without a fuse each',
  why:
    'If one cell shorts, every other pack feeds it at once. A fuse at each string lets the bank lose one pack and ' +
    'not burn.',
  source: 'practice of battery banks: a fuse for each parallel string',
  find: study =>
    partsOf(study.plan.parts, 'battery').flatMap((battery): Found[] => {
      const members = battery.members ?? []
      const strings = [...new Set(members.map(m => m.string ?? 1))]
      const bare = strings.filter(s => !members.some(m => (m.string ?? 1) === s && m.fused))
      if (strings.length < 2 || !bare.length) return []
      const intoA = battery.internalOhm > 0 ? feedsOne(battery, strings.length) : null
      return [
        {
          severity: strings.length > 2 ? 'danger' : 'caution',
          place: battery.id,
          condition: null,
          title: `${bare.length} of ${strings.length} strings of ${study.name(battery)} without a fuse`,
          message:
            `${study.name(battery)} is ${strings.length} strings in parallel; ${bare.length} ` +
            `${bare.length > 1 ? 'have' : 'has'} no fuse of ${bare.length > 1 ? 'their' : 'its'} own.` +
            (intoA === null ? '' : ` A shorted one would be fed ${amps(intoA)} by the others.`),
          numbers: { strings: strings.length, bare: bare.length, ...(intoA !== null && { intoA }) },
        },
      ]
    }),
  fixes: (found, study) => {
    const battery = asKind(partById(study.plan, found.place)!, 'battery')
    if (!battery?.members) return []
    const fused = battery.members.map(m => ({ ...m, fused: true }))
    return [propose('A fuse in each string', setField(study.plan, battery.id, 'members', fused))]
  },
}

/** What the other strings drive into one of them that is shorted, A. */
function feedsOne(battery: PartOf<'battery'>, strings: number): number {
  const stringOhm = battery.internalOhm * strings
  return restedVolts(battery, 1) / (stringOhm + stringOhm / (strings - 1))
}
