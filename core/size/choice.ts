import type { Study } from '../study/study'
import { nameOf } from '../plan/find'
import type { Conductor, Lead } from '../plan/schema'
import { areChosen, protectors, SELECTIVE_RATIO, type Row } from './fuses'
import { amps } from './totals'
import { type Candidate, type Entry, type Fitting, candidate, fitting, merge, pareto, within } from './candidates'
import type { Looked } from './looked'
import { chosenAlong, tree, targetsOf, type Sizing, ratingsFor } from './tree'
import { asGiven, fixed } from '../units/number'

/** Which conductor and fuse each lead gets: the least together, by dynamic programming over the tree. */

/** What has been learned of a plan while it is sized: conductors that must be thicker, budgets to cut, sizes barred. */
interface Learned {
  least: ReadonlyMap<string, number>
  reduceV: ReadonlyMap<string, number>
  banned: ReadonlyMap<string, Set<string>>
}

/** The sizes of least cost that keep every drop within its budget, found from the loads up to the source. */
export function choose(
  study: Study,
  options: Sizing & { looked: Looked },
  learned: Learned,
): { sizes: Map<string, Conductor>; ratings: Map<string, number>; isHeldByDrop: boolean } | { obstacles: string[] } {
  const choice = new Choice(study, options, learned)
  choice.chooseAll()
  return choice.obstacles.size
    ? { obstacles: [...choice.obstacles] }
    : { sizes: choice.sizes, ratings: choice.ratings, isHeldByDrop: choice.isHeldByDrop() }
}

/** Ratings that have been settled on the way from the source, by the fuse's key. */
type Behind = ReadonlyMap<string, number>

class Choice {
  readonly obstacles = new Set<string>()
  readonly sizes = new Map<string, Conductor>()
  readonly ratings = new Map<string, number>()
  private readonly tree
  private readonly leads: ReadonlyMap<string, Lead>
  private readonly protecting
  /** Ratings of the fuses that are not chosen here. */
  private readonly settled
  private readonly free
  private readonly lists = new Map<string, Candidate[]>()
  private readonly fittings = new Map<string, readonly Fitting[]>()
  private readonly onPath = new Set<string>()

  constructor(
    private readonly study: Study,
    private readonly options: Sizing & { looked: Looked },
    private readonly learned: Learned,
  ) {
    this.tree = tree(study, options)
    this.leads = new Map(study.plan.leads.map(l => [l.id, l]))
    this.protecting = protectors(study)
    this.settled = ratingsFor(study, options)
    this.free = areChosen(options.fuses) ? chosenAlong(study, this.tree) : null
  }

  /** Whether some lead is more than it would be if volts did not count. */
  isHeldByDrop(): boolean {
    return [...this.sizes].some(([id, conductor]) => {
      const all = this.candidatesOf(id, this.ratings)
      const chosen = all.find(c => c.conductor === conductor)
      return chosen !== undefined && all.some(c => c.cost < chosen.cost - 1e-12)
    })
  }

  chooseAll() {
    for (const root of this.tree.roots) {
      const best = this.frontier(root, new Map())
        .filter(e => e.allowsV >= 0)
        .sort((a, b) => a.cost - b.cost)[0]
      if (best) {
        this.take(best)
        continue
      }
      const starved = this.starved(root)
      for (const words of starved) this.obstacles.add(words)
      if (this.free && !starved.length)
        this.obstacles.add(`nothing fits ${nameOf(this.leads.get(root)!)}, behind whichever fuse`)
    }
    for (const { id } of this.study.plan.leads) {
      if (this.tree.onWay.has(id)) continue
      const [best] = [...this.candidatesOf(id, this.ratings)].sort((a, b) => a.cost - b.cost)
      if (best && this.tree.isFree(id)) this.sizes.set(id, best.conductor)
    }
  }

  /** Conductors for a lead behind fuses of these ratings. */
  private candidatesOf(id: string, behind: Behind): Candidate[] {
    const protectedBy = this.protecting.get(id)
    const ratingOf = (d: Row[number]) => behind.get(d.key) ?? this.settled.get(d.key) ?? d.ratedA
    const ratedA = Math.max(0, ...(protectedBy ?? []).map(row => Math.min(...row.map(ratingOf))))
    const key = `${id} ${ratedA}`
    const known = this.lists.get(key)
    if (known) return known
    const lead = this.leads.get(id)!
    const { study, options } = this
    const { least, banned } = this.learned
    const list = this.tree.isFree(id)
      ? within(this.fittingOf(lead), { ratedA, leastMm2: least.get(id) ?? 0, banned: banned.get(id) })
      : [candidate(study, lead, lead.conductor, options)]
    // Behind one rating of a fuse that is chosen here nothing may fit, behind another something.
    if (!list.length && !this.free) {
      const amperes = protectedBy ? `, behind ${asGiven(ratedA)} A` : ''
      this.obstacles.add(
        `no conductor ${options.owned ? 'on the shelf ' : ''}fits ${nameOf(lead)}: ` +
          `${amps(study.leadAmps(lead).value)}${amperes}, and its connectors`,
      )
    }
    this.lists.set(key, list)
    return list
  }

  private fittingOf(lead: Lead): readonly Fitting[] {
    const known = this.fittings.get(lead.id) ?? fitting(this.study, lead, this.options, this.options.looked.ladders)
    this.fittings.set(lead.id, known)
    return known
  }

  /** What each drop allowed before a lead costs at least, with the sizes and the fuses that do it. */
  private frontier(id: string, behind: Behind): Entry[] {
    this.onPath.add(id)
    const entries = this.fusesOf(id).flatMap(({ chosen, moreV }) => {
      if (this.options.fuses === 'apart' && !standApart(chosen, behind)) return []
      const within = chosen.length ? new Map([...behind, ...chosen]) : behind
      return this.sized(id, within).map(e => ({ ...e, allowsV: e.allowsV - moreV, fuses: chosen }))
    })
    this.onPath.delete(id)
    return pareto(entries)
  }

  /** Every choice of the ratings of a lead's own fuses, with what they drop more together than now. */
  private fusesOf(id: string): { chosen: [string, number][]; moreV: number }[] {
    const own = this.free?.get(id) ?? []
    return own.reduce<{ chosen: [string, number][]; moreV: number }[]>(
      (sets, { key, ratings }) =>
        sets.flatMap(s =>
          ratings.map(r => ({ chosen: [...s.chosen, [key, r.ratedA] as [string, number]], moreV: s.moreV + r.moreV })),
        ),
      [{ chosen: [], moreV: 0 }],
    )
  }

  private sized(id: string, behind: Behind): Entry[] {
    const { children, ends } = this.tree
    const own = this.candidatesOf(id, behind)
    if (!own.length) return []
    const kids = [...(children.get(id) ?? [])].filter(child => !this.onPath.has(child))
    const below = kids.map(child => this.frontier(child, behind))
    // One child for which nothing fits behind these fuses leaves nothing for the others either.
    if (this.free && below.some(f => !f.length)) return []
    const budgets = (ends.get(id) ?? []).map(e => e.allowsV - (this.learned.reduceV.get(e.load) ?? 0))
    const merged = merge(
      below.filter(f => f.length),
      Math.min(Infinity, ...budgets),
    )
    return merged.flatMap(m =>
      own.map(c => ({
        allowsV: m.allowsV - c.dropV,
        cost: m.cost + c.cost,
        lead: id,
        candidate: c,
        children: m.entries,
        fuses: [],
      })),
    )
  }

  private take({ lead, candidate, children, fuses }: Entry) {
    // A lead on two ways is chosen once.
    if (this.sizes.has(lead)) return
    this.sizes.set(lead, candidate.conductor)
    for (const [key, ratedA] of fuses) this.ratings.set(key, ratedA)
    for (const child of children) this.take(child)
  }

  /** The loads behind a lead that not even the least drop of every lead on their way would do for. */
  private starved(root: string): string[] {
    return targetsOf(this.study, this.options).flatMap(target => {
      const way = this.tree.path.get(target.id)
      if (!way || way[0] !== root || way.some(id => !this.candidatesOf(id, this.ratings).length)) return []
      const leastV = way.reduce((v, id) => v + Math.min(...this.candidatesOf(id, this.ratings).map(c => c.dropV)), 0)
      const { allowsV } = this.tree.ends.get(way.at(-1)!)!.find(e => e.load === target.id)!
      if (leastV <= allowsV) return []
      return [
        `no conductor that fits brings enough to ${nameOf(this.study.parts.get(target.id)!)}: ` +
          `${fixed(Math.ceil(100 * (leastV - allowsV)) / 100, 2)} V short with the thickest`,
      ]
    })
  }
}

/** Whether fuses open before all of those that they hang behind. */
function standApart(chosen: readonly [string, number][], behind: Behind): boolean {
  const before = Math.min(...behind.values())
  return chosen.every(([, ratedA]) => ratedA * SELECTIVE_RATIO <= before)
}
