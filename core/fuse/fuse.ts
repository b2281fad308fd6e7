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

/**
 * Ratings of its class that carry a continuous current and still protect a conductor, A, smallest first.
 */
export function fittingRatings(type: string, continuousA: number, conductorAmps: number): number[] {
  return fuseClass(type).ratingsA.filter(a => a >= CONTINUOUS_FACTOR * continuousA - 1e-9 && a <= conductorAmps + 1e-9)
}
