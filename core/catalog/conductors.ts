/**
 * Conductor tables. Areas in mm², resistance in Ω/m at 20 °C, currents in A.
 */

/** Resistivity of annealed copper at 20 °C, Ω·mm²/m (IEC 60028). */
export const COPPER_OHM_MM2_PER_M = 0.017241

/** Temperature coefficient of copper's resistance, of its 20 °C value, per °C (IEC 60028). */
export const COPPER_PER_C = 0.00393

/** Density of copper, g/cm³. */
export const COPPER_G_PER_CM3 = 8.96

/** Copper-clad aluminium has about 1.6 times the resistance of copper of the same area. */
export const CCA_RESISTANCE_FACTOR = 1.6

/** Largest resistance of flexible (class 5) plain copper conductors at 20 °C: mm² → Ω/km (IEC 60228 table 3). */
export const CLASS5_OHM_PER_KM: readonly (readonly [mm2: number, ohmPerKm: number])[] = [
  [0.5, 39.0],
  [0.75, 26.0],
  [1, 19.5],
  [1.5, 13.3],
  [2.5, 7.98],
  [4, 4.95],
  [6, 3.3],
  [10, 1.91],
  [16, 1.21],
  [25, 0.78],
  [35, 0.554],
  [50, 0.386],
  [70, 0.272],
  [95, 0.206],
]

export type AmpacitySchool = 'enclosed' | 'open'

export interface AmpacityTable {
  /** Conductor temperature the table's currents lead to, °C. */
  conductorC: number
  /** Ambient temperature the table is made for, °C. */
  ambientC: number
  source: string
  words: string
  /** AWG number (1/0 is 0, 4/0 is −3) → A. */
  awg: readonly (readonly [awg: number, amps: number])[]
  /** mm² → A; empty where the source gives AWG only. */
  mm2: readonly (readonly [mm2: number, amps: number])[]
}

export const AMPACITY: Record<AmpacitySchool, AmpacityTable> = {
  enclosed: {
    conductorC: 75,
    ambientC: 30,
    source: 'NFPA 70 table 310.16, 75 °C column; 16 and 18 AWG from its flexible-cord table',
    words: 'enclosed, building-wire practice, 75 °C',
    awg: [
      [18, 10],
      [16, 13],
      [14, 20],
      [12, 25],
      [10, 35],
      [8, 50],
      [6, 65],
      [4, 85],
      [2, 115],
      [1, 130],
      [0, 150],
      [-1, 175],
      [-2, 200],
      [-3, 230],
    ],
    mm2: [],
  },
  open: {
    conductorC: 105,
    ambientC: 30,
    source: 'ABYC E-11 / ISO 13297, 105 °C insulation in free air',
    words: 'open air',
    awg: [
      [18, 20],
      [16, 25],
      [14, 35],
      [12, 45],
      [10, 60],
      [8, 80],
      [6, 120],
      [4, 160],
      [2, 210],
      [1, 245],
      [0, 285],
      [-1, 330],
      [-2, 385],
      [-3, 445],
    ],
    mm2: [
      [0.75, 16],
      [1, 20],
      [1.5, 25],
      [2.5, 35],
      [4, 45],
      [6, 60],
      [10, 90],
      [16, 130],
      [25, 170],
      [35, 210],
      [50, 270],
      [70, 330],
      [95, 390],
    ],
  },
}

/** Factor on the table's current when several loaded conductors lie together (ABYC E-11; NFPA 70 310.15(C)(1)). */
export const BUNDLE_DERATING: Record<AmpacitySchool, readonly { upTo: number; factor: number }[]> = {
  open: [
    { upTo: 2, factor: 1 },
    { upTo: 3, factor: 0.7 },
    { upTo: 6, factor: 0.6 },
    { upTo: 24, factor: 0.5 },
  ],
  enclosed: [
    { upTo: 3, factor: 1 },
    { upTo: 6, factor: 0.8 },
    { upTo: 9, factor: 0.7 },
    { upTo: 20, factor: 0.5 },
    { upTo: 24, factor: 0.45 },
  ],
}

/**
 * The largest fuse on small conductors, whatever their ampacity: AWG → A, thin to thick (NFPA 70 240.4(D), for building
 * wire).
 */
export const SMALL_CONDUCTOR_A: Record<AmpacitySchool, readonly (readonly [awg: number, ratedA: number])[]> = {
  open: [],
  enclosed: [
    [18, 7],
    [16, 10],
    [14, 15],
    [12, 20],
    [10, 30],
  ],
}

/** Insulation that nobody stated counts as PVC of this temperature, °C. */
export const UNSAID_INSULATION_C = 70

/** Strands lie at an angle: their resistance over that of a solid conductor of the same AWG (ASTM B8). */
export const STRANDED_FACTOR = 1.02

/** Sizes one can buy, thin to thick, for the ladders that fixes climb. */
export const AWG_LADDER = [24, 22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0, -1, -2, -3] as const
export const MM2_LADDER = CLASS5_OHM_PER_KM.map(([mm2]) => mm2)
