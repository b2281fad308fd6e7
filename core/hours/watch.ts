import { kindOf } from '../kinds/index'
import type { EventCourse } from './course'
import type { Use } from './users'

/** Why a station goes off the air, or comes near it. */
export type Cause =
  'starves' | 'used up' | 'empty' | 'trips' | 'cuts out' | 'load terminal opens' | 'load timer' | 'asleep'

/** Something that ends, from when to when, hours from the start. `place`: the part. */
export interface Failure {
  atH: number
  untilH: number
  cause: Cause
  place: string
}

/** A store that holds no more than this holds nothing. */
const EMPTY = 0.001

/** Looks at every step what fails. Each thing that can has a number, so that a step makes nothing. */
export class Watch {
  readonly failures: Failure[] = []
  private readonly names: { cause: Cause; place: string }[] = []
  private readonly failing: (Failure | null)[] = []
  private readonly isFailing: Uint8Array
  private failingNow = 0
  /** Of each store the charge at which something of it ends. */
  private readonly nearEnd: readonly number[]
  private readonly starves: number
  private readonly usedUp: number
  private readonly empty: number
  private readonly trips: number
  private readonly asleep: number
  private readonly cuts: number
  private readonly timer: number
  private readonly timers: { partId: string; at: string; afterH: number }[]
  /** Load terminals that stand open; and each with the slots that hold it so. */
  readonly open = new Set<string>()
  private readonly terminals: { at: string; slots: number[] }[]

  constructor(
    private readonly course: EventCourse,
    private readonly endOfUse: readonly number[],
  ) {
    const { stores, watched } = course
    this.timers = timersOf(course)
    this.nearEnd = endOfUse.map(charge => Math.max(charge, EMPTY))
    const ids = stores.map(s => s.part.id)
    this.starves = this.named('starves', watched.loads)
    this.usedUp = this.named('used up', ids)
    this.empty = this.named('empty', ids)
    this.trips = this.named('trips', ids)
    this.asleep = this.named('asleep', ids)
    this.cuts = this.names.length
    for (const { by, partId } of watched.inputs)
      this.named(by === 'input' ? 'cuts out' : 'load terminal opens', [partId])
    this.timer = this.named(
      'load timer',
      this.timers.map(t => t.partId),
    )
    const byVolts = watched.inputs
      .map((input, i) => ({ ...input, slot: this.cuts + i }))
      .filter(i => i.by === 'load-cut')
    const byTime = this.timers.map((t, i) => ({ ...t, slot: this.timer + i }))
    const all = [...byVolts, ...byTime]
    this.terminals = [...new Set(all.map(t => t.at))].map(at => ({
      at,
      slots: all.flatMap(t => (t.at === at ? [t.slot] : [])),
    }))
    this.failing = this.names.map(() => null)
    this.isFailing = new Uint8Array(this.names.length)
  }

  private named(cause: Cause, places: readonly string[]): number {
    return this.names.push(...places.map(place => ({ cause, place }))) - places.length
  }

  /** What fails at an hour, and what no longer does. */
  look(h: number, uses: readonly Use[], charges: ArrayLike<number>, out: Float64Array) {
    const { fields, stores, watched } = this.course
    const { minV } = watched
    for (let i = 0; i < minV.length; i++)
      this.tell(this.starves + i, h, !uses[i]!.off && out[fields.keyedV + i]! < minV[i]!)
    for (let k = 0; k < stores.length; k++) {
      const { tripA, endOfUse } = stores[k]!
      this.tell(this.usedUp + k, h, endOfUse.by !== 'empty' && charges[k]! <= this.endOfUse[k]!)
      this.tell(this.empty + k, h, charges[k]! <= EMPTY)
      const amps = out[fields.keyedA + k]!
      this.tell(this.trips + k, h, tripA !== undefined && amps < Infinity && amps > tripA.amps)
    }
    for (let i = 0; i < watched.inputs.length; i++) {
      const v = out[fields.inputV + i]!
      const { by, at, belowV, closesV = belowV } = watched.inputs[i]!
      if (by === 'load-cut' && this.open.has(at)) this.tell(this.cuts + i, h, v < closesV || v === Infinity)
      else this.tell(this.cuts + i, h, v > 0 && v < belowV)
    }
    for (let i = 0; i < this.timers.length; i++) this.tell(this.timer + i, h, h >= this.timers[i]!.afterH)
  }

  /** Load terminals open and close by what was looked at. @returns whether one moved */
  moveTerminals(): boolean {
    if (!this.terminals.length) return false
    let moved = false
    for (const { at, slots } of this.terminals) {
      const opens = slots.some(slot => this.isFailing[slot] === 1)
      if (opens === this.open.has(at)) continue
      if (opens) this.open.add(at)
      else this.open.delete(at)
      moved = true
    }
    return moved
  }

  /** Whether all is well as long as no limit is passed: then there is nothing to look at. */
  isCalm(h: number, charges: Float64Array): boolean {
    if (this.failingNow > 0) return false
    for (let k = 0; k < charges.length; k++) if (charges[k]! <= this.nearEnd[k]!) return false
    for (let i = 0; i < this.timers.length; i++) if (h >= this.timers[i]!.afterH) return false
    return true
  }

  /** Something has failed, and no load terminal moves by what else fails. */
  get isSettled(): boolean {
    return this.failures.length > 0 && !this.terminals.length
  }

  /** Whether a store is at its end. */
  isAtEnd = (k: number, charges: ArrayLike<number>) => charges[k]! <= this.nearEnd[k]!

  /** Whether a load or a converter has less than it needs. */
  hasTooLittle(uses: readonly Use[], out: Float64Array): boolean {
    const { fields, watched } = this.course
    const { minV, inputs } = watched
    for (let i = 0; i < minV.length; i++) if (!uses[i]!.off && out[fields.keyedV + i]! < minV[i]!) return true
    for (let i = 0; i < inputs.length; i++) {
      const v = out[fields.inputV + i]!
      if (v > 0 && v < inputs[i]!.belowV) return true
    }
    return false
  }

  fallsAsleep(store: number, h: number) {
    this.tell(this.asleep + store, h, true)
  }

  private tell(slot: number, h: number, fails: boolean) {
    if (fails === (this.isFailing[slot] === 1)) return
    this.isFailing[slot] = fails ? 1 : 0
    this.failingNow += fails ? 1 : -1
    const known = this.failing[slot]
    if (known) {
      known.untilH = h
      this.failing[slot] = null
      return
    }
    const failure = { atH: h, untilH: h, ...this.names[slot]! }
    this.failures.push(failure)
    this.failing[slot] = failure
  }

  /** Ends the watch. @returns what failed first */
  end(h: number): Failure | null {
    for (const failure of this.failing) if (failure) failure.untilH = h
    return this.failures.reduce<Failure | null>((a, f) => (a && a.atH <= f.atH ? a : f), null)
  }
}

/** Timers that open a load terminal on which something hangs. */
function timersOf({ plan }: EventCourse): { partId: string; at: string; afterH: number }[] {
  return plan.parts.flatMap(part => {
    const cut = kindOf(part).loadCut?.(part)
    const isUsed = cut && plan.leads.some(l => l.from === cut.at || l.to === cut.at)
    return isUsed && cut.afterH !== undefined ? [{ partId: part.id, at: cut.at, afterH: cut.afterH }] : []
  })
}
