import { compile, type Network } from '../circuit/network'
import { isLoad, kindOf, needs, type Part } from '../kinds/index'
import type { Plan } from '../plan/schema'
import { volts } from '../units/show'
import type { HoursEvent } from './event'
import { inputsOf, Moments, type Fields, type Watched } from './moment'
import { usesOnOwn } from './ownPacks'
import { usesWithout, withOpen } from './opened'
import { skyOf, sunInputsOf, sunOver } from './panels'
import { hoursAt, isIn, stretchesOf, type Stretch } from './schedule'
import { storesOf, type NamedStore, type Running } from './standing'
import { Run, type Course, type CourseOptions } from './run'
import { Table } from './table'
import { LOOKS_EVERY_H, warmthOf } from './warmth'
import { Users, type Use } from './users'

const evenly = (from: number, to: number, step: number) =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => from + i * step)
/**
 * Charges and suns at which the circuit is solved, beside where a store's law bends: close together where a charger
 * holds a nearly full pack, since what flows there turns on hundredths of a volt.
 */
const CHARGE_KNOTS = [
  0,
  0.0005,
  0.02,
  0.05,
  ...evenly(0.1, 0.9, 0.1),
  ...evenly(0.92, 0.95, 0.01),
  ...evenly(0.95, 1, 0.0025),
]
const SUN_KNOTS = [0, 0.01, 0.025, ...evenly(0.05, 0.3, 0.05), ...evenly(0.4, 1.3, 0.1)]
/** In order, and each once: what is a hair apart is the same. */
const rising = (values: readonly number[]) =>
  Float64Array.from([...new Set(values.map(v => Math.round(v * 1e6) / 1e6))].sort((a, b) => a - b))

/** A stretch in which only charges and sun change. */
export interface Stage extends Stretch {
  on: ReadonlySet<string>
  uses: Use[]
  /** Alike where these are. */
  key: string
}

/** One plan through one event. The circuit is solved once for each place it comes by, over all courses. */
export class EventCourse {
  readonly stores: NamedStore[]
  readonly assumed: string[]
  private readonly users: Users
  private readonly on: { ids: readonly string[]; stretches: Stretch[] }[]
  private readonly edges: number[]
  /** As drawn, and with the switches closed that go with what is on. */
  private readonly drawn: Moments
  private readonly throughSwitches: Moments
  private readonly tables = new Map<string, Table>()
  /** With load terminals open, and with their loads off, by which. */
  private readonly whileOpen = new Map<string, { moments: Moments; off: ReadonlySet<string> }>()
  readonly sunInputs
  readonly fields: Fields
  readonly allFields: Int32Array
  /** Those that a course without a timeline looks at: all limits, or flows and how far the nearest limit is. */
  readonly leanFields: Int32Array
  readonly leastFields: Int32Array
  private eventSuns: Float64Array[] | null = null

  constructor(
    readonly plan: Plan,
    readonly event: HoursEvent,
  ) {
    this.on = suppliedOf(plan, event)
    this.drawn = momentsOf(plan)
    const closed = this.closedPlan()
    this.throughSwitches = closed === plan ? this.drawn : momentsOf(closed)
    this.stores = [...this.drawn.watched.stores]
    this.sunInputs = this.drawn.watched.suns
    this.fields = this.drawn.fields
    this.allFields = Int32Array.from({ length: this.fields.count }, (_, f) => f)
    this.leanFields = leanOf(this.fields, this.drawn.watched)
    this.leastFields = leastOf(this.fields, this.stores.length)
    this.users = new Users(plan, event)
    const looks = Array.from({ length: Math.floor(event.hours / LOOKS_EVERY_H) }, (_, n) => n * LOOKS_EVERY_H)
    const swaps = (event.swaps ?? []).map(s => hoursAt(event, s.at))
    const all = [
      0,
      ...this.users.edges(),
      ...this.on.flatMap(o => o.stretches.flatMap(s => [s.fromH, s.toH])),
      ...swaps,
    ]
    this.edges = [...rising([...all, ...looks])].filter(h => h >= 0 && h < event.hours)
    this.assumed = assumedOf(plan, event, this.stores)
  }

  /** What the sun gives in the event's own weather. */
  suns(): Float64Array[] {
    return (this.eventSuns ??= sunOver(this.plan, this.event, this.sunInputs, skyOf(this.event)))
  }

  run(options: CourseOptions = {}): Course {
    return new Run(this, options).go()
  }

  /** What is the same from one edge to the next. */
  stretches(): readonly Stage[] {
    return (this.stages ??= this.staged())
  }
  private stages: Stage[] | null = null
  private staged(): Stage[] {
    return this.edges.map((fromH, i) => {
      const on = new Set(this.on.filter(o => isIn(o.stretches, fromH)).flatMap(o => o.ids))
      const engine = this.plan.parts.some(p => kindOf(p).runsOn === 'engine' && on.has(p.id))
      const hasEngine = this.plan.parts.some(p => kindOf(p).runsOn === 'engine')
      const uses = this.users.at(fromH, engine || !hasEngine)
      const key = JSON.stringify([[...on], uses.map(u => [u.off, u.mean.value, u.full.value, u.keyed])])
      return { fromH, toH: this.edges[i + 1] ?? this.event.hours, on, uses, key }
    })
  }

  /** How warm a store is without a heater. */
  private readonly warmth: Float64Array[] = []
  celsius(k: number, h: number): number {
    const series = (this.warmth[k] ??= warmthOf(this.plan, this.event, this.stores[k]!))
    return series[Math.floor(h / LOOKS_EVERY_H + 1e-9)]!
  }

  /** What the cold leaves of each store's capacity in the stage of such a number. */
  coldShares(n: number): readonly number[] {
    const { fromH } = this.stretches()[n]!
    return (this.cold[n] ??= this.stores.map((store, k) => store.coldShare(this.celsius(k, fromH))))
  }
  private readonly cold: (readonly number[])[] = []

  /** The plan with the switches closed that go with what an event has on. */
  private readonly closedPlan = () => withClosed(this.plan, new Set(this.on.flatMap(o => o.ids)))

  private momentsWith(running: Running) {
    const drawn = running.on.size ? this.throughSwitches : this.drawn
    if (!running.open.size) return { moments: drawn, off: NOTHING_OFF }
    const word = `${[...running.open].sort().join()}|${running.on.size > 0}`
    let known = this.whileOpen.get(word)
    if (!known) {
      const { plan, off } = withOpen(running.on.size ? this.closedPlan() : this.plan, running.open)
      known = { moments: momentsOf(plan), off }
      this.whileOpen.set(word, known)
    }
    return known
  }

  /** What the loads take in a stage: those off that hang on nothing but an open load terminal or have a pack inside. */
  usesIn({ uses }: Stage, running: Running): Use[] {
    const { open, own } = running
    const fed = open.size ? usesWithout(uses, this.momentsWith(running).off) : uses
    return own.size ? usesOnOwn(fed, own) : fed
  }

  /** The figures of a stage over charges and sun. */
  table(running: Running, stage: Stage): Table {
    const { floating, locked, asleep, open, heating, own } = running
    const state = [floating, locked, asleep, open, heating, own].map(s => (s.size ? [...s].sort().join() : ''))
    const whole = `${stage.key}|${state.join('|')}`
    let table = this.tables.get(whole)
    if (!table) {
      const { moments } = this.momentsWith(running)
      const uses = this.usesIn(stage, running)
      const knots = [
        ...this.stores.map(s => rising([...CHARGE_KNOTS, ...s.bends, s.endOfUse.charge])),
        ...this.sunInputs.map(() => Float64Array.from(SUN_KNOTS)),
      ]
      table = new Table(knots, moments.figuresOf(running, uses))
      this.tables.set(whole, table)
    }
    return table
  }

  get watched(): Watched {
    return this.drawn.watched
  }
}

const NOTHING_OFF: ReadonlySet<string> = new Set()

const momentsOf = (plan: Plan) => new Moments(watchedIn(compile(plan)))

function watchedIn(network: Network): Watched {
  const loads = network.plan.parts.filter(isLoad)
  return {
    network,
    stores: storesOf(network),
    suns: sunInputsOf(network),
    loads: loads.map(l => l.id),
    minV: loads.map(l => needs(l).minV),
    inputs: inputsOf(network),
  }
}

/** Parts that an event has on, each with what hangs on it. */
function suppliedOf(plan: Plan, event: HoursEvent): { ids: readonly string[]; stretches: Stretch[] }[] {
  const said = (event.supplied ?? []).map(s => ({
    ids: s.parts.flatMap(id => {
      const part = plan.parts.find(p => p.id === id)
      const feeds = part && 'feeds' in part ? ((part.feeds as string[] | undefined) ?? []) : []
      const hangs = plan.parts.filter(p => 'fedBy' in p && p.fedBy === id).map(p => p.id)
      return [id, ...feeds, ...hangs]
    }),
    stretches: stretchesOf(event, s),
  }))
  // Without anything that runs out, the mains is there all the time unless somebody says when.
  const named = new Set(said.flatMap(s => s.ids))
  const storesSomething = plan.parts.some(p => kindOf(p).stores || kindOf(p).store?.(p, () => []))
  const always = plan.parts.filter(p => kindOf(p).runsOn === 'mains' && !named.has(p.id) && !storesSomething)
  const whole = [{ fromH: 0, toH: event.hours }]
  return always.length ? [...said, { ids: always.map(p => p.id), stretches: whole }] : said
}

/** A plan with the switches closed in the leads of what is switched on. */
function withClosed(plan: Plan, on: ReadonlySet<string>): Plan {
  const touches = (terminal: string) => on.has(terminal.split('.')[0]!)
  const isOpen = (item: { kind: string; closed?: boolean }) => item.kind === 'switch' && item.closed === false
  const leads = plan.leads.map(lead => {
    if (!(touches(lead.from) || touches(lead.to)) || !lead.inline?.some(isOpen)) return lead
    return { ...lead, inline: lead.inline.map(i => (isOpen(i) ? { ...i, closed: true } : i)) }
  })
  return leads.some((l, i) => l !== plan.leads[i]) ? { ...plan, leads } : plan
}

function assumedOf(plan: Plan, event: HoursEvent, stores: readonly NamedStore[]): string[] {
  const named = new Set(suppliedOf(plan, event).flatMap(s => s.ids))
  const never = plan.parts.filter(p => kindOf(p).runsOn && !named.has(p.id)).map(p => p.name ?? p.id)
  return [
    ...stores.flatMap(s => s.assumed.map(a => `${s.part.name ?? s.part.id}: ${a}`)),
    ...plan.parts.flatMap(returnAssumed),
    ...plan.parts
      .filter(isPackUnknown)
      .map(p => `${p.name ?? p.id}: its own pack is not counted, its volts are not said`),
    ...(never.length ? [`off all the time, since the event does not say when it runs: ${never.join(', ')}`] : []),
    ...(event.place || event.weather?.irradianceWm2 ? [] : ['no sun: the event does not say where it is']),
  ]
}

/** A radio with a pack inside of which nobody knows what it holds. */
const isPackUnknown = (part: Part) => kindOf(part).ownPack?.(part) === 'unknown'

/** A load terminal that opens by its voltage, and nobody says when it closes again. */
function returnAssumed(part: Part): string[] {
  const cut = kindOf(part).loadCut?.(part)
  if (cut?.belowV === undefined || cut.closesAssumed !== true) return []
  return [`${part.name ?? part.id}: its load terminal closes again at ${volts(cut.closesV!)}, as is usual`]
}

/** Of the figures those that a course without a timeline looks at: no energies. */
function leanOf(fields: Fields, { stores, loads, inputs }: Watched): Int32Array {
  const run = (from: number, count: number) => Array.from({ length: count }, (_, i) => from + i)
  return Int32Array.from([
    ...run(fields.quiet, stores.length),
    ...run(fields.mean, stores.length),
    ...run(fields.keyedV, loads.length),
    ...run(fields.inputV, inputs.length),
    ...run(fields.keyedA, stores.length),
  ])
}

const leastOf = ({ quiet, mean, margin }: Fields, stores: number): Int32Array =>
  Int32Array.from([margin, ...Array.from({ length: stores }, (_, k) => [quiet + k, mean + k]).flat()])
