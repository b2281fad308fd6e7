import { readPlan } from '../../core/plan/faults'
import type { Plan } from '../../core/plan/schema'

/** A plan with one thing of it changed at a time: what a threshold, a missing figure or another choice does. */

type Path = readonly (string | number)[]
type Tree = Record<string, unknown> | unknown[]

/** Told, not computed with. */
const WORDS = new Set(['id', 'name', 'kind', 'from', 'to', 'source', 'stations', 'formatVersion', 'hooks'])
const FACTORS = [0.5, 0.93, 1.07, 2]
/** Of the words that a field may have, so many others are tried. */
const MOST_WORDS = 2

/** Every leaf of a plan's parts, leads and conditions, with its path. */
function leavesOf(tree: Tree, path: Path = []): { path: Path; value: unknown }[] {
  return Object.entries(tree).flatMap(([key, value]) => {
    const here = [...path, Array.isArray(tree) ? Number(key) : key]
    if (typeof value === 'object' && value !== null) return leavesOf(value as Tree, here)
    return [{ path: here, value }]
  })
}

function changed(plan: Plan, path: Path, value: unknown): unknown {
  const copy = structuredClone(plan) as unknown as Record<string, unknown>
  const holder = path.slice(0, -1).reduce((at, key) => (at as Record<string, unknown>)[key]!, copy as unknown)
  const key = path.at(-1)!
  if (value === undefined) delete (holder as Record<string, unknown>)[key]
  else (holder as Record<string, unknown>)[key] = value
  return copy
}

/** Words that a field has in any of the plans, as `method`: `crimp`, `solder`. */
export function wordsOf(plans: readonly Plan[]): ReadonlyMap<string, readonly string[]> {
  const said = new Map<string, Set<string>>()
  for (const plan of plans) {
    for (const { path, value } of leavesOf(plan as unknown as Tree)) {
      if (typeof value !== 'string') continue
      const key = String(path.at(-1))
      said.set(key, (said.get(key) ?? new Set()).add(value))
    }
  }
  return new Map([...said].map(([key, words]) => [key, [...words]]))
}

/** The words that follow a word in its list. */
function othersOf(words: readonly string[], word: string): string[] {
  const at = words.indexOf(word)
  return [...words.slice(at + 1), ...words.slice(0, Math.max(0, at))].slice(0, MOST_WORDS)
}

/**
 * Every plan that differs from this one in a single figure, word or answer, or has it not, and that can be read; by
 * what was changed, as `parts/1/supply/maxV 0.5`.
 */
export function around(plan: Plan, words: ReadonlyMap<string, readonly string[]>): Map<string, Plan> {
  const others = new Map<string, Plan>()
  const add = (path: Path, told: string, value: unknown) => {
    const read = readPlan(changed(plan, path, value))
    if (read.ok) others.set(`${path.join('/')} ${told}`, read.plan)
  }
  for (const { path, value } of leavesOf(plan as unknown as Tree)) {
    const key = String(path.at(-1))
    if (WORDS.has(key)) continue
    add(path, 'gone', undefined)
    if (typeof value === 'number') for (const factor of FACTORS) add(path, `× ${factor}`, value * factor)
    if (typeof value === 'boolean') add(path, String(!value), !value)
    if (typeof value === 'string') for (const word of othersOf(words.get(key) ?? [], value)) add(path, word, word)
  }
  return others
}
