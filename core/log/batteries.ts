import { chargeWhere } from '../battery/charge'
import { cellFamily } from '../catalog/chemistries'
import { kindOf, type Part } from '../kinds/index'
import type { Store } from '../kinds/store'
import type { BatteryEntry, Log } from './log'
import { fixed } from '../units/number'

/** A battery's life as its log tells it, and what is due. */

export interface BatteryLife {
  part: string
  boughtOn: string | null
  cost: number | null
  /** Full cycles by what was put in or taken out, as far as it was noted. */
  cycles: number
  /** Of its printed capacity, by each capacity test that reached its end. */
  capacity: { on: string; ah: number; share: number }[]
  /** From two loads, mΩ. */
  resistance: { on: string; milliohm: number }[]
  cells: { on: string; spreadV: number } | null
  /** Share it holds a year less; null with fewer than two tests half a year apart. */
  fadePerYear: number | null
  /** When it is down to four fifths at that rate; null where it is not known or is never. */
  replaceOn: string | null
  due: { on: string; what: string }[]
  /** What is wrong by what was noted, in words. */
  warns: string[]
}

/** A battery that holds less than this of what is printed is at the end of its life for a station (usual measure). */
const WORN = 0.8
const DAY_MS = 24 * 3600e3
const YEAR_MS = 365.25 * DAY_MS
/** Tests nearer than this say nothing of fade, years. */
const APART_YEARS = 0.4
/** Cells further apart than this at rest want balancing, V; per cell of lithium, and of a block. */
const CELLS_APART_V = { lithium: 0.05, lead: 0.2 }
/** A resistance that has grown by so much of the first is told. */
const RISEN = 1.5
/** How often a stored battery is charged, a stored lithium pack looked at, days (practice). */
const TOP_UP_DAYS = { lithium: 180, lead: 60 }
/** Where a lithium pack is stored, charge. */
const STORE_LOW = 0.3
const STORE_HIGH = 0.7
const EQUALISE_DAYS = 90

const day = (time: string) => time.slice(0, 10)
const later = (time: string, days: number) =>
  new Date(Date.parse(`${day(time)}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10)
const years = (from: string, to: string) => (Date.parse(day(to)) - Date.parse(day(from))) / YEAR_MS

/** @returns null for a part that stores nothing in Ah */
export function batteryLife(part: Part, log: Log): BatteryLife | null {
  const store = kindOf(part).store?.(part, () => [])
  if (!store || store.unit !== 'Ah') return null
  const entries = log.batteries.filter(e => e.part === part.id).sort((a, b) => a.time.localeCompare(b.time))
  const of = (what: BatteryEntry['what']) => entries.filter(e => e.what === what)
  const capacity = of('capacity').flatMap(e =>
    e.ah === undefined ? [] : [{ on: day(e.time), ah: e.ah, share: e.ah / store.capacity }],
  )
  const resistance = of('resistance').flatMap(e => (e.loads ? [{ on: day(e.time), milliohm: milliohm(e.loads) }] : []))
  const cells = of('cells')
    .flatMap(e => (e.cellVolts ? [{ on: day(e.time), spreadV: spread(e.cellVolts) }] : []))
    .at(-1)
  const fadePerYear = fadeOf(capacity)
  const [bought] = of('bought')
  const family = cellFamily(store.chemistry ?? '')
  return {
    part: part.id,
    boughtOn: bought ? day(bought.time) : null,
    cost: bought?.cost ?? null,
    cycles: entries.reduce((sum, e) => sum + (CYCLED.includes(e.what) ? (e.ah ?? 0) / store.capacity : 0), 0),
    capacity,
    resistance,
    cells: cells ?? null,
    fadePerYear,
    replaceOn: replaceOn(capacity, fadePerYear),
    due: dueOf(entries, store),
    warns: warnsOf({ store, entries, capacity, resistance, spreadV: cells?.spreadV, family }),
  }
}

const CYCLED: BatteryEntry['what'][] = ['charged', 'capacity']
const milliohm = ([a, b]: NonNullable<BatteryEntry['loads']>) => (1000 * (a!.volts - b!.volts)) / (b!.amps - a!.amps)
const spread = (volts: readonly number[]) => Math.max(...volts) - Math.min(...volts)

/** Least squares through the shares of capacity over years. */
function fadeOf(tests: BatteryLife['capacity']): number | null {
  const [first, last] = [tests[0], tests.at(-1)]
  if (!first || !last || years(first.on, last.on) < APART_YEARS) return null
  const t = tests.map(x => years(first.on, x.on))
  const mean = (xs: number[]) => xs.reduce((a, b) => a + b, 0) / xs.length
  const [mt, ms] = [mean(t), mean(tests.map(x => x.share))]
  const top = tests.reduce((sum, x, i) => sum + (t[i]! - mt) * (x.share - ms), 0)
  return -top / t.reduce((sum, x) => sum + (x - mt) ** 2, 0)
}

function replaceOn(tests: BatteryLife['capacity'], fade: number | null): string | null {
  const last = tests.at(-1)
  if (!last) return null
  if (last.share <= WORN) return last.on
  if (fade === null || fade <= 0) return null
  return later(last.on, (365.25 * (last.share - WORN)) / fade)
}

const WHEN_STORED = { lithium: 'look at its charge: 30 to 70 %', lead: 'charge it full' }
/** The only cells that are equalised as a rule. */
const EQUALISED = 'flooded'

function dueOf(entries: readonly BatteryEntry[], { chemistry = '' }: Store): BatteryLife['due'] {
  const family = cellFamily(chemistry)
  const last = (...whats: BatteryEntry['what'][]) => entries.filter(e => whats.includes(e.what)).at(-1)
  const stored = last('stored')
  const since = last('charged', 'topped-up', 'capacity', 'rested')
  const isStored = stored && (!since || since.time < stored.time)
  const cared = last('stored', 'topped-up')
  const topUp =
    isStored && cared && family !== 'other'
      ? [{ on: later(cared.time, TOP_UP_DAYS[family]), what: WHEN_STORED[family] }]
      : []
  const tested = last('capacity', 'bought')
  const test = tested ? [{ on: later(tested.time, 365), what: 'test its capacity' }] : []
  const equalised = last('equalised')
  const again =
    equalised && chemistry === EQUALISED
      ? [{ on: later(equalised.time, EQUALISE_DAYS), what: 'equalise, if its maker says so' }]
      : []
  return [...topUp, ...test, ...again].sort((a, b) => a.on.localeCompare(b.on))
}

interface Noted {
  store: Store
  entries: readonly BatteryEntry[]
  capacity: BatteryLife['capacity']
  resistance: BatteryLife['resistance']
  spreadV: number | undefined
  family: ReturnType<typeof cellFamily>
}

function warnsOf({ store, entries, capacity, resistance, spreadV, family }: Noted): string[] {
  const last = capacity.at(-1)
  const [r0, r1] = [resistance[0], resistance.at(-1)]
  const stored = entries.filter(e => e.what === 'stored').at(-1)
  const rests = (c: number) => store.sourcesAt(c)[0]?.emfV ?? 0
  const storedAt = stored?.volts === undefined ? null : chargeWhere(rests, stored.volts)
  const most = family === 'lithium' ? CELLS_APART_V.lithium : CELLS_APART_V.lead
  const never = family === 'lithium' ? 'lithium' : store.chemistry === 'gel' && 'gel'
  const warns: [boolean, string][] = [
    [
      last !== undefined && last.share < WORN,
      `holds ${percentOf(last?.share)} of what is printed: replace it, or use it where nothing depends on it`,
    ],
    [
      r0 !== undefined && r1 !== r0 && r1!.milliohm > RISEN * r0.milliohm,
      `its resistance has risen from ${fixed(r0?.milliohm ?? NaN, 0)} to ${fixed(r1?.milliohm ?? NaN, 0)} mΩ`,
    ],
    [spreadV !== undefined && spreadV > most, `its cells are ${fixed(spreadV ?? NaN, 2)} V apart: balance them`],
    [Boolean(never) && entries.some(e => e.what === 'equalised'), `was equalised: never do that to ${never}`],
    [
      family === 'lithium' && storedAt !== null && (storedAt < STORE_LOW || storedAt > STORE_HIGH),
      `is stored at about ${percentOf(storedAt)}: 30 to 70 % ages it least`,
    ],
    [
      family === 'lead' && storedAt !== null && storedAt < 0.9,
      `is stored at about ${percentOf(storedAt)}: lead-acid is stored full, else it sulphates`,
    ],
  ]
  return warns.flatMap(([is, words]) => (is ? [words] : []))
}
const percentOf = (share: number | null | undefined) => `${Math.round(100 * (share ?? 0))} %`
