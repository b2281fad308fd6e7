import { leadResistance, type Network } from '../circuit/network'
import { resistanceFactorAt } from '../conductor/resistance'
import { kindOf } from '../kinds/index'
import type { SunTaking } from '../kinds/store'
import type { Plan } from '../plan/schema'
import type { HoursEvent } from './event'
import { localAt, momentAt } from './schedule'
import { SunOverDays } from './sun/days'
import { clearSkyWm2, onPlaneWm2, splitIrradiance, throughClouds } from './sun/irradiance'
import type { Facing, Irradiance } from './sun/irradiance'
import type { SunPosition } from './sun/position'

type Panel = SunTaking['panels'][number]

/** Irradiance and cell temperature at which a panel's figures are given (IEC 61215). */
const STANDARD_WM2 = 1000
const STANDARD_C = 25
/** Cells in full sun are so much hotter than the air, °C: they work at 45 °C in 20 °C of air at 800 W/m². */
const CELL_RISE_C = ((45 - 20) * STANDARD_WM2) / 800
/** What a year takes of a panel's power (typical). */
const LOST_A_YEAR = 0.005
/** Change of the power a degree, where its voltage's is not said (crystalline silicon, typical). */
const POWER_PER_C = -0.004
/** The sun is worked out so often, h; between, it is taken straight. */
export const GRID_H = 1 / 12

/** A controller and the panels that feed it. `share`: of a panel on several controllers, its part. */
export interface SunInput extends Omit<SunTaking, 'panels'> {
  controllerId: string
  panels: { panel: Panel; share: number }[]
  /** What the panels give in full sun by their label: watts of a tracking controller, amps of a switch. */
  rated: number
  /** Both legs of the leads between, Ω. */
  wireOhm: number
}

/** What feeds each controller of a plan from the sun. One panel's power is shared, never counted twice. */
export function sunInputsOf({ plan, around }: Network): SunInput[] {
  const taking = plan.parts.flatMap(part => {
    const sun = kindOf(part).takesSun?.(part, around)
    return sun ? [{ controllerId: part.id, ...sun }] : []
  })
  const on = (panel: Panel) => taking.filter(t => t.panels.some(p => p.id === panel.id)).length
  return taking.map(t => {
    const panels = t.panels.map(panel => ({ panel, share: 1 / on(panel) }))
    const rated = panels.reduce((sum, { panel, share }) => sum + share * label(t, panel), 0)
    return { ...t, panels, rated, wireOhm: wireOhm(plan, `${t.controllerId}.panel`) }
  })
}

const label = ({ takes }: Pick<SunTaking, 'takes'>, panel: Panel) =>
  takes === 'amps' ? panel.shortCircuitA : panel.maxPowerV * panel.maxPowerA

const wireOhm = (plan: Plan, terminal: string): number =>
  plan.leads
    .filter(l => l.from === terminal || l.to === terminal)
    .reduce((sum, lead) => {
      const { fixedOhm, wire20Ohm } = leadResistance(lead)
      return sum + fixedOhm + wire20Ohm * resistanceFactorAt(STANDARD_C)
    }, 0)

/** The sky over an event: cloud cover by the hour, or what was measured. */
export interface Sky {
  coverAt: (h: number) => number
  measuredWm2?: readonly number[] | undefined
}

/** Cloud cover where nobody says: half. */
export const USUAL_COVER = 0.5

export function skyOf(event: HoursEvent): Sky {
  const { cloud = USUAL_COVER, irradianceWm2 } = event.weather ?? {}
  const days = typeof cloud === 'number' ? [cloud] : cloud
  const startH = localAt(event, 0).getUTCHours()
  return {
    coverAt: h => days[Math.min(days.length - 1, Math.floor((h + startH) / 24))]!,
    measuredWm2: irradianceWm2,
  }
}

/** The air at an hour: coldest at five, warmest at fifteen (usual course of a clear day). °C */
export function airC(event: HoursEvent, plan: Plan, h: number): number {
  const typical = plan.site?.ambientC?.typical ?? 20
  const { low, high } = event.weather?.airC ?? { low: typical, high: typical }
  const at = localAt(event, h)
  const clock = at.getUTCHours() + at.getUTCMinutes() / 60
  return (low + high) / 2 + ((high - low) / 2) * Math.cos(((clock - 15) / 24) * 2 * Math.PI)
}

/**
 * What each controller has at its input over an event, as a share of its panels' label, every five minutes.
 * Empty where the event says no place.
 */
export function sunOver(plan: Plan, event: HoursEvent, inputs: readonly SunInput[], sky: Sky): Float64Array[] {
  const { place } = event
  const count = Math.ceil(event.hours / GRID_H) + 2
  if (!place && !sky.measuredWm2) return inputs.map(() => new Float64Array(count))
  const days = new SunOverDays(momentAt(event, 0), event.hours, place ?? { latDeg: 0, lonDeg: 0 })
  const series = inputs.map(() => new Float64Array(count))
  for (let n = 0; n < count; n++) {
    const h = n * GRID_H
    const sun = days.at(h)
    const globalWm2 = measuredAt(sky, h) ?? clearSkyWm2(sun.elevationDeg) * throughClouds(sky.coverAt(h))
    if (globalWm2 <= 0) continue
    const falling = splitIrradiance(globalWm2, sun.elevationDeg, momentAt(event, h))
    const now = { sun, falling, air: airC(event, plan, h) }
    inputs.forEach((input, k) => {
      series[k]![n] = inputShare(event, input, now)
    })
  }
  return series
}

interface SunNow {
  sun: SunPosition
  falling: Irradiance
  air: number
}

/** What all panels of an input give, of their label. */
function inputShare(event: HoursEvent, input: SunInput, { sun, falling, air }: SunNow): number {
  const southern = (event.place?.latDeg ?? 1) < 0
  return input.panels.reduce((sum, { panel, share }) => {
    const said = event.panels?.find(p => p.part === panel.id)
    const standing = { tiltDeg: said?.tiltDeg ?? 0, azimuthDeg: said?.azimuthDeg ?? (southern ? 0 : 180) }
    // Somebody who turns it now and then keeps it nearly square to the sun.
    const turned = { tiltDeg: 90 - Math.max(0, sun.elevationDeg), azimuthDeg: sun.azimuthDeg }
    const facing: Facing = said?.turned ? turned : standing
    const planeWm2 = onPlaneWm2(falling, sun, facing) * (1 - (said?.shade ?? 0))
    const gives = panelShare(panel, { planeWm2, air, ageYears: said?.ageYears ?? 0, takes: input.takes })
    return sum + (share * label(input, panel) * gives) / input.rated
  }, 0)
}

function measuredAt({ measuredWm2 }: Sky, h: number): number | undefined {
  if (!measuredWm2) return undefined
  return measuredWm2[Math.min(measuredWm2.length - 1, Math.floor(h))]
}

interface OnPanel {
  planeWm2: number
  air: number
  ageYears: number
  takes: SunTaking['takes']
}

/** What a panel gives of its label: power less with heat, current nearly the same. */
function panelShare(panel: Panel, { planeWm2, air, ageYears, takes }: OnPanel): number {
  const sun = (planeWm2 / STANDARD_WM2) * (1 - LOST_A_YEAR) ** ageYears
  if (takes === 'amps') return sun
  const cellC = air + (CELL_RISE_C * planeWm2) / STANDARD_WM2
  const perC = panel.voltsPerC ?? POWER_PER_C
  return sun * Math.max(0, 1 + perC * (cellC - STANDARD_C))
}

/** A series at an hour, straight between its points. */
export function seriesAt(series: Float64Array, h: number): number {
  const x = h / GRID_H
  const n = Math.min(series.length - 2, Math.floor(x))
  return series[n]! + (series[n + 1]! - series[n]!) * (x - n)
}

/** What gets through the leads to the controller, W or A, at a share of the label. */
export function arrivesAt({ takes, rated, panels, wireOhm }: SunInput, share: number): number {
  if (takes === 'amps') return rated * share
  const amps = (rated * share) / panels[0]!.panel.maxPowerV
  return Math.max(0, rated * share - amps * amps * wireOhm)
}
