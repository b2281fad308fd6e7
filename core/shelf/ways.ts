import { connector, CONNECTORS } from '../catalog/connectors'
import { riseNew } from '../connector/heat'
import { mate, matingLoopOhm } from '../connector/mate'
import { owned, type ShelfItem } from './item'

/** One adapter on the way from a lead's end to a terminal that it does not mate with. */
export interface WayStep {
  a: string
  b: string
  from: 'owned' | 'made' | 'bought'
  words: string
  itemId?: string
}

/** A way to join two connectors: what it takes, and what it costs. */
export interface Way {
  steps: WayStep[]
  /** Volts lost in its contacts and wire at the current. */
  dropV: number
  /** Hottest of its contacts above ambient, new, °C. */
  riseC: number
  /** Places that can come apart or fail. */
  failures: number
  money: number
}

/** An adapter's own short wire, both poles, Ω. */
export const ADAPTER_OHM = 0.002
/** Ready-made adapters cost about this. */
const ADAPTER_COST = 9
/** More adapters in a row than this are never offered. */
const MOST_STEPS = 3

/**
 * What counts against a way: a tenth of a volt, ten degrees, one place to fail weigh alike; what one owns goes first.
 */
const PENALTY = { perVolt: 10, perDegree: 0.1, perFailure: 1, owned: 0, made: 2, bought: 5 }

interface Edge {
  a: string
  b: string
  ratedA: number | null
  from: WayStep['from']
  itemId?: string
  money: number
}

/**
 * The ways from a lead's end to a terminal's connector, cheapest first: over adapters owned, then made from owned
 * contacts, then bought.
 * Dijkstra over the faces that adapters show: drop, heat and count of failures as the cost.
 */
export function waysToJoin(end: string, terminal: string, currentA: number, shelf: readonly ShelfItem[]): Way[] {
  if (mate({ connector: end }, { connector: terminal }).mates) return []
  const edges = edgesFor(end, terminal, shelf)
  const open: Open[] = [{ face: end, cost: 0, steps: [] }]
  const found: Way[] = []
  const visits = new Map<string, number>()
  while (open.length && found.length < MOST_WAYS) {
    open.sort((p, q) => p.cost - q.cost)
    const now = open.shift()!
    if (now.steps.length && mate({ connector: now.face }, { connector: terminal }).mates) {
      found.push(wayOf(end, terminal, now.steps, currentA))
      continue
    }
    const seen = visits.get(now.face) ?? 0
    if (seen >= MOST_WAYS || now.steps.length >= MOST_STEPS) continue
    visits.set(now.face, seen + 1)
    for (const edge of edges) open.push(...onward(now, edge, currentA))
  }
  return found
}

/** More ways than this are not worth reading. */
const MOST_WAYS = 3

/** A way that has come so far: the face it shows now. */
interface Open {
  face: string
  cost: number
  steps: (WayStep & { edge: Edge })[]
}

/** A way led on over one more adapter, whichever way round it fits. */
function onward(now: Open, edge: Edge, currentA: number): Open[] {
  if (now.steps.some(s => s.edge === edge) || (edge.ratedA !== null && currentA > edge.ratedA)) return []
  const both = [
    [edge.a, edge.b],
    [edge.b, edge.a],
  ] as const
  const fits = ([inward, outward]: readonly [string, string]) =>
    inward !== outward && mate({ connector: now.face }, { connector: inward }).mates
  return both.filter(fits).map(([inward, outward]) => {
    const step = {
      a: inward,
      b: outward,
      from: edge.from,
      words: stepWords(inward, outward, edge.from),
      edge,
      ...(edge.itemId !== undefined && { itemId: edge.itemId }),
    }
    return { face: outward, cost: now.cost + costOf(inward, outward, edge, currentA), steps: [...now.steps, step] }
  })
}

/**
 * What counts against one adapter: its drop, the warmer of its contacts, two places to fail, and where it comes
 * from.
 */
function costOf(inward: string, outward: string, edge: Edge, currentA: number): number {
  const dropV = currentA * (ADAPTER_OHM + matingLoopOhm({ connector: inward }) + matingLoopOhm({ connector: outward }))
  const rises = [inward, outward].map(id => riseNew(id, rating(id), currentA))
  const wear = PENALTY.perVolt * dropV + PENALTY.perDegree * Math.max(...rises)
  return wear + 2 * PENALTY.perFailure + PENALTY[edge.from]
}

const rating = (id: string) => connector(id).ratedA

/**
 * Adapters there are: owned ones; ones to make where both contacts are in the drawer; ones to buy, from this end to
 * that terminal.
 */
function edgesFor(end: string, terminal: string, shelf: readonly ShelfItem[]): Edge[] {
  const { adapters, contacts } = owned(shelf)
  const smaller = (a: string, b: string, own: number | undefined) => {
    const all = [rating(a), rating(b), own ?? null].filter(r => r !== null)
    return all.length ? Math.min(...all) : null
  }
  const counterparts = (id: string) =>
    CONNECTORS.map(c => c.id).filter(c => c !== 'bare' && mate({ connector: id }, { connector: c }).mates)
  const list: Edge[] = adapters.map(i => ({
    a: i.a,
    b: i.b,
    ratedA: smaller(i.a, i.b, i.ratedA),
    from: 'owned' as const,
    itemId: i.id,
    money: 0,
  }))
  for (const a of counterparts(end)) {
    for (const b of counterparts(terminal)) {
      if (a === b) continue
      if (contacts.has(a) && contacts.has(b))
        list.push({ a, b, ratedA: smaller(a, b, undefined), from: 'made', money: 0 })
      else list.push({ a, b, ratedA: smaller(a, b, undefined), from: 'bought', money: ADAPTER_COST })
    }
  }
  return list
}

function stepWords(a: string, b: string, from: WayStep['from']): string {
  const how = { owned: 'your adapter', made: 'make one from contacts you have:', bought: 'buy an adapter:' }[from]
  return `${how} ${connector(a).label} to ${connector(b).label}`
}

function wayOf(end: string, terminal: string, steps: (WayStep & { edge: Edge })[], currentA: number): Way {
  const contactsOn = [end, ...steps.flatMap(s => [s.b])]
  const ohm = steps.length * ADAPTER_OHM + contactsOn.reduce((sum, id) => sum + matingLoopOhm({ connector: id }), 0)
  return {
    steps: steps.map(({ edge: _edge, ...s }) => s),
    dropV: currentA * ohm,
    riseC: Math.max(...[...contactsOn, terminal].map(id => riseNew(id, rating(id), currentA))),
    failures: contactsOn.length,
    money: steps.reduce((sum, s) => sum + s.edge.money, 0),
  }
}
