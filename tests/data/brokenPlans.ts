import { CONNECTORS } from '../../core/catalog/connectors'
import { FUSE_CLASSES } from '../../core/catalog/fuses'
import { readPlan } from '../../core/plan/faults'
import { startPlan } from '../../core/plan/starter'
import type { Lead, Plan } from '../../core/plan/schema'
import { DEMOS, demoPlan } from './plans'
import { dice, rolledRows, type Dice } from './randomPlans'

/** Ordinary stations that somebody has done a few things wrong in. */

type Break = (d: Dice, plan: Plan) => Plan

const onLead =
  (change: (d: Dice, lead: Lead) => Lead): Break =>
  (d, plan) => {
    const chosen = d.of(plan.leads)
    return { ...plan, leads: plan.leads.map(l => (l === chosen ? change(d, l) : l)) }
  }

type Item = NonNullable<Lead['inline']>[number]
const onItems = (change: (d: Dice, item: Item, lead: Lead) => Item[]) =>
  onLead((d, lead) => ({ ...lead, inline: (lead.inline ?? []).flatMap(i => change(d, i, lead)) }))

const BREAKS: readonly Break[] = [
  // Too thin, too thick, too long.
  onLead((d, lead) => ({ ...lead, conductor: { awg: d.of([18, 16, 14, 6, 4]), insulationC: d.of([70, 105]) } })),
  onLead((d, lead) => ({ ...lead, lengthM: Number((lead.lengthM * d.between(1, 6)).toFixed(2)) })),
  onLead((d, lead) => ({ ...lead, conductor: { ...lead.conductor, material: 'cca' as const } })),
  // Another fuse, none, one at the far end, one in the negative.
  onItems((d, item) => {
    if (item.kind !== 'fuse') return [item]
    return [{ ...item, ratedA: d.of(FUSE_CLASSES.find(c => c.id === (item.type ?? 'blade'))!.ratingsA) }]
  }),
  onItems((_, item) => (item.kind === 'fuse' ? [] : [item])),
  onItems((_, item, lead) => [{ ...item, atM: Number((lead.lengthM * 0.8).toFixed(2)) }]),
  onItems((_, item) => (item.kind === 'fuse' ? [{ ...item, legs: 'negative' as const }] : [item])),
  // Another connector on one end.
  onLead((d, lead) => {
    const end = d.of(['from', 'to'] as const)
    return lead.ends?.[end]
      ? { ...lead, ends: { ...lead.ends, [end]: { ...lead.ends[end], connector: d.of(CONNECTORS).id } } }
      : lead
  }),
  // A port with another fuse, a charger on another setting, a colder or hotter site.
  (d, plan) => ({
    ...plan,
    parts: plan.parts.map(p =>
      p.kind === 'block'
        ? {
            ...p,
            ports: p.ports.map(o => (d.chance(0.4) ? { ...o, fuse: { type: 'blade', ratedA: d.of([3, 10, 40]) } } : o)),
          }
        : p,
    ),
  }),
  (d, plan) => ({
    ...plan,
    parts: plan.parts.map(p => ('set' in p && p.chemistries ? { ...p, set: d.of(Object.keys(p.chemistries)) } : p)),
  }),
  (d, plan) => ({
    ...plan,
    site: { ...plan.site, ambientC: { low: d.of([-20, 0]), typical: 20, high: d.of([35, 50]) } },
  }),
]

/** Sources that run whatever one hangs on them. */
const SOURCES = rolledRows('source').filter(id => /^(lifepo4|agm|flooded|supply-[234]|vehicle-12)/.test(id))
const LOADS = rolledRows('load')

/** A demo or a starter station with one to four things wrong; null where it cannot be read any more. */
export function brokenPlan(seed: number): Plan | null {
  const d = dice(seed)
  const start = (): Plan =>
    startPlan({
      name: `broken ${seed}`,
      loads: Array.from({ length: d.of([1, 2, 3]) }, () => d.of(LOADS)),
      source: d.of(SOURCES),
      lengthM: d.of([1, 2, 4]),
      conductor: { awg: d.of([12, 10, 8]) },
    })!
  let plan = d.chance(0.4) ? demoPlan(d.of(DEMOS)) : start()
  const times = d.of([1, 2, 3, 4])
  for (let n = 0; n < times; n++) plan = d.of(BREAKS)(d, plan)
  const read = readPlan(JSON.parse(JSON.stringify(plan)))
  return read.ok ? read.plan : null
}
