/** How a number is written and read, in one place. */

/**
 * The one locale: its decimal sign is a point. Thousands are set apart by a thin space, which no one reads as a decimal
 * sign (ISO 80000-1).
 */
export const LOCALE = 'en'
const THIN_SPACE = '\u202F'

const formats = new Map<string, Intl.NumberFormat>()
function format(options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const key = JSON.stringify(options)
  const known = formats.get(key)
  if (known) return known
  const made = new Intl.NumberFormat(LOCALE, options)
  formats.set(key, made)
  return made
}

/** Digits with a true minus and thin spaces from five figures up: "−4", "12 345.6". */
function written(value: number, options: Intl.NumberFormatOptions): string {
  const useGrouping = Math.abs(value) >= 10000
  const text = format({ ...options, useGrouping }).format(value)
  return text
    .replaceAll(',', THIN_SPACE)
    .replace(/^-/, '−')
    .replace(/^−(0(\.0*)?)$/, '$1')
}

/** With so many decimals, zeros and all: "11.40". */
export function fixed(value: number, decimals: number): string {
  return written(value, { minimumFractionDigits: decimals, maximumFractionDigits: decimals })
}

/** With at most so many decimals, no zeros at the end: "11.4". */
export function figure(value: number, decimals = 1): string {
  return written(value, { maximumFractionDigits: decimals })
}

/** With so many significant figures: "88 500", "0.0123". */
export function significant(value: number, figures: number): string {
  return written(value, { maximumSignificantDigits: figures })
}

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
