import { fuseClass } from '../catalog/fuses'
import { logLogInterpolate } from '../conductor/resistance'

/** Slowest and fastest time until a fuse or breaker opens, s. */
export interface OpeningTime { slowestS: number, fastestS: number }

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
  const at = (column: 1 | 2) => logLogInterpolate(rows.map(r => [r[0], r[column]] as const), multiple)
  return { slowestS: at(1), fastestS: at(2) }
}

/** Largest current that may flow for ever without it opening, as a multiple of its rating; the standard's 110 % for blades. */
export function neverOpensBelow(type: string): number {
  return fuseClass(type).opening.rows[0]![0]
}
