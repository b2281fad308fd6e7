import { kindOf, needs, type Part } from '../kinds/index'
import type { Sink } from '../kinds/kind'
import type { OwnPack } from '../kinds/store'
import type { Plan } from '../plan/schema'
import { switchedOff, type Use } from './users'

/** Packs inside radios, while a course runs: a radio goes on its own where its supply is too low. */

/** From when to when a radio was on its own pack, hours from the start. */
export interface OnOwnPack {
  place: string
  fromH: number
  untilH: number
}

function packOf(part: Part): OwnPack | null {
  const pack = kindOf(part).ownPack?.(part)
  return pack && pack !== 'unknown' ? pack : null
}

export type OwnStates = ReadonlyMap<string, 'gives' | 'fills'>

interface Own {
  /** Its place among the loads. */
  i: number
  id: string
  minV: number
  pack: OwnPack
  charge: number
  span: OnOwnPack | null
}

export class OwnPacks {
  readonly spans: OnOwnPack[] = []
  /** What each pack does that does anything: the radio lives on it, or it is filled. */
  readonly state = new Map<string, 'gives' | 'fills'>()
  private readonly all: Own[]

  constructor(plan: Plan, loads: readonly string[]) {
    this.all = loads.flatMap((id, i) => {
      const part = plan.parts.find(p => p.id === id)!
      const pack = packOf(part)
      return pack ? [{ i, id, minV: needs(part as Use['part']).minV, pack, charge: 1, span: null }] : []
    })
  }

  get isEmpty(): boolean {
    return this.all.length === 0
  }

  /**
   * How it goes on.
   * @param uses what the schedule says of the loads, own pack or not
   * @param keyedV volts at each load with everything keyed, as it is fed now
   * @returns whether one went another way than before
   */
  look(h: number, uses: readonly Use[], keyedV: (i: number) => number): boolean {
    let moved = false
    for (const own of this.all) {
      const next = this.nextOf(own, uses[own.i]!, keyedV(own.i))
      if (next === this.state.get(own.id)) continue
      moved = true
      if (next) this.state.set(own.id, next)
      else this.state.delete(own.id)
      if (own.span) own.span.untilH = h
      own.span = next === 'gives' ? { place: own.id, fromH: h, untilH: h } : null
      if (own.span) this.spans.push(own.span)
    }
    return moved
  }

  private nextOf({ id, minV, pack, charge }: Own, { off, keyed }: Use, v: number): 'gives' | 'fills' | undefined {
    const now = this.state.get(id)
    const isInUse = !off
    // Unloaded, its supply is back only at what the radio says; loaded, it is gone under what it needs.
    const isBack = now === 'gives' ? v >= pack.backAtV : v >= minV
    if (isInUse && !isBack && charge > 0) return 'gives'
    const mayFill = pack.fillW > 0 && v >= pack.chargesAboveV && (pack.chargedInUse || !(isInUse && keyed > 0))
    // Full, it waits until some of it is gone.
    return mayFill && charge < (now === 'fills' ? 1 : REFILL) ? 'fills' : undefined
  }

  /** Time goes by. @param duty of transmitting, against what the schedule says */
  step(h: number, dt: number, uses: readonly Use[], duty: number) {
    for (const own of this.all) {
      const { pack, id } = own
      const state = this.state.get(id)
      if (state === 'fills') own.charge = Math.min(1, own.charge + pack.fillPerHour * dt)
      if (state !== 'gives') continue
      const watts = pack.idleW + duty * uses[own.i]!.keyed * (pack.fullW - pack.idleW)
      own.charge = Math.max(0, own.charge - (watts * dt) / pack.wh)
      own.span!.untilH = h + dt
    }
  }
}
/** A pack is filled again from here on. */
const REFILL = 0.97

/** What loads take of their supply: nothing where they live on their own packs, more where those are filled. */
export const usesOnOwn = (uses: readonly Use[], state: OwnStates): Use[] =>
  uses.map(use => {
    const does = state.get(use.part.id)
    if (!does) return use
    return does === 'gives' ? switchedOff(use) : filling(use, packOf(use.part)!)
  })

function filling(use: Use, { fillW, fillV }: OwnPack): Use {
  const more = (sink: Sink): Sink => ({ ...sink, value: MORE[sink.law](sink.value, fillW, fillV) })
  return { ...use, idle: more(use.idle), mean: more(use.mean), full: more(use.full) }
}
const MORE: Record<Sink['law'], (value: number, watts: number, volts: number) => number> = {
  current: (amps, watts, volts) => amps + watts / volts,
  power: (power, watts) => power + watts,
  ohm: (ohm, watts, volts) => 1 / (1 / ohm + watts / volts ** 2),
}
