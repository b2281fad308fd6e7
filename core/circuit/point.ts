import { conductorTemperature } from '../conductor/ampacity'
import { sinkAmps } from '../kinds/draw'
import { isLoad, kindOf } from '../kinds/index'
import type { Part } from '../kinds/index'
import { ambientOf, siteOf, type Lead } from '../plan/schema'
import type { Network } from './network'
import { sinkIn } from './conditions'
import { placedIn, sourcesIn } from './placed'
import type { OperatingPoint, WorkingTransfer } from './operatingPoint'

/** An operating point with its names, as the command line prints it. Volts are null where there is no solution. */
export interface NamedPoint {
  condition: string
  status: 'ok' | 'collapses'
  most?: OperatingPoint['most']
  nodes: Record<string, { volts: number | null }>
  leads: Record<string, { amps: number | null; dropV: number | null; watts: number | null; conductorC: number | null }>
  parts: Record<string, Record<string, number | string | boolean | null>>
}

/** Current a part takes (load) or gives (source, converter) at an operating point, A. */
export function partAmps(network: Network, point: OperatingPoint, part: Part): number {
  const kind = kindOf(part)
  if (kind.sink) {
    const node = network.nodeOf.get(part.id)!
    const volts = point.volts[node]!
    if (placedIn(network, point.condition.source).unfed[node]) return 0
    return sinkAmps(sinkIn(part, point.condition)!, volts)
  }
  return point.sources.reduce((sum, s) => (s.partId === part.id ? sum + s.amps : sum), 0)
}

/** An operating point with its names. Where there is no solution there are no figures. */
export function namePoint(network: Network, point: OperatingPoint): NamedPoint {
  const known: Known = value => (point.status === 'ok' ? value : null)
  const volts = (terminal: string) => known(point.volts[network.nodeOf.get(terminal)!]!)
  return {
    condition: point.condition.id,
    status: point.status,
    ...(point.most && { most: point.most }),
    nodes: Object.fromEntries([...network.terminals.keys()].map(t => [t, { volts: volts(t) }])),
    leads: Object.fromEntries(network.plan.leads.map(l => [l.id, nameLead(network, point, l, known)])),
    parts: Object.fromEntries(network.plan.parts.map(p => [p.id, namePart(network, point, p, known)])),
  }
}

type Known = (value: number) => number | null

function nameLead(network: Network, point: OperatingPoint, lead: Lead, known: Known): NamedPoint['leads'][string] {
  const { plan } = network
  const branch = network.branchOfLead.get(lead.id)
  const voltsAt = (terminal: string) => point.volts[network.nodeOf.get(terminal)!]!
  const amps = branch === undefined ? 0 : point.amps[branch]!
  const dropV = branch === undefined ? 0 : voltsAt(lead.from) - voltsAt(lead.to)
  const { typical: ambientC } = ambientOf(plan, lead)
  const inPlace = { amps, ambientC, bundledConductors: lead.bundledConductors }
  const conductorC = conductorTemperature(lead.conductor, siteOf(plan).ampacity, inPlace)
  return { amps: known(amps), dropV: known(dropV), watts: known(amps * dropV), conductorC: known(conductorC) }
}

function namePart(network: Network, point: OperatingPoint, part: Part, ofPoint: Known): NamedPoint['parts'][string] {
  // What arrives at a load that drops out is nothing that it could use.
  const known: Known = point.condition.off?.has(part.id) ? () => null : ofPoint
  const { kind } = part
  const transfer = point.transfers.find(t => t.partId === part.id)
  if (transfer) return { kind, ...nameTransfer(point, transfer, known) }
  const [source] = sourcesIn(network, point.condition.source).filter(s => s.partId === part.id)
  const isFed = isLoad(part)
  if (!source && !isFed) return { kind }
  const node = isFed ? network.nodeOf.get(part.id)! : source!.node
  const volts = point.volts[node]!
  const amps = point.status === 'ok' ? partAmps(network, point, part) : 0
  return {
    kind,
    volts: known(volts),
    amps: known(amps),
    watts: known(volts * amps),
    ...(source ? { emfV: source.emfV } : { active: point.condition.active.has(part.id), fed: !network.unfed[node] }),
  }
}

function nameTransfer(point: OperatingPoint, { outV, outA, inputW, fromNode }: WorkingTransfer, known: Known) {
  const inV = point.volts[fromNode]!
  return {
    inV: known(inV),
    inA: known(inputW / inV),
    inW: known(inputW),
    outV: known(outV),
    outA: known(outA),
    outW: known(outV * outA),
    lossW: known(inputW - outV * outA),
  }
}
