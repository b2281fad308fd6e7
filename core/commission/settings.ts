import { chemistry } from '../catalog/chemistries'
import { compile } from '../circuit/network'
import { chargersOf } from '../kinds/charging'
import { kindOf } from '../kinds/index'
import type { ChargeOutput } from '../kinds/kind'
import type { LoadCut } from '../kinds/store'
import type { Log, SettingEntry } from '../log/log'
import { nameOf, partById } from '../plan/find'
import type { Plan } from '../plan/schema'
import { figure } from '../units/number'

/** How devices were found set, against what the plan wants of them. */
export interface SettingFault {
  part: string
  words: string
  danger: boolean
}

/** The last record of each device. */
export function lastSettings(log: Log): SettingEntry[] {
  const byPart = new Map<string, SettingEntry>()
  const inTime = [...log.settings].sort((a, b) => a.time.localeCompare(b.time))
  for (const entry of inTime) byPart.set(entry.part, { ...byPart.get(entry.part), ...entry })
  return [...byPart.values()]
}

/** A voltage set by hand is right to so much, V. */
const SET_OFF_V = 0.1

type Fault = Omit<SettingFault, 'part'>

/** What of the record is other than the plan's, or wrong for the battery whatever the plan says. */
export function settingFaults(plan: Plan, log: Log): SettingFault[] {
  const { around } = compile(plan)
  return lastSettings(log).flatMap((entry): SettingFault[] => {
    const device = partById(plan, entry.part)
    if (!device) return []
    const battery = plan.parts.find(b => chargersOf(b.id, around).some(c => c.partId === device.id))
    const output = battery && chargersOf(battery.id, around).find(c => c.partId === device.id)!.output
    const wanted = battery && kindOf(battery).settingFor?.(battery)
    const cut = kindOf(device).loadCut?.(device)
    const faults = [
      ...(wanted && output ? chargeFaults(entry, { wanted, output, name: nameOf(battery) }) : []),
      ...(cut ? loadFaults(entry, cut) : []),
    ]
    return faults.map(({ words, danger }) => ({ part: device.id, danger, words: `${nameOf(device)} ${words}.` }))
  })
}

interface Charging {
  wanted: { chemistry: string; seriesCells: number; maxChargeA?: number }
  output: ChargeOutput
  name: string
}

const v = (value: number) => `${figure(value)} V`
const a = (value: number) => `${figure(value)} A`
const differs = (x: number, y: number) => Math.abs(x - y) > SET_OFF_V

function chargeFaults({ chemistry: set, ...entry }: SettingEntry, { wanted, output, name }: Charging): Fault[] {
  const most = chemistry(wanted.chemistry).absorptionV?.[1]
  const mostV = most === undefined ? Infinity : most * wanted.seriesCells
  const faults: Fault[] = []
  const wrong = (words: string, danger = false) => faults.push({ words, danger })
  if (set !== undefined && set !== wanted.chemistry)
    wrong(`is set to ${chemistry(set).label}; ${name} is ${chemistry(wanted.chemistry).label}`, true)
  const { absorptionV, floatV, chargeA } = entry
  if (absorptionV !== undefined && absorptionV > mostV + SET_OFF_V)
    wrong(`absorbs at ${v(absorptionV)}, over the ${v(mostV)} that ${name} stands`, true)
  else if (absorptionV !== undefined && output.absorptionV !== null && differs(absorptionV, output.absorptionV))
    wrong(`absorbs at ${v(absorptionV)}; the plan says ${v(output.absorptionV)}`)
  if (floatV !== undefined && output.floatV !== null && differs(floatV, output.floatV))
    wrong(`floats at ${v(floatV)}; the plan says ${v(output.floatV)}`)
  if (chargeA !== undefined && wanted.maxChargeA !== undefined && chargeA > wanted.maxChargeA)
    wrong(`charges at ${a(chargeA)}, over the ${a(wanted.maxChargeA)} that ${name} takes`, true)
  else if (chargeA !== undefined && chargeA > output.maxA * SET_OVER)
    wrong(`charges at ${a(chargeA)}; the plan says ${a(output.maxA)}`)
  return faults
}

/** A rate is the plan's where it is no more than so many times that. */
const SET_OVER = 1.02

function loadFaults({ cutV, loadTimerH }: SettingEntry, cut: LoadCut): Fault[] {
  const faults: Fault[] = []
  if (cutV !== undefined && cut.belowV !== undefined && differs(cutV, cut.belowV))
    faults.push({ words: `cuts its load at ${v(cutV)}; the plan says ${v(cut.belowV)}`, danger: false })
  const planned = cut.afterH === undefined ? 'none' : `${figure(cut.afterH)} h`
  if (loadTimerH !== undefined && loadTimerH !== (cut.afterH ?? 0))
    faults.push({ words: `has a load timer of ${figure(loadTimerH)} h; the plan says ${planned}`, danger: false })
  return faults
}
