import { idOfName, partIdOf } from '../plan/find'
import type { Plan, Variant } from '../plan/schema'
import { applyEdit, difference, type EditResult, type Patch } from './patch'
import { setPlan } from './set'

/**
 * Other ways of one station: in the car, in the field, with the other pack. A way says what is other in it; all the
 * rest is the plan's, and follows it.
 */

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/** Of two lists by id: the first with the second's in their places, and what is new after them. */
function overlaid<T extends { id: string }>(
  base: readonly T[],
  own: readonly T[] = [],
  gone: ReadonlySet<string>,
): T[] {
  const others = new Map(own.map(item => [item.id, item]))
  const kept = base.filter(item => !gone.has(item.id)).map(item => others.get(item.id) ?? item)
  const known = new Set(base.map(item => item.id))
  return [...kept, ...own.filter(item => !known.has(item.id))]
}

/**
 * The plan as it is in one way; the plan itself where it has no such way. Leads to parts that are gone go with them.
 */
export function inVariant(plan: Plan, variantId: string | null): Plan {
  const { variants, ...base } = plan
  const variant = variants?.find(v => v.id === variantId)
  if (!variant) return variants ? { ...base } : plan
  const gone = new Set(variant.without)
  const parts = overlaid(base.parts, variant.parts, gone)
  const there = new Set(parts.map(p => p.id))
  const leads = overlaid(base.leads, variant.leads, gone).filter(
    l => there.has(partIdOf(l.from)) && there.has(partIdOf(l.to)),
  )
  const { hookUp, ...others } = base
  const kept = hookUp?.filter(id => leads.some(l => l.id === id))
  return {
    ...others,
    parts,
    leads,
    ...(variant.site && { site: variant.site }),
    ...(variant.loadStates && { loadStates: variant.loadStates }),
    ...(kept?.length && { hookUp: kept }),
  }
}

/** What is other in a plan than in another. */
function overlayOf(base: Plan, now: Plan): Omit<Variant, 'id' | 'name'> {
  const changed = <T extends { id: string }>(before: readonly T[], after: readonly T[]): T[] => {
    const known = new Map(before.map(item => [item.id, item]))
    return after.filter(item => !same(known.get(item.id), item))
  }
  const left = new Set([...now.parts, ...now.leads].map(item => item.id))
  const without = [...base.parts, ...base.leads].filter(item => !left.has(item.id)).map(item => item.id)
  const parts = changed(base.parts, now.parts)
  const leads = changed(base.leads, now.leads)
  return {
    ...(without.length && { without }),
    ...(parts.length && { parts }),
    ...(leads.length && { leads }),
    ...(!same(base.site, now.site) && { site: now.site ?? {} }),
    ...(!same(base.loadStates, now.loadStates) && { loadStates: now.loadStates ?? [] }),
  }
}

/** An edit made in one way of a plan: checked as that way stands, and kept as what is other in it. */
export function editInVariant(plan: Plan, variantId: string, patch: Patch): EditResult {
  const at = (plan.variants ?? []).findIndex(v => v.id === variantId)
  const now = inVariant(plan, variantId)
  const made = applyEdit(now, patch)
  if (!made.ok || at < 0) return made
  const { id, name } = plan.variants![at]!
  const own = { id, name, ...overlayOf(inVariant(plan, null), made.plan) }
  // Its name, notes and hook-up order are the station's: they are the same in every way.
  const { parts: _p, leads: _l, site: _s, loadStates: _s2, variants: _v, ...whole } = made.plan
  const { parts, leads, site, loadStates, variants } = plan
  const next = {
    ...whole,
    ...(plan.hookUp ? { hookUp: plan.hookUp } : {}),
    parts,
    leads,
    ...(site && { site }),
    ...(loadStates && { loadStates }),
    variants: variants!.with(at, own),
  } as Plan
  return applyEdit(plan, difference(plan, next))
}

/** A way more, the same as another one (or the plan) to begin with. */
export function addVariant(plan: Plan, name: string, like: string | null): { patch: Patch; id: string } {
  const taken = (plan.variants ?? []).map(v => v.id)
  const id = idOfName(name, taken, 'way')
  const model = plan.variants?.find(v => v.id === like)
  const variant: Variant = { ...(model && structuredClone(model)), id, name }
  return { id, patch: setPlan(plan, 'variants', [...(plan.variants ?? []), variant]) }
}

export function removeVariant(plan: Plan, variantId: string): Patch {
  const left = (plan.variants ?? []).filter(v => v.id !== variantId)
  return setPlan(plan, 'variants', left.length ? left : undefined)
}
