import { deviceKey, isDevice, isSwitch, itemsAlong } from '../graph/device'
import { graphOf } from '../graph/graph'
import { ListMap, reach } from '../graph/walk'
import { kindOf } from '../kinds/index'
import type { Lead, Plan } from '../plan/schema'

/** One thing done while a station is put together. */
export type Act =
  | { do: 'join'; lead: string; end: 'from' | 'to' }
  /** Fit a fuse, close a breaker or a switch: the key of its cut. */
  | { do: 'close'; at: string }
  /** Plug a supply in, uncover a panel. */
  | { do: 'wake'; part: string }

/** A place where the positive can be opened by hand, between two points of it. */
export interface Cut {
  key: string
  /** The lead it is in, or the terminal behind it. */
  place: string
  a: string
  b: string
  /** Planned open, or closed by an engine: nobody closes it at the bench. */
  staysOpen: boolean
}

interface Source {
  partId: string
  at: string
  sleeps: boolean
}

/**
 * A station that is being put together: which lead ends are on, which fuses are in, which sources are awake, and so
 * what is live. A diode counts as passing both ways, a converter and a gate as passing forward. What only a negative
 * fuse opens is not dead.
 */
export class HalfBuilt {
  readonly cuts: readonly Cut[]
  private readonly inner = new ListMap<string, string>()
  private readonly joins = new ListMap<string, { act: Act; to: string }>()
  private readonly sources: readonly Source[]
  private readonly cutAt: ReadonlyMap<string, Cut>
  private readonly done = new Set<string>()
  private readonly feeds = new Map<string, Set<string>>()

  constructor(private readonly plan: Plan) {
    const graph = graphOf(plan)
    this.sources = plan.parts.flatMap(part => {
      const kind = kindOf(part)
      const sleeps = kind.hookUp(part, 0).wakes !== undefined
      const gives = kind.intoShort(part).filter(s => s.by === 'itself' || (sleeps && s.by === 'charging'))
      return gives.map(({ at }) => ({ partId: part.id, at, sleeps }))
    })
    const standing = new Set(graph.links.map(l => `${l.a} ${l.b}`))
    const cuts = plan.leads.flatMap(cutsIn)
    for (const { a, b, device: anyDevice } of graph.closedLinks) {
      // Its own fuse, inside a vehicle behind its socket, is not taken out.
      const device = this.sources.some(s => s.at === a) ? null : anyDevice
      if (device)
        cuts.push({ key: deviceKey(device), place: device.place, a, b, staysOpen: !standing.has(`${a} ${b}`) })
      else this.inner.put(a, b)
      if (!device) this.inner.put(b, a)
    }
    for (const pass of graph.passes) this.inner.put(pass.from, pass.to)
    for (const lead of plan.leads) {
      for (const end of ['from', 'to'] as const)
        this.mayJoin({ do: 'join', lead: lead.id, end }, lead[end], endPiece(lead, end))
    }
    for (const { key, a, b } of cuts) this.mayJoin({ do: 'close', at: key }, a, b)
    this.cuts = cuts
    this.cutAt = new Map(cuts.map(c => [c.key, c]))
    for (const s of this.sources) if (!s.sleeps) this.spread(s.at, s.partId)
  }

  do(act: Act) {
    if (this.isDone(act)) return
    this.done.add(keyOf(act))
    if (act.do === 'wake') {
      for (const s of this.sources) if (s.partId === act.part) this.spread(s.at, s.partId)
      return
    }
    const [a, b] = this.pointsOf(act)
    for (const source of this.feeding(a)) this.spread(b, source)
    for (const source of this.feeding(b)) this.spread(a, source)
  }

  isDone(act: Act): boolean {
    return this.done.has(keyOf(act))
  }

  /** Ids of the sources that make a point live as things stand. */
  feeding(point: string): string[] {
    return [...(this.feeds.get(point) ?? [])]
  }

  /** The sources that feed what lies on either side of what is to be joined or closed. */
  sides(act: Exclude<Act, { do: 'wake' }>): [string[], string[]] {
    const [a, b] = this.pointsOf(act)
    return [this.feeding(a), this.feeding(b)]
  }

  /** The same station, to try something on. */
  copy(): HalfBuilt {
    const copy = Object.create(HalfBuilt.prototype) as HalfBuilt
    const feeds = new Map([...this.feeds].map(([point, ids]) => [point, new Set(ids)]))
    return Object.assign(copy, this, { done: new Set(this.done), feeds })
  }

  private pointsOf(act: Exclude<Act, { do: 'wake' }>): [string, string] {
    if (act.do === 'close') {
      const cut = this.cutAt.get(act.at)!
      return [cut.a, cut.b]
    }
    const lead = graphOf(this.plan).leads.get(act.lead)!
    return [lead[act.end], endPiece(lead, act.end)]
  }

  /** Makes live what hangs on a point. Nothing is ever taken apart here, so that what is live stays so. */
  private spread(point: string, source: string) {
    const isNew = (p: string) => !this.feeds.get(p)?.has(source)
    if (!isNew(point)) return
    for (const p of reach([point], at => this.onward(at).filter(isNew))) {
      const known = this.feeds.get(p)
      if (known) known.add(source)
      else this.feeds.set(p, new Set([source]))
    }
  }

  private mayJoin(act: Act, a: string, b: string) {
    this.joins.put(a, { act, to: b })
    this.joins.put(b, { act, to: a })
  }

  private onward(point: string): string[] {
    const joined = this.joins.at(point).filter(j => this.isDone(j.act))
    return [...this.inner.at(point), ...joined.map(j => j.to)]
  }
}

const keyOf = (act: Act) => {
  if (act.do === 'join') return `join ${act.lead} ${act.end}`
  return act.do === 'close' ? `close ${act.at}` : `wake ${act.part}`
}

type Item = NonNullable<Lead['inline']>[number]
const opensPositive = (item: Item) =>
  (isDevice(item) || isSwitch(item)) && !('legs' in item && item.legs === 'negative')

/** A lead's conductor in its pieces between cuts, counted from its from end. */
const piece = (lead: Lead, k: number) => `${lead.id} / ${k}`
const cutItems = (lead: Lead) => itemsAlong(lead).filter(opensPositive)
const endPiece = (lead: Lead, end: 'from' | 'to') => piece(lead, end === 'from' ? 0 : cutItems(lead).length)

function cutsIn(lead: Lead): Cut[] {
  return cutItems(lead).map((item, k) => ({
    key: deviceKey({ place: lead.id, item: item.id }),
    place: lead.id,
    a: piece(lead, k),
    b: piece(lead, k + 1),
    staysOpen: isSwitch(item) && (item.closed === false || (item.kind === 'switch' && item.by !== undefined)),
  }))
}

export const closing = (cut: Cut) => ({ do: 'close', at: cut.key }) as const

/**
 * Of what is left to close always one of which one side alone is live, and of these the one that brings the fewest
 * others between two sources.
 */
export function nextToClose(built: HalfBuilt, left: readonly Cut[]): Cut {
  const sides = left.map(c => built.sides(closing(c)).map(side => side.length > 0))
  const outward = left.filter((_, k) => sides[k]![0] !== sides[k]![1])
  const tried = outward.slice(0, MOST_LOOKED_AHEAD)
  const worst = tried.map(cut => {
    if (tried.length < 2) return 0
    const then = built.copy()
    then.do(closing(cut))
    return left.filter(c => c !== cut && meet(then.sides(closing(c)))).length
  })
  const best = tried[worst.indexOf(Math.min(...worst))]
  return best ?? left.find((_, k) => !sides[k]![0] && !sides[k]![1]) ?? left[0]!
}
/** Fuses of which it is looked what they bring, one after the other. */
const MOST_LOOKED_AHEAD = 12

/** Both sides are live, and not from the same. */
export const meet = ([a, b]: readonly [string[], string[]]) =>
  a.length > 0 && b.length > 0 && (a.some(id => !b.includes(id)) || b.some(id => !a.includes(id)))
