import { DB_PER_S_UNIT, RECEIVER_OHM, S9_DBM, SITE_CLASSES, THERMAL_DBM_PER_HZ, type SiteClass } from '../catalog/noise'
import { curveAt } from '../units/curve'

/** Levels at a receiver's antenna socket. */

/** One line of a receiver's calibration: what its meter shows, and the level that is there, dBm. */
export interface CalibrationPoint {
  shown: string
  dbm: number
}

const s9 = (frequencyHz: number) => (frequencyHz < 30e6 ? S9_DBM.hf : S9_DBM.vhf)

/** "S7", "S9+20", "S4.5" or "S9+5 dB" as S-units and dB over S9; null where it is not a reading. */
export function readSMeter(text: string): { units: number; overDb: number } | null {
  const match = /^\s*s\s*(\d(?:[.,]\d)?)\s*(?:\+\s*(\d{1,2}(?:[.,]\d)?)\s*(?:db)?)?\s*$/i.exec(text)
  if (!match) return null
  const units = Number(match[1]!.replace(',', '.'))
  const overDb = match[2] === undefined ? 0 : Number(match[2].replace(',', '.'))
  return units > 9 || (overDb > 0 && units !== 9) ? null : { units, overDb }
}

/** Level of an S-reading, dBm: S9 is −73 dBm below 30 MHz and −93 dBm above, 6 dB a unit. */
export function sToDbm(reading: { units: number; overDb: number }, frequencyHz: number): number {
  return s9(frequencyHz) + (reading.units - 9) * DB_PER_S_UNIT + reading.overDb
}

/** "S6", "S9+13". */
export function dbmToS(dbm: number, frequencyHz: number): string {
  const over = dbm - s9(frequencyHz)
  if (over >= 0.5) return `S9+${Math.round(over)}`
  // Between S9 and half a dB over it there is no other word than S9.
  return `S${Math.min(9, Math.max(0, Math.round(10 * (9 + over / DB_PER_S_UNIT)) / 10))}`
}

/** Voltage over the receiver's 50 Ω, µV, of a level. */
export function dbmToMicrovolts(dbm: number): number {
  return Math.sqrt(10 ** (dbm / 10) * 1e-3 * RECEIVER_OHM) * 1e6
}

export function microvoltsToDbm(microvolts: number): number {
  return 10 * Math.log10((microvolts * 1e-6) ** 2 / RECEIVER_OHM / 1e-3)
}

export interface Receiver {
  /** Attenuator in front of it, dB: what is there is so much more than what is shown. */
  attenuatorDb?: number
  /** Noise bandwidth of the reading, Hz. */
  bandwidthHz?: number
  calibration?: readonly CalibrationPoint[]
}

/**
 * Level at the antenna of a meter reading: by the receiver's calibration where it has one, straight lines between its
 * points.
 */
export function calibratedDbm(text: string, frequencyHz: number, receiver: Receiver = {}): number | null {
  const reading = readSMeter(text)
  if (!reading) return null
  const nominal = sToDbm(reading, frequencyHz)
  const errors = (receiver.calibration ?? [])
    .flatMap(p => {
      const shown = readSMeter(p.shown)
      const asShown = shown && sToDbm(shown, frequencyHz)
      return asShown === null ? [] : [[asShown, p.dbm - asShown] as const]
    })
    .sort(([a], [b]) => a - b)
  // Beyond the points the error of the last one stays.
  const error = errors.length ? curveAt(errors, nominal) : 0
  return nominal + error + (receiver.attenuatorDb ?? 0)
}

/** A noise level in another bandwidth, dBm: power goes with bandwidth. */
export function inBandwidth(dbm: number, fromHz: number, toHz: number): number {
  return dbm + 10 * Math.log10(toHz / fromHz)
}

/**
 * What a device adds, dBm: the difference of the powers on and off, in milliwatts. null where the difference is within
 * the reading's
 * uncertainty: then all that can be said is that it adds less than `atMostDbm`.
 * @param uncertaintyDb standard uncertainty of one reading
 */
export function added(
  onDbm: number,
  offDbm: number,
  uncertaintyDb = 1,
): { dbm: number | null; uncertaintyDb: number; atMostDbm: number } {
  const mw = (dbm: number) => 10 ** (dbm / 10)
  const difference = mw(onDbm) - mw(offDbm)
  // One reading's error in milliwatts; both readings err by themselves.
  const step = (dbm: number) => ((mw(dbm) * Math.LN10) / 10) * uncertaintyDb
  const error = Math.hypot(step(onDbm), step(offDbm))
  const atMostDbm = 10 * Math.log10(Math.max(difference, 0) + 2 * error)
  if (difference <= error) return { dbm: null, uncertaintyDb: Infinity, atMostDbm }
  return { dbm: 10 * Math.log10(difference), uncertaintyDb: ((10 / Math.LN10) * error) / difference, atMostDbm }
}

/** How many dB a device costs on a band: the rise of the floor it makes. */
export const costDb = (onDbm: number, offDbm: number) => onDbm - offDbm

/** Median man-made noise of a site class, dB above kT0 (ITU-R P.372). */
export function manMadeFactorDb(siteClass: SiteClass, frequencyHz: number): number {
  const { c, d } = SITE_CLASSES.find(s => s.id === siteClass)!
  return c - d * Math.log10(frequencyHz / 1e6)
}

/** The level that is normal for a site class in a bandwidth, dBm, with a short lossless antenna. */
export function normalDbm(siteClass: SiteClass, frequencyHz: number, bandwidthHz: number): number {
  return THERMAL_DBM_PER_HZ + 10 * Math.log10(bandwidthHz) + manMadeFactorDb(siteClass, frequencyHz)
}

/** Noise of the sky above which the ionosphere does not keep it out: Fam = 52 − 23·log10(f/MHz) (ITU-R P.372). */
const GALACTIC = { fromHz: 10e6, c: 52, d: 23 } as const
/** A receiver's own noise over kT0, dB: typical of the class. */
const OWN_DB = 12
/** The published medians of man-made noise hold between these, Hz; beyond, the nearer end's is taken. */
const MAN_MADE_HZ = { least: 0.3e6, most: 250e6 } as const

/** The floor that is normal for a site in a bandwidth, dBm: what people make, the sky, and the receiver itself. */
export function expectedFloorDbm(siteClass: SiteClass, frequencyHz: number, bandwidthHz: number): number {
  const { least, most } = MAN_MADE_HZ
  const made = manMadeFactorDb(siteClass, Math.min(most, Math.max(least, frequencyHz)))
  const sky = frequencyHz < GALACTIC.fromHz ? -Infinity : GALACTIC.c - GALACTIC.d * Math.log10(frequencyHz / 1e6)
  const factor = 10 * Math.log10([made, sky, OWN_DB].reduce((s, db) => s + 10 ** (db / 10), 0))
  return THERMAL_DBM_PER_HZ + 10 * Math.log10(bandwidthHz) + factor
}
