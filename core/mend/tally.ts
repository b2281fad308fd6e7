import { conductorGramsPerM } from '../conductor/resistance'
import { legsOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { needsOf, stockOf, type ShoppingRow } from '../sheets/needs'
import { shelfFor, type ShelfItem } from '../shelf/item'
import { rounded } from '../units/number'

/** What is to be least, once nothing is left to mend. */
export const AIMS = ['weight', 'cost', 'change'] as const
export type MendAim = (typeof AIMS)[number]

/** What a plan comes to beside the one it was made from. */
export interface Tally {
  /** Conductors, and the parts that say their weight, g. */
  grams: number
  /** Everything that has a price, said or typical. */
  cost: number
  /** Parts, leads and the site that are not as they were. */
  changed: number
}

export function tallyOf(plan: Plan, start: Plan): Tally {
  const wires = plan.leads.reduce((g, l) => g + legsOf(l) * l.lengthM * conductorGramsPerM(l.conductor), 0)
  return {
    grams: wires + plan.parts.reduce((g, p) => g + (p.massG ?? 0), 0),
    cost: needsOf(plan).reduce((c, n) => c + n.count * n.unitCost, 0),
    changed: changedIn(plan, start),
  }
}

function changedIn(plan: Plan, start: Plan): number {
  const before = new Map([...start.parts, ...start.leads].map(item => [item.id, JSON.stringify(item)]))
  const now = new Map([...plan.parts, ...plan.leads].map(item => [item.id, JSON.stringify(item)]))
  const other = [...now].filter(([id, text]) => before.get(id) !== text).length
  const gone = [...before.keys()].filter(id => !now.has(id)).length
  return other + gone + (JSON.stringify(plan.site) === JSON.stringify(start.site) ? 0 : 1)
}

/** The one figure of a tally that an aim makes least; the others part ties. */
export function costFor(aim: MendAim, { grams, cost, changed }: Tally): number[] {
  if (aim === 'weight') return [grams, changed, cost]
  return aim === 'cost' ? [cost, changed, grams] : [changed, cost, grams]
}

/** What has to be got for a plan that the one it was made from did not need, and the shelf has not. */
export function toBuy(plan: Plan, start: Plan, shelf: readonly ShelfItem[]): ShoppingRow[] {
  const before = new Map(needsOf(start).map(n => [n.key, n.count]))
  const { has, price } = stockOf(shelfFor(plan, shelf))
  return needsOf(plan).flatMap(({ key, what, unit, count, unitCost }): ShoppingRow[] => {
    const needs = rounded(count - (before.get(key) ?? 0), 3)
    if (needs <= 0) return []
    const there = Math.min(needs, has.get(key) ?? 0)
    const buy = rounded(needs - there, 2)
    return [{ what, unit, needs, has: there, buy, cost: rounded(buy * (price.get(key) ?? unitCost), 2) }]
  })
}
