import type { Study } from '../study/study'
import { isCarried } from '../circuit/matrix'
import { drop } from '../checks/arrival'
import { conductorMm2, conductorName } from '../conductor/resistance'
import { deviceKey } from '../graph/device'
import { devicesOf } from '../graph/graph'
import { difference, tryPatch, type Patch } from '../edit/patch'
import { leadById, nameOf } from '../plan/find'
import { placeName } from '../plan/names'
import { percent } from '../units/show'
import { siteOf } from '../plan/schema'
import { shortsByItself } from '../protection/prospective'
import type { Conductor, Plan } from '../plan/schema'
import type { ConductorInShort, Short } from '../short/study'
import { areChosen, type Fuses } from './fuses'
import type { Relaxed, SizeChange, SizeOptions } from './options'
import { brought, tidied } from './beside'
import { leadChanges, portChanges } from './changes'
import { withContacts } from './contacts'
import { overloadedPorts, placePorts } from './ports'
import { type Totals, overdrawn, totals } from './totals'
import { withoutExcess, withRatings } from './enlarged'
import { candidate } from './candidates'
import { Looked } from './looked'
import { choose } from './choice'
import { MARGIN_V, ratingsFor, targetsOf, tree, type Sizing } from './tree'
import { fixed } from '../units/number'

export type * from './options'

export interface SizeResult {
  /** null where nothing fits; `obstacles` says why. */
  patch: Patch | null
  plan: Plan | null
  changes: SizeChange[]
  before: Totals
  after: Totals | null
  /**
   * Whether it is proven least: the plan is a tree of one source, no stock ran short, nothing was made thicker for a
   * short.
   */
  exact: boolean
  obstacles: string[]
  /** Where nothing fits: the one limit that would have to give, what is asked for then, in words. */
  yields?: { relax: Relaxed; words: string }
}

/** Currents of constant-power loads move a little with the sizes, and what burns grows step by step: so many rounds. */
const MOST_ROUNDS = 24

/**
 * The conductors and fuses that pass every limit with least weight, cost or drop. On a tree the choice per lead is
 * found exactly:
 * from the loads toward the source each lead keeps the list of what it costs against how much drop it leaves to those
 * before it.
 * Where a stock is too short, one of the leads that use it has to do without: each is tried in turn (branch and bound).
 */
export function sizePlan(plan: Plan, options: SizeOptions): SizeResult {
  const asked = { ...options, looked: new Looked() }
  const result = sizeWithin(plan, asked)
  if (result.plan) return result
  const yields = yielding(plan, asked)
  return yields ? { ...result, yields } : result
}

/** What is asked for, and what was looked at for it. */
type Asked = SizeOptions & { looked: Looked }

/** The first limit that, let go, leaves a plan that passes all others. */
function yielding(plan: Plan, options: Asked): SizeResult['yields'] | null {
  for (const relax of ['contacts', 'share'] as const) {
    if (options.relax?.includes(relax)) continue
    const without = sizeWithin(plan, { ...options, relax: [...(options.relax ?? []), relax] })
    if (!without.plan) continue
    const wires = without.changes.filter(c => c.what === 'conductor').map(c => c.words)
    const then = wires.length ? `: ${wires.join('; ')}` : ''
    if (relax === 'contacts') return { relax, words: `Contacts that do not take their wire now would go on so${then}` }
    const share = percent(siteOf(plan).dropShare, 1)
    return {
      relax,
      words: `The plan's ${share} of drop asks for more than fits; every load is content without it${then}`,
    }
  }
  return null
}

function sizeWithin(plan: Plan, options: Asked): SizeResult {
  const { looked, owned } = options
  const study = looked.study(plan)
  const before = totals(study, owned)
  const ported = placePorts(study)
  const start = (ported.length ? tryPatch(plan, ported) : null) ?? plan
  const { isFree: isSized } = tree(looked.study(start), options)
  let exact = study.solved.network.isForest && plan.parts.filter(p => shortsByItself(p).length).length < 2
  let best: { plan: Plan; cost: number } | null = null
  let obstacles: string[] = []
  const waiting: ReadonlyMap<string, Set<string>>[] = [new Map()]
  const seen = new Set<string>()
  for (let tried = 0; waiting.length; tried++) {
    if (tried >= MOST_BRANCHES) {
      exact = false
      break
    }
    const banned = waiting.pop()!
    const sized = leastOf(start, options, banned)
    if ('obstacles' in sized) {
      if (!best && !obstacles.length) obstacles = sized.obstacles
      continue
    }
    if (!sized.isFree) exact = false
    if (best && sized.cost >= best.cost - 1e-9) continue
    const short = overdrawn(sized.plan, owned, isSized)
    if (!short) {
      best = sized
      continue
    }
    if (!obstacles.length) obstacles = [`there is not enough ${short} on the shelf`]
    for (const lead of sized.plan.leads.filter(l => isSized(l.id) && conductorName(l.conductor) === short)) {
      const next = new Map([...banned, [lead.id, new Set([...(banned.get(lead.id) ?? []), short])]])
      const words = inWords(next)
      if (!seen.has(words)) waiting.push(next)
      seen.add(words)
    }
  }
  return best
    ? finish(plan, best.plan, options, exact)
    : { patch: null, plan: null, changes: [], before, after: null, exact, obstacles }
}

/** Sizes barred from leads, the same however they came about. */
const inWords = (banned: ReadonlyMap<string, Set<string>>) =>
  [...banned]
    .map(([id, sizes]) => JSON.stringify([id, ...[...sizes].sort()]))
    .sort()
    .join()

/**
 * Sizes with the fuses that go with them: a small one lets the wire behind it be thin, a large one drops less, leaves
 * the wire more, and stands apart from those behind it. For least drop none becomes smaller.
 */
function leastOf(start: Plan, options: Asked, banned: ReadonlyMap<string, Set<string>>): Settled | Obstacles {
  const sets = fusesToTry(start, options)
  const tried = sets.map(fuses => settle(start, { ...options, fuses }, banned))
  const found = tried.filter(t => !('obstacles' in t)) as Settled[]
  const sorted = found.sort((a, b) => a.cost - b.cost)
  const before = options.looked.judge(start).verdict
  for (const least of sorted) {
    const { study, verdict } = tidied(before, options.looked.judge(least.plan))
    if (!brought(before, verdict).length) return { ...least, plan: study.plan }
  }
  return sorted[0] ?? tried[sets.findIndex(f => !areChosen(f))]!
}

/** With so many fuses every one of them is tried smaller and larger with every other. */
const MOST_FUSES_APART = 4

/** With more leads the ratings of all fuses are not chosen along: to mend what that brings takes too long. */
const MOST_LEADS_CHOSEN = 16

function fusesToTry(plan: Plan, options: SizeOptions): Fuses[] {
  if (options.for === 'drop') return ['own']
  const keys = devicesOf(plan)
    .filter(d => d.kind === 'fuse')
    .map(deviceKey)
  const apart = keys.length <= MOST_FUSES_APART ? keys.map(k => [k]) : [keys]
  const subsets = apart.reduce<string[][]>((sets, group) => [...sets, ...sets.map(s => [...s, ...group])], [[]])
  const chosen = plan.leads.length <= MOST_LEADS_CHOSEN ? (['chosen', 'apart'] as const) : []
  return [...chosen, ...subsets.map(s => ({ raised: new Set(s) })), 'own']
}

interface Settled {
  plan: Plan
  cost: number
  /**
   * No drop holds any size up, or no fuse stands where it does: other fuses would not make it less. And nothing was
   * made thicker for a short, or for what flows in it besides.
   */
  isFree: boolean
}
interface Obstacles {
  obstacles: string[]
}

/** Branches of a short stock looked into before giving up the proof. */
const MOST_BRANCHES = 120

/** Sizes one plan with some conductors barred from some leads: solved, chosen, solved again until nothing moves. */
function settle(start: Plan, options: Asked & Sizing, banned: ReadonlyMap<string, Set<string>>): Settled | Obstacles {
  const learned = unlearned()
  const { looked } = options
  let isHeldByDrop = false
  let study = looked.study(withRatings(start, ratingsFor(looked.study(start), options)))
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const flowing = study
    const chosen = choose(study, options, { ...learned, banned })
    if ('obstacles' in chosen) return chosen
    isHeldByDrop = chosen.isHeldByDrop
    const next = withContacts(apply(study.plan, chosen.sizes, chosen.ratings), l => flowing.leadAmps(l).value)
    // Loads of constant power draw a little more or less over other wires, which may ask for another fuse.
    study = looked.study(withRatings(next, ratingsFor(looked.study(next), options)))
    const knew = asText(learned)
    const left = violations(study, options, learned)
    const isSettled = study === flowing
    if (!left && isSettled) break
    // With the same plan and nothing learned of it the next round is this one again.
    const isStuck = isSettled && asText(learned) === knew
    if (left && (isStuck || round === MOST_ROUNDS - 1)) return { obstacles: left }
  }
  const { plan } = study
  const cost = plan.leads.reduce((sum, l) => sum + candidate(study, l, l.conductor, options).cost, 0)
  const hasFuse = study.protection.devices.some(d => d.kind === 'fuse')
  const isFree = !learned.least.size && (options.fuses === 'chosen' || !hasFuse || !isHeldByDrop)
  return { plan, cost, isFree }
}

function finish(plan: Plan, chosen: Plan, options: Asked, exact: boolean): SizeResult {
  const { looked, owned } = options
  const before = totals(looked.study(plan), owned)
  const was = looked.judge(plan).verdict
  const tidy = tidied(was, looked.judge(chosen))
  const sized = withoutExcess(tidy.study.plan, leastRatings(plan, chosen, options), tried => {
    const study = looked.study(tried)
    const isMet = !violations(study, options, unlearned()) && allCarry(study, options)
    return isMet && !brought(was, looked.judge(tried).verdict).length
  })
  const { study, verdict } = sized === tidy.study.plan ? tidy : looked.judge(sized)
  const ports = options.row === undefined ? overloadedPorts(study) : []
  const obstacles = [...(violations(study, options, unlearned()) ?? []), ...ports, ...brought(was, verdict)]
  if (obstacles.length) return { patch: null, plan: null, changes: [], before, after: null, exact, obstacles }
  return {
    patch: difference(plan, sized),
    plan: sized,
    changes: [...leadChanges(plan, sized), ...portChanges(plan, sized)],
    before,
    after: totals(study, owned),
    exact,
    obstacles: [],
  }
}

/** What each fuse is rated at least among the sizes chosen: as it was, or more where it does not carry its current. */
function leastRatings(plan: Plan, chosen: Plan, options: Asked): ReadonlyMap<string, number> {
  const was = new Map(devicesOf(plan).map(d => [deviceKey(d), d.ratedA]))
  return ratingsFor(options.looked.study(withRatings(chosen, was)), { ...options, fuses: 'own' })
}

/** Whether every fuse that may change carries what flows in it. */
function allCarry(study: Study, options: SizeOptions): boolean {
  const wanted = ratingsFor(study, { ...options, fuses: 'own' })
  return study.protection.devices.every(d => (wanted.get(deviceKey(d)) ?? 0) <= d.ratedA)
}

function apply(plan: Plan, sizes: ReadonlyMap<string, Conductor>, ratings: ReadonlyMap<string, number>): Plan {
  const leads = plan.leads.map(l => ({ ...l, conductor: sizes.get(l.id) ?? l.conductor }))
  return withRatings({ ...plan, leads }, ratings)
}

/** What solving again has shown: areas that leads must have at least, mm², and by how much budgets must be cut, V. */
interface Learned {
  least: Map<string, number>
  reduceV: Map<string, number>
}

const unlearned = (): Learned => ({ least: new Map(), reduceV: new Map() })

const asText = ({ least, reduceV }: Learned) => JSON.stringify([[...least], [...reduceV]])

/** A conductor that is too thin becomes so much thicker, by area: no size of a ladder is passed over. */
const THICKER = 1.2

/**
 * What is still not met once solved again: budgets are cut by what nonlinear loads took more, conductors made thicker.
 * @returns null where all is met, else in words
 */
function violations(study: Study, options: SizeOptions, learned: Learned): string[] | null {
  const words = [
    ...tooLittleArrives(study, options, learned.reduceV),
    ...tooMuchIsLost(study, options, learned),
    ...burnt(study, options, learned.least),
    ...(isCarried(study.solved) ? [] : ['the sources cannot carry the station']),
  ]
  return words.length ? [...new Set(words)] : null
}

function tooLittleArrives(study: Study, options: SizeOptions, reduceV: Map<string, number>): string[] {
  const words: string[] = []
  for (const target of targetsOf(study, options)) {
    const low = study.arrival(target.terminal)?.low
    if (!low) continue
    const short = target.minV - low.value
    const stairs = study.staircase(target.terminal, low.condition)
    const wireV = (stairs?.steps ?? []).filter(s => s.kind === 'wire').reduce((v, s) => v + s.dropV, 0)
    const over = Math.max(short, wireV - target.shareV)
    if (over <= 1e-7 || (options.row !== undefined && options.row !== target.id)) continue
    reduceV.set(target.id, (reduceV.get(target.id) ?? 0) + over + MARGIN_V)
    words.push(`${placeName(study.plan, target.id)} would be ${fixed(over, 3)} V short`)
  }
  return words
}

/** A radio's share of drop counts on every way that feeds it, also where more arrives: other leads take part there. */
function tooMuchIsLost(study: Study, options: SizeOptions, { least, reduceV }: Learned): string[] {
  if (options.relax?.includes('share') || options.row !== undefined) return []
  const { onWay, isFree } = tree(study, options)
  return drop.find(study).map(({ place, condition, title, numbers }) => {
    const beside = study.staircase(place, condition!)!.leads.filter(id => !onWay.has(id) && isFree(id))
    for (const id of beside) thicken(study, id, least)
    const overV = numbers!.dropV! - numbers!.allowedShare! * numbers!.nominalV!
    // Where least arrives its budget is cut by what is short there.
    const isElsewhere = condition !== study.arrival(place)?.low.condition
    if (!beside.length && isElsewhere) reduceV.set(place, (reduceV.get(place) ?? 0) + overV + MARGIN_V)
    return title
  })
}

/** Leads that stay as they are burn as they did: what is worse than before is told by the verdict. */
function burnt(study: Study, options: SizeOptions, least: Map<string, number>): string[] {
  const { isFree } = tree(study, options)
  const words: string[] = []
  for (const short of study.shorts.shorts) {
    for (const c of short.conductors) {
      const lead = leadById(study.plan, c.lead)!
      if (c.survives || !isFree(lead.id) || !short.opens.length || goesOn(short, c)) continue
      thicken(study, c.lead, least)
      words.push(`${nameOf(lead)} would not survive a short`)
    }
  }
  return words
}

/** What nothing cuts off is more than limited sources give: no size carries that, for a fuse is missing. */
function goesOn({ from }: Short, { lastingA }: ConductorInShort): boolean {
  const limitedA = from.filter(f => f.limited).reduce((sum, f) => sum + f.amps, 0)
  return lastingA > limitedA * 1.001
}

const thicken = (study: Study, id: string, least: Map<string, number>) =>
  least.set(id, conductorMm2(leadById(study.plan, id)!.conductor) * THICKER)
