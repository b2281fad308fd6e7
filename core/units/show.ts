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

/** A joint or a lead: "12 mΩ", "1.33 Ω". */
export const resistance = (ohm: number) => (ohm < 1 ? `${fixed(1000 * ohm, 0)} mΩ` : `${significant(ohm, 3)} Ω`)

export const metres = (m: number) => `${figure(m, 2)} m`
/** "−12 dB", "8 dB". */
export const decibels = (db: number) => `${fixed(db, 0)} dB`
/** "60 Hz", "7.5 kHz", "14.2 MHz": three figures. */
export function hertz(hz: number): string {
  if (hz >= 1e6) return `${significant(hz / 1e6, 3)} MHz`
  return hz >= 1000 ? `${significant(hz / 1000, 3)} kHz` : `${fixed(hz, 0)} Hz`
}
/** Over what any insulation or housing stands no formula of this house holds any more. */
const MOST_TOLD_C = 300
export const celsius = (c: number) => (c > MOST_TOLD_C ? `over ${MOST_TOLD_C} °C` : `${fixed(c, 0)} °C`)
export const watts = (w: number, decimals = 0) => `${figure(w, decimals)} W`
export const percent = (share: number, decimals = 0) => `${fixed(100 * share, decimals)} %`
/** A dose of a short circuit: three figures. */
export const ampSquaredSeconds = (i2t: number) => `${significant(i2t, 3)} A²s`
/** A short circuit's current: three figures. */
export const shortAmps = (a: number) => `${significant(a, 3)} A`
/** 640 A, 1.23 kA, 12.3 kA: where there is little room. */
export const shortAmpsBrief = (a: number) => (a < 1000 ? `${significant(a, 3)} A` : `${significant(a / 1000, 3)} kA`)
/** 640, 1.23 k, 12.3 M: a dose where there is little room, its unit said once beside. */
export function doseBrief(i2t: number): string {
  if (i2t >= 1e6) return `${significant(i2t / 1e6, 3)} M`
  return i2t >= 1e3 ? `${significant(i2t / 1e3, 3)} k` : significant(i2t, 3)
}

/**
 * A figure beside the one that it is held against: "just under 11.70 V" where both would be told alike.
 * @param show how either is told
 */
export function against(show: (x: number) => string, value: number, limit: number): string {
  const told = show(value)
  if (value === limit || told !== show(limit)) return told
  return `just ${value < limit ? 'under' : 'over'} ${told}`
}

/** 12 s, 0.75 s as 750 ms: two figures. */
export function seconds(s: number | null): string {
  if (s === null) return 'never'
  return s >= 1 ? `${significant(s, 2)} s` : `${significant(1000 * s, 2)} ms`
}
