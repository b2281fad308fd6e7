import {
  CCA_RESISTANCE_FACTOR,
  CLASS5_OHM_PER_KM,
  COPPER_G_PER_CM3,
  COPPER_OHM_MM2_PER_M,
  COPPER_PER_C,
  STRANDED_FACTOR,
} from '../catalog/conductors'

/** A conductor as the plan says it: by AWG number (1/0 is 0 … 4/0 is −3, or as text) or by metric area. */
export interface ConductorSize {
  awg?: number | '1/0' | '2/0' | '3/0' | '4/0'
  mm2?: number
  material?: 'copper' | 'cca'
}

/** "2/0" → −1; numbers stay. */
export function awgNumber(awg: NonNullable<ConductorSize['awg']>): number {
  return typeof awg === 'number' ? awg : 1 - Number(awg[0])
}

/** Diameter of an AWG conductor, mm (ASTM B258). */
export function awgDiameterMm(awg: number): number {
  return 0.127 * 92 ** ((36 - awg) / 39)
}

/** Area of one conductor, mm². */
export function conductorMm2(size: ConductorSize): number {
  if (size.mm2 !== undefined) return size.mm2
  return (Math.PI / 4) * awgDiameterMm(awgNumber(size.awg!)) ** 2
}

/**
 * Interpolates on log–log axes through rising x; outside the table the end segment's slope goes on.
 */
export function logLogInterpolate(table: readonly (readonly [number, number])[], x: number): number {
  let i = 1
  while (i < table.length - 1 && table[i]![0] < x) i++
  const [x0, y0] = table[i - 1]!
  const [x1, y1] = table[i]!
  return y0 * (x / x0) ** (Math.log(y1 / y0) / Math.log(x1 / x0))
}

/** Resistance of one conductor at 20 °C, Ω/m. AWG: stranded copper of the AWG area; metric: IEC 60228 class 5. */
export function conductorOhmPerM(size: ConductorSize): number {
  const factor = size.material === 'cca' ? CCA_RESISTANCE_FACTOR : 1
  if (size.mm2 !== undefined) {
    const exact = CLASS5_OHM_PER_KM.find(([mm2]) => mm2 === size.mm2)
    return (factor * (exact ? exact[1] : logLogInterpolate(CLASS5_OHM_PER_KM, size.mm2))) / 1000
  }
  return (factor * STRANDED_FACTOR * COPPER_OHM_MM2_PER_M) / conductorMm2(size)
}

/** Factor on the 20 °C resistance at another temperature. */
export function resistanceFactorAt(conductorC: number): number {
  return 1 + COPPER_PER_C * (conductorC - 20)
}

/** Mass of the metal in one conductor, g/m; insulation left out, since it differs by make. */
export function conductorGramsPerM(size: ConductorSize): number {
  // Aluminium with 15 % of copper by volume weighs about 0.4 of copper.
  const density = size.material === 'cca' ? 0.41 * COPPER_G_PER_CM3 : COPPER_G_PER_CM3
  return conductorMm2(size) * density
}

/** "8 AWG", "2/0 AWG", "2.5 mm²". */
export function conductorName(size: ConductorSize): string {
  const cca = size.material === 'cca' ? ' CCA' : ''
  if (size.mm2 !== undefined) return `${size.mm2} mm²${cca}`
  const n = awgNumber(size.awg!)
  return `${n <= 0 ? `${1 - n}/0` : n} AWG${cca}`
}
