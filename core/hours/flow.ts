import type { EventCourse } from './course'
import { seriesAt } from './panels'
import type { CourseOptions } from './run'
import type { NamedStore } from './standing'
import type { Table } from './table'

/** How full the stores of one course are, and what flows in and out of them, one step after the other. */
export class Flow {
  readonly charges: Float64Array
  /** The figures of the moment last looked up. */
  readonly out: Float64Array
  /** What the cold leaves of each capacity. */
  cold: readonly number[] = []
  private readonly place: Float64Array
  private readonly capacities: readonly number[]
  private readonly stores: readonly NamedStore[]
  private readonly duty: number
  private readonly meanAt: number

  /** @param suns what the sun gives at each input, of its label */
  constructor(
    { stores, event, fields }: EventCourse,
    options: CourseOptions,
    private readonly suns: readonly Float64Array[],
  ) {
    const said = (id: string) => event.stores?.find(s => s.part === id)
    const left = (id: string) => (said(id)?.health ?? 1) * (options.health ?? 1) * (options.capacityTimes?.[id] ?? 1)
    this.stores = stores
    this.charges = Float64Array.from(stores, s => said(s.part.id)?.startCharge ?? 1)
    this.capacities = stores.map(s => s.capacity * left(s.part.id))
    this.place = new Float64Array(stores.length + suns.length)
    this.out = new Float64Array(fields.count)
    this.duty = options.duty ?? 1
    this.meanAt = fields.mean
  }

  /** The wanted figures at an hour. @param charges unsaid: as they are */
  lookUp(table: Table, h: number, wanted: Int32Array, charges = this.charges): Float64Array {
    const { place, suns, out } = this
    const n = charges.length
    for (let k = 0; k < n; k++) place[k] = Math.max(0, charges[k]!)
    for (let k = 0; k < suns.length; k++) place[n + k] = seriesAt(suns[k]!, h)
    table.at(place, wanted, out)
    return out
  }

  /** What the scheduled duty, more or less, makes of a figure of the blocks. */
  mean(field: number): number {
    const at = this.out[field]!
    return at + this.duty * (this.out[this.meanAt + field]! - at)
  }

  /** Lets flow what was last looked up, for so many hours. */
  step(dt: number) {
    const { charges, capacities, cold, stores } = this
    for (let k = 0; k < charges.length; k++) {
      const left = charges[k]! - (taken(stores[k]!, this.mean(k), cold[k]!) * dt) / capacities[k]!
      // What the last step took too much is paid back before anything is given again.
      charges[k] = Math.min(1, left)
    }
  }
}

/** What a store has less for a flow, A or W. */
function taken(store: NamedStore, flow: number, cold: number): number {
  if (store.unit === 'Wh') return flow / store.efficiency
  return flow > 0 ? store.countedA(flow) / cold : flow * store.chargeEfficiency
}
