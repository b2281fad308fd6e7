import type { Source } from '../kinds/kind'

/** Resistance of a source that holds its voltage and has limits, Ω: it drops some millionths of a volt. */
const STIFF_OHM = 1e-7

/**
 * What a limited source gives over the voltage of its node, as straight lines: each point has less current at a higher
 * voltage than the one before. Volts are counted from its EMF.
 */
export interface Lines {
  volts: readonly number[]
  amps: readonly number[]
  /** Slope below the first point and above the last, S; 0 where it is flat. */
  lowSiemens: number
  highSiemens: number
}

export interface Flow {
  amps: number
  siemens: number
}

/** The lines of a source; null where it has no limit. `lifted`: as if it could give all that is asked. */
export function linesOf({ ohm, leastA, mostA, curve }: Source | Omit<Source, 'at'>, lifted: boolean): Lines | null {
  if (curve) return { volts: curve.map(p => p[0]), amps: curve.map(p => p[1]), lowSiemens: 0, highSiemens: 0 }
  if (leastA === undefined && mostA === undefined) return null
  const siemens = 1 / Math.max(ohm, STIFF_OHM)
  const ends = [lifted ? undefined : mostA, leastA].filter(a => a !== undefined)
  // With neither end it is one straight line through its EMF.
  const amps = ends.length ? ends : [0]
  return {
    volts: amps.map(a => -a / siemens),
    amps,
    lowSiemens: lifted || mostA === undefined ? siemens : 0,
    highSiemens: leastA === undefined ? siemens : 0,
  }
}

/** Slope of piece `k`, S: 0 is below the first point, `amps.length` above the last. */
export function siemensOf({ volts, amps, lowSiemens, highSiemens }: Lines, k: number): number {
  if (k === 0) return lowSiemens
  if (k === amps.length) return highSiemens
  return (amps[k - 1]! - amps[k]!) / (volts[k]! - volts[k - 1]!)
}

/** What piece `k` gives at a voltage above the EMF. Written into `out`. */
export function flowOf(lines: Lines, k: number, aboveV: number, out: Flow): void {
  out.siemens = siemensOf(lines, k)
  const at = Math.min(k, lines.amps.length - 1)
  out.amps = lines.amps[at]! - out.siemens * (aboveV - lines.volts[at]!)
}

/** The piece on which the source holds its voltage: the steepest. */
export function steepest(lines: Lines): number {
  let best = 0
  for (let k = 1; k <= lines.amps.length; k++) if (siemensOf(lines, k) > siemensOf(lines, best)) best = k
  return best
}

/**
 * How far a voltage lies beyond piece `k`: over 0 above it, under 0 below it, 0 within. In amps on a steep piece, volts
 * on a flat one.
 */
export function beyond(lines: Lines, k: number, aboveV: number): number {
  const weight = Math.max(1, siemensOf(lines, k))
  if (k > 0 && aboveV < lines.volts[k - 1]!) return (aboveV - lines.volts[k - 1]!) * weight
  if (k < lines.amps.length && aboveV > lines.volts[k]!) return (aboveV - lines.volts[k]!) * weight
  return 0
}
