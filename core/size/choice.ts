import type { Study } from '../study/study'
import { nameOf } from '../plan/find'
import type { Conductor, Lead } from '../plan/schema'
import { protectors } from './fuses'
import { amps } from './totals'
import { type Candidate, type Entry, merge, pareto, candidate, candidates } from './candidates'
import { tree, targetsOf, type Sizing, ratingsFor } from './size'

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
  options: Sizing,
  learned: Learned,
): { sizes: Map<string, Conductor>; isHeldByDrop: boolean } | { obstacles: string[] } {
  const choice = new Choice(study, options, learned)
  choice.chooseAll()
  return choice.obstacles.size
    ? { obstacles: [...choice.obstacles] }
    : { sizes: choice.sizes, isHeldByDrop: choice.isHeldByDrop() }
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

  /** Whether some lead is more than it would be if volts did not count. */
  isHeldByDrop(): boolean {
    return [...this.sizes].some(([id, conductor]) => {
      const chosen = this.candidatesOf(id).find(c => c.conductor === conductor)
      return chosen !== undefined && this.candidatesOf(id).some(c => c.cost < chosen.cost - 1e-12)
    })
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
    return targetsOf(this.study, this.options).flatMap(target => {
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
