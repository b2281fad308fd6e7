/** Fuse and breaker classes: generic. Currents in A, voltages in V, times in s. */
export interface FuseClass {
  id: string
  label: string
  /** What it can break: up to a direct voltage, a current; the last one is its rated voltage. */
  breaks: readonly (readonly [upToV: number, amps: number])[]
  /** It opens before a large short has reached its peak. */
  limitsCurrent?: boolean
  /** Ratings one can buy, A. */
  ratingsA: readonly number[]
  /** Opening times by multiple of its rating. */
  opening: OpeningCurve
  source: string
}

/**
 * Rows of multiple of the rating, slowest and fastest opening time, s. Below the first row it never opens; between rows
 * log–log lines; beyond the last one I²t is constant.
 */
export interface OpeningCurve {
  rows: readonly (readonly [multiple: number, slowestS: number, fastestS: number])[]
  source: string
}

const BLADE_OPENING: OpeningCurve = {
  rows: [
    [1.35, 600, 0.75],
    [1.6, 50, 0.25],
    [2, 5, 0.15],
    [3.5, 0.5, 0.04],
    [6, 0.1, 0.02],
  ],
  source: 'ISO 8820-3',
}
const GLASS_OPENING: OpeningCurve = {
  rows: [
    [1.5, 3600, 30],
    [2.1, 1800, 0.5],
    [2.75, 2, 0.05],
    [4, 0.3, 0.01],
    [10, 0.02, 0.001],
  ],
  source: 'IEC 60127-2, quick-acting, typical of the class',
}
const STRIP_OPENING: OpeningCurve = {
  rows: [
    [1.35, 1800, 60],
    [2, 60, 1],
    [3.5, 7, 0.2],
    [6, 1, 0.04],
  ],
  source: 'ISO 8820-5, typical of the class',
}
const CARTRIDGE_OPENING: OpeningCurve = {
  rows: [
    [1.35, 3600, 60],
    [2, 240, 1],
    [5, 2, 0.02],
    [10, 0.02, 0.003],
  ],
  source: 'fast-acting current-limiting cartridge (UL 248-15), typical of the class',
}
const THERMAL_OPENING: OpeningCurve = {
  rows: [
    [1.35, 3600, 60],
    [2, 90, 10],
    [4, 15, 1.5],
    [6, 5, 0.5],
    [10, 2, 0.2],
  ],
  source: 'thermal breaker, typical of the class',
}

const BLADE_RATINGS = [1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40] as const

export const FUSE_CLASSES: readonly FuseClass[] = [
  {
    id: 'blade',
    label: 'blade',
    breaks: [[32, 1000]],
    ratingsA: BLADE_RATINGS,
    opening: BLADE_OPENING,
    source: 'ISO 8820-3',
  },
  {
    id: 'glass',
    label: 'glass',
    breaks: [[32, 200]],
    ratingsA: [0.5, 1, 2, 3, 5, 7.5, 10, 15, 20, 25, 30],
    opening: GLASS_OPENING,
    source: 'typical of the class',
  },
  {
    id: 'strip',
    label: 'bolt-down strip',
    breaks: [[58, 2000]],
    ratingsA: [30, 40, 50, 60, 70, 80, 100, 125, 150, 175, 200],
    opening: STRIP_OPENING,
    source: 'typical of the class',
  },
  {
    id: 'strip-high',
    label: 'high-current strip',
    breaks: [[32, 6000]],
    ratingsA: [35, 40, 50, 60, 80, 100, 130, 150, 200, 250, 300, 400],
    opening: STRIP_OPENING,
    source: 'typical of the class',
  },
  {
    id: 'post-block',
    label: 'post-mount block',
    breaks: [
      [14, 10000],
      [32, 5000],
      [58, 2000],
    ],
    ratingsA: [30, 40, 50, 60, 75, 80, 90, 100, 125, 150, 175, 200, 225, 250, 300],
    opening: STRIP_OPENING,
    source: 'typical of the class',
  },
  {
    id: 'cartridge',
    label: 'fast cartridge',
    breaks: [[125, 20000]],
    limitsCurrent: true,
    ratingsA: [1, 3, 5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 110, 125, 150, 175, 200, 250, 300, 400],
    opening: CARTRIDGE_OPENING,
    source: 'typical of the class',
  },
  {
    id: 'thermal',
    label: 'thermal breaker',
    breaks: [[32, 1000]],
    ratingsA: [5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 150],
    opening: THERMAL_OPENING,
    source: 'typical of the class, 1–5 kA',
  },
]

/** Highest direct voltage that a class may break, V. */
export const ratedVolts = ({ breaks }: Pick<FuseClass, 'breaks'>): number => breaks.at(-1)![0]

/** Largest current that a class can break at a voltage, A; over its rated one none. */
export const breaksAt = ({ breaks }: Pick<FuseClass, 'breaks'>, volts: number): number =>
  breaks.find(([upToV]) => volts <= upToV + 1e-9)?.[1] ?? 0

export const FUSE_TYPE_IDS = FUSE_CLASSES.filter(c => c.id !== 'thermal').map(c => c.id)

const byId = new Map(FUSE_CLASSES.map(c => [c.id, c]))

export function fuseClass(id: string): FuseClass {
  const found = byId.get(id)
  if (!found) throw new Error(`no fuse class ${id} in the catalogue`)
  return found
}

/**
 * Cold resistance of a blade fuse is about 0.075 V / rating; taken for the other classes too, for want of their own.
 */
export const FUSE_COLD_DROP_V = 0.075

/** A fuse should be at least this many times the continuous current through it. */
export const CONTINUOUS_FACTOR = 1.25

/** Longest conductor before the first fuse, m, by school; `sheathed` holds only where the lead lies in a sheath. */
export const FUSE_DISTANCE_M = { strict: 0.18, sheathed: 1.02 } as const
/** The sheathed school's distance from a battery post, m. */
export const SHEATHED_FROM_BATTERY_M = 1.83
export type FuseSchool = keyof typeof FUSE_DISTANCE_M

/** Where fixes put a fuse, from the post: well inside both schools, room for a crimp, m. */
export const FUSE_AT_POST_M = 0.12
