import type { HoursEvent } from './event'
import { isIn, stretchesOf, type Stretch } from './schedule'
import type { NamedStore } from './standing'

/** A pack from the heap is put in only where it has so much more than the one in use, of its capacity. */
const WORTH_A_CHANGE = 0.05

/** Packs like one in use that lie ready, full at the start. */
export class Spares {
  private readonly charges: number[]

  /** @param fills of a pack's charge per hour, when one after the other is filled beside, on a charger of its own */
  constructor(
    readonly store: number,
    count: number,
    private readonly fills: { perHour: number; stretches: readonly Stretch[] } | null = null,
  ) {
    this.charges = Array.from({ length: count }, () => 1)
  }

  /** The fullest that lies ready, where it is worth the change. @param charge of the one in use */
  best(charge: number): number | null {
    const best = Math.max(0, ...this.charges)
    return best > charge + WORTH_A_CHANGE ? best : null
  }

  /** Takes the fullest, and puts the one that was in use in its place. @returns its charge */
  change(charge: number): number {
    const best = Math.max(...this.charges)
    this.charges[this.charges.indexOf(best)] = Math.max(0, charge)
    return best
  }

  /** Time goes by: the fullest that is not full is on the charger. */
  wait(h: number, dt: number) {
    if (!this.fills || !isIn(this.fills.stretches, h)) return
    let left = this.fills.perHour * dt
    while (left > 1e-12) {
      const next = Math.max(-1, ...this.charges.filter(c => c < 1))
      if (next < 0) return
      const given = Math.min(left, 1 - next)
      // A hair under full is full: else the next one waits for a rounding.
      this.charges[this.charges.indexOf(next)] = next + given > 1 - 1e-9 ? 1 : next + given
      left -= given
    }
  }
}

/** So many packs like one of the plan's, each refilled beside in some hours; unsaid: none of them. */
export interface AskedSpares {
  part: string
  count: number
  refillH?: number
}

type Said = NonNullable<HoursEvent['spares']>[number]

/** The spare packs that an event says, and those asked for beside. */
export function sparesOf(event: HoursEvent, stores: readonly NamedStore[], more?: AskedSpares): Spares[] {
  const storeOf = (part: string) => stores.findIndex(s => s.part.id === part)
  const said = [...(event.spares ?? []), ...(more ? [more as Said] : [])].map(({ part, count, refillH, ...times }) => {
    const fills = refillH === undefined ? null : { perHour: 1 / refillH, stretches: stretchesOf(event, times) }
    return new Spares(storeOf(part), count, fills)
  })
  return said.filter(s => s.store >= 0)
}
