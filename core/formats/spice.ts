import { sinkIn, type Condition } from '../circuit/conditions'
import { compile, type Network } from '../circuit/network'
import { placedIn, type PlacedSource } from '../circuit/placed'
import type { OperatingPoint } from '../circuit/operatingPoint'
import { Solver } from '../circuit/solve'
import { transferOutV } from '../kinds/transfer'
import type { Efficiency } from '../kinds/fields'
import type { Transfer } from '../kinds/kind'
import type { Plan } from '../plan/schema'
import { oneLine } from '../units/inert'

/**
 * The operating point of a plan as a netlist for a general-purpose circuit simulator, with `.op`. Node names are the
 * terminals' with `.`
 * as `_`, voltages against the negative side, node 0. Node sets start it at the upper root of constant-power loads. The
 * laws are written
 * out as such (warming conductors, diodes, converters), so that the simulator solves the plan by itself.
 */
export function spiceNetlist(plan: Plan, condition: Condition): string {
  const network = compile(plan)
  const point = new Solver(network).solve(condition)
  const name = nodeNames(network)
  const lines = [
    `* ${oneLine(plan.name)}, ${condition.id}, ${plan.parts.length} parts, written by Wireman`,
    '* Volts of + against - at each terminal. One line an element; R ohms, warming conductors as V = I*(R + K*I^2).',
    ...(point.status === 'ok'
      ? []
      : ['* There is no operating point in this condition: expect the simulator not to converge.']),
    ...merged(network, name),
    ...branches(network, point, name),
    ...sources(network, point, name),
    ...sinks(network, condition, point, name),
    ...transfers(network, condition, point, name),
  ]
  for (const [terminal, node] of network.nodeOf) {
    if (point.status === 'ok' && network.terminals.has(terminal))
      lines.push(`.nodeset V(${name(terminal)})=${number(point.volts[node]!)}`)
  }
  lines.push('.options reltol=1e-6 vntol=1e-7 abstol=1e-9 gmin=1e-12 itl1=1000', '.op', '.end')
  return lines.join('\n') + '\n'
}

const number = (value: number) => String(Number(value.toPrecision(12)))

/** Nodes of the netlist's own, inside an element. */
const INNER_NODE = /^(e|d|w|p|ti|to)\d+x$/i

/** Terminal names as node names; ground, doubles and what is called as a node of the netlist's own get a suffix. */
function nodeNames(network: Network): (terminal: string) => string {
  const names = new Map<string, string>()
  const taken = new Set(['0', 'gnd'])
  for (const terminal of network.nodeOf.keys()) {
    const plain = terminal.replaceAll('.', '_')
    let name = plain
    for (let n = 2; taken.has(name.toLowerCase()) || INNER_NODE.test(name); n++) name = `${plain}_${n}`
    taken.add(name.toLowerCase())
    names.set(terminal, name)
  }
  return terminal => names.get(terminal)!
}

/** Terminals with no resistance between them: joined by sources of 0 V. */
function merged(network: Network, name: (t: string) => string): string[] {
  const first = new Map<number, string>()
  return [...network.nodeOf].flatMap(([terminal, node], i) => {
    const head = first.get(node)
    if (head === undefined) {
      first.set(node, terminal)
      return []
    }
    return [`Vjoin${i} ${name(head)} ${name(terminal)} 0`]
  })
}

const nameOfNode = (network: Network, name: (t: string) => string) => {
  const heads = new Map<number, string>()
  for (const [terminal, node] of network.nodeOf) if (!heads.has(node)) heads.set(node, name(terminal))
  return (node: number) => heads.get(node)!
}

/** Where a simulator is to start at an inner node. */
const startAt = (point: OperatingPoint, node: string, volts: number) =>
  point.status === 'ok' ? [`.nodeset V(${node})=${number(volts)}`] : []

function branches(network: Network, point: OperatingPoint, name: (t: string) => string): string[] {
  const at = nameOfNode(network, name)
  const labels = new Map<number, string>()
  for (const [lead, b] of network.branchOfLead) labels.set(b, `lead ${lead}`)
  for (const [terminal, b] of network.branchOfTerminal) labels.set(b, terminal)
  const lines: string[] = []
  for (let b = 0; b < network.branchCount; b++) {
    if (network.from[b] === network.to[b]) continue
    lines.push(`* ${labels.get(b) ?? ''}`)
    let from = at(network.from[b]!)
    const to = at(network.to[b]!)
    const diode = network.diodes[network.diode[b]!]
    if (diode) {
      lines.push(`.model dm${b} D(IS=${number(diode.saturationA)} N=${number(diode.slopeV / THERMAL_AT_27)})`)
      lines.push(diode.forward > 0 ? `Dd${b} ${from} d${b}x dm${b}` : `Dd${b} d${b}x ${from} dm${b}`)
      from = `d${b}x`
      lines.push(...startAt(point, from, point.volts[network.to[b]!]! + point.amps[b]! * network.ohm[b]!))
    }
    const [ohm, warm] = [network.ohm[b]!, network.ohmPerAmp2[b]!]
    if (warm === 0) lines.push(`Rb${b} ${from} ${to} ${number(Math.max(ohm, 1e-9))}`)
    else
      lines.push(
        `Vs${b} ${from} w${b}x 0`,
        `Bw${b} w${b}x ${to} V=I(Vs${b})*(${number(ohm)}+${number(warm)}*I(Vs${b})*I(Vs${b}))`,
        ...startAt(
          point,
          `w${b}x`,
          diode ? point.volts[network.to[b]!]! + point.amps[b]! * network.ohm[b]! : point.volts[network.from[b]!]!,
        ),
      )
  }
  return lines
}

/** Thermal voltage that simulators take at their nominal 27 °C, V. */
const THERMAL_AT_27 = 0.0258649

/** A source with limits is written as what it is at this point: holding its voltage, or giving a fixed current. */
function sources(network: Network, point: OperatingPoint, name: (t: string) => string): string[] {
  const at = nameOfNode(network, name)
  return placedIn(network, point.condition.source).sources.flatMap((s, i) => {
    if (s.transfer) return []
    const node = at(s.node)
    const { amps } = point.sources[i]!
    if (!holds(s, point.volts[s.node]!, amps))
      return [`* ${s.partId}, at its limit`, `Ie${i} 0 ${node} ${number(amps)}`]
    return s.ohm === 0
      ? [`* ${s.partId}`, `Ve${i} ${node} 0 ${number(s.emfV)}`]
      : [`* ${s.partId}`, `Ve${i} e${i}x 0 ${number(s.emfV)}`, `Re${i} e${i}x ${node} ${number(s.ohm)}`]
  })
}

/** Whether a source holds its voltage: what it drops inside is what its resistance says. */
const holds = ({ emfV, ohm }: PlacedSource, atV: number, amps: number) => Math.abs(emfV - atV - amps * ohm) < 1e-5

function sinks(network: Network, condition: Condition, point: OperatingPoint, name: (t: string) => string): string[] {
  const at = nameOfNode(network, name)
  const { standing, unfed } = placedIn(network, condition.source)
  const loads = network.plan.parts.flatMap(part => {
    const sink = sinkIn(part, condition)
    return sink ? [{ ...sink, partId: part.id, node: network.nodeOf.get(part.id)! }] : []
  })
  return [...loads, ...standing]
    .filter(s => !unfed[s.node])
    .flatMap((s, i) => {
      const node = at(s.node)
      if (s.law === 'current') return [`* ${s.partId}`, `Is${i} ${node} 0 ${number(s.value)}`]
      if (s.law === 'ohm') return s.value === Infinity ? [] : [`* ${s.partId}`, `Rs${i} ${node} 0 ${number(s.value)}`]
      return [
        `* ${s.partId}`,
        `Vp${i} ${node} p${i}x 0`,
        `Bp${i} p${i}x 0 I=${number(s.value)}/max(V(p${i}x),${number(floorV(point, s.node))})`,
        ...startAt(point, `p${i}x`, point.volts[s.node]!),
      ]
    })
}

/**
 * Under half of its voltage a constant-power load is written as a plain current, so that no simulator walks down to the
 * lower root.
 */
const floorV = (point: OperatingPoint, node: number) => Math.max(0.5, 0.5 * point.volts[node]!)

function transfers(
  network: Network,
  condition: Condition,
  point: OperatingPoint,
  name: (t: string) => string,
): string[] {
  const at = nameOfNode(network, name)
  const { transfers: all, sources: placed } = placedIn(network, condition.source)
  return all.flatMap((t, i) => {
    const k = placed.findIndex(s => s.transfer === t)
    const { amps } = point.sources[k]!
    const emfV = transferOutV(t, point.volts[t.fromNode]!)
    const output = holds({ ...placed[k]!, emfV }, point.volts[t.toNode]!, amps)
      ? [`Bo${i} to${i}x 0 V=${outExpression(t, `V(ti${i}x)`)}`]
      : [`Io${i} 0 to${i}x ${number(amps)}`]
    return [
      `* ${t.partId}`,
      `Vi${i} ${at(t.fromNode)} ti${i}x 0`,
      ...output,
      `Vo${i} to${i}x ${at(t.toNode)} 0`,
      ...startAt(point, `ti${i}x`, point.volts[t.fromNode]!),
      ...startAt(point, `to${i}x`, point.volts[t.toNode]!),
      `Bi${i} ti${i}x 0 I=${inputExpression(t, i, floorV(point, t.fromNode))}`,
    ]
  })
}

/** What a converter takes, as amps at its input: idle watts, and what it gives over its efficiency or as it is. */
function inputExpression(t: Transfer, i: number, leastV: number): string {
  const [outA, outW] = [`I(Vo${i})`, `(V(to${i}x)*I(Vo${i}))`]
  const inV = `max(V(ti${i}x),${number(leastV)})`
  if (t.takes === 'current') return t.idleW ? `${outA}+${number(t.idleW)}/${inV}` : outA
  const efficiency = efficiencyExpression(t.efficiency, outA, outW)
  return `(${number(t.idleW)}+V(to${i}x)*I(Vo${i})/${efficiency})/${inV}`
}

function outExpression(t: Transfer, inV: string): string {
  switch (t.relation) {
    case 'at-most-input':
      return `max(0,min(${number(t.setV)},${inV}-${number(t.dropV)}))`
    case 'at-least-input':
      return `max(${number(t.setV)},${inV}-${number(t.dropV)})`
    case 'follows-input':
      return `max(0,${inV}-${number(t.dropV)})`
    case 'any':
      return number(t.setV)
  }
}

function efficiencyExpression(efficiency: Efficiency, outA: string, outW: string): string {
  if (typeof efficiency === 'number') return number(efficiency)
  const byAmps = efficiency[0]!.outA !== undefined
  const points = efficiency.map(p => [p.outA ?? p.outW ?? 0, p.efficiency] as const).sort((a, b) => a[0] - b[0])
  if (points.length === 1) return number(points[0]![1])
  const ends = [
    [Math.min(points[0]![0] - 1, -1), points[0]![1]] as const,
    ...points,
    [points.at(-1)![0] + 1e4, points.at(-1)![1]] as const,
  ]
  return `pwl(${byAmps ? outA : outW},${ends.map(([x, y]) => `${number(x)},${number(y)}`).join(',')})`
}
