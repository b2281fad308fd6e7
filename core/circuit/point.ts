import { conductorTemperature } from '../conductor/ampacity'
import { kindOf } from '../kinds/index'
import type { Part } from '../kinds/index'
import { ambientOf, siteOf } from '../plan/schema'
import type { Network } from './network'
import { placedIn, sourcesIn } from './placed'
import type { OperatingPoint } from './solve'

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
    const sink = kind.sink(part, point.condition.active.has(part.id), point.condition.active.get(part.id))
    if (sink.law === 'current') return sink.value
    return sink.law === 'power' ? sink.value / volts : volts / sink.value
  }
  return sourcesIn(network, point.condition.source)
    .filter(s => s.partId === part.id)
    .reduce((sum, s) => {
      if (s.transfer) return sum + (point.transfers.find(t => t.partId === part.id)?.outA ?? 0)
      return sum + (s.ohm > 0 ? (s.emfV - point.volts[s.node]!) / s.ohm : heldSourceAmps(network, point, s.node))
    }, 0)
}

/** A held source gives what leaves its node: the branches' currents, and what stands on the node itself. */
function heldSourceAmps(network: Network, point: OperatingPoint, node: number): number {
  let out = 0
  for (let b = 0; b < network.branchCount; b++) {
    if (network.from[b] === node) out += point.amps[b]!
    if (network.to[b] === node) out -= point.amps[b]!
  }
  for (const s of placedIn(network, point.condition.source).standing) {
    if (s.node === node)
      out +=
        s.law === 'current' ? s.value : s.law === 'power' ? s.value / point.volts[node]! : point.volts[node]! / s.value
  }
  return out
}

export function namePoint(network: Network, point: OperatingPoint): NamedPoint {
  const { ampacity } = siteOf(network.plan)
  const ok = point.status === 'ok'
  const known = (value: number) => (ok ? value : null)
  const voltsAt = (terminal: string) => point.volts[network.nodeOf.get(terminal)!]!
  const nodes = Object.fromEntries([...network.terminals.keys()].map(t => [t, { volts: known(voltsAt(t)) }]))
  const leads = Object.fromEntries(
    network.plan.leads.map(lead => {
      const branch = network.branchOfLead.get(lead.id)
      const amps = branch === undefined ? 0 : point.amps[branch]!
      const dropV = branch === undefined ? 0 : voltsAt(lead.from) - voltsAt(lead.to)
      return [
        lead.id,
        {
          amps: known(amps),
          dropV: known(dropV),
          watts: known(amps * dropV),
          conductorC: known(
            conductorTemperature(
              lead.conductor,
              ampacity,
              amps,
              ambientOf(network.plan, lead).typical,
              lead.bundledConductors,
            ),
          ),
        },
      ]
    }),
  )
  const sources = sourcesIn(network, point.condition.source)
  const parts = Object.fromEntries(
    network.plan.parts.map(part => {
      const kind = kindOf(part)
      const own = sources.filter(s => s.partId === part.id)
      const transfer = point.transfers.find(t => t.partId === part.id)
      if (transfer) {
        const { outV, outA, inputW } = transfer
        const inV = point.volts[transfer.fromNode]!
        return [
          part.id,
          {
            kind: part.kind,
            inV: known(inV),
            inA: known(inputW / inV),
            inW: known(inputW),
            outV: known(outV),
            outA: known(outA),
            outW: known(outV * outA),
            lossW: known(inputW - outV * outA),
          },
        ]
      }
      if (!own.length && !kind.sink) return [part.id, { kind: part.kind }]
      const node = kind.sink ? network.nodeOf.get(part.id)! : own[0]!.node
      const volts = point.volts[node]!
      const amps = ok ? partAmps(network, point, part) : 0
      return [
        part.id,
        {
          kind: part.kind,
          volts: known(volts),
          amps: known(amps),
          watts: known(volts * amps),
          ...(own[0]
            ? { emfV: own[0].emfV }
            : { active: point.condition.active.has(part.id), fed: !network.unfed[node] }),
        },
      ]
    }),
  )
  return {
    condition: point.condition.id,
    status: point.status,
    ...(point.most && { most: point.most }),
    nodes,
    leads,
    parts,
  }
}
