import { CONTINUOUS_FACTOR, FUSE_COLD_DROP_V, fuseClass } from '../catalog/fuses'

export interface FuseFacts {
  type?: string
  ratedA: number
  ohm?: number
}

/** Cold resistance of one fuse or breaker, Ω; its own figure goes first. */
export function fuseOhm(fuse: FuseFacts): number {
  return fuse.ohm ?? FUSE_COLD_DROP_V / fuse.ratedA
}

/** Last bits of a solved current do not count, A. */
const TOLERANCE_A = 1e-9

/** Ratings of its class that carry a continuous current, A, smallest first (NFPA 70 210.20, ISO 8820-3). */
export const ratingsCarrying = (type: string, continuousA: number): number[] =>
  fuseClass(type).ratingsA.filter(a => a >= CONTINUOUS_FACTOR * continuousA - TOLERANCE_A)

/** Those of them that still protect a conductor, A, smallest first. */
export const fittingRatings = (type: string, continuousA: number, conductorAmps: number): number[] =>
  ratingsCarrying(type, continuousA).filter(a => a <= conductorAmps + TOLERANCE_A)
