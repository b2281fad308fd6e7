import { analyse, factor, solveFactored, solveUnit, type LdlPattern } from '../circuit/ldl'
import { conductorOhmPerM, resistanceFactorAt } from '../conductor/resistance'
import { matingLoopOhm } from '../connector/mate'
import { fuseOhm } from '../fuse/fuse'
import { kindOf, type Part } from '../kinds/index'
import { METER_OHM } from '../kinds/inline'
import { siteOf, type Lead, type Plan } from '../plan/schema'
import { shortSources } from '../protection/prospective'

/** A fuse or breaker, where it sits. */
export interface Device {
  place: string
  item: string | null
  kind: 'fuse' | 'breaker'
  type: string
  ratedA: number
}

/** A resistance of the network in which shorts are made; leads are cut at their ends and at every device in them. */
export interface ShortBranch {
  a: number
  b: number
  ohm: number
  lead: Lead | null
  device: Device | null
  /** Length of conductor, m. */ lengthM: number
}

export interface ShortFeed {
  part: Part
  node: number
  emfV: number
  ohm: number
  /** Gives this and no more; its EMF then is what it cannot go over. */ limitA: number | null
  /** Its internal resistance is not said. */ unknown: boolean
}

/** A place for a short: a terminal, or the far end of a lead before its contact. */
export interface ShortPlace {
  at: string
  kind: 'terminal' | 'lead-end'
  lead: string | null
  node: number
}

export interface ShortNetwork {
  plan: Plan
  nodeCount: number
  branches: ShortBranch[]
  feeds: ShortFeed[]
  places: ShortPlace[]
  nodeOf: ReadonlyMap<string, number>
  branchesAt: readonly number[][]
  /** Sources with a way to each node, everything closed. */
  feedsOf: readonly (readonly ShortFeed[])[]
  /** No two ways between any two nodes. */
  isForest: boolean
  pattern: LdlPattern
}

/** A contact or a join that the plan gives no resistance is counted as this, Ω. */
const LEAST_OHM = 1e-6

/** A battery whose internal resistance is not said: it drives more than anything else there, and the result says that it is not known. */
const UNSAID_OHM = 1e-3

/** A source that limits itself is a current source; this beside it keeps the equations regular, Ω. */
const LIMITED_OHM = 1e3

/**
 * The plan as shorts see it: switches and breakers closed, droppers as wire, no loads, conductors at the site's typical temperature,
 * contacts new. A source that limits itself is an EMF behind the resistance that lets just its limit into a short at its terminals.
 */
export function shortNetwork(plan: Plan): ShortNetwork {
  const { ambientC } = siteOf(plan)
  const landings = plan.leads.flatMap(l => [l.from, l.to])
  const nodes = new Map<string, number>()
  const node = (name: string) => {
    let v = nodes.get(name)
    if (v === undefined) nodes.set(name, (v = nodes.size))
    return v
  }
  const branches: ShortBranch[] = []
  const put = (a: number, b: number, ohm: number, more: Partial<ShortBranch> = {}) =>
    branches.push({ a, b, ohm: Math.max(ohm, LEAST_OHM), lead: null, device: null, lengthM: 0, ...more })
  const places: ShortPlace[] = []
  const feeds: ShortFeed[] = []
  for (const part of plan.parts) {
    const kind = kindOf(part)
    const terminals = kind.terminals(part, landings)
    for (const t of terminals) places.push({ at: t.id, kind: 'terminal', lead: null, node: node(t.id) })
    for (const link of linksOf(part, landings)) {
      const fuse = terminals.find(t => t.id === link.b)?.fuse
      const device: Device | null = fuse
        ? {
            place: link.b,
            item: null,
            kind: part.kind === 'breaker' ? 'breaker' : 'fuse',
            type: fuse.type,
            ratedA: fuse.ratedA,
          }
        : null
      put(node(link.a), node(link.b), link.ohm, { device })
    }
    for (const { at, source } of shortSources(part)) {
      const unknown = source.kind === 'emf' && source.ohm <= 0
      feeds.push(
        source.kind === 'emf'
          ? { part, node: node(at), emfV: source.emfV, ohm: unknown ? UNSAID_OHM : source.ohm, limitA: null, unknown }
          : { part, node: node(at), emfV: source.volts, ohm: LIMITED_OHM, limitA: source.amps, unknown: false },
      )
    }
  }
  for (const lead of plan.leads) leadBranches(lead, resistanceFactorAt(ambientC.typical), node, put, places)
  const branchesAt: number[][] = Array.from({ length: nodes.size }, () => [])
  branches.forEach((b, i) => {
    branchesAt[b.a]!.push(i)
    branchesAt[b.b]!.push(i)
  })
  const feedsOf = feedsByNode(nodes.size, branches, branchesAt, feeds)
  return {
    plan,
    nodeCount: nodes.size,
    branches,
    feeds,
    places,
    nodeOf: nodes,
    branchesAt,
    feedsOf,
    isForest: branches.length === nodes.size - new Set(feedsOf).size,
    pattern: analyse(
      nodes.size,
      branches.map(b => [b.a, b.b]),
    ),
  }
}

function feedsByNode(
  n: number,
  branches: readonly ShortBranch[],
  branchesAt: readonly number[][],
  feeds: readonly ShortFeed[],
): ShortFeed[][] {
  const lists: ShortFeed[][] = Array.from({ length: n })
  for (let start = 0; start < n; start++) {
    if (lists[start]) continue
    const list: ShortFeed[] = (lists[start] = [])
    const queue = [start]
    while (queue.length) {
      const v = queue.pop()!
      for (const i of branchesAt[v]!) {
        const w = branches[i]!.a === v ? branches[i]!.b : branches[i]!.a
        if (lists[w]) continue
        lists[w] = list
        queue.push(w)
      }
    }
  }
  for (const feed of feeds) lists[feed.node]!.push(feed)
  return lists
}

function linksOf(part: Part, landings: readonly string[]) {
  // A gate passes on what a short behind it draws; an open breaker may be closed.
  if (part.kind === 'gate')
    return ['supply', 'battery'].map(side => ({ a: `${part.id}.${side}`, b: `${part.id}.out`, ohm: 0.002 }))
  return kindOf(part).links?.(part.kind === 'breaker' ? { ...part, closed: true } : part, landings) ?? []
}

function leadBranches(
  lead: Lead,
  warm: number,
  node: (name: string) => number,
  put: (a: number, b: number, ohm: number, more?: Partial<ShortBranch>) => void,
  places: ShortPlace[],
) {
  const legs = lead.return === 'chassis' ? 1 : 2
  const perM = legs * conductorOhmPerM(lead.conductor) * warm
  const inner = (n: number) => node(`${lead.id} | ${n}`)
  let n = 0
  let at = inner(n)
  put(node(lead.from), at, matingLoopOhm(lead.ends?.from?.connector), { lead })
  places.push({ at: lead.from, kind: 'lead-end', lead: lead.id, node: at })
  let atM = 0
  for (const item of [...(lead.inline ?? [])].sort((a, b) => (a.atM ?? 0) - (b.atM ?? 0))) {
    const next = item.atM ?? 0
    if (next > atM) {
      const v = inner(++n)
      put(at, v, (next - atM) * perM, { lead, lengthM: next - atM })
      at = v
      atM = next
    }
    const v = inner(++n)
    if (item.kind === 'fuse' || item.kind === 'breaker') {
      put(at, v, fuseOhm(item) * (item.legs === 'both' ? 2 : 1), {
        lead,
        device: {
          place: lead.id,
          item: item.id,
          kind: item.kind,
          type: item.kind === 'breaker' ? 'thermal' : (item.type ?? 'blade'),
          ratedA: item.ratedA,
        },
      })
    } else
      put(at, v, item.kind === 'switch' ? (item.ohm ?? 0) : item.kind === 'meter' ? (item.ohm ?? METER_OHM) : 0, {
        lead,
      })
    at = v
  }
  const end = inner(++n)
  put(at, end, (lead.lengthM - atM) * perM + (lead.return === 'chassis' ? (lead.chassisOhm ?? 0) : 0), {
    lead,
    lengthM: lead.lengthM - atM,
  })
  put(end, node(lead.to), matingLoopOhm(lead.ends?.to?.connector), { lead })
  places.push({ at: lead.to, kind: 'lead-end', lead: lead.id, node: end })
}

/** The network without shorts, factored, with some of its devices open. */
export class ShortSolver {
  private readonly diagonal: Float64Array
  private readonly entries: Float64Array
  private readonly open: Float64Array
  private readonly column: Float64Array
  private readonly scratch: Float64Array
  private amps = 0
  private scale = 1

  constructor(
    private readonly network: ShortNetwork,
    private readonly opened: ReadonlySet<number> = new Set(),
  ) {
    const { nodeCount: n, pattern, branches, feeds } = network
    this.diagonal = new Float64Array(n)
    this.entries = new Float64Array(pattern.rowOf.length)
    this.open = new Float64Array(n)
    this.column = new Float64Array(n)
    this.scratch = new Float64Array(n)
    // What hangs on nothing stays at 0 V.
    this.diagonal.fill(1e-9)
    branches.forEach((b, i) => {
      if (opened.has(i) || b.a === b.b) return
      const g = 1 / b.ohm
      this.diagonal[pattern.position[b.a]!]! += g
      this.diagonal[pattern.position[b.b]!]! += g
      this.entries[pattern.edgeEntry[i]!]! -= g
    })
    for (const feed of feeds) {
      this.diagonal[pattern.position[feed.node]!]! += 1 / feed.ohm
      this.open[pattern.position[feed.node]!]! += feed.limitA ?? feed.emfV / feed.ohm
    }
    if (!factor(pattern, this.diagonal, this.entries)) throw new Error('the network of the short study has no solution')
    solveFactored(pattern, this.diagonal, this.entries, this.open)
  }

  /** Current of a dead short at a node where nothing limits itself, A: enough to compare two places by. */
  prospective(node: number): number {
    const k = this.network.pattern.position[node]!
    return this.open[k]! / solveUnit(this.network.pattern, this.diagonal, this.entries, k, this.scratch, false)
  }

  /** Puts a dead short at a node: its current, A. Every voltage and current asked for afterwards is with it. */
  short(node: number): number {
    this.column.fill(0)
    const k = this.network.pattern.position[node]!
    this.scale = 1
    this.amps = this.open[k]! / solveUnit(this.network.pattern, this.diagonal, this.entries, k, this.column, true)
    this.scale = this.belowTheirVoltage()
    return this.amps * this.scale
  }

  private volts(node: number): number {
    const k = this.network.pattern.position[node]!
    return this.scale * (this.open[k]! - this.amps * this.column[k]!)
  }

  /** Over much resistance a source that limits itself comes to its voltage before its limit; where only such ones feed, all falls in proportion. */
  private belowTheirVoltage(): number {
    const { feeds } = this.network
    if (feeds.some(f => f.limitA === null && this.feedAmps(f) > 1e-3)) return 1
    return Math.min(
      1,
      ...feeds
        .filter(f => f.limitA !== null && this.volts(f.node) > f.emfV && this.feeding(f))
        .map(f => f.emfV / this.volts(f.node)),
    )
  }

  /** A source that is cut off from the short stands at a voltage of no meaning. */
  private feeding(feed: ShortFeed): boolean {
    return this.volts(feed.node) < 0.5 * feed.limitA! * LIMITED_OHM
  }

  /** Current of a branch, from a to b, A. */
  branchAmps(i: number): number {
    const b = this.network.branches[i]!
    return this.opened.has(i) ? 0 : (this.volts(b.a) - this.volts(b.b)) / b.ohm
  }

  feedAmps(feed: ShortFeed): number {
    if (feed.limitA === null) return (feed.emfV - this.volts(feed.node)) / feed.ohm
    return this.feeding(feed) ? Math.min(feed.limitA, feed.limitA - this.volts(feed.node) / feed.ohm) : 0
  }
}
