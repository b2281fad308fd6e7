import { figure, fixed, significant } from './number'

/** Figures as sentences say them, each with its unit. */

/** 11.42 V: two decimals, one from 100 up. */
export const volts = (v: number) => `${fixed(v, Math.abs(v) >= 100 ? 1 : 2)} V`

/** 0.25 A, 9.5 A, 21 A, 150 A: no more than one reads off a meter. */
export const amps = (a: number) => `${figure(a, ampDecimals(a))} A`

function ampDecimals(a: number): number {
  if (a >= 100) return 0
  return a >= 9.95 ? 1 : 2
}

export const metres = (m: number) => `${figure(m, 2)} m`
export const celsius = (c: number) => `${fixed(c, 0)} °C`
export const watts = (w: number, decimals = 0) => `${figure(w, decimals)} W`
export const percent = (share: number, decimals = 0) => `${fixed(100 * share, decimals)} %`
/** A dose of a short circuit: three figures. */
export const ampSquaredSeconds = (i2t: number) => `${significant(i2t, 3)} A²s`
/** A short circuit's current: three figures. */
export const shortAmps = (a: number) => `${significant(a, 3)} A`

/** 12 s, 0.75 s as 750 ms: two figures. */
export function seconds(s: number | null): string {
  if (s === null) return 'never'
  return s >= 1 ? `${significant(s, 2)} s` : `${significant(1000 * s, 2)} ms`
}
