import { fuseClass } from '../catalog/fuses'

/** Slowest and fastest time until a fuse or breaker opens, s. */
export interface OpeningTime {
  slowestS: number
  fastestS: number
}

/**
 * Time until a fuse of a class and rating opens at a current; null where it need not open at all.
 * Between the rows of its class on log–log lines; beyond the last row with its I²t constant.
 */
export function openingTime(type: string, ratedA: number, amps: number): OpeningTime | null {
  const { rows } = fuseClass(type).opening
  const multiple = amps / ratedA
  const last = rows[rows.length - 1]!
  if (multiple < rows[0]![0] * (1 - 1e-9)) return null
  if (multiple >= last[0]) {
    const shorter = (last[0] / multiple) ** 2
    return { slowestS: last[1] * shorter, fastestS: last[2] * shorter }
  }
  let i = 1
  while (rows[i]![0] < multiple) i++
  const [m0, slow0, fast0] = rows[i - 1]!
  const [m1, slow1, fast1] = rows[i]!
  const along = Math.log(multiple / m0) / Math.log(m1 / m0)
  return { slowestS: slow0 * (slow1 / slow0) ** along, fastestS: fast0 * (fast1 / fast0) ** along }
}

/**
 * Largest current that may flow for ever without it opening, as a multiple of its rating; the standard's 110 % for
 * blades.
 */
export function neverOpensBelow(type: string): number {
  return fuseClass(type).opening.rows[0]![0]
}
