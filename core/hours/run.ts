import { Charging } from './charging'
import type { EventCourse } from './course'
import type { HoursEvent } from './event'
import { Flow } from './flow'
import { OwnPacks, type OnOwnPack } from './ownPacks'
import { hoursAt } from './schedule'
import type { Fields } from './moment'
import { sparesOf, type AskedSpares, type Spares } from './spares'
import type { Running } from './standing'
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
  /** What fails first is all that is asked: nothing is looked for after it. */
  firstOnly?: boolean
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

interface Span {
  fromH: number
  toH: number
  stepH: number
}

/** One course while it runs. */
export class Run {
  private readonly flow: Flow
  private readonly watch: Watch
  private readonly charging: Charging
  private readonly sleepers: Sleeper[]
  /** As they stand in a block of figures: loads, supplied, sun, stores, loss; Wh. */
  private readonly energies = new Float64Array(5)
  private readonly fields: Fields
  /** Without a timeline: no energies, and limits only where one is near. */
  private readonly isLean: boolean
  /** What else there is may be left alone as long as no limit is near. */
  private readonly mayCoast: boolean
  private readonly timeline: Moment[] = []
  private readonly asleep = new Set<string>()
  private readonly changedAtH: number[] = []
  private readonly spares: readonly Spares[]
  private readonly own: OwnPacks
  private nextMoment = 0

  constructor(
    private readonly course: EventCourse,
    private readonly options: CourseOptions,
  ) {
    const { stores, event } = course
    const suns = options.suns ?? course.suns()
    this.fields = course.fields
    this.isLean = options.everyH === 0
    this.flow = new Flow(course, options, suns)
    this.watch = new Watch(
      course,
      stores.map(s => Math.min(MOST_RESERVED, s.endOfUse.charge + (event.reserve ?? 0))),
    )
    this.sleepers = sleepersOf(course)
    this.charging = new Charging(course, suns)
    this.own = new OwnPacks(course.plan, course.watched.loads)
    this.spares = sparesOf(event, stores, options.spares)
    this.mayCoast = this.isLean && this.own.isEmpty && !this.charging.hasHeaters
  }

  go(): Course {
    const { course, options, flow, watch } = this
    const { charges } = flow
    const stepH = options.stepH ?? MINUTE_H
    let table: Table | null = null
    let uses: readonly Use[] = []
    let movedAtH = -1
    let key = ''
    for (const [n, stage] of course.stretches().entries()) {
      this.swap(stage.fromH)
      options.trace?.(n, charges)
      flow.cold = course.coldShares(n)
      for (let h = stage.fromH; h < stage.toH - 1e-9;) {
        if (this.mayCoast && table && stage.key === key) h = this.coast(table, { fromH: h, toH: stage.toH, stepH })
        if (h >= stage.toH - 1e-9) break
        const dt = Math.min(stepH, stage.toH - h)
        if (this.charging.look(h, stage, charges) || !table || stage.key !== key) {
          key = stage.key
          const running = this.running(stage.on)
          table = course.table(running, stage)
          uses = course.usesIn(stage, running)
        }
        for (const spare of this.spares) this.change(spare, table, uses, { h, middleH: h + dt / 2 })
        // Looked at anew where something moved, once: what goes to and fro does so no more than once a step.
        const isFirst = movedAtH !== h
        flow.lookUp(table, h + dt / 2, this.isLean ? course.leanFields : course.allFields)
        const goesToOwn = isFirst && !this.own.isEmpty && this.own.look(h, stage.uses, this.keyedV)
        if (!goesToOwn) watch.look(h, uses, charges, flow.out)
        if (goesToOwn || this.sleep(h) || watch.moveTerminals()) {
          table = null
          movedAtH = h
          if (isFirst) continue
        }
        if (!this.isLean) this.note(h)
        for (const spare of this.spares) spare.wait(h, dt)
        this.charging.step(dt)
        if (!this.own.isEmpty) this.own.step(h, dt, stage.uses, options.duty ?? 1)
        flow.step(dt)
        if (!this.isLean) this.count(dt)
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

  /**
   * Steps in which no limit is near and nothing goes another way: only charge flows.
   * @returns the hour at which there is more to look at
   */
  private coast(table: Table, { fromH, toH, stepH }: Span): number {
    const { flow, watch, charging, spares } = this
    const { leastFields } = this.course
    const isSettled = this.options.firstOnly === true && watch.isSettled && !spares.length
    const { margin } = this.fields
    let h = fromH
    while (h < toH - 1e-9) {
      if (!isSettled && !watch.isCalm(h, flow.charges)) break
      if (!charging.isStill(flow.charges)) break
      const dt = Math.min(stepH, toH - h)
      const out = flow.lookUp(table, h + dt / 2, leastFields)
      if (!isSettled && !(out[margin]! > 0)) break
      if (this.nextAsleep()) break
      for (let s = 0; s < spares.length; s++) spares[s]!.wait(h, dt)
      flow.step(dt)
      h += dt
    }
    return h
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
  private change(spares: Spares, table: Table, uses: readonly Use[], at: { h: number; middleH: number }) {
    const { flow, changedAtH, watch, course } = this
    const { charges } = flow
    const { store } = spares
    const best = spares.best(charges[store]!)
    if (best === null) return
    const fresh = charges.slice()
    fresh[store] = best
    if (watch.isAtEnd(store, fresh)) return
    if (!watch.isAtEnd(store, charges)) {
      const { allFields } = course
      if (!watch.hasTooLittle(uses, flow.lookUp(table, at.middleH, allFields))) return
      if (watch.hasTooLittle(uses, flow.lookUp(table, at.middleH, allFields, fresh))) return
    }
    charges[store] = spares.change(charges[store]!)
    changedAtH.push(at.h)
  }

  private readonly keyedV = (i: number) => this.flow.out[this.fields.keyedV + i]!

  private count(dt: number) {
    const { energies, flow, fields } = this
    for (let e = 0; e < energies.length; e++) energies[e]! += flow.mean(fields.loadsW + e) * dt
  }

  private swap(h: number) {
    const { event, stores } = this.course
    for (const swap of event.swaps ?? []) {
      if (Math.abs(hoursAt(event, swap.at) - h) > 1e-5) continue
      const k = stores.findIndex(s => s.part.id === swap.part)
      if (k >= 0) this.flow.charges[k] = swap.charge ?? 1
    }
  }

  /** Stores of which less is taken, while nobody transmits, than keeps them awake. @returns whether one fell asleep */
  private sleep(h: number): boolean {
    let fell = false
    for (let next = this.nextAsleep(); next; next = this.nextAsleep()) {
      this.asleep.add(next.id)
      this.watch.fallsAsleep(next.store, h)
      fell = true
    }
    return fell
  }

  private nextAsleep(): Sleeper | null {
    const { flow, asleep, sleepers, fields } = this
    for (let s = 0; s < sleepers.length; s++) {
      const { store, id, leastW } = sleepers[s]!
      if (flow.charges[store]! > 0 && flow.out[fields.quiet + store]! < leastW && !asleep.has(id)) return sleepers[s]!
    }
    return null
  }

  private note(h: number, last = false) {
    const { everyH } = this.options
    if (h < this.nextMoment - 1e-9 && !last) return
    this.nextMoment = h + (everyH ?? usualEveryH(this.course.event))
    const { flow } = this
    const { fields, stores, watched } = this.course
    const named = (at: number) => Object.fromEntries(watched.loads.map((id, i) => [id, flow.out[at + i]!]))
    this.timeline.push({
      h,
      soc: Object.fromEntries(stores.map((s, k) => [s.part.id, Math.max(0, flow.charges[k]!)])),
      volts: named(fields.keyedV),
      listeningV: named(fields.listeningV),
      sunW: flow.mean(fields.sunW),
      suppliedW: flow.mean(fields.suppliedW),
      loadsW: flow.mean(fields.loadsW),
      storesA: Object.fromEntries(stores.map((s, k) => [s.part.id, flow.mean(k)])),
    })
  }
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
