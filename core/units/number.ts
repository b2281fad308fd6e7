/** How a number is written and read, in one place. */

/**
 * The one locale: its decimal sign is a point. Thousands are set apart by a thin space, which no one reads as a decimal
 * sign (ISO 80000-1).
 */
export const LOCALE = 'en'
const THIN_SPACE = '\u202F'

/** Formats by what they keep: an `Intl.NumberFormat` is dear to make, and a picture shows thousands of figures. */
const formats = new Map<string, Intl.NumberFormat>()
type Keeps = 'decimals' | 'at most' | 'figures'
function format(keeps: Keeps, digits: number, useGrouping: boolean): Intl.NumberFormat {
  const key = keeps + digits + useGrouping
  const known = formats.get(key)
  if (known) return known
  const options = {
    decimals: { minimumFractionDigits: digits, maximumFractionDigits: digits },
    'at most': { maximumFractionDigits: digits },
    figures: { maximumSignificantDigits: digits },
  }[keeps]
  const made = new Intl.NumberFormat(LOCALE, { ...options, useGrouping })
  formats.set(key, made)
  return made
}

/** What was written lately, by format: after an edit nearly all figures of a picture are as they were. */
const lately = new Map<string, Map<number, string>>()
const MOST_LATELY = 2000

/** Digits with a true minus and thin spaces from five figures up: "−4", "12 345.6". */
function written(value: number, keeps: Keeps, digits: number): string {
  const key = keeps + digits
  let known = lately.get(key)
  if (!known || known.size >= MOST_LATELY) lately.set(key, (known = new Map()))
  let text = known.get(value)
  if (text === undefined) known.set(value, (text = write(value, keeps, digits)))
  return text
}

function write(value: number, keeps: Keeps, digits: number): string {
  const isLong = Math.abs(value) >= 10000
  const text = format(keeps, digits, isLong).format(value)
  const spaced = isLong ? text.replaceAll(',', THIN_SPACE) : text
  if (!spaced.startsWith('-')) return spaced
  const digitsOnly = spaced.slice(1)
  return /^0(\.0*)?$/.test(digitsOnly) ? digitsOnly : `−${digitsOnly}`
}

/** With so many decimals, zeros and all: "11.40". */
export function fixed(value: number, decimals: number): string {
  return written(value, 'decimals', decimals)
}

/** With at most so many decimals, no zeros at the end: "11.4". */
export function figure(value: number, decimals = 1): string {
  return written(value, 'at most', decimals)
}

/** A figure that somebody gave, as a rating or a length: "7.5", "20", "0.125". */
export const asGiven = (value: number): string => figure(value, 3)

/** With so many significant figures: "88 500", "0.0123". */
export function significant(value: number, figures: number): string {
  return written(value, 'figures', figures)
}

/** The number itself at so many decimals, for what is kept and computed with: 0.1235 → 0.124. */
export const rounded = (value: number, decimals: number): number => Number(value.toFixed(decimals))
/** The number itself at so many significant figures: 12 345 → 12 300. */
export const roundedTo = (value: number, figures: number): number => Number(value.toPrecision(figures))

/** A number read, or why not; `asks` where it may be meant in two ways. */
export type NumberRead = { ok: true; value: number } | { ok: false; asks?: readonly [number, number] }

/** Groups of three after one to three: "12,345" — or twelve and a bit. */
const oneGroup = /^(\d{1,3}),(\d{3})$/
const groups = (sign: string) => new RegExp(`^\\d{1,3}(?:${sign}\\d{3})+$`)

/**
 * A number as people write it. A point is the decimal sign, so is a comma that cannot part thousands; spaces, thin
 * spaces and apostrophes
 * part thousands; "1,000" may be either and is asked about.
 */
export function readNumber(text: string): NumberRead {
  const trimmed = text.trim().replace(/^[−–]/, '-')
  const sign = trimmed.startsWith('-') ? -1 : 1
  const digits = trimmed.replace(/^[-+]/, '')
  const refused: NumberRead = { ok: false }
  const plain = (s: string): NumberRead =>
    /^(\d+\.?\d*|\.\d+)$/.test(s) ? { ok: true, value: sign * Number(s) } : refused
  const exponent = /^(\d+\.?\d*|\.\d+)[eE][-+]?\d{1,3}$/.test(digits)
  if (exponent) return { ok: true, value: sign * Number(digits) }
  if (/[\s'\u2019]/.test(digits)) {
    const [whole = '', ...rest] = digits.split(/[.,]/)
    const parted = whole.replace(/[\s\u2019]/g, "'")
    return groups("'").test(parted) && rest.length <= 1
      ? plain([parted.replaceAll("'", ''), ...rest].join('.'))
      : refused
  }
  const commas = digits.split(',').length - 1
  const points = digits.split('.').length - 1
  if (commas === 0) return points > 1 && groups('\\.').test(digits) ? plain(digits.replaceAll('.', '')) : plain(digits)
  if (points === 0 && commas === 1) {
    const either = oneGroup.exec(digits)
    if (either && !digits.startsWith('0')) {
      return { ok: false, asks: [sign * Number(digits.replace(',', '')), sign * Number(digits.replace(',', '.'))] }
    }
    return plain(digits.replace(',', '.'))
  }
  if (points === 0) return groups(',').test(digits) ? plain(digits.replaceAll(',', '')) : refused
  // Both signs: the last one is the decimal sign.
  const decimal = digits.lastIndexOf('.') > digits.lastIndexOf(',') ? '.' : ','
  const thousands = decimal === '.' ? ',' : '.'
  const [whole = '', fraction = '', ...more] = digits.split(decimal)
  const isParted = groups(thousands === '.' ? '\\.' : ',').test(whole)
  return isParted && !more.length ? plain(`${whole.replaceAll(thousands, '')}.${fraction}`) : refused
}
