import { Charging } from './charging'
import type { EventCourse } from './course'
import type { HoursEvent } from './event'
import { seriesAt } from './panels'
import { OwnPacks, type OnOwnPack } from './ownPacks'
import { hoursAt } from './schedule'
import type { Fields } from './moment'
import { sparesOf, type AskedSpares, type Spares } from './spares'
import type { NamedStore, Running } from './standing'
import type { Table } from './table'
import type { Use } from './users'
import { Watch, type Failure } from './watch'

/** How things stand at a moment: charges 0–1, volts with everything keyed and while listening. */
export interface Moment {
  h: number
  soc: Record<string, number>
  volts: Record<string, number>
  listeningV: Record<string, number>
  sunW: number
  suppliedW: number
  loadsW: number
  storesA: Record<string, number>
}

/** Energies of a course, Wh; `stores`: what their cells gave on balance; `loss`: in wires, contacts, converters. */
export interface Energy {
  loadsWh: number
  sunWh: number
  suppliedWh: number
  storesWh: number
  lossWh: number
}

export interface Course {
  ends: Failure | null
  failures: Failure[]
  energy: Energy
  /** Charge of each store at the end. */
  leaves: Record<string, number>
  /** When radios lived on their own packs. */
  onOwnPack: OnOwnPack[]
  /** When a spare pack was put in, hours from the start. */
  changedAtH: number[]
  timeline: Moment[]
}

export interface CourseOptions {
  /** h; unsaid: a minute. */
  stepH?: number
  /** A moment of the timeline so often, h; 0: none, and no energies. */
  everyH?: number
  /** Transmit time against what the schedule says. */
  duty?: number
  /** What is left of each store's capacity, against what the event says. */
  health?: number
  /** Of each store's capacity so much, by its part: nearly what packs of other sizes give, without solving anew. */
  capacityTimes?: Readonly<Record<string, number>>
  /** So many full packs like this one lie ready, beside those that the event says. */
  spares?: AskedSpares
  /** Told the charges at the beginning of each stage. */
  trace?: (stage: number, charges: Float64Array) => void
  /** What the sun gives at each input, of its label; unsaid: the event's weather. */
  suns?: readonly Float64Array[]
}

const MINUTE_H = 1 / 60
/** However much is kept in reserve, a full pack is not used up. */
const MOST_RESERVED = 0.98

/** A store that goes to sleep when less than this is taken, W. */
interface Sleeper {
  store: number
  id: string
  leastW: number
}

/** One course while it runs. */
export class Run {
  private readonly charges: Float64Array
  private readonly place: Float64Array
  private readonly out: Float64Array
  private readonly capacities: number[]
  private readonly suns: readonly Float64Array[]
  private readonly watch: Watch
  private readonly charging: Charging
  private readonly sleepers: Sleeper[]
  /** As they stand in a block of figures: loads, supplied, sun, stores, loss; Wh. */
  private readonly energies = new Float64Array(5)
  private cold: readonly number[] = []
  private readonly duty: number
  private readonly fields: Fields
  /** Without a timeline: no energies, and limits only where one is near. */
  private readonly isLean: boolean
  private readonly stores: readonly NamedStore[]
  private readonly timeline: Moment[] = []
  private readonly asleep = new Set<string>()
  private readonly changedAtH: number[] = []
  private readonly spares: readonly Spares[]
  private readonly own: OwnPacks
  /** No limit is near: only flows were figured. */
  private isCalm = false
  private nextMoment = 0

  constructor(
    private readonly course: EventCourse,
    private readonly options: CourseOptions,
  ) {
    const { stores, event, sunInputs } = course
    this.stores = stores
    this.fields = course.fields
    this.isLean = options.everyH === 0
    this.duty = options.duty ?? 1
    const said = (id: string) => event.stores?.find(s => s.part === id)
    this.charges = Float64Array.from(stores, s => said(s.part.id)?.startCharge ?? 1)
    const left = (id: string) => (said(id)?.health ?? 1) * (options.health ?? 1) * (options.capacityTimes?.[id] ?? 1)
    this.capacities = stores.map(s => s.capacity * left(s.part.id))
    this.watch = new Watch(
      course,
      stores.map(s => Math.min(MOST_RESERVED, s.endOfUse.charge + (event.reserve ?? 0))),
    )
    this.sleepers = sleepersOf(course)
    this.place = new Float64Array(stores.length + sunInputs.length)
    this.out = new Float64Array(course.fields.count)
    this.suns = options.suns ?? course.suns()
    this.charging = new Charging(course, this.suns)
    this.own = new OwnPacks(course.plan, course.watched.loads)
    this.spares = sparesOf(event, stores, options.spares)
  }

  go(): Course {
    const { course, options, charges, watch } = this
    const stepH = options.stepH ?? MINUTE_H
    let table: Table | null = null
    let uses: readonly Use[] = []
    let movedAtH = -1
    let key = ''
    for (const [n, stage] of course.stretches().entries()) {
      this.swap(stage.fromH)
      options.trace?.(n, charges)
      this.cold = course.coldShares(n)
      for (let h = stage.fromH; h < stage.toH - 1e-9;) {
        const dt = Math.min(stepH, stage.toH - h)
        if (this.charging.look(h, stage, charges) || !table || stage.key !== key) {
          key = stage.key
          const running = this.running(stage.on)
          table = course.table(running, stage)
          uses = course.usesIn(stage, running)
        }
        for (const spare of this.spares) this.change(spare, table, uses, h)
        // Looked at anew where something moved, once: what goes to and fro does so no more than once a step.
        const isFirst = movedAtH !== h
        this.figure(table, h, dt)
        const goesToOwn = isFirst && !this.own.isEmpty && this.own.look(h, stage.uses, this.keyedV)
        if (!goesToOwn && !this.isCalm) watch.look(h, uses, charges, this.out)
        if (goesToOwn || this.sleep(h) || watch.moveTerminals()) {
          table = null
          movedAtH = h
          if (isFirst) continue
        }
        if (!this.isLean) this.note(h)
        for (const spare of this.spares) spare.wait(h, dt)
        this.charging.step(dt)
        if (!this.own.isEmpty) this.own.step(h, dt, stage.uses, this.duty)
        this.step(dt)
        h += dt
      }
    }
    const { hours } = course.event
    const ends = watch.end(hours)
    const [loadsWh, suppliedWh, sunWh, storesWh, lossWh] = this.energies
    if (!this.isLean) this.note(hours, true)
    return {
      ends,
      failures: watch.failures,
      energy: { loadsWh: loadsWh!, suppliedWh: suppliedWh!, sunWh: sunWh!, storesWh: storesWh!, lossWh: lossWh! },
      onOwnPack: this.own.spans,
      changedAtH: this.changedAtH,
      leaves: Object.fromEntries(course.stores.map((s, k) => [s.part.id, Math.max(0, charges[k]!)])),
      timeline: this.timeline,
    }
  }

  private running(on: ReadonlySet<string>): Running {
    const { charging, asleep, watch } = this
    const { locked, heating } = charging
    return {
      on,
      floating: new Set(charging.floating),
      locked,
      heating,
      own: new Map(this.own.state),
      asleep: new Set(asleep),
      open: new Set(watch.open),
    }
  }

  /** Puts a spare pack in where the one in use is at its end, or a fuller one would give what now is too little. */
  private change(spares: Spares, table: Table, uses: readonly Use[], h: number) {
    const { charges, changedAtH, watch } = this
    const { store } = spares
    const best = spares.best(charges[store]!)
    if (best === null) return
    const fresh = charges.slice()
    fresh[store] = best
    if (watch.isAtEnd(store, fresh)) return
    if (!watch.isAtEnd(store, charges)) {
      if (!watch.hasTooLittle(uses, this.figuresAt(table, h, charges))) return
      if (watch.hasTooLittle(uses, this.figuresAt(table, h, fresh))) return
    }
    charges[store] = spares.change(charges[store]!)
    changedAtH.push(h)
  }

  private readonly keyedV = (i: number) => this.out[this.fields.keyedV + i]!

  private figuresAt(table: Table, h: number, charges: Float64Array): Float64Array {
    this.goTo(charges, h)
    table.at(this.place, this.course.allFields, this.out)
    return this.out
  }

  /** Where the figures are looked up: charges, and the sun of an hour. */
  private goTo(charges: Float64Array, h: number) {
    const { place, suns } = this
    for (let k = 0; k < charges.length; k++) place[k] = Math.max(0, charges[k]!)
    for (let k = 0; k < suns.length; k++) place[charges.length + k] = seriesAt(suns[k]!, h)
  }

  /** The figures in the middle of a step; where no limit is near, only what flows. */
  private figure(table: Table, h: number, dt: number) {
    const { course, place, charges, out, watch, isLean } = this
    this.goTo(charges, h + dt / 2)
    this.isCalm = isLean && this.own.isEmpty && watch.isCalm(h, charges)
    if (this.isCalm) {
      table.at(place, course.leastFields, out)
      if (out[this.fields.margin]! > 0) return
      this.isCalm = false
    }
    table.at(place, isLean ? course.leanFields : course.allFields, out)
  }

  /** What the scheduled duty, more or less, makes of a figure of the blocks. */
  private mean(field: number): number {
    const at = this.out[field]!
    return at + this.duty * (this.out[this.fields.mean + field]! - at)
  }

  private step(dt: number) {
    const { charges, capacities, cold, energies, fields, stores } = this
    for (let k = 0; k < charges.length; k++) {
      const left = charges[k]! - (taken(stores[k]!, this.mean(k), cold[k]!) * dt) / capacities[k]!
      // What the last step took too much is paid back before anything is given again.
      charges[k] = Math.min(1, left)
    }
    if (this.isLean) return
    for (let e = 0; e < energies.length; e++) energies[e]! += this.mean(fields.loadsW + e) * dt
  }

  private swap(h: number) {
    const { event, stores } = this.course
    for (const swap of event.swaps ?? []) {
      if (Math.abs(hoursAt(event, swap.at) - h) > 1e-5) continue
      const k = stores.findIndex(s => s.part.id === swap.part)
      if (k >= 0) this.charges[k] = swap.charge ?? 1
    }
  }

  /** Stores of which less is taken, while nobody transmits, than keeps them awake. @returns whether one fell asleep */
  private sleep(h: number): boolean {
    let fell = false
    for (const { store, leastW, id } of this.sleepers) {
      if (this.asleep.has(id) || this.charges[store]! <= 0 || this.out[this.course.fields.quiet + store]! >= leastW)
        continue
      this.asleep.add(id)
      this.watch.fallsAsleep(store, h)
      fell = true
    }
    return fell
  }

  private note(h: number, last = false) {
    const { everyH } = this.options
    if (h < this.nextMoment - 1e-9 && !last) return
    this.nextMoment = h + (everyH ?? usualEveryH(this.course.event))
    const { fields, stores, watched } = this.course
    const named = (at: number) => Object.fromEntries(watched.loads.map((id, i) => [id, this.out[at + i]!]))
    this.timeline.push({
      h,
      soc: Object.fromEntries(stores.map((s, k) => [s.part.id, Math.max(0, this.charges[k]!)])),
      volts: named(fields.keyedV),
      listeningV: named(fields.listeningV),
      sunW: this.mean(fields.sunW),
      suppliedW: this.mean(fields.suppliedW),
      loadsW: this.mean(fields.loadsW),
      storesA: Object.fromEntries(stores.map((s, k) => [s.part.id, this.mean(k)])),
    })
  }
}

/** What a store has less for a flow, A or W. */
function taken(store: NamedStore, flow: number, cold: number): number {
  if (store.unit === 'Wh') return flow / store.efficiency
  return flow > 0 ? store.countedA(flow) / cold : flow * store.chargeEfficiency
}

/** A quarter of an hour, or so that a long event has some four hundred moments. */
const usualEveryH = ({ hours }: HoursEvent) => Math.max(0.25, hours / 400)

/** Stores that sleep when too little is taken, and on which something hangs. */
function sleepersOf({ stores, watched, event }: EventCourse): Sleeper[] {
  const { component, nodeOf } = watched.network
  return stores.flatMap((s, store) => {
    const [source] = s.sourcesAt(1)
    const isHeld = event.stores?.find(x => x.part === s.part.id)?.heldAwake
    if (s.autoOffA === undefined || isHeld || !source) return []
    const wire = component[nodeOf.get(source.at)!]
    const hasLoad = watched.loads.some(id => component[nodeOf.get(id)!] === wire)
    return hasLoad ? [{ store, id: s.part.id, leastW: s.autoOffA * source.emfV }] : []
  })
}
