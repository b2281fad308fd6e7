import { anA } from '../units/words'

/** One thing that keeps a file from being a plan: where (JSON Pointer), what is wrong, what would be right. */
export interface Fault {
  path: string
  wrong: string
  right: string
}

/** What stands where something else should. */
export function named(value: unknown): string {
  if (value === undefined) return 'nothing'
  if (value === null) return 'null'
  if (Array.isArray(value)) return 'a list'
  return anA(typeof value)
}

/** A value as a fault names it, cut where it is long. */
export function shown(value: unknown): string {
  if (value === undefined) return 'missing'
  const text = typeof value === 'object' ? named(value) : JSON.stringify(value)
  return text.length > 60 ? `${text.slice(0, 57)}…` : text
}
