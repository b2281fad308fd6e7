import type { SunPosition } from './position'

/** What the sun gives on the level, and how it splits. W/m². */
export interface Irradiance {
  globalWm2: number
  /** Straight from the sun, square to it. */
  beamWm2: number
  /** From the sky, on the level. */
  diffuseWm2: number
}

/** How a panel stands: tilt from the level, and the way it faces, from north over east; degrees. */
export interface Facing {
  tiltDeg: number
  azimuthDeg: number
}

const RAD = Math.PI / 180
const sinD = (deg: number) => Math.sin(deg * RAD)
const cosD = (deg: number) => Math.cos(deg * RAD)

/** Solar constant, W/m² (WMO). */
const SOLAR_CONSTANT_WM2 = 1361
/** Light that the ground throws back: grass, sand (usual value). */
const ALBEDO = 0.2
/** Lower than this the beam is not told apart: its figure would come of dividing by nothing. */
const LOWEST_DEG = 1

/** Irradiance on the level under a clear sky, W/m² (Haurwitz 1945). */
export function clearSkyWm2(elevationDeg: number): number {
  const sinE = sinD(elevationDeg)
  return sinE > 0 ? 1098 * sinE * Math.exp(-0.057 / sinE) : 0
}

/** What the cloud leaves of the clear sky's irradiance; cover 0–1 (Kasten and Czeplak 1980). */
export const throughClouds = (cover: number): number => 1 - 0.75 * cover ** 3.4

/** The sun's irradiance above the air on a day of the year, square to it, W/m² (Spencer's first term). */
const aboveAirWm2 = (dayOfYear: number) => SOLAR_CONSTANT_WM2 * (1 + 0.033 * cosD((360 * dayOfYear) / 365))

/** The share of the sky's light in all of it, by how clear it is (Erbs, Klein and Duffie 1982). */
function diffuseShare(clearness: number): number {
  const k = clearness
  if (k <= 0.22) return 1 - 0.09 * k
  if (k <= 0.8) return 0.9511 - 0.1604 * k + 4.388 * k ** 2 - 16.638 * k ** 3 + 12.336 * k ** 4
  return 0.165
}

/** Day of the year, 1 the first. */
export const dayOfYear = (at: Date) => (at.getTime() - Date.UTC(at.getUTCFullYear(), 0, 0)) / 86400e3

/** Splits what falls on the level into what comes straight and what comes from the sky. */
export function splitIrradiance(globalWm2: number, elevationDeg: number, at: Date): Irradiance {
  if (globalWm2 <= 0) return { globalWm2: 0, beamWm2: 0, diffuseWm2: 0 }
  const sinE = sinD(elevationDeg)
  if (elevationDeg < LOWEST_DEG) return { globalWm2, beamWm2: 0, diffuseWm2: globalWm2 }
  const clearness = globalWm2 / (aboveAirWm2(Math.floor(dayOfYear(at))) * sinE)
  const diffuseWm2 = globalWm2 * diffuseShare(Math.min(1, clearness))
  return { globalWm2, diffuseWm2, beamWm2: (globalWm2 - diffuseWm2) / sinE }
}

/** What falls on a panel, W/m²: straight, from an even sky, and thrown back by the ground (Liu and Jordan 1963). */
export function onPlaneWm2(sky: Irradiance, sun: SunPosition, { tiltDeg, azimuthDeg }: Facing): number {
  const cosIncidence =
    sinD(sun.elevationDeg) * cosD(tiltDeg) + cosD(sun.elevationDeg) * sinD(tiltDeg) * cosD(sun.azimuthDeg - azimuthDeg)
  const beam = sun.elevationDeg > 0 ? sky.beamWm2 * Math.max(0, cosIncidence) : 0
  const fromSky = (sky.diffuseWm2 * (1 + cosD(tiltDeg))) / 2
  const fromGround = (sky.globalWm2 * ALBEDO * (1 - cosD(tiltDeg))) / 2
  return beam + fromSky + fromGround
}
