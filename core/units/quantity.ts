import { figure, readNumber, rounded, roundedTo } from './number'
import { withoutRemarks } from './remarks'

/** Quantities as people write them, read into SI; and SI shown so that it reads back to the same number. */

export interface Units {
  length: 'm' | 'ft'
  conductor: 'awg' | 'mm2'
  temperature: 'C' | 'F'
}
export const METRIC: Units = { length: 'm', conductor: 'awg', temperature: 'C' }

/** What was read, or why it cannot be; `asks` where the number may be meant in two ways. */
export type Entry<T> = { ok: true; value: T } | { ok: false; wrong: string; asks?: readonly [number, number] }

/** SI prefixes, by their case: m is milli, M is mega. K for kilo is let in, since nothing here is in kelvin. */
const PREFIXES: Record<string, number> = { µ: 1e-6, μ: 1e-6, u: 1e-6, m: 1e-3, k: 1e3, K: 1e3, M: 1e6, G: 1e9 }

interface Quantity {
  /** How to write it, for somebody who could not. */
  example: string
  /**
   * Its SI unit without prefix, as a pattern in which letters may be of either case; and the prefixes it is used with.
   */
  si?: { unit: RegExp; prefixes: string }
  /** Other units, of either case, with their factor. */
  others?: readonly (readonly [RegExp, number])[]
  /** Written in several units at once, as 4 ft 6 in: each smaller than the one before. */
  compound?: boolean
}

const QUANTITIES: Record<string, Quantity> = {
  length: {
    example: '1.2 m, 120 cm, 4 ft, 4 ft 6 in or 18 in',
    others: [
      [/^(m|metres?|meters?)$/i, 1],
      [/^cm$/i, 0.01],
      [/^mm$/i, 0.001],
      [/^(ft|feet|foot|['′])$/i, 0.3048],
      [/^(in|inch|inches|["″])$/i, 0.0254],
      [/^(yd|yards?)$/i, 0.9144],
    ],
    compound: true,
  },
  voltage: { example: '13.8 V', si: { unit: /^v(olts?)?$/i, prefixes: 'µμumkK' } },
  current: { example: '21 A or 60 mA', si: { unit: /^a(mps?)?$/i, prefixes: 'µμumkK' } },
  power: { example: '100 W or 1.2 kW', si: { unit: /^w(atts?)?$/i, prefixes: 'µμumkKM' } },
  resistance: {
    example: '12 mΩ or 0.012 Ω',
    si: { unit: /^(ω|Ω|ohms?)$/i, prefixes: 'µμumkKM' },
    others: [[/^milliohms?$/i, 0.001]],
  },
  charge: { example: '50 Ah or 2200 mAh', si: { unit: /^ah$/i, prefixes: 'mkK' } },
  energy: { example: '100 Wh', si: { unit: /^wh$/i, prefixes: 'mkKM' } },
  mass: {
    example: '500 g, 1.2 kg or 2 lb',
    si: { unit: /^g$/i, prefixes: 'mkK' },
    others: [
      [/^(lbs?|pounds?)$/i, 453.592],
      [/^(oz|ounces?)$/i, 28.3495],
      [/^(grams?|grammes?)$/i, 1],
      [/^(kilos?|kilograms?|kilogrammes?)$/i, 1000],
    ],
    compound: true,
  },
  fraction: { example: '0.8 or 80 %', others: [[/^%$/, 0.01]] },
  // Nothing here is in millihertz: a small m is a slip.
  frequency: { example: '120 kHz or 14.2 MHz', si: { unit: /^hz$/i, prefixes: 'kKMG' } },
  count: { example: '4' },
}

/** Quantities whose bare number is in a unit the user chose. */
const bareFactor = (quantity: string, units: Units) => (quantity === 'length' && units.length === 'ft' ? 0.3048 : 1)

function factorOf({ si, others }: Quantity, unit: string): number | undefined {
  const other = others?.find(([pattern]) => pattern.test(unit))
  if (other || !si) return other?.[1]
  if (si.unit.test(unit)) return 1
  const prefix = unit.charAt(0)
  return si.prefixes.includes(prefix) && si.unit.test(unit.slice(1)) ? PREFIXES[prefix] : undefined
}

/**
 * A number, then its unit. Spaces, commas, points and apostrophes may part the number; an apostrophe before other than
 * three digits is feet.
 */
const PIECE = /\s*([-−–+]?(?:[\d.,\s]|['\u2019](?=\d{3}(?!\d)))*\d(?:[eE][-+]?\d+)?\.?)\s*([a-zA-ZωΩµμ%'"′″]*)/y

/** Digits that are more than anyone measures, and keep 4 ft from being 1.2192000000000003 m. */
const tidy = (value: number) => roundedTo(value, 12)

/** "4 ft 6 in", "12 mΩ", "1,5 m", "1 000 W" → a number in SI. A bare number is in the user's own unit. */
export function readQuantity(text: string, quantity: string, units: Units = METRIC): Entry<number> {
  const known = QUANTITIES[quantity]
  const shown = text.trim()
  const fail: Entry<number> = {
    ok: false,
    wrong: `"${shown}" cannot be read; write it as ${known?.example ?? 'a number'}`,
  }
  const pieces = known ? piecesOf(withoutFractions(withoutRemarks(text))) : null
  if (!known || !pieces) return fail
  if (pieces.length > 1 && !known.compound) return fail
  let sum = 0
  let before = Infinity
  for (const { digits, unit } of pieces) {
    const number = readNumber(digits)
    const isBare = unit === '' && pieces.length === 1
    const factor = isBare ? bareFactor(quantity, units) : factorOf(known, unit)
    if (factor === undefined || factor >= before) return fail
    if (!number.ok) return number.asks ? asked(shown, number.asks, factor) : fail
    before = factor
    sum += number.value * factor
  }
  return Number.isFinite(sum) ? { ok: true, value: tidy(sum) } : fail
}

const SIGNS: Record<string, string> = {
  '½': '1/2',
  '¼': '1/4',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
}

/** "1 1/2 ft", "¾ in" → decimals. */
const withoutFractions = (text: string) =>
  text
    .replace(/[½¼¾⅛⅜⅝⅞]/g, sign => ` ${SIGNS[sign]!}`)
    .replace(/(?:(\d+)\s+)?(\d+)\s*\/\s*(\d+)/g, (whole, ones: string | undefined, over: string, under: string) =>
      Number(under) > 0 ? String(tidy(Number(ones ?? 0) + Number(over) / Number(under))) : whole,
    )

/** A radio frequency, Hz: a bare number is in MHz, as a dial shows it. */
export const readRadioFrequency = (text: string): Entry<number> =>
  readQuantity(/\d\s*$/.test(text) ? `${text.trim()} MHz` : text, 'frequency')

/** A number that may be meant in two ways: which, and how to write either. */
function asked(shown: string, [whole, part]: readonly [number, number], factor: number): Entry<never> {
  const unit = shown.replace(/^[-−–+\d.,\s'\u2019]*/, '')
  const plain = (n: number) => `${n}${unit && ` ${unit}`}`
  return {
    ok: false,
    wrong: `is "${shown}" ${plain(whole)} or ${plain(part)}? Write it without a comma`,
    asks: [tidy(whole * factor), tidy(part * factor)],
  }
}

function piecesOf(text: string): { digits: string; unit: string }[] | null {
  const pieces: { digits: string; unit: string }[] = []
  const trimmed = text.trim()
  PIECE.lastIndex = 0
  while (PIECE.lastIndex < trimmed.length) {
    const found = PIECE.exec(trimmed)
    if (!found) return null
    pieces.push({ digits: found[1]!, unit: found[2]! })
  }
  return pieces.length ? pieces : null
}

/** Units in which a quantity is shown: the factor, and from which size on. Largest first. */
const SHOWN: Record<string, readonly (readonly [unit: string, factor: number, from: number])[]> = {
  voltage: [['V', 1, 0]],
  current: [
    ['A', 1, 0.1],
    ['mA', 0.001, 0],
  ],
  power: [['W', 1, 0]],
  resistance: [
    ['Ω', 1, 1],
    ['mΩ', 0.001, 0],
  ],
  charge: [['Ah', 1, 0]],
  energy: [['Wh', 1, 0]],
  mass: [['g', 1, 0]],
  fraction: [['%', 0.01, 0]],
  frequency: [
    ['kHz', 1000, 1000],
    ['Hz', 1, 0],
  ],
}

/** A quantity as it is entered again: in as few digits as read back to the very same number. */
export function showQuantity(value: number, quantity: string, units: Units = METRIC): string {
  if (quantity === 'length') return shortest(value, quantity, units.length === 'ft' ? ['ft', 0.3048] : ['m', 1])
  const scales = SHOWN[quantity]
  if (!scales) return String(value)
  const size = Math.abs(value)
  // Nothing is 0 A, not 0 mA.
  const scale = size === 0 ? scales[0]! : scales.find(([, , from]) => size >= from)!
  return shortest(value, quantity, [scale[0], scale[1]])
}

const MOST_DECIMALS = 15

function shortest(value: number, quantity: string, [unit, factor]: readonly [string, number]): string {
  const scaled = value / factor
  for (let decimals = 0; decimals <= MOST_DECIMALS; decimals++) {
    const text = `${plainDigits(scaled, decimals)} ${unit}`
    const read = readQuantity(text, quantity)
    if (read.ok && read.value === value) return text
  }
  return `${plainDigits(scaled, MOST_DECIMALS)} ${unit}`
}

/** Digits for a field, in which thin spaces would be in the way. */
const plainDigits = (value: number, decimals: number) => String(rounded(value, decimals))

export function showLength(lengthM: number, units: Units): string {
  return units.length === 'ft' ? `${figure(lengthM / 0.3048, 2)} ft` : `${figure(lengthM, 3)} m`
}
