import { thinnerSizes } from '../conductor/ladder'
import { conductorMm2, conductorName } from '../conductor/resistance'
import { applyEdit, difference, type Patch } from '../edit/patch'
import { signalGivenUp } from '../fixes/power'
import type { Proposal } from '../fixes/proposal'
import { leadById, nameOf } from '../plan/find'
import type { Conductor, Plan } from '../plan/schema'
import type { ShoppingRow } from '../sheets/needs'
import type { ShelfItem } from '../shelf/item'
import type { Severity } from '../checks/check'
import { judge, type Finding, type Verdict } from '../verdict/verdict'
import { touches } from './moves'
import {
  isBetter,
  KnownFixes,
  leftCautions,
  leftSerious,
  pruned,
  replayed,
  search,
  type Node,
  type Search,
} from './search'
import { tallyOf, toBuy, type MendAim } from './tally'

export interface MendOptions {
  for: MendAim
  shelf?: readonly ShelfItem[]
  /** Nothing is bought: only what the shelf has. */
  ownedOnly?: boolean
  /** Plans that may be tried for each way; unsaid: MOST_TRIES. */
  tries?: number
  /** Only these ways; unsaid: all. */
  ways?: readonly WayId[]
  /** Told after every plan tried; it ends the work by returning false. */
  onProgress?: (tried: number) => boolean | void
}

export type WayId = 'keep' | 'power' | 'place'

/** One whole way to a station with nothing left to mend, or with less. */
export interface MendWay {
  id: WayId
  title: string
  steps: { label: string; cost?: string; mends: string }[]
  /** All of it as one edit. */
  patch: Patch
  plan: Plan
  /** By load: lowest and highest voltage that arrive, V; null where nothing does. */
  arrivals: Record<string, { name: string; lowV: number; highV: number } | null>
  /** Radios that transmit with less: dB given up. */
  signal: { name: string; dB: number }[]
  gramsMore: number
  costMore: number
  buy: ShoppingRow[]
  /** What is left of dangers, failures and cautions. */
  remains: Remaining[]
}

/** A danger, failure or caution that a way leaves. */
export interface Remaining {
  severity: Severity
  title: string
  message: string
}

export interface MendResult {
  /** Nothing was wrong. */
  isClean: boolean
  /** Those that leave least first; at most three. */
  ways: MendWay[]
  /** Plans tried. */
  tried: number
  /** Dangers, failures and cautions that the best of them leaves; all there are where there is none. */
  left: Remaining[]
  /** Why dangers and failures are left. */
  reasons: string[]
}

/** A plan tried is judged whole; so many a way are enough for stations of a hundred parts. */
const MOST_TRIES = 160

interface WayRule {
  id: WayId
  may: readonly ReturnType<typeof touches>[]
  likes: ReturnType<typeof touches> | null
}

/** Three ways of going about it: other gear alone, with less power, with things closer together. */
const RULES: readonly WayRule[] = [
  { id: 'keep', may: ['gear'], likes: null },
  { id: 'power', may: ['gear', 'power', 'use'], likes: 'power' },
  { id: 'place', may: ['gear', 'place', 'use'], likes: 'place' },
]

/**
 * The sets of changes that leave no danger and no failure, and no caution where that is possible, with least of what
 * is asked for. What is left is told, with the reason.
 */
export function mend(start: Plan, options: MendOptions): MendResult {
  const counter = new Counter(options)
  const known = new KnownFixes()
  const before = judge(start, options.shelf).verdict
  if (!before.findings.some(f => f.severity !== 'note'))
    return { isClean: true, ways: [], tried: 1, left: [], reasons: [] }
  const rules = RULES.filter(r => options.ways?.includes(r.id) ?? true)
  const found = rules.flatMap(rule => {
    const node = counter.cancelled ? null : wayOf(start, rule, { ...options, known, counter })
    return node && node.steps.length && isOfItsKind(rule, node) ? [{ rule, node }] : []
  })
  const distinct = found.filter(
    ({ node }, i) => found.findIndex(o => JSON.stringify(o.node.study.plan) === JSON.stringify(node.study.plan)) === i,
  )
  const ways = distinct
    .sort((a, b) => a.node.score[0]! - b.node.score[0]! || a.node.score[1]! - b.node.score[1]!)
    .map(({ rule, node }) => described(start, rule.id, node, options.shelf ?? []))
  const least = { verdict: distinct[0]?.node.verdict ?? before }
  const reasons = leftSerious(least).map(f => reasonFor(f, counter))
  return { isClean: false, ways, tried: counter.count, left: remaining(least.verdict), reasons }
}

const remaining = (verdict: Verdict): Remaining[] =>
  [...leftSerious({ verdict }), ...leftCautions({ verdict })].map(({ severity, title, message }) => ({
    severity,
    title,
    message,
  }))

/** Counts the plans tried, of one way and of all. */
class Counter {
  count = 0
  cancelled = false
  private ofWay = 0

  constructor(private readonly options: MendOptions) {}

  newWay() {
    this.ofWay = 0
  }

  /** One more. @returns whether there may be another */
  readonly tried = (): boolean => {
    this.count++
    this.ofWay++
    if (this.options.onProgress?.(this.count) === false) this.cancelled = true
    return !this.cancelled && this.ofWay < (this.options.tries ?? MOST_TRIES)
  }
}

type Task = MendOptions & { known: KnownFixes; counter: Counter }

function wayOf(start: Plan, rule: WayRule, { known, counter, ...options }: Task): Node {
  counter.newWay()
  const task: Search = {
    start,
    aim: options.for,
    shelf: options.shelf ?? [],
    ownedOnly: options.ownedOnly ?? false,
    allows: p => rule.may.includes(touches(p.patch)),
    prefers: p => rule.likes === null || touches(p.patch) === rule.likes,
    tried: counter.tried,
    known,
  }
  return slimmed(task, pruned(task, search(task)))
}

/** A way that is about less power has some; the first is about nothing beside the gear. */
const isOfItsKind = ({ likes }: WayRule, { steps }: Node) =>
  likes === null || steps.some(s => touches(s.proposal.patch) === likes)

/** Leads that were made thicker, made thinner again as far as that brings nothing back. */
function slimmed(task: Search, node: Node): Node {
  let now = node
  for (const lead of task.start.leads) {
    const { conductor } = leadById(now.study.plan, lead.id) ?? lead
    const between = thinnerSizes(conductor).filter(c => conductorMm2(c) > conductorMm2(lead.conductor) * 1.001)
    for (const thinner of between) {
      const next = withConductor(task, now, lead.id, thinner)
      if (!next || !isBetter(next.score, now.score)) break
      now = next
    }
  }
  return now
}

/** The last step that chose a lead's conductor, with another one; null where it does not stand alone in its patch. */
function withConductor(task: Search, node: Node, leadId: string, conductor: Conductor): Node | null {
  const path = `/leads/${task.start.leads.findIndex(l => l.id === leadId)}/conductor`
  const index = node.steps.findLastIndex(s => s.proposal.patch.some(op => op.path === path))
  const step = node.steps[index]
  if (!step) return null
  const chosen = step.proposal.patch.findLast(op => op.path === path) as { value: Conductor }
  const proposal: Proposal = {
    label: step.proposal.label.replace(conductorName(chosen.value), conductorName(conductor)),
    patch: step.proposal.patch.map(op => (op.path === path ? { ...op, value: conductor } : op)),
  }
  return replayed(
    task,
    node.steps.map((s, i) => (i === index ? { ...s, proposal } : s)),
  )
}

function described(start: Plan, id: WayId, node: Node, shelf: readonly ShelfItem[]): MendWay {
  const patch = difference(start, node.study.plan)
  const edit = applyEdit(start, patch)
  const plan = edit.ok ? edit.plan : node.study.plan
  const [was, now] = [tallyOf(start, start), tallyOf(plan, start)]
  return {
    id,
    title: titleOf(id, node),
    steps: node.steps.map(({ proposal: { label, cost }, finding }) => ({
      label,
      ...(cost && { cost }),
      mends: finding.title,
    })),
    patch,
    plan,
    arrivals: arrivalsOf(plan, node.verdict),
    signal: signalGivenUp(start, plan),
    gramsMore: now.grams - was.grams,
    costMore: now.cost - was.cost,
    buy: toBuy(plan, start, shelf),
    remains: remaining(node.verdict),
  }
}

function titleOf(id: WayId, { steps }: Node): string {
  const of = (touch: ReturnType<typeof touches>) =>
    steps.filter(s => touches(s.proposal.patch) === touch).map(s => s.proposal.label.split(', with ')[0]!)
  if (id === 'keep') return 'Other gear, all else as it is'
  return [...new Set(of(id))].slice(-2).join(', ')
}

function arrivalsOf(plan: Plan, verdict: Verdict): MendWay['arrivals'] {
  return Object.fromEntries(
    Object.entries(verdict.arrivals).map(([id, span]) => {
      const load = plan.parts.find(p => p.id === id)!
      return [id, span && { name: nameOf(load), lowV: span.low.value, highV: span.high.value }]
    }),
  )
}

const reasonFor = (f: Finding, counter: Counter): string =>
  `${f.title}: no set of the changes that Wireman knows was found to mend it in ${counter.count} tries. ${f.message}`
