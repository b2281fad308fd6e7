import { chargeWhere } from '../battery/charge'
import { kindOf, type Part } from '../kinds/index'
import type { Around } from '../kinds/kind'
import type { Store } from '../kinds/store'
import { nameOf } from '../plan/find'
import { percent } from '../units/show'
import { fixed } from '../units/number'

/** What a meter on a battery by itself should show, and what it means. */

/** A battery that shows its charge by its rested voltage. */
export interface Rested {
  part: Part
  emptyV: number
  usedV: number
  fullV: number
  /** Nothing on it brings it higher: it is still on a charger, or it is another battery. */
  mostV: number
  store: Store
}

/** A rested battery stands no higher than so much of its full voltage: surface charge (typical). */
const SURFACE = 1.06
const NOWHERE: Around = () => []

export function restedOf(part: Part): Rested | null {
  const store = kindOf(part).store?.(part, NOWHERE)
  if (!store || store.unit !== 'Ah') return null
  const rests = restsAt(store)
  const [emptyV, usedV, fullV] = [rests(0), rests(store.endOfUse.charge), rests(1)]
  return { part, emptyV, usedV, fullV, mostV: fullV * SURFACE, store }
}

const restsAt = (store: Store) => (charge: number) => store.sourcesAt(charge)[0]?.emfV ?? 0

export interface RestedMeaning {
  verdict: 'good' | 'off' | 'stop'
  words: string
  /** Charges it may have, 0–1. */
  band: [number, number] | null
}

/** What a rested voltage means. @param offV how far the meter may be off */
export function restedMeaning(
  { part, store, emptyV, usedV, mostV }: Rested,
  volts: number,
  offV: number,
): RestedMeaning {
  const name = nameOf(part)
  const show = (v: number) => `${fixed(v, 2)} V`
  if (volts < 0)
    return {
      verdict: 'stop',
      words: `The leads of the meter or the posts of ${name} are the wrong way round.`,
      band: null,
    }
  if (volts < emptyV - offV) {
    const words = `${name} is under ${show(emptyV)}, below empty: do not connect it; see how it is brought back.`
    return { verdict: 'stop', words, band: null }
  }
  if (volts > mostV + offV) {
    const words = `More than ${name} ever rests at (${show(mostV)}): another battery, or it is still on its charger.`
    return { verdict: 'stop', words, band: null }
  }
  const band = [volts - offV, volts + offV].map(v => chargeWhere(restsAt(store), v)) as [number, number]
  const [low, high] = band.map(share => percent(share))
  const charge = low === high ? `about ${low} charged` : `${low} to ${high} charged`
  const refill = store.chargeEfficiency > 0 ? 'Charge it first.' : 'Put fresh cells in.'
  if (volts < usedV - offV)
    return { verdict: 'off', words: `${name} is ${charge}: less than is planned to be used. ${refill}`, band }
  return { verdict: 'good', words: `${name} is ${charge}, rested.`, band }
}

/** What a difference between two packs that are to be joined in parallel is in charge, and what flows at once. */
export function apartWords(a: Rested, b: Rested, voltsA: number, voltsB: number): string {
  const charges = [
    [a, voltsA],
    [b, voltsB],
  ].map(([rested, v]) => chargeWhere(restsAt((rested as Rested).store), v as number))
  const ohm = [a, b].reduce((sum, r) => sum + (r.store.sourcesAt(0.5)[0]?.ohm ?? 0), 0)
  const surgeA = ohm > 0 ? Math.abs(voltsA - voltsB) / ohm : Infinity
  const apart = percent(Math.abs(charges[0]! - charges[1]!))
  const volts = fixed(Math.abs(voltsA - voltsB), 2)
  return `${volts} V apart, about ${apart} of charge; up to ${Math.round(surgeA)} A flow when joined.`
}
