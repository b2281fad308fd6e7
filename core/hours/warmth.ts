import type { Plan } from '../plan/schema'
import type { HoursEvent } from './event'
import { airC } from './panels'
import { isIn, stretchesOf } from './schedule'
import type { NamedStore } from './standing'
import { packFigures } from './worth'

/** How warm packs are: slower than the place they are in, and warmed by heaters of their own. */

/** How often it is looked at, h. */
export const LOOKS_EVERY_H = 0.5
/** Heat that cells take, J/(kg·K) (typical of packs of all chemistries). */
const HEAT_J_PER_KG_K = 1000
/** A pack's density, kg/m³, and what its surface gives to still air, W/(m²·K) (typical). */
const DENSITY = 2000
const SURFACE_W_PER_M2_K = 8
const HOUR_S = 3600

/** Heat capacity, J/K, and time in which a pack comes to within a third of its place, h: a cube in still air. */
export function thermalOf(store: NamedStore): { joulesPerC: number; lagH: number } {
  const kg = packFigures(store).massG / 1000
  const joulesPerC = kg * HEAT_J_PER_KG_K
  const surfaceM2 = 6 * (kg / DENSITY) ** (2 / 3)
  return { joulesPerC, lagH: joulesPerC / (SURFACE_W_PER_M2_K * surfaceM2) / HOUR_S }
}

/** Of the place that a store is in at an hour, °C. */
function placeC(plan: Plan, event: HoursEvent, { part }: NamedStore, h: number): number {
  const said = event.stores?.find(s => s.part === part.id)
  const moved = said?.places?.find(p => isIn(stretchesOf(event, p), h))
  const zone = moved ? moved.zone : (said?.zone ?? part.zone)
  const place = plan.site?.zones?.find(z => z.id === zone)
  return place ? place.ambientC.typical : airC(event, plan, h)
}

/** How warm a store is through an event, at each look: as its place at the start, then behind it. No heater in it. */
export function warmthOf(plan: Plan, event: HoursEvent, store: NamedStore): Float64Array {
  const looks = Math.floor(event.hours / LOOKS_EVERY_H) + 2
  const warmth = new Float64Array(looks)
  const stays = Math.exp(-LOOKS_EVERY_H / thermalOf(store).lagH)
  warmth[0] = placeC(plan, event, store, 0)
  for (let n = 1; n < looks; n++) {
    const place = placeC(plan, event, store, (n - 0.5) * LOOKS_EVERY_H)
    warmth[n] = place + (warmth[n - 1]! - place) * stays
  }
  return warmth
}

/** A heated pack is charged once it is so much warmer than it must be, °C. */
const WARM_ENOUGH_C = 5

/** The heater of one pack, while a course runs. */
export class Heater {
  private aboveC = 0
  isOn = false
  private readonly thermal

  constructor(
    readonly k: number,
    private readonly store: NamedStore,
    readonly watts: number,
  ) {
    this.thermal = thermalOf(store)
  }

  /** Whether the pack is too cold to be charged. @param passiveC how warm it would be without */
  isCold(passiveC: number): boolean {
    const { chargeAboveC } = this.store.cold!
    return passiveC + this.aboveC < chargeAboveC + (this.isOn ? WARM_ENOUGH_C : 0)
  }

  /** Time goes by. */
  step(dt: number) {
    const { joulesPerC, lagH } = this.thermal
    const gainedC = this.isOn ? (this.watts * dt * HOUR_S) / joulesPerC : 0
    this.aboveC = (this.aboveC + gainedC) * Math.exp(-dt / lagH)
  }
}
