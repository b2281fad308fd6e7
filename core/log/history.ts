import { chemistry } from '../catalog/chemistries'
import { compile } from '../circuit/network'
import { nameOf, partById } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Plan } from '../plan/schema'
import type { JointState } from '../readings/joints'
import { jointsOf } from '../readings/places'
import { pointsOf } from '../readings/points'
import { daysOf, standingOf } from '../readings/trend'
import { SYMPTOMS } from '../symptoms/symptom'
import { figure } from '../units/number'
import { counted } from '../units/words'
import { RESTED, seenOf, type BatteryEntry, type Log, type SettingEntry } from './log'
import { usableReadings } from './usable'

/** A station's years on one page: what was done, read, set and suspected, day by day. */

export interface Happening {
  of: 'step' | 'setting' | 'readings' | 'seen' | 'symptom' | 'battery'
  words: string
  /** Devices that entered it; of the station's own machine nothing is said. */
  who: string[]
  /** Something was not as it should be. */
  isBad: boolean
}
export interface HistoryDay {
  day: string
  happened: Happening[]
}

export const BATTERY_WORDS: Record<BatteryEntry['what'], string> = {
  bought: 'bought',
  charged: 'charged',
  rested: 'rested volts',
  capacity: 'capacity test',
  resistance: 'two loads, for its resistance',
  cells: 'volts of its cells',
  'topped-up': 'topped up',
  equalised: 'equalised',
  stored: 'put away',
}

/** The last day first. */
export function historyOf(plan: Plan, log: Log): HistoryDay[] {
  const all: Timed[] = [
    ...readingsOf(plan, log),
    ...stepsOf(log),
    ...log.seen.map(s => ({
      time: s.time,
      of: 'seen' as const,
      words: `${jointName(plan, s.place)}: ${s.saw}`,
      ...by(s),
    })),
    ...log.settings.map(s => ({ time: s.time, of: 'setting' as const, words: settingWords(plan, s), ...by(s) })),
    ...log.symptoms.map(s => ({
      time: s.time,
      of: 'symptom' as const,
      words: symptomWords(plan, s),
      ...by(s),
      isBad: true,
    })),
    ...log.batteries.map(b => ({ time: b.time, of: 'battery' as const, words: batteryWords(plan, b), ...by(b) })),
  ].sort((a, b) => a.time.localeCompare(b.time))
  const days = new Map<string, Happening[]>()
  for (const { time, isBad = false, who = [], ...happening } of all) {
    const day = time.slice(0, 10)
    days.set(day, [...(days.get(day) ?? []), { ...happening, who, isBad }])
  }
  return [...days].sort(([a], [b]) => b.localeCompare(a)).map(([day, happened]) => ({ day, happened }))
}

type Timed = Omit<Happening, 'isBad' | 'who'> & { time: string; isBad?: boolean; who?: string[] }

/** Who entered some of them, each once. */
const by = (...entries: { who?: string }[]) => ({ who: [...new Set(entries.flatMap(e => e.who ?? []))] })

/** Of each day how many were read, how many were off, and which joint was suspect by then. */
function readingsOf(plan: Plan, log: Log): Timed[] {
  const { readings } = usableReadings(plan, log)
  const days = daysOf(plan, readings, seenOf(log)).filter(d => d.day)
  const points = pointsOf(days)
  const rested = log.readings.filter(r => r.condition === RESTED)
  return [
    ...days.map(({ day }, n): Timed => {
      const read = points.filter(p => p.day === day)
      const off = read.filter(p => !p.within).length
      const states = standingOf(days.slice(0, n + 1)).flatMap(s => (s.day === day ? [s.state] : []))
      const howMany = off ? `${off} not as it should be` : 'all as they should be'
      const words = [`${counted(read.length, 'reading')}, ${howMany}`, ...suspectWords(states)].join('; ')
      const its = log.readings.filter(r => r.condition !== RESTED && r.time.startsWith(day))
      return { time: `${day}T00`, of: 'readings', words, ...by(...its), isBad: off > 0 }
    }),
    ...rested.map((r): Timed => {
      const words = `${terminalName(plan, r.at)}, rested: ${figure(r.volts ?? 0, 2)} V`
      return { time: r.time, of: 'readings', words, ...by(r) }
    }),
  ]
}

/** The surest first; those of which it is one or another, once. */
function suspectWords(states: readonly JointState[]): string[] {
  const told = new Set<string>()
  const suspects = states.filter(s => s.suspect).sort((a, b) => b.bad - a.bad)
  return suspects.flatMap(({ joint, milliohm, or, orWords }) => {
    if (told.has(joint.place)) return []
    for (const place of [joint.place, ...or]) told.add(place)
    return [`${[joint.words, ...orWords].join(' or ')} suspect, ${figure(milliohm, 1)} mΩ`]
  })
}

function stepsOf({ steps }: Log): Timed[] {
  const byDay = new Map<string, Log['steps']>()
  for (const step of steps) {
    const day = step.time.slice(0, 10)
    byDay.set(day, [...(byDay.get(day) ?? []), step])
  }
  return [...byDay].map(([day, its]) => ({
    time: `${day}T00`,
    of: 'step',
    words: `${counted(its.length, 'step')} of putting together`,
    ...by(...its),
  }))
}

const jointName = (plan: Plan, place: string) => jointsOf(compile(plan)).find(j => j.place === place)?.words ?? place

/** By its name; a part that the plan no longer has by what it was called in it. */
const partName = (plan: Plan, id: string) => {
  const part = partById(plan, id)
  return part ? nameOf(part) : id
}

function settingWords(plan: Plan, entry: SettingEntry): string {
  const said = [
    entry.chemistry && `set to ${chemistry(entry.chemistry).label}`,
    entry.absorptionV !== undefined && `absorbs at ${figure(entry.absorptionV, 2)} V`,
    entry.floatV !== undefined && `floats at ${figure(entry.floatV, 2)} V`,
    entry.chargeA !== undefined && `charges at ${figure(entry.chargeA, 1)} A`,
    entry.loadTimerH !== undefined &&
      (entry.loadTimerH ? `load off after ${figure(entry.loadTimerH)} h` : 'no load timer'),
    entry.cutV !== undefined && `load off under ${figure(entry.cutV, 2)} V`,
    entry.portsOn && `ports on: ${entry.portsOn}`,
    entry.torqueNm !== undefined && `terminals at ${figure(entry.torqueNm, 1)} N·m`,
    entry.note,
  ].filter(Boolean)
  return `${partName(plan, entry.part)}: ${said.join(', ') || 'looked at'}`
}

function symptomWords(plan: Plan, { symptom, at, findings, note }: Log['symptoms'][number]): string {
  const where = at ? `${partName(plan, at)}: ` : ''
  const tested = findings.length ? `, ${counted(findings.length, 'finding')}` : ''
  return `${where}“${SYMPTOMS[symptom]}”${tested}${note ? `; ${note}` : ''}`
}

function batteryWords(plan: Plan, entry: BatteryEntry): string {
  const { cost, ah, volts, loads, cellVolts, note } = entry
  const said = [
    cost !== undefined && `for ${figure(cost, 2)}`,
    ah !== undefined && `${figure(ah, 1)} Ah`,
    volts !== undefined && `${figure(volts, 2)} V`,
    loads && loads.map(l => `${figure(l.amps, 1)} A ${figure(l.volts, 2)} V`).join(', '),
    cellVolts && cellVolts.map(v => figure(v, 3)).join(' '),
    note,
  ].filter(Boolean)
  return `${partName(plan, entry.part)}: ${[BATTERY_WORDS[entry.what], ...said].join(', ')}`
}
