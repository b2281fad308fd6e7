import { isCharging, type SourceState } from '../battery/emf'
import { chargingSource } from '../kinds/charging'
import { isThroughRelay } from '../graph/device'
import { graphOf } from '../graph/graph'
import { hasEngine, kindOf, type Part } from '../kinds/index'
import type { Around, Sink, Source, Transfer } from '../kinds/kind'
import type { Plan } from '../plan/schema'
import { Fed } from './fed'
import type { Network } from './network'

export interface PlacedSource extends Omit<Source, 'at'> {
  partId: string
  node: number
  transfer?: PlacedTransfer
}
export interface PlacedTransfer extends Transfer {
  partId: string
  fromNode: number
  toNode: number
}
export interface PlacedSink extends Sink {
  partId: string
  node: number
}

/** What stands in a network in one source state. A converter's output is a source among the others. */
export interface Placed {
  sources: PlacedSource[]
  transfers: PlacedTransfer[]
  standing: PlacedSink[]
  /** Nodes that no source reaches in this state: 1. */
  unfed: Uint8Array
}
const placedByState = new WeakMap<Network, Map<SourceState, Placed>>()

export function placedIn(network: Network, state: SourceState): Placed {
  let states = placedByState.get(network)
  if (!states) placedByState.set(network, (states = new Map()))
  let placed = states.get(state)
  if (!placed) states.set(state, (placed = placeAll(network, state)))
  return placed
}

function placeAll(network: Network, state: SourceState): Placed {
  const { plan, around } = network
  const standing: Standing = { sources: [], transfers: [], sinks: [] }
  for (const part of plan.parts) {
    const kind = kindOf(part)
    const own = isCutOff(plan, part, isCharging(state) || state === 'engine-on')
      ? []
      : kind.sources?.(part, state, around)
    const transfers = kind.transfers?.(part, state, around) ?? []
    const charge = isCharging(state) ? chargeSource(part, transfers, around) : []
    const sinks = kind.standing?.(part, state, around) ?? []
    const add = <T>(list: (T & { partId: string })[], items: readonly T[]) =>
      list.push(...items.map(i => ({ ...i, partId: part.id })))
    add(standing.sources, [...(own ?? []), ...charge])
    add(standing.transfers, transfers)
    add(standing.sinks, sinks)
  }
  return placedTogether(network, standing)
}

/** What parts put into a network: sources, ways between its wires, and what they take. */
export interface Standing {
  sources: (Source & { partId: string })[]
  transfers: (Transfer & { partId: string })[]
  sinks: (Sink & { partId: string })[]
}

/** All of it on its nodes; a converter works once something feeds it, and its output is then a source. */
export function placedTogether(network: Network, standing: Standing): Placed {
  const { nodeOf, component } = network
  const nodeAt = (terminal: string) => nodeOf.get(terminal)!
  const sources: PlacedSource[] = standing.sources.map(s => ({ ...s, node: nodeAt(s.at) }))
  const transfers = standing.transfers.map(t => ({ ...t, fromNode: nodeAt(t.from), toNode: nodeAt(t.to) }))
  const sinks = standing.sinks.filter(s => s.value > 0).map(s => ({ ...s, node: nodeAt(s.at) }))
  const fed = new Fed(network)
  for (const s of sources) fed.from(s.node)
  const working = workingTransfers(transfers, component, fed)
  for (const t of working) {
    // A converter and a gate pass nothing backward.
    const limits = { leastA: 0, ...(t.mostA !== undefined && { mostA: t.mostA }) }
    sources.push({ partId: t.partId, node: t.toNode, emfV: t.setV, ohm: 0, ...limits, transfer: t })
  }
  return {
    sources,
    transfers: working,
    standing: sinks.filter(s => fed.has(s.node)),
    unfed: fed.nodes.map(isFed => (isFed ? 0 : 1)),
  }
}

/**
 * With the engine off, a vehicle whose every lead goes through a relay that the engine closes gives nothing and takes
 * nothing. One with another lead as well counts as joined all the time: the two cannot be told apart in one network.
 */
export function isCutOff(plan: Plan, part: Part, engineRuns: boolean): boolean {
  if (engineRuns || !hasEngine(part)) return false
  const leads = graphOf(plan).leadsOf(part.id)
  return leads.length > 0 && leads.every(isThroughRelay)
}

/** A charging device at work, save where it is a converter, whose output stands among the transfers. */
export function chargeSource(
  part: Part,
  transfers: readonly Transfer[],
  around: Around,
  output = kindOf(part).charge?.(part, around),
): Source[] {
  if (!output || output.maxA <= 0 || transfers.some(t => t.to === output.at)) return []
  const charges = around(output.at).some(a => kindOf(a.part).stores)
  return charges ? [chargingSource(output, around)] : []
}

/**
 * A converter feeds what hangs on it once something feeds the converter: those that work, and what they feed added to
 * `fed`.
 */
function workingTransfers(transfers: readonly PlacedTransfer[], component: Int32Array, fed: Fed): PlacedTransfer[] {
  const working: PlacedTransfer[] = []
  const works = (t: PlacedTransfer) => fed.has(t.fromNode) && component[t.fromNode] !== component[t.toNode]
  for (let before = -1; before !== working.length;) {
    before = working.length
    for (const t of transfers) {
      if (working.includes(t) || !works(t)) continue
      working.push(t)
      fed.from(t.toNode)
    }
  }
  return working
}

/** The sources in a state as they stand in the network. */
export function sourcesIn(network: Network, state: SourceState): readonly PlacedSource[] {
  return placedIn(network, state).sources
}
