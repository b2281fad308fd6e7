import { readNumber } from './number'
import { METRIC, type Entry, type Units } from './quantity'

/** A conductor's size as a plan says it: American wire gauge, or square millimetres. */
export interface ConductorSize {
  awg?: number | '1/0' | '2/0' | '3/0' | '4/0'
  mm2?: number
}

/** Gauge numbers below 1 are written 1/0 … 4/0: 0 is 1/0, −3 is 4/0. */
export function awgInPlan(gauge: number): NonNullable<ConductorSize['awg']> {
  return gauge >= 1 ? gauge : (`${1 - gauge}/0` as '1/0')
}

/** A pair is sold as "2 × 2.5 mm²" or "12/2"; a lead has two conductors anyhow. */
const TIMES_TWO = /^2[x×*](?=\d)/
const SLASH_TWO = /^(#?(?:[468]|\d\d))\/2(?=awg|$)/

/**
 * "10 AWG", "#10", "10 gauge", "12/2", "2/0 AWG", "6 mm2", "2 × 6 mm²" → the conductor's size; a bare number is in the
 * user's own measure.
 */
export function readConductor(text: string, units: Units = METRIC): Entry<ConductorSize> {
  const written = text
    .toLowerCase()
    .replace(/\s+/g, '')
    .replace(/(?:gauge|ga)\.?$/, 'awg')
  const isTimesTwo = TIMES_TWO.test(written)
  const cleaned = written.replace(TIMES_TWO, '').replace(SLASH_TWO, '$1')
  const fail: Entry<never> = {
    ok: false,
    wrong: `"${text.trim()}" is no conductor size; write it as 10 AWG, 2/0 AWG or 6 mm2`,
  }
  const ought = /^(?:awg|#)?([1-4])\/0(?:awg)?$/.exec(cleaned)
  if (ought) return { ok: true, value: { awg: awgInPlan(1 - Number(ought[1])) } }
  const metric = /^(.*?)(?:mm2|mm²|mm\^2|sqmm|qmm)$/.exec(cleaned)
  const area = readNumber(metric ? metric[1]! : cleaned)
  // No gauge is a fraction, and only metric cable is named by how many conductors there are of what size.
  const isMetric = units.conductor === 'mm2' || isTimesTwo || (area.ok && !Number.isInteger(area.value))
  if (metric || (area.ok && isMetric)) {
    return area.ok && area.value > 0 && area.value <= 1000 ? { ok: true, value: { mm2: area.value } } : fail
  }
  const awg = /^(?:awg|#)?(\d{1,2})(?:awg)?$/.exec(cleaned)
  if (!awg || Number(awg[1]) < 1 || Number(awg[1]) > 40) return fail
  return { ok: true, value: { awg: Number(awg[1]) } }
}
