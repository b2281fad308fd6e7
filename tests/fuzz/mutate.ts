import type { Random } from '../../core/chance/random'

/** Files as they come out of a torn disk, a bad editor, or a hand that means harm. */

const intBelow = (random: Random, n: number) => Math.floor(random.uniform() * n)
export const pick = <T>(random: Random, all: readonly T[]): T => all[intBelow(random, all.length)]!

/** What files are broken with: bounds of numbers, other scripts, markup, formulas, directives, control characters. */
export const NASTY = [
  '',
  '0',
  '-1',
  '1e308',
  '-1e308',
  '1e-320',
  '9007199254740993',
  'NaN',
  'Infinity',
  'null',
  'true',
  '1,5',
  '1.000,5',
  '½',
  '\u0000',
  '\uFEFF',
  '\u202E',
  '\uD800',
  '٣',
  '<img src=x onerror=alert(1)>',
  '=HYPERLINK("http://x")',
  '@SUM(1)',
  '.include /etc/passwd',
  '../../../etc/passwd',
  '${7*7}',
  '__proto__',
  'constructor',
  'a'.repeat(5000),
  '"',
  '\\',
  '[[[[[[[[',
  '{"a":',
  '\r\n',
  '\t',
  ';',
] as const

/** A text with a few breakages in it. */
export function brokenText(text: string, random: Random): string {
  let broken = text
  for (let times = 1 + intBelow(random, 4); times > 0; times--) {
    const at = intBelow(random, broken.length + 1)
    const length = intBelow(random, 1 + Math.min(40, broken.length - at))
    const some = broken.slice(at, at + length)
    const made = pick(random, [pick(random, NASTY), '', some + some, [...some].reverse().join(''), ' '])
    broken = broken.slice(0, at) + made + broken.slice(at + length)
  }
  return random.uniform() < 0.1 ? broken.slice(0, intBelow(random, broken.length + 1)) : broken
}

type Json = null | boolean | number | string | Json[] | { [key: string]: Json }

/** Every place of a value that can be put something else into. */
function placesOf(value: Json, found: { holder: Json[] | { [key: string]: Json }; key: string | number }[] = []) {
  if (typeof value !== 'object' || value === null) return found
  const keys = Array.isArray(value) ? value.keys() : Object.keys(value)
  for (const key of keys) {
    found.push({ holder: value, key })
    placesOf((value as Record<string | number, Json>)[key]!, found)
  }
  return found
}

const NUMBERS = [0, -0, -1, 1e-300, 1e300, -1e300, 2 ** 53, 0.1 + 0.2, 1e9, 1e-9, 255, 65536]
const VALUES: readonly Json[] = [null, true, '', 'x', [], {}, [null], { id: 'x' }, 'a'.repeat(3000), ...NUMBERS]

/** JSON that is still JSON, with a few values, names or things in it changed, doubled or gone. */
export function brokenJson(text: string, random: Random): string {
  const value = JSON.parse(text) as Json
  for (let times = 1 + intBelow(random, 3); times > 0; times--) {
    const places = placesOf(value)
    if (!places.length) break
    const { holder, key } = pick(random, places)
    const own = holder as Record<string | number, Json>
    const [other, was] = [pick(random, places), own[key]!]
    const does = intBelow(random, 7)
    if (does === 0) own[key] = pick(random, VALUES)
    else if (does === 1 && typeof was === 'number') own[key] = was * pick(random, [-1, 0, 1e-6, 1e6, 1.01, 10])
    else if (does === 2) own[key] = structuredClone((other.holder as Record<string | number, Json>)[other.key]!)
    else if (does === 3 && Array.isArray(holder)) holder.splice(Number(key), 1)
    else if (does === 4 && Array.isArray(holder)) holder.push(structuredClone(was))
    else if (does === 5 && !Array.isArray(holder)) delete own[key]
    else if (typeof was === 'string') own[key] = pick(random, NASTY)
    else own[key] = pick(random, NUMBERS)
  }
  return JSON.stringify(value)
}

/** Bytes with a few turned, cut out or put in. */
export function brokenBytes(bytes: Uint8Array, random: Random): Uint8Array {
  const broken = [...bytes]
  for (let times = 1 + intBelow(random, 8); times > 0; times--) {
    const at = intBelow(random, Math.min(broken.length, random.uniform() < 0.7 ? 64 : broken.length) + 1)
    const does = intBelow(random, 3)
    if (does === 0) broken[at] = intBelow(random, 256)
    else if (does === 1) broken.splice(at, intBelow(random, 16))
    else broken.splice(at, 0, ...Array.from({ length: intBelow(random, 8) }, () => pick(random, [0, 255, 127, 1])))
  }
  return Uint8Array.from(broken.slice(0, random.uniform() < 0.2 ? intBelow(random, broken.length + 1) : undefined))
}
