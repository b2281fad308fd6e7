import { isSerious } from '../checks/check'
import { tryPatch } from '../edit/patch'
import type { Proposal } from '../fixes/proposal'
import type { Plan } from '../plan/schema'
import type { ShelfItem } from '../shelf/item'
import type { Study } from '../study/study'
import type { Completed } from '../verdict/consequences'
import { completedFixes } from '../verdict/fixes'
import { judge, type Finding, type Verdict } from '../verdict/verdict'
import { costFor, tallyOf, toBuy, type MendAim } from './tally'

/** A plan on the way to one with nothing to mend. */
export interface Node {
  study: Study
  verdict: Verdict
  /** The changes that led to it, each made on the plan that the ones before it leave. */
  steps: Step[]
  /** Dangers and failures left, then cautions left, then what the aim makes least. */
  score: readonly number[]
  /** Keys of findings that no change mended on the way here. */
  stuck: ReadonlySet<string>
}

export interface Step {
  proposal: Proposal
  /** What it was made for. */
  finding: Finding
}

export interface Search {
  start: Plan
  aim: MendAim
  shelf: readonly ShelfItem[]
  /** Nothing is bought: what is needed more must be on the shelf. */
  ownedOnly: boolean
  /** Changes that this way may make. */
  allows: (proposal: Proposal) => boolean
  /** Of two changes for one finding the first that this way is about. */
  prefers: (proposal: Proposal) => boolean
  /** Counts what is tried; the search ends when it says so. */
  tried: () => boolean
  /** What other ways have worked out already. */
  known: KnownFixes
}

/** The fixes of findings, by plan: ways that begin alike work them out once. */
export class KnownFixes {
  private readonly lists = new Map<string, Completed[]>()

  of({ study, verdict }: Pick<Node, 'study' | 'verdict'>, finding: Finding): Completed[] {
    const key = `${finding.key} ${JSON.stringify(study.plan)}`
    const known = this.lists.get(key) ?? completedFixes(finding, study, verdict)
    this.lists.set(key, known)
    return known
  }
}

export const leftSerious = ({ verdict }: Pick<Node, 'verdict'>) => verdict.findings.filter(isSerious)
export const leftCautions = ({ verdict }: Pick<Node, 'verdict'>) =>
  verdict.findings.filter(f => f.severity === 'caution')

export function nodeOf(
  search: Search,
  { study, verdict }: Pick<Node, 'study' | 'verdict'>,
  steps: Step[],
  stuck: ReadonlySet<string> = new Set(),
): Node {
  const tally = costFor(search.aim, tallyOf(study.plan, search.start))
  const score = [leftSerious({ verdict }).length, leftCautions({ verdict }).length, ...tally]
  return { study, verdict, steps, score, stuck }
}

export function isBetter(a: readonly number[], b: readonly number[]): boolean {
  const at = a.findIndex((x, i) => Math.abs(x - b[i]!) > 1e-9)
  return at >= 0 && a[at]! < b[at]!
}

/** What is left comes first in a score: dangers and failures, cautions. */
const LEFT = 2
/** So many plans in a row of which none has less left, and nobody waits for more. */
const MOST_IN_VAIN = 40

const isClean = ({ score }: Node) => score[0] === 0 && score[1] === 0

/**
 * Best first: of all plans reached so far the one with least left to mend goes on, by every change that mends the worst
 * of its findings that any does. Ends at the first with nothing left, or when the changes or the tries are used up; it
 * proves nothing, since findings are taken in one order only.
 */
export function search(task: Search): Node {
  const first = nodeOf(task, judge(task.start, task.shelf), [])
  const open: Node[] = [first]
  const seen = new Set([JSON.stringify(task.start)])
  let best = first
  let inVain = 0
  while (open.length) {
    const at = open.reduce((b, n, i) => (isBetter(n.score, open[b]!.score) ? i : b), 0)
    const [node] = open.splice(at, 1) as [Node]
    inVain = isBetter(node.score.slice(0, LEFT), best.score) ? 0 : inVain + 1
    if (isBetter(node.score, best.score)) best = node
    if (isClean(node)) return node
    if (!task.tried() || inVain > MOST_IN_VAIN) return best
    for (const next of onward(task, node)) {
      const key = JSON.stringify(next.study.plan)
      if (seen.has(key)) continue
      seen.add(key)
      open.push(next)
    }
  }
  return best
}

/**
 * The plans one change further: by each change for the first finding that has any. One that had none before comes after
 * the others: it is asked again once they are mended.
 */
function onward(task: Search, node: Node): Node[] {
  const worth = node.verdict.findings.filter(f => f.severity !== 'note')
  const isStuck = (f: Finding) => node.stuck.has(f.key)
  const stuck = new Set(node.stuck)
  for (const finding of [...worth.filter(f => !isStuck(f)), ...worth.filter(isStuck)]) {
    const fixes = task.known
      .of(node, finding)
      .filter(({ proposal, study }) => task.allows(proposal) && isAtHand(task, study.plan))
    const wanted = fixes.filter(f => task.prefers(f.proposal))
    const taken = wanted.length ? wanted : fixes
    if (taken.length) return taken.map(f => nodeOf(task, f, [...node.steps, { proposal: f.proposal, finding }], stuck))
    stuck.add(finding.key)
  }
  return []
}

const isAtHand = ({ ownedOnly, start, shelf }: Search, plan: Plan) =>
  !ownedOnly || toBuy(plan, start, shelf).every(row => row.buy <= 0)

/**
 * The same without the changes that turn out not to be needed: each that lies where another one does is left out in
 * turn, and stays out if it may.
 */
export function pruned(task: Search, node: Node): Node {
  let now = node
  for (let i = now.steps.length - 1; i >= 0; i--) {
    if (!now.steps.some((s, n) => n !== i && sharePlace(s, now.steps[i]!))) continue
    const steps = now.steps.filter((_, n) => n !== i)
    const without = replayed(task, steps)
    if (without && !isBetter(now.score, without.score)) now = without
  }
  return now
}

const placesOf = ({ proposal }: Step) => new Set(proposal.patch.map(op => op.path.split('/').slice(0, 3).join('/')))

/** Two changes of one part or lead; two that add something may be about the same. */
function sharePlace(a: Step, b: Step): boolean {
  const places = placesOf(b)
  return [...placesOf(a)].some(p => places.has(p))
}

/** Changes made one after the other from the start; null where one does not fit any more. */
export function replayed(task: Search, steps: Step[]): Node | null {
  let plan: Plan | null = task.start
  for (const { proposal } of steps) plan = plan && tryPatch(plan, proposal.patch)
  if (!plan) return null
  task.tried()
  return nodeOf(task, judge(plan, task.shelf), steps)
}
