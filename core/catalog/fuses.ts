/** Fuse and breaker classes: generic. Currents in A, voltages in V, times in s. */
export interface FuseClass {
  id: string
  label: string
  /** Largest current it can break, A. */
  interruptA: number
  /** Highest voltage it may break, V DC. */
  ratedV: number
  /** Ratings one can buy, A. */
  ratingsA: readonly number[]
  source: string
}

const BLADE_RATINGS = [1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40] as const

export const FUSE_CLASSES: readonly FuseClass[] = [
  { id: 'blade', label: 'blade', interruptA: 1000, ratedV: 32, ratingsA: BLADE_RATINGS, source: 'ISO 8820-3' },
  { id: 'glass', label: 'glass', interruptA: 200, ratedV: 32, ratingsA: [0.5, 1, 2, 3, 5, 7.5, 10, 15, 20, 25, 30], source: 'typical of the class' },
  { id: 'strip', label: 'bolt-down strip', interruptA: 2000, ratedV: 58, ratingsA: [30, 40, 50, 60, 70, 80, 100, 125, 150, 175, 200], source: 'typical of the class' },
  { id: 'strip-high', label: 'high-current strip', interruptA: 6000, ratedV: 32, ratingsA: [35, 40, 50, 60, 80, 100, 130, 150, 200, 250, 300, 400], source: 'typical of the class' },
  { id: 'post-block', label: 'post-mount block', interruptA: 10000, ratedV: 14, ratingsA: [30, 40, 50, 60, 75, 80, 90, 100, 125, 150, 175, 200, 225, 250, 300], source: 'typical of the class' },
  { id: 'cartridge', label: 'fast cartridge', interruptA: 20000, ratedV: 125, ratingsA: [1, 3, 5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 110, 125, 150, 175, 200, 250, 300, 400], source: 'typical of the class' },
  { id: 'thermal', label: 'thermal breaker', interruptA: 1000, ratedV: 32, ratingsA: [5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 150], source: 'typical of the class, 1–5 kA' },
]

export const FUSE_TYPE_IDS = FUSE_CLASSES.filter(c => c.id !== 'thermal').map(c => c.id)

const byId = new Map(FUSE_CLASSES.map(c => [c.id, c]))

export function fuseClass(id: string): FuseClass {
  const found = byId.get(id)
  if (!found) throw new Error(`no fuse class ${id} in the catalogue`)
  return found
}

/** Cold resistance of a blade fuse is about 0.075 V / rating; taken for the other classes too, for want of their own. */
export const FUSE_COLD_DROP_V = 0.075

/** A fuse should be at least this many times the continuous current through it. */
export const CONTINUOUS_FACTOR = 1.25

/** Longest conductor before the first fuse, m, by school; `sheathed` holds only where the lead lies in a sheath. */
export const FUSE_DISTANCE_M = { strict: 0.18, sheathed: 1.0 } as const
export type FuseSchool = keyof typeof FUSE_DISTANCE_M

/** Where fixes put a fuse, from the post: well inside both schools, room for a crimp, m. */
export const FUSE_AT_POST_M = 0.12
