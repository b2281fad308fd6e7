import {
  AMPACITY,
  BUNDLE_DERATING,
  CCA_RESISTANCE_FACTOR,
  SMALL_CONDUCTOR_A,
  UNSAID_INSULATION_C,
  type AmpacitySchool,
} from '../catalog/conductors'
import { awgNumber, conductorMm2, logLogInterpolate, type ConductorSize } from './resistance'

export interface ConductorInPlace extends ConductorSize {
  /** Highest temperature of its insulation, °C; unsaid: 70 °C PVC. */
  insulationC?: number
}

type Row = readonly [number, number]

/** Rows by area, mm², in place of AWG numbers. */
const byArea = (rows: readonly Row[]): Row[] => rows.map(([awg, amps]) => [conductorMm2({ awg }), amps])

const AMPACITY_BY_AREA: Record<AmpacitySchool, Row[]> = {
  enclosed: byArea(AMPACITY.enclosed.awg),
  open: byArea(AMPACITY.open.awg),
}
const SMALL_BY_AREA: Record<AmpacitySchool, Row[]> = {
  enclosed: byArea(SMALL_CONDUCTOR_A.enclosed),
  open: byArea(SMALL_CONDUCTOR_A.open),
}

/**
 * Current at which this conductor reaches the table's temperature, A, in the table's ambient, bundle derating applied.
 * Sizes between rows, metric ones under a school that lists AWG only, and sizes outside the table are read off
 * log–log lines through the rows; `inTable` says whether the size lies within them.
 */
export function tableAmps(
  size: ConductorSize,
  school: AmpacitySchool,
  bundledConductors = 2,
): { amps: number; inTable: boolean } {
  const table = AMPACITY[school]
  const rows = size.mm2 !== undefined && table.mm2.length ? table.mm2 : AMPACITY_BY_AREA[school]
  const exact = size.awg !== undefined ? table.awg.find(([awg]) => awg === awgNumber(size.awg!)) : undefined
  const area = conductorMm2(size)
  const listed = exact ? exact[1] : logLogInterpolate(rows, area)
  // A conductor of more resistance makes the same heat with a current less by the root of the ratio.
  const material = size.material === 'cca' ? Math.sqrt(1 / CCA_RESISTANCE_FACTOR) : 1
  return {
    amps: listed * material * bundleFactor(school, bundledConductors),
    inTable: area >= rows[0]![0] * 0.999 && area <= rows[rows.length - 1]![0] * 1.001,
  }
}

/** Derating for loaded conductors lying together, by their number. */
function bundleFactor(school: AmpacitySchool, bundledConductors: number): number {
  const rows = BUNDLE_DERATING[school]
  return (rows.find(row => bundledConductors <= row.upTo) ?? rows.at(-1)!).factor
}

/**
 * The largest fuse that protects a conductor, A: its ampacity, and what the school allows on small ones. A size between
 * rows is held to the thinner one.
 */
export function largestFuseA(
  conductor: ConductorInPlace,
  school: AmpacitySchool,
  ambientC: number,
  bundledConductors = 2,
): number {
  const carriesA = ampacityA(conductor, school, ambientC, bundledConductors)
  const rows = SMALL_BY_AREA[school]
  const area = conductorMm2(conductor)
  const next = rows.findIndex(([mm2]) => mm2 > area * (1 + AREA_TOLERANCE))
  const isLarge = next < 0 && area >= LARGE_MM2 * (1 - AREA_TOLERANCE)
  const row = next < 0 ? rows.at(-1) : rows[Math.max(0, next - 1)]
  return !row || isLarge ? carriesA : Math.min(carriesA, row[1])
}
const AREA_TOLERANCE = 1e-3
/** From 8 AWG on a conductor is no small one. */
const LARGE_MM2 = conductorMm2({ awg: 8 })

/**
 * Temperature rise per A² above ambient, °C/A²: rise = (Ttable − Tambient,table) · (I / Itable)².
 * The table's own conductor temperature is taken, not the insulation's, since it is what its currents lead to.
 */
export function risePerAmp2(size: ConductorSize, school: AmpacitySchool, bundledConductors = 2): number {
  const table = AMPACITY[school]
  return (table.conductorC - table.ambientC) / tableAmps(size, school, bundledConductors).amps ** 2
}

/** What a conductor is in: its current, the air around it, and how many loaded ones lie together (unsaid: 2). */
export interface Surroundings {
  amps: number
  ambientC: number
  bundledConductors?: number | undefined
}

/** Steady temperature of a conductor, °C. */
export function conductorTemperature(
  conductor: ConductorSize,
  school: AmpacitySchool,
  { amps, ambientC, bundledConductors }: Surroundings,
): number {
  return ambientC + risePerAmp2(conductor, school, bundledConductors) * amps ** 2
}

/**
 * Current that brings the conductor to the lower of its insulation's and its table's temperature, A:
 * Itable · √((T − Ta) / (Ttable − 30)). Zero where the ambient alone reaches it.
 */
export function ampacityA(
  conductor: ConductorInPlace,
  school: AmpacitySchool,
  ambientC: number,
  bundledConductors = 2,
): number {
  const table = AMPACITY[school]
  const limitC = Math.min(conductor.insulationC ?? UNSAID_INSULATION_C, table.conductorC)
  if (ambientC >= limitC) return 0
  const { amps } = tableAmps(conductor, school, bundledConductors)
  return amps * Math.sqrt((limitC - ambientC) / (table.conductorC - table.ambientC))
}
