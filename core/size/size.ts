import { AWG_LADDER, MM2_LADDER } from '../catalog/conductors'
import { CONDUCTOR_COST } from '../catalog/prices'
import { connector } from '../catalog/connectors'
import { Study } from '../study/study'
import { solveCorners } from '../circuit/matrix'
import { risePerAmp2, ampacityA } from '../conductor/ampacity'
import {
  awgDiameterMm,
  conductorGramsPerM,
  conductorMm2,
  conductorName,
  conductorOhmPerM,
  resistanceFactorAt,
} from '../conductor/resistance'
import { COPPER_PER_C } from '../catalog/conductors'
import { setDevice } from '../edit/ends'
import { deviceKey, devicesIn } from '../graph/device'
import { devicesOf, graphOf } from '../graph/graph'
import { kindOf, needs } from '../kinds/index'
import { nominalVolts } from '../kinds/draw'
import { difference, tryPatch, type Patch } from '../edit/patch'
import { nameOf, partIdOf } from '../plan/find'
import type { Conductor, Lead, Plan } from '../plan/schema'
import { fuseRatings, protectors, type Fuses } from './fuses'
import { placePorts } from './ports'

/** What is to be least. */
export type Aim = 'weight' | 'cost' | 'drop'

/** One conductor that may be used: its size, and how much of it there is; unsaid: as much as one likes. */
export interface Stock {
  conductor: Conductor
  metres?: number
  costPerM?: number
}

export interface SizeOptions {
  for: Aim
  /** Only what lies on the way to this load; unsaid: the whole plan. */
  row?: string
  /** Only these conductors; unsaid: every size one can buy. */
  owned?: Stock[]
}

export interface SizeChange {
  place: string
  what: 'conductor' | 'fuse' | 'port'
  words: string
}

export interface Totals {
  grams: number
  cost: number
  /** Largest share of its nominal voltage that any radio's or load's wires drop. */ worstDropShare: number
}

export interface SizeResult {
  /** null where nothing fits; `obstacles` says why. */
  patch: Patch | null
  plan: Plan | null
  changes: SizeChange[]
  before: Totals
  after: Totals | null
  /** Whether it is proven least: the plan is a tree, and no stock ran short. */
  exact: boolean
  obstacles: string[]
}

interface Candidate {
  conductor: Conductor
  dropV: number
  cost: number
}
interface Entry {
  allowsV: number
  cost: number
  candidate: Candidate
  children: Entry[]
}

/** Currents of constant-power loads move a little with the sizes: so many rounds of solving again settle them. */
const MOST_ROUNDS = 8
/** A limit is met with this much in hand, V: more than the solver's error. */
const MARGIN_V = 1e-5

/**
 * The conductors and fuses that pass every limit with least weight, cost or drop. On a tree the choice per lead is
 * found exactly:
 * from the loads toward the source each lead keeps the list of what it costs against how much drop it leaves to those
 * before it.
 * Where a stock is too short, one of the leads that use it has to do without: each is tried in turn (branch and bound).
 */
export function sizePlan(plan: Plan, options: SizeOptions): SizeResult {
  const before = totals(plan, options.owned)
  const ported = placePorts(plan)
  const start = (ported.patch.length ? tryPatch(plan, ported.patch) : null) ?? plan
  let exact = solveCorners(plan).network.isForest
  let best: { plan: Plan; cost: number } | null = null
  let obstacles: string[] = []
  const waiting: ReadonlyMap<string, Set<string>>[] = [new Map()]
  for (let tried = 0; waiting.length; tried++) {
    if (tried >= MOST_BRANCHES) {
      exact = false
      break
    }
    const banned = waiting.pop()!
    const least = settle(start, { ...options, fuses: 'least' }, banned)
    // A small fuse drops more than a large one: where that is too much, the plan's own larger ones stay.
    const sized = 'obstacles' in least ? settle(start, { ...options, fuses: 'own' }, banned) : least
    if ('obstacles' in sized) {
      if (!best && !obstacles.length) obstacles = sized.obstacles
      continue
    }
    if (best && sized.cost >= best.cost - 1e-9) continue
    const short = overdrawn(sized.plan, options.owned)
    if (!short) {
      best = sized
      continue
    }
    if (!obstacles.length) obstacles = [`there is not enough ${short} on the shelf`]
    for (const lead of sized.plan.leads
      .filter(l => conductorName(l.conductor) === short)
      .sort((p, q) => q.lengthM - p.lengthM)) {
      waiting.push(new Map([...banned, [lead.id, new Set([...(banned.get(lead.id) ?? []), short])]]))
    }
  }
  return best
    ? finish(plan, best.plan, options, exact)
    : { patch: null, plan: null, changes: [], before, after: null, exact, obstacles }
}

/** Branches of a short stock looked into before giving up the proof. */
const MOST_BRANCHES = 120

/** Sizes one plan with some conductors barred from some leads: solved, chosen, solved again until nothing moves. */
function settle(
  start: Plan,
  options: Sizing,
  banned: ReadonlyMap<string, Set<string>>,
): { plan: Plan; cost: number } | { obstacles: string[] } {
  const least = new Map<string, number>()
  const reduceV = new Map<string, number>()
  let now = apply(start, new Map(), ratingsFor(new Study(solveCorners(start)), options))
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const study = new Study(solveCorners(now))
    const chosen = choose(study, options, { least, reduceV, banned })
    if ('obstacles' in chosen) return chosen
    const next = apply(now, chosen.sizes)
    // Loads of constant power draw a little more or less over other wires, which may ask for another fuse.
    const fused = apply(next, new Map(), ratingsFor(new Study(solveCorners(next)), options))
    const settled = JSON.stringify(fused) === JSON.stringify(now)
    now = fused
    const left = violations(new Study(solveCorners(now)), options, reduceV, least)
    if (!left && settled) break
    if (left && round === MOST_ROUNDS - 1) return { obstacles: left }
  }
  const study = new Study(solveCorners(now))
  return { plan: now, cost: now.leads.reduce((sum, l) => sum + candidate(study, l, l.conductor, options).cost, 0) }
}

function finish(plan: Plan, sized: Plan, options: SizeOptions, exact: boolean): SizeResult {
  const before = totals(plan, options.owned)
  const obstacles = violations(new Study(solveCorners(sized)), options, new Map(), new Map())
  if (obstacles) return { patch: null, plan: null, changes: [], before, after: null, exact, obstacles }
  return {
    patch: difference(plan, sized),
    plan: sized,
    changes: [...leadChanges(plan, sized), ...portChanges(plan, sized)],
    before,
    after: totals(sized, options.owned),
    exact,
    obstacles: [],
  }
}

/** What is other in the leads: conductor, port, fuses. */
function leadChanges(plan: Plan, sized: Plan): SizeChange[] {
  return plan.leads.flatMap((lead, i) => {
    const to = sized.leads[i]!
    const [wire, other] = [conductorName(lead.conductor), conductorName(to.conductor)]
    const changes: SizeChange[] = []
    const say = (what: SizeChange['what'], words: string) => changes.push({ place: lead.id, what, words })
    if (wire !== other) say('conductor', `${nameOf(lead)}: ${wire} → ${other}`)
    for (const end of ['from', 'to'] as const) {
      if (lead[end] !== to[end]) say('port', `${nameOf(lead)}: ${lead[end]} → ${to[end]}`)
    }
    const after = devicesIn(to)
    devicesIn(lead).forEach((device, k) => {
      const rated = after[k]!.ratedA
      if (device.ratedA !== rated) say('fuse', `fuse in ${nameOf(lead)}: ${device.ratedA} A → ${rated} A`)
    })
    return changes
  })
}

/** Fuses of ports that are other. */
function portChanges(plan: Plan, sized: Plan): SizeChange[] {
  const { terminals, parts } = graphOf(plan)
  const after = graphOf(sized).terminals
  return [...terminals.values()].flatMap(({ id, opener }): SizeChange[] => {
    const rated = after.get(id)?.opener?.ratedA
    if (!opener || rated === undefined || opener.ratedA === rated) return []
    const part = parts.get(partIdOf(id))!
    const port = id.slice(part.id.length + 1)
    const words = `fuse of ${nameOf(part)}, ${port}: ${opener.ratedA} A → ${rated} A`
    return [{ place: id, what: 'fuse', words }]
  })
}

/** Leads on the way of some load, with the leads behind each; others stand alone. */
function tree(study: Study, options: SizeOptions) {
  const children = new Map<string, Set<string>>()
  const roots = new Set<string>()
  const ends = new Map<string, { load: string; allowsV: number }[]>()
  const path = new Map<string, string[]>()
  for (const target of targetsOf(study)) {
    const worst = study.arrival(target.terminal)?.low.condition
    const stairs = worst ? study.staircase(target.terminal, worst) : null
    if (!stairs?.leads.length) continue
    const wireV = stairs.steps.filter(s => s.kind === 'wire').reduce((v, s) => v + s.dropV, 0)
    const arrivesV = stairs.steps.at(-1)!.volts
    // What its wires may drop in all: down to its window, and within the plan's share.
    const allowsV = Math.min(arrivesV + wireV - target.minV, target.shareV) - MARGIN_V
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
  return { children, roots, ends, path, onWay, isFree: (leadId: string) => free === null || free.has(leadId) }
}

/** Loads and converter inputs: where a voltage has to arrive. */
function targetsOf(study: Study): { id: string; terminal: string; minV: number; shareV: number }[] {
  return [
    ...study.loads.map(l => ({
      id: l.id,
      terminal: l.id,
      minV: needs(l).minV,
      shareV: kindOf(l).transmits ? study.site.dropShare * nominalVolts(needs(l)) : Infinity,
    })),
    ...study.plan.parts.flatMap(p =>
      kindOf(p)
        .windows(p)
        .map(w => ({ id: p.id, terminal: w.at, minV: w.minV, shareV: Infinity })),
    ),
  ]
}

/** What has been learned of a plan while it is sized: conductors that must be thicker, budgets to cut, sizes barred. */
interface Learned {
  least: ReadonlyMap<string, number>
  reduceV: ReadonlyMap<string, number>
  banned: ReadonlyMap<string, Set<string>>
}

/** The sizes of least cost that keep every drop within its budget, found from the loads up to the source. */
function choose(
  study: Study,
  options: Sizing,
  learned: Learned,
): { sizes: Map<string, Conductor> } | { obstacles: string[] } {
  const choice = new Choice(study, options, learned)
  choice.chooseAll()
  return choice.obstacles.size ? { obstacles: [...choice.obstacles] } : { sizes: choice.sizes }
}

class Choice {
  readonly obstacles = new Set<string>()
  readonly sizes = new Map<string, Conductor>()
  private readonly tree
  private readonly leads: ReadonlyMap<string, Lead>
  private readonly protecting
  private readonly lists = new Map<string, Candidate[]>()
  private readonly seen = new Set<string>()

  constructor(
    private readonly study: Study,
    private readonly options: Sizing,
    private readonly learned: Learned,
  ) {
    this.tree = tree(study, options)
    this.leads = new Map(study.plan.leads.map(l => [l.id, l]))
    this.protecting = protectors(study, ratingsFor(study, options))
  }

  chooseAll() {
    for (const root of this.tree.roots) {
      const best = this.frontier(root)
        .filter(e => e.allowsV >= 0)
        .sort((a, b) => a.cost - b.cost)[0]
      if (best) this.take(best, root)
      else for (const words of this.starved(root)) this.obstacles.add(words)
    }
    for (const { id } of this.study.plan.leads) {
      if (this.tree.onWay.has(id)) continue
      const [best] = [...this.candidatesOf(id)].sort((a, b) => a.cost - b.cost)
      if (best && this.tree.isFree(id)) this.sizes.set(id, best.conductor)
    }
  }

  private candidatesOf(id: string): Candidate[] {
    const known = this.lists.get(id)
    if (known) return known
    const lead = this.leads.get(id)!
    const { study, options } = this
    const protector = this.protecting.get(id) ?? null
    const list = this.tree.isFree(id)
      ? candidates(study, lead, options, {
          protector,
          leastMm2: this.learned.least.get(id) ?? 0,
          banned: this.learned.banned.get(id),
        })
      : [candidate(study, lead, lead.conductor, options)]
    if (!list.length) {
      const behind = protector ? `, behind ${protector.ratedA} A` : ''
      this.obstacles.add(
        `no conductor ${options.owned ? 'on the shelf ' : ''}fits ${nameOf(lead)}: ` +
          `${amps(study.leadAmps(lead).value)}${behind}, and its connectors`,
      )
    }
    this.lists.set(id, list)
    return list
  }

  /** What each drop allowed before a lead costs at least, with the sizes that do it. */
  private frontier(id: string): Entry[] {
    if (this.seen.has(id)) return []
    this.seen.add(id)
    const { children, ends } = this.tree
    const below = [...(children.get(id) ?? [])].map(child => this.frontier(child)).filter(f => f.length)
    const budgets = (ends.get(id) ?? []).map(e => e.allowsV - (this.learned.reduceV.get(e.load) ?? 0))
    const merged = merge(below, Math.min(Infinity, ...budgets))
    const withCandidates = (m: (typeof merged)[number]) =>
      this.candidatesOf(id).map(c => ({
        allowsV: m.allowsV - c.dropV,
        cost: m.cost + c.cost,
        candidate: c,
        children: m.entries,
      }))
    return pareto(merged.flatMap(withCandidates))
  }

  private take(entry: Entry, id: string) {
    this.sizes.set(id, entry.candidate.conductor)
    const kids = [...(this.tree.children.get(id) ?? [])]
    entry.children.forEach(child => {
      const kid = kids.find(k => !this.sizes.has(k) && this.candidatesOf(k).includes(child.candidate))
      if (kid) this.take(child, kid)
    })
  }

  /** The loads behind a lead that not even the least drop of every lead on their way would do for. */
  private starved(root: string): string[] {
    return targetsOf(this.study).flatMap(target => {
      const way = this.tree.path.get(target.id)
      if (way?.[0] !== root || way.some(id => !this.candidatesOf(id).length)) return []
      const leastV = way.reduce((v, id) => v + Math.min(...this.candidatesOf(id).map(c => c.dropV)), 0)
      const { allowsV } = this.tree.ends.get(way.at(-1)!)!.find(e => e.load === target.id)!
      if (leastV <= allowsV) return []
      return [
        `no conductor that fits brings enough to ${nameOf(this.study.parts.get(target.id)!)}: ` +
          `${(leastV - allowsV).toFixed(2)} V short with the thickest`,
      ]
    })
  }
}

/** Lists of several branches at one node as one list: what each drop allowed costs them together. */
function merge(lists: Entry[][], ownV: number): { allowsV: number; cost: number; entries: Entry[] }[] {
  if (!lists.length) return [{ allowsV: ownV, cost: 0, entries: [] }]
  const levels = [...new Set(lists.flat().map(e => Math.min(e.allowsV, ownV)))].sort((a, b) => b - a)
  const found: { allowsV: number; cost: number; entries: Entry[] }[] = []
  for (const level of levels) {
    const entries = lists.map(list => cheapest(list, level))
    if (entries.some(e => e === null)) continue
    found.push({ allowsV: level, cost: entries.reduce((c, e) => c + e!.cost, 0), entries: entries as Entry[] })
  }
  return found
}

/** Lists are sorted by falling allowance and falling cost: the last that still allows it is the cheapest. */
function cheapest(list: Entry[], level: number): Entry | null {
  let found: Entry | null = null
  for (const e of list) {
    if (e.allowsV < level - 1e-12) break
    found = e
  }
  return found
}

/** Of entries that allow as much and cost no more, one; sorted by falling allowance, falling cost. */
function pareto(entries: Entry[]): Entry[] {
  const sorted = entries.sort((a, b) => b.allowsV - a.allowsV || a.cost - b.cost)
  const kept: Entry[] = []
  for (const e of sorted) if (!kept.length || e.cost < kept.at(-1)!.cost - 1e-12) kept.push(e)
  return kept
}

function ladder(conductor: Conductor, owned: Stock[] | undefined): Conductor[] {
  const { insulationC } = conductor
  const dress = (size: Conductor): Conductor => ({
    ...size,
    ...(insulationC !== undefined && size.insulationC === undefined && { insulationC }),
  })
  if (owned) return owned.map(s => dress(s.conductor))
  return conductor.mm2 !== undefined ? MM2_LADDER.map(mm2 => dress({ mm2 })) : AWG_LADDER.map(awg => dress({ awg }))
}

/**
 * What counts in a candidate for an aim: grams, money, or volts dropped; of equal drops that of the plan's own
 * conductor.
 */
function costFor(
  { for: aim }: SizeOptions,
  { grams, dropV, money, isSame }: { grams: number; dropV: number; money: number; isSame: boolean },
): number {
  if (aim === 'weight') return grams
  return aim === 'drop' ? dropV + (isSame ? 0 : 1e-9) : money
}

function candidate(study: Study, lead: Lead, conductor: Conductor, options: SizeOptions): Candidate {
  const current = study.leadAmps(lead).value
  const legs = lead.return === 'chassis' ? 1 : 2
  const ambientC = study.ambient(lead).typical
  const cold = legs * lead.lengthM * conductorOhmPerM(conductor)
  const ohm =
    cold *
    (resistanceFactorAt(ambientC) +
      COPPER_PER_C * risePerAmp2(conductor, study.site.ampacity, lead.bundledConductors) * current ** 2)
  const grams = legs * lead.lengthM * conductorGramsPerM(conductor)
  const dropV = current * ohm
  const isSame = conductor === lead.conductor || conductorName(conductor) === conductorName(lead.conductor)
  return {
    conductor,
    dropV,
    cost: costFor(options, { grams, dropV, isSame, money: legs * lead.lengthM * costPerM(conductor, options.owned) }),
  }
}

export function costPerM(conductor: Conductor, owned: Stock[] | undefined): number {
  return (
    owned?.find(s => conductorName(s.conductor) === conductorName(conductor))?.costPerM ??
    CONDUCTOR_COST.perM + CONDUCTOR_COST.perGram * conductorGramsPerM(conductor)
  )
}

/** What a lead's conductor must be: as much as its fuse, so thick at least, none of those barred. */
interface Bounds {
  protector: { ratedA: number } | null
  leastMm2: number
  banned: ReadonlySet<string> | undefined
}

function candidates(
  study: Study,
  lead: Lead,
  options: SizeOptions,
  { protector, leastMm2, banned }: Bounds,
): Candidate[] {
  const { ampacity } = study.site
  const current = study.leadAmps(lead).value
  const all = ladder(lead.conductor, options.owned).filter(
    c => !banned?.has(conductorName(c)) && conductorMm2(c) >= leastMm2 - 1e-9,
  )
  const carries = all.filter(
    c =>
      ampacityA(c, ampacity, study.ambient(lead).high, lead.bundledConductors) >=
      Math.max(current, protector?.ratedA ?? 0),
  )
  return carries.filter(c => fits(lead, conductorMm2(c))).map(c => candidate(study, lead, c, options))
}

const awgArea = (awg: number) => (Math.PI / 4) * awgDiameterMm(awg) ** 2

function fits(lead: Lead, area: number): boolean {
  return (['from', 'to'] as const).every(end => {
    const takes = lead.ends?.[end] && connector(lead.ends[end].connector).takesAwg
    return !takes || (area >= 0.9 * awgArea(takes.thinnest) && area <= 1.1 * awgArea(takes.thickest))
  })
}

interface Sizing extends SizeOptions {
  fuses: Fuses
}

/** Ratings of the fuses that may change: all, or those on the way of the row. */
function ratingsFor(study: Study, options: Sizing): Map<string, number> {
  const { isFree } = tree(study, options)
  return fuseRatings(
    study,
    options.fuses,
    options.row === undefined
      ? null
      : new Set(study.plan.leads.filter(l => isFree(l.id)).flatMap(l => [l.id, l.from, l.to])),
  )
}

function apply(
  plan: Plan,
  sizes: ReadonlyMap<string, Conductor>,
  ratings: ReadonlyMap<string, number> = new Map(),
): Plan {
  const sized = { ...plan, leads: plan.leads.map(l => ({ ...l, conductor: sizes.get(l.id) ?? l.conductor })) }
  const patch = devicesOf(sized).flatMap(device => {
    const ratedA = ratings.get(deviceKey(device))
    return ratedA === undefined || ratedA === device.ratedA ? [] : (setDevice(sized, device, 'ratedA', ratedA) ?? [])
  })
  return patch.length ? tryPatch(sized, patch)! : sized
}

/**
 * What is still not met once solved again: budgets are cut by what nonlinear loads took more, conductors that burn in a
 * short made thicker.
 * @returns null where all is met, else in words
 */
function violations(
  study: Study,
  options: SizeOptions,
  reduceV: Map<string, number>,
  least: Map<string, number>,
): string[] | null {
  const words: string[] = []
  for (const target of targetsOf(study)) {
    const low = study.arrival(target.terminal)?.low
    if (!low) continue
    const short = target.minV - low.value
    const stairs = study.staircase(target.terminal, low.condition)
    const wireV = (stairs?.steps ?? []).filter(s => s.kind === 'wire').reduce((v, s) => v + s.dropV, 0)
    const over = Math.max(short, wireV - target.shareV)
    if (over <= 1e-7 || (options.row !== undefined && options.row !== target.id)) continue
    reduceV.set(target.id, (reduceV.get(target.id) ?? 0) + over + MARGIN_V)
    words.push(`${target.id} would be ${over.toFixed(3)} V short`)
  }
  for (const short of study.shorts.shorts) {
    for (const c of short.conductors) {
      if (c.survives || !short.opens.length) continue
      const lead = study.plan.leads.find(l => l.id === c.lead)!
      least.set(c.lead, conductorMm2(lead.conductor) * 1.2)
      words.push(`${nameOf(lead)} would not survive a short`)
    }
  }
  if (study.solved.points.some(p => p.status !== 'ok')) words.push('the sources cannot carry the station')
  return words.length ? words : null
}

/** The first conductor of which the plan needs more than there is, by name. */
function overdrawn(plan: Plan, owned: Stock[] | undefined): string | null {
  for (const stock of owned ?? []) {
    if (stock.metres === undefined) continue
    const name = conductorName(stock.conductor)
    const used = plan.leads
      .filter(l => conductorName(l.conductor) === name)
      .reduce((m, l) => m + (l.return === 'chassis' ? 1 : 2) * l.lengthM, 0)
    if (used > stock.metres + 1e-9) return name
  }
  return null
}

/** Weight and cost of a plan's conductors, and the largest share that any radio's wires drop. */
export function totals(plan: Plan, owned?: Stock[]): Totals {
  const study = new Study(solveCorners(plan))
  const legs = (l: Lead) => (l.return === 'chassis' ? 1 : 2) * l.lengthM
  const shares = study.loads.map(load => {
    const low = study.arrival(load.id)?.low
    const stairs = low ? study.staircase(load.id, low.condition) : null
    return (
      (stairs?.steps ?? []).filter(s => s.kind === 'wire').reduce((v, s) => v + s.dropV, 0) / nominalVolts(needs(load))
    )
  })
  return {
    grams: plan.leads.reduce((g, l) => g + legs(l) * conductorGramsPerM(l.conductor), 0),
    cost: plan.leads.reduce((c, l) => c + legs(l) * costPerM(l.conductor, owned), 0),
    worstDropShare: Math.max(0, ...shares),
  }
}

const amps = (a: number) => `${Number(a.toFixed(1))} A`
