import { conductorName } from '../conductor/resistance'
import { connector } from '../catalog/connectors'
import { matingLoopOhm } from '../connector/mate'
import { nameOf, partIdOf } from '../plan/find'
import { inlineLoopOhm, inlineWords, type Dropper, type Inline } from '../kinds/inline'
import type { Lead } from '../plan/schema'
import { diodesIn, leadResistance, type Network } from './network'
import { sourcesIn } from './placed'
import type { OperatingPoint } from './operatingPoint'
import { asGiven } from '../units/number'

/** One place where volts are lost on the way from a source to a load. */
export interface Step {
  label: string
  /** The part, lead or terminal to light up. */
  place: string
  kind: 'source' | 'contact' | 'fuse' | 'wire' | 'diode' | 'switch' | 'part'
  dropV: number
  /** Volts after the step. */
  volts: number
}

/** The way the current comes to a load: its source, the EMF there, and every step down to the load. */
export interface Staircase {
  sourceId: string
  emfV: number
  steps: Step[]
  leads: string[]
}

/** Under this a source gives nothing, A. */
const GIVES_A = 1e-6

interface Hop {
  branch: number
  upstream: number
}

/** Follows the largest inflow upstream from a terminal. Null where nothing feeds it, or there is no solution. */
export function staircase(network: Network, point: OperatingPoint, terminal: string): Staircase | null {
  if (point.status !== 'ok') return null
  const start = network.nodeOf.get(terminal)
  if (start === undefined || network.unfed[start] || point.condition.off?.has(partIdOf(terminal))) return null
  const sourceAt = givingAt(network, point)
  const hops = wayUp(network, point, start, v => sourceAt.has(v))
  if (!hops) return null
  const node = hops.length ? hops[hops.length - 1]!.upstream : start
  const which = sourceAt.get(node)!
  const source = sourcesIn(network, point.condition.source)[which]!
  const steps: Step[] = []
  // One at its limit holds no voltage: the way begins at what its terminals have.
  const isOwnVolts = !source.transfer && !source.curve && point.sources[which]!.limit !== 'gives-most'
  const emfV = isOwnVolts ? source.emfV : point.volts[node]!
  let volts = emfV
  const down = (label: string, place: string, kind: Step['kind'], dropV: number) => {
    volts -= dropV
    steps.push({ label, place, kind, dropV, volts })
  }
  const part = network.partOf.get(source.partId)!
  if (source.ohm > 0 && isOwnVolts) down(`inside ${nameOf(part)}`, part.id, 'source', source.emfV - point.volts[node]!)
  const leads: string[] = []
  for (const hop of hops.reverse()) {
    const lead = leadOfBranch(network, hop.branch)
    if (lead) {
      leads.push(lead.id)
      leadSteps({ network, point, hop }, lead, down)
    } else portStep(network, point, hop, down)
  }
  return { sourceId: source.partId, emfV, steps, leads }
}

const givingByPoint = new WeakMap<OperatingPoint, ReadonlyMap<number, number>>()

/**
 * The first source at each node that gives something, by its place in the list; where nothing flows at all, any source
 * may be the one the voltage comes from.
 */
function givingAt(network: Network, point: OperatingPoint): ReadonlyMap<number, number> {
  const known = givingByPoint.get(point)
  if (known) return known
  const isGiving = point.sources.some(s => s.amps > GIVES_A)
  const made = new Map<number, number>()
  sourcesIn(network, point.condition.source).forEach((s, k) => {
    if (!made.has(s.node) && (!isGiving || point.sources[k]!.amps > GIVES_A)) made.set(s.node, k)
  })
  givingByPoint.set(point, made)
  return made
}

/** What the conductors alone take on the way to a terminal, V: the wire steps of its staircase, added up. */
export function wireDropTo(network: Network, point: OperatingPoint, terminal: string): number {
  const start = network.nodeOf.get(terminal)
  if (point.status !== 'ok' || start === undefined || network.unfed[start]) return 0
  const sourceAt = givingAt(network, point)
  const hops = wayUp(network, point, start, v => sourceAt.has(v)) ?? []
  return hops.reduce(
    (sum, { branch }) => sum + (leadOfBranch(network, branch) ? wireVolts(network, point, branch) : 0),
    0,
  )
}

/** What a lead's conductors take: the part of its law that is not in its fixed resistance, V. */
function wireVolts(network: Network, point: OperatingPoint, branch: number): number {
  const amps = Math.abs(point.amps[branch]!)
  const { fixedOhm } = leadResistance(leadOfBranch(network, branch)!)
  return amps * (network.ohm[branch]! - fixedOhm) + amps ** 3 * network.ohmPerAmp2[branch]!
}

/**
 * Goes up along the largest inflow to a source; turns back where a way ends, as it may where no current shows the way.
 */
function wayUp(
  network: Network,
  point: OperatingPoint,
  start: number,
  isSource: (node: number) => boolean,
): Hop[] | null {
  const visited = new Set([start])
  const hops: Hop[] = []
  let node = start
  while (!isSource(node)) {
    const hop = largestInflow(network, point, node, visited)
    if (hop) {
      visited.add(hop.upstream)
      hops.push(hop)
    } else if (!hops.pop()) return null
    node = hops.length ? hops[hops.length - 1]!.upstream : start
  }
  return hops
}

/**
 * The way up from a node with the largest inflow, of those not yet gone; with no current at all, the one to the higher
 * voltage.
 */
function largestInflow(
  network: Network,
  point: OperatingPoint,
  node: number,
  visited: ReadonlySet<number>,
): Hop | null {
  let best: Hop | null = null
  let most = -Infinity
  for (const branch of branchesAt(network, node)) {
    const inward = network.to[branch] === node
    const upstream = inward ? network.from[branch]! : network.to[branch]!
    const amps = inward ? point.amps[branch]! : -point.amps[branch]!
    const rank = amps + 1e-9 * (point.volts[upstream]! - point.volts[node]!)
    if (rank <= most || visited.has(upstream)) continue
    most = rank
    best = { branch, upstream }
  }
  return best
}

const incidence = new WeakMap<Network, number[][]>()
function branchesAt(network: Network, node: number): number[] {
  let lists = incidence.get(network)
  if (!lists) {
    lists = Array.from({ length: network.nodeCount }, () => [])
    for (let b = 0; b < network.branchCount; b++) {
      if (network.from[b] === network.to[b]) continue
      lists[network.from[b]!]!.push(b)
      lists[network.to[b]!]!.push(b)
    }
    incidence.set(network, lists)
  }
  return lists[node]!
}

const branchNames = new WeakMap<Network, Map<number, { lead?: Lead; terminal?: string }>>()
function branchName(network: Network, branch: number) {
  let names = branchNames.get(network)
  if (!names) {
    const leads = new Map(network.plan.leads.map(l => [l.id, l]))
    names = new Map()
    for (const [id, b] of network.branchOfLead) names.set(b, { lead: leads.get(id) })
    for (const [terminal, b] of network.branchOfTerminal) names.set(b, { terminal })
    branchNames.set(network, names)
  }
  return names.get(branch)
}
const leadOfBranch = (network: Network, branch: number) => branchName(network, branch)?.lead

type Down = (label: string, place: string, kind: Step['kind'], dropV: number) => void

function portStep(network: Network, point: OperatingPoint, hop: Hop, down: Down) {
  const terminal = branchName(network, hop.branch)?.terminal ?? ''
  const part = network.partOf.get(partIdOf(terminal))!
  const opener = network.terminals.get(terminal)?.opener
  const dropV = branchVolts(network, point, hop.branch)
  const at = terminal.slice(part.id.length + 1)
  if (opener) down(`${opener.kind} ${asGiven(opener.ratedA)} A, port ${at}`, terminal, 'fuse', dropV)
  else down(`${nameOf(part)} ${at}`, terminal, 'part', dropV)
}

/** Volts across a branch, whichever way. */
const branchVolts = (network: Network, point: OperatingPoint, branch: number) =>
  Math.abs(point.volts[network.from[branch]!]! - point.volts[network.to[branch]!]!)

const STEP_KIND: Record<Inline['kind'], Step['kind']> = {
  fuse: 'fuse',
  breaker: 'fuse',
  switch: 'switch',
  meter: 'part',
  choke: 'part',
  dropper: 'diode',
}

/** Where a step is taken down: along a branch, at an operating point. */
interface Descent {
  network: Network
  point: OperatingPoint
  hop: Hop
}

/** A lead's own steps, in the order in which the current meets them. */
function leadSteps({ network, point, hop }: Descent, lead: Lead, down: Down) {
  const forward = network.from[hop.branch] === hop.upstream
  const amps = Math.abs(point.amps[hop.branch]!)
  const { fixedOhm } = leadResistance(lead)
  const wireV = wireVolts(network, point, hop.branch)
  const diodesV = branchVolts(network, point, hop.branch) - wireV - amps * fixedOhm
  const chain: { atM: number; put: () => void }[] = []
  for (const item of lead.inline ?? []) {
    if (item.kind === 'choke') continue
    const dropV = amps * inlineLoopOhm(item) + diodesV * shareOfDiodes(lead, item, amps)
    chain.push({ atM: item.atM ?? 0, put: () => down(inlineWords(item), lead.id, STEP_KIND[item.kind], dropV) })
  }
  const wire = `${conductorName(lead.conductor)}, ${asGiven(lead.lengthM)} m`
  chain.push({ atM: lead.lengthM / 2 + 1e-9, put: () => down(wire, lead.id, 'wire', wireV) })
  if (lead.return === 'chassis') {
    chain.push({ atM: lead.lengthM, put: () => down('chassis', lead.id, 'part', amps * (lead.chassisOhm ?? 0)) })
  }
  const contact = (end: 'from' | 'to') => {
    const fitted = lead.ends?.[end]
    if (!fitted) return
    down(connector(fitted.connector).label, lead[end], 'contact', amps * matingLoopOhm(fitted))
  }
  contact(forward ? 'from' : 'to')
  for (const { put } of chain.sort((a, b) => (a.atM - b.atM) * (forward ? 1 : -1))) put()
  contact(forward ? 'to' : 'from')
}

/** What part of the volts across a lead's diodes is an item's: as each by itself would drop at that current. */
function shareOfDiodes(lead: Lead, item: Inline, amps: number): number {
  if (item.kind !== 'dropper') return 0
  const own = (dropper: Dropper) => {
    const { slopeV, saturationA } = diodesIn(dropper)
    // Where next to nothing flows a thousandth of a milliampere stands for it.
    return slopeV * Math.log1p(Math.max(amps, GIVES_A) / saturationA)
  }
  const all = lead.inline!.filter(i => i.kind === 'dropper').reduce((sum, dropper) => sum + own(dropper), 0)
  return own(item) / all
}
