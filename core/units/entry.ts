import { awgInPlan } from '../conductor/ladder'
import type { Conductor } from '../plan/schema'

/** Numbers as people write them, read into SI; and SI shown in the units they chose. */

export interface Units {
  length: 'm' | 'ft'
  conductor: 'awg' | 'mm2'
  temperature: 'C' | 'F'
}
export const METRIC: Units = { length: 'm', conductor: 'awg', temperature: 'C' }

export type Entry<T> = { ok: true; value: T } | { ok: false; wrong: string }

type Scale = readonly [pattern: RegExp, factor: number]
const SCALES: Record<string, { shown: string; scales: readonly Scale[] }> = {
  length: {
    shown: '1.2 m, 120 cm, 4 ft, 4 ft 6 in or 18 in',
    scales: [
      [/^(m|metres?|meters?)$/, 1],
      [/^cm$/, 0.01],
      [/^mm$/, 0.001],
      [/^(ft|feet|foot|['′])$/, 0.3048],
      [/^(in|inch|inches|["″])$/, 0.0254],
    ],
  },
  voltage: {
    shown: '13.8 V',
    scales: [
      [/^v(olts?)?$/, 1],
      [/^mv$/, 0.001],
    ],
  },
  current: {
    shown: '21 A or 60 mA',
    scales: [
      [/^a(mps?)?$/, 1],
      [/^ma$/, 0.001],
    ],
  },
  power: {
    shown: '100 W',
    scales: [
      [/^w(atts?)?$/, 1],
      [/^mw$/, 0.001],
      [/^kw$/, 1000],
    ],
  },
  resistance: {
    shown: '12 mΩ or 0.012 Ω',
    scales: [
      [/^(ω|ohms?)$/, 1],
      [/^(mω|mohms?|milliohms?)$/, 0.001],
      [/^(µω|uohms?)$/, 1e-6],
    ],
  },
  charge: {
    shown: '50 Ah',
    scales: [
      [/^ah$/, 1],
      [/^mah$/, 0.001],
    ],
  },
  energy: {
    shown: '100 Wh',
    scales: [
      [/^wh$/, 1],
      [/^kwh$/, 1000],
    ],
  },
  mass: {
    shown: '500 g, 1.2 kg or 2 lb',
    scales: [
      [/^g$/, 1],
      [/^kg$/, 1000],
      [/^lbs?$/, 453.592],
      [/^oz$/, 28.3495],
    ],
  },
  fraction: { shown: '0.8 or 80 %', scales: [[/^%$/, 0.01]] },
  frequency: {
    shown: '120 kHz',
    scales: [
      [/^hz$/, 1],
      [/^khz$/, 1000],
      [/^mhz$/, 1e6],
    ],
  },
  count: { shown: '4', scales: [] },
}

/** Quantities whose bare number is in a unit the user chose. */
const bareFactor = (quantity: string, units: Units) => (quantity === 'length' && units.length === 'ft' ? 0.3048 : 1)

/** "4 ft 6 in", "12 mΩ", "1,5 m" → a number in SI. A bare number is in the user's own unit. */
export function readQuantity(text: string, quantity: string, units: Units = METRIC): Entry<number> {
  const known = SCALES[quantity]
  const fail: Entry<number> = {
    ok: false,
    wrong: `"${text.trim()}" cannot be read; write it as ${known?.shown ?? 'a number'}`,
  }
  if (!known) return fail
  const cleaned = text
    .trim()
    .toLowerCase()
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/−/g, '-')
  const pieces = [...cleaned.matchAll(/(-?\d*\.?\d+)\s*([a-zωµ%'"′″Ω]*)/g)]
  if (
    !pieces.length ||
    pieces
      .map(p => p[0])
      .join('')
      .replace(/\s/g, '') !== cleaned.replace(/\s/g, '')
  )
    return fail
  let sum = 0
  for (const [, digits, unit] of pieces) {
    const factor =
      unit === ''
        ? pieces.length > 1
          ? undefined
          : bareFactor(quantity, units)
        : known.scales.find(([pattern]) => pattern.test(unit!))?.[1]
    if (factor === undefined) return fail
    sum += Number(digits) * factor
  }
  // Five digits are more than anyone measures, and keep 4 ft from being 1.2192000000000003 m.
  return { ok: true, value: Number(sum.toPrecision(8)) }
}

/** "10 AWG", "#10", "2/0 AWG", "6 mm2", "6mm²" → the conductor's size; a bare number is in the user's own measure. */
export function readConductor(text: string, units: Units = METRIC): Entry<Pick<Conductor, 'awg' | 'mm2'>> {
  const cleaned = text
    .trim()
    .toLowerCase()
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/\s+/g, '')
  const fail: Entry<never> = {
    ok: false,
    wrong: `"${text.trim()}" is no conductor size; write it as 10 AWG, 2/0 AWG or 6 mm2`,
  }
  const ought = /^(?:awg|#)?([1-4])\/0(?:awg)?$/.exec(cleaned)
  if (ought) return { ok: true, value: { awg: awgInPlan(1 - Number(ought[1])) } }
  const metric = /^(\d*\.?\d+)(?:mm2|mm²|mm\^2|sqmm|qmm)$/.exec(cleaned)
  const bare = /^\d*\.?\d+$/.test(cleaned)
  if (metric || (bare && units.conductor === 'mm2')) {
    const mm2 = Number(metric ? metric[1] : cleaned)
    return mm2 > 0 && mm2 <= 1000 ? { ok: true, value: { mm2 } } : fail
  }
  const awg = /^(?:awg|#)?(\d{1,2})(?:awg)?$/.exec(cleaned)
  if (!awg || Number(awg[1]) < 1 || Number(awg[1]) > 40) return fail
  return { ok: true, value: { awg: Number(awg[1]) } }
}

/** "55 F", "-4 °C" → °C. */
export function readTemperature(text: string, units: Units = METRIC): Entry<number> {
  const found = /^([-−]?\d*[.,]?\d+)\s*°?\s*([cf])?$/i.exec(text.trim())
  if (!found) return { ok: false, wrong: `"${text.trim()}" is no temperature; write it as 18 C or 65 F` }
  const number = Number(found[1]!.replace('−', '-').replace(',', '.'))
  const inF = (found[2]?.toUpperCase() ?? units.temperature) === 'F'
  return { ok: true, value: inF ? Number(((number - 32) / 1.8).toPrecision(6)) : number }
}

const shortest = (value: number, digits: number) => String(Number(value.toFixed(digits)))

export function showLength(lengthM: number, units: Units): string {
  return units.length === 'ft' ? `${shortest(lengthM / 0.3048, 2)} ft` : `${shortest(lengthM, 3)} m`
}

export function showTemperature(celsius: number, units: Units): string {
  return units.temperature === 'F' ? `${shortest(celsius * 1.8 + 32, 0)} °F` : `${shortest(celsius, 0)} °C`
}

/** A quantity as it is entered again: what readQuantity reads back to the same number. */
export function showQuantity(value: number, quantity: string, units: Units = METRIC): string {
  switch (quantity) {
    case 'length':
      return showLength(value, units)
    case 'voltage':
      return `${shortest(value, 3)} V`
    case 'current':
      return value !== 0 && Math.abs(value) < 0.1 ? `${shortest(value * 1000, 3)} mA` : `${shortest(value, 3)} A`
    case 'power':
      return `${shortest(value, 3)} W`
    case 'resistance':
      return value < 1 ? `${shortest(value * 1000, 4)} mΩ` : `${shortest(value, 4)} Ω`
    case 'charge':
      return `${shortest(value, 3)} Ah`
    case 'energy':
      return `${shortest(value, 2)} Wh`
    case 'mass':
      return `${shortest(value, 1)} g`
    case 'fraction':
      return `${shortest(value * 100, 2)} %`
    case 'frequency':
      return value >= 1000 ? `${shortest(value / 1000, 3)} kHz` : `${shortest(value, 3)} Hz`
    default:
      return String(value)
  }
}
