import { kindOf } from '../kinds/index'
import type { EventCourse, Stage } from './course'
import { arrivesAt, seriesAt } from './panels'
import { Heater } from './warmth'

/** What charges what, and what keeps a charge off, while a course runs. */

/** A charger holds from here on, and fills again from there. */
const FULL = 0.99
const REFILL = 0.95
/** What a PWM controller works into, about, V. */
const SYSTEM_V = 13
const NONE: ReadonlySet<string> = new Set()

/** A charger with the stores it fills. */
interface Filler {
  id: string
  fills: number[]
  lockOut: boolean
  /** Its place among the sun inputs, or −1; and whether somebody has it on. */
  sun: number
  runs: boolean
  /** It holds what it has filled. */
  floats: boolean
}

const isSame = (a: ReadonlySet<string>, b: ReadonlySet<string>) =>
  a === b || (a.size === b.size && [...a].every(x => b.has(x)))

export class Charging {
  /** Chargers that hold what they have filled. */
  readonly floating = new Set<string>()
  /** Stores too cold to be charged, and kept from it; and those that warm themselves. */
  locked = NONE
  heating = NONE
  private readonly fillers: Filler[]
  private readonly heaters: readonly Heater[]
  /** Stores that are kept from being charged in the cold. */
  private readonly lockable: readonly number[]

  constructor(
    private readonly course: EventCourse,
    private readonly suns: readonly Float64Array[],
  ) {
    this.fillers = fillersOf(course)
    const locks = (k: number) => this.fillers.some(f => f.lockOut && f.fills.includes(k))
    this.lockable = course.stores.flatMap((s, k) => (s.cold && (s.cold.lockOut || locks(k)) ? [k] : []))
    this.heaters = course.stores.flatMap((s, k) => (s.cold?.heaterW ? [new Heater(k, s, s.cold.heaterW)] : []))
  }

  /** How it stands at an hour. @returns whether anything went another way than before */
  look(h: number, stage: Stage, charges: Float64Array): boolean {
    const before = this.locked
    if (this.heaters.length || h === stage.fromH) this.locked = this.lockedAt(h)
    const heats = this.heaters.length > 0 && this.heat(h, stage.on)
    const floats = this.refloat(charges)
    return heats || floats || !isSame(before, this.locked)
  }

  step(dt: number) {
    for (const heater of this.heaters) heater.step(dt)
  }

  private lockedAt(h: number): ReadonlySet<string> {
    const cold = this.lockable.filter(k => this.isCold(k, h))
    return cold.length ? new Set(cold.map(k => this.course.stores[k]!.part.id)) : NONE
  }
  private isCold(k: number, h: number): boolean {
    const heater = this.heaters.find(x => x.k === k)
    const celsius = this.course.celsius(k, h)
    return heater ? heater.isCold(celsius) : celsius < this.course.stores[k]!.cold!.chargeAboveC
  }

  /** Heaters go on and off with what charges their packs. @returns whether one did */
  private heat(h: number, on: ReadonlySet<string>): boolean {
    const heating = this.heaters.map(heater => {
      const { id } = this.course.stores[heater.k]!.part
      const feeds = (f: Filler) => f.fills.includes(heater.k) && this.works(f, h, on, heater.watts)
      const wasOn = heater.isOn
      heater.isOn = this.locked.has(id) && this.fillers.some(feeds)
      return { id, isOn: heater.isOn, moved: heater.isOn !== wasOn }
    })
    this.heating = new Set(heating.filter(x => x.isOn).map(x => x.id))
    return heating.some(x => x.moved)
  }

  /** Whether a charger has so much to give. */
  private works({ id, sun, runs }: Filler, h: number, on: ReadonlySet<string>, watts: number): boolean {
    if (sun < 0) return !runs || on.has(id)
    const input = this.course.sunInputs[sun]!
    const arrives = arrivesAt(input, seriesAt(this.suns[sun]!, h))
    return (input.takes === 'watts' ? arrives * input.efficiency : arrives * SYSTEM_V) >= watts
  }

  get hasHeaters(): boolean {
    return this.heaters.length > 0
  }

  /** Whether every charger goes on as it does, without heaters. */
  isStill(charges: Float64Array): boolean {
    for (let i = 0; i < this.fillers.length; i++) if (turns(this.fillers[i]!, charges)) return false
    return true
  }

  /** Chargers hold once what they fill is full, and fill again. @returns whether any changed */
  private refloat(charges: Float64Array): boolean {
    let changed = false
    for (let i = 0; i < this.fillers.length; i++) {
      const filler = this.fillers[i]!
      if (!turns(filler, charges)) continue
      filler.floats = !filler.floats
      if (filler.floats) this.floating.add(filler.id)
      else this.floating.delete(filler.id)
      changed = true
    }
    return changed
  }
}

/** Whether a charger turns from filling to holding, or back. */
function turns({ fills, floats }: Filler, charges: Float64Array): boolean {
  let charge = 1
  for (let n = 0; n < fills.length; n++) if (charges[fills[n]!]! < charge) charge = charges[fills[n]!]!
  return floats ? charge < REFILL : charge >= FULL
}

function fillersOf({ plan, watched, stores }: EventCourse): Filler[] {
  const { around } = watched.network
  return plan.parts.flatMap(part => {
    const output = kindOf(part).charge?.(part, around)
    if (!output) return []
    const near = around(output.at).map(a => a.part.id)
    const fills = stores.flatMap((s, k) => (near.includes(s.part.id) ? [k] : []))
    const sun = watched.suns.findIndex(s => s.controllerId === part.id)
    const runs = kindOf(part).runsOn !== undefined
    return fills.length ? [{ id: part.id, fills, lockOut: output.lockOut === true, sun, runs, floats: false }] : []
  })
}
