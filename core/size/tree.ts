import type { Study } from '../study/study'
import { kindOf, needs } from '../kinds/index'
import { nominalVolts } from '../kinds/draw'
import type { Lead } from '../plan/schema'
import { areChosen, freeFuses, fuseRatings, type Fuses } from './fuses'
import type { SizeOptions } from './options'

/** What is sized: the loads, the leads on their ways, and the fuses in those. */

/** A limit is met with this much in hand, V: more than the solver's error. */
export const MARGIN_V = 1e-5

type Tree = ReturnType<typeof madeTree>

const trees = new WeakMap<Study, Map<string, Tree>>()

/** Leads on the way of some load, with the leads behind each; others stand alone. Worked out once a study. */
export function tree(study: Study, options: Pick<SizeOptions, 'row' | 'relax'>): Tree {
  const asked = `${options.relax?.includes('share') ?? false} ${options.row ?? ''}`
  const of = trees.get(study) ?? new Map<string, Tree>()
  trees.set(study, of)
  const made = of.get(asked) ?? madeTree(study, options)
  of.set(asked, made)
  return made
}

function madeTree(study: Study, options: Pick<SizeOptions, 'row' | 'relax'>) {
  const children = new Map<string, Set<string>>()
  const roots = new Set<string>()
  const ends = new Map<string, { load: string; allowsV: number }[]>()
  const path = new Map<string, string[]>()
  for (const target of targetsOf(study, options)) {
    const worst = study.arrival(target.terminal)?.low.condition
    const stairs = worst ? study.staircase(target.terminal, worst) : null
    if (!stairs?.leads.length) continue
    const wireV = stairs.steps.filter(s => s.kind === 'wire').reduce((v, s) => v + s.dropV, 0)
    const arrivesV = stairs.steps.at(-1)!.volts
    // What its wires may drop in all: down to its window, and within the plan's share.
    const wantedV = Math.min(arrivesV + wireV - target.minV, target.shareV) - MARGIN_V
    // Where one row is sized, another that is short already stands in nobody's way: it must only get no worse.
    const isOther = options.row !== undefined && options.row !== target.id
    const allowsV = isOther ? Math.max(wantedV, wireV + MARGIN_V) : wantedV
    path.set(target.id, stairs.leads)
    roots.add(stairs.leads[0]!)
    stairs.leads.slice(1).forEach((id, i) => {
      const before = stairs.leads[i]!
      children.set(before, (children.get(before) ?? new Set()).add(id))
    })
    const last = stairs.leads.at(-1)!
    ends.set(last, [...(ends.get(last) ?? []), { load: target.id, allowsV }])
  }
  const onWay = new Set([...path.values()].flat())
  const free = options.row === undefined ? null : new Set(path.get(options.row) ?? [])
  const dark = new Set(study.plan.leads.filter(l => isDark(study, l)).map(l => l.id))
  const isFree = (leadId: string) => !dark.has(leadId) && (free === null || free.has(leadId))
  return { children, roots, ends, path, onWay, isFree }
}

/** Whether a lead ends where nothing is fed: what will flow in it is not known, and it stays as it is. */
const isDark = ({ solved: { network } }: Study, { from, to }: Lead) =>
  [from, to].some(t => network.unfed[network.nodeOf.get(t)!] === 1)

/** Loads and converter inputs: where a voltage has to arrive. */
export function targetsOf(
  study: Study,
  { relax = [] }: Pick<SizeOptions, 'relax'>,
): { id: string; terminal: string; minV: number; shareV: number }[] {
  const shareIsLetGo = relax.includes('share')
  return [
    ...study.loads.map(l => ({
      id: l.id,
      terminal: l.id,
      minV: needs(l).minV,
      shareV: kindOf(l).transmits && !shareIsLetGo ? study.site.dropShare * nominalVolts(needs(l)) : Infinity,
    })),
    ...study.plan.parts.flatMap(p =>
      kindOf(p)
        .windows(p)
        .map(w => ({ id: p.id, terminal: w.at, minV: w.minV, shareV: Infinity })),
    ),
  ]
}

export interface Sizing extends SizeOptions {
  fuses: Fuses
}

/** Ratings of the fuses that may change: all, or those on the way of the row. */
export function ratingsFor(study: Study, options: Sizing): Map<string, number> {
  const way = tree(study, options)
  const free = study.plan.leads.filter(l => way.isFree(l.id)).flatMap(l => [l.id, l.from, l.to])
  const along = areChosen(options.fuses) ? [...chosenAlong(study, way).values()].flat().map(f => f.key) : []
  return fuseRatings(study, options.fuses, options.row === undefined ? null : new Set(free), new Set(along))
}

/** The fuses whose ratings are chosen with the conductors: those on the way to some load. */
export const chosenAlong = (study: Study, { onWay, isFree }: Pick<Tree, 'onWay' | 'isFree'>) =>
  freeFuses(study, id => onWay.has(id) && isFree(id))
