import { graphOf } from '../graph/graph'
import { isLoad, kindOf } from '../kinds/index'
import { partIdOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { pathTree, type PathTree } from './tree'

/** What a folded part hides: everything after it, parts and leads, and how many of them are loads. */
export interface Fold {
  hides: ReadonlySet<string>
  loads: string[]
}

/** A path whose folded parts show one row for all that hangs on them. */
export interface FoldedTree extends PathTree {
  folds: ReadonlyMap<string, Fold>
}

/** What hangs on a part of a tree: every part and lead after it. */
function after(tree: PathTree, id: string): string[] {
  return (tree.children.get(id) ?? []).flatMap(e => [e.lead.id, e.child, ...after(tree, e.child)])
}

/** Blocks and joints with several loads after them: folding one spares rows. */
export function foldable(plan: Plan, id: string): boolean {
  const part = graphOf(plan).parts.get(id)
  return !!part && kindOf(part).role === 'between' && loadsIn(plan, after(pathTree(plan), id)).length > 1
}

function loadsIn(plan: Plan, ids: readonly string[]): string[] {
  const { parts } = graphOf(plan)
  return ids.filter(id => {
    const part = parts.get(id)
    return part && isLoad(part)
  })
}

/** The tree of a plan's path with parts folded; one that cannot be is left as it is. */
export function foldedTree(plan: Plan, folded: ReadonlySet<string>): FoldedTree {
  const tree = pathTree(plan)
  const folds = new Map<string, Fold>()
  for (const id of folded) {
    const hides = after(tree, id)
    const loads = loadsIn(plan, hides)
    if (loads.length > 1) folds.set(id, { hides: new Set(hides), loads })
  }
  // What hangs on a hidden one is hidden by the fold before it.
  for (const id of [...folds.keys()]) if ([...folds.values()].some(f => f.hides.has(id))) folds.delete(id)
  if (!folds.size) return { ...tree, folds }
  const hidden = (id: string) => [...folds.values()].some(f => f.hides.has(id))
  const children = new Map([...tree.children].filter(([id]) => !folds.has(id) && !hidden(id)))
  const ties = tree.ties.filter(l => !hidden(partIdOf(l.from)) && !hidden(partIdOf(l.to)))
  return { ...tree, children, ties, folds }
}

/** The folded part that hides a part, lead or terminal; null where it is in sight. */
export function hiddenBy(plan: Plan, folded: ReadonlySet<string>, id: string): string | null {
  for (const [by, { hides }] of foldedTree(plan, folded).folds) if (hides.has(id) || hides.has(partIdOf(id))) return by
  return null
}
