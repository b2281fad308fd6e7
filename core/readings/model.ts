import { compile, type Network } from '../circuit/network'
import { sinkIn, type Condition } from '../circuit/conditions'
import { placedIn, type Placed } from '../circuit/placed'
import type { Moment } from '../circuit/laden'
import type { OperatingPoint } from '../circuit/operatingPoint'
import { Solver } from '../circuit/solve'
import { isLoad } from '../kinds/index'
import type { Sink } from '../kinds/kind'
import { leadName } from '../plan/find'
import { placeName, terminalName } from '../plan/names'
import type { Plan } from '../plan/schema'
import { jointsOf, type Joint } from './places'
import type { Reading } from './reading'

/** Something of a station that is not quite as planned. */
export type Unknown =
  | { of: 'joint'; joint: Joint; spread: number }
  /** A source's voltage in one source state, V; its resistance, of its own. */
  | { of: 'emf'; part: string; source: string; spread: number }
  | { of: 'internal'; part: string; spread: number }
  /** What a load takes, of its own; active or idle. */
  | { of: 'load'; part: string; active: boolean; spread: number }
  /** All copper is warmer or colder than planned together, of its resistance. */
  | { of: 'warmth'; spread: number }
  /** The scale of an instrument, of what it shows. */
  | { of: 'scale'; quantity: 'volts' | 'amps'; with: string; spread: number }

/** A charge is guessed, a supply is set by hand: so much of their voltage, V of 1 V. */
const EMF_SPREAD = 0.01
const INTERNAL_SPREAD = 0.3
/** Ten degrees of copper: the site says what is typical, the day is another. */
const WARMTH_SPREAD = 0.04
const ACTIVE_SPREAD = 0.03
const IDLE_SPREAD = 0.15
/** Steps over which slopes are taken: Ω, V, and shares. */
const STEP = { ohm: 2e-4, volts: 0.01, share: 0.01 }

type Shift = ReadonlyMap<number, number>

/** A plan in the conditions that were read, with all in it that may be other than planned. */
export class StationModel {
  readonly network: Network
  readonly joints: Joint[]
  readonly unknowns: Unknown[]
  private readonly wires: Joint[]
  private readonly conditions: readonly Condition[]
  private readonly placed: Map<string, Placed>

  constructor(
    readonly plan: Plan,
    conditions: readonly Condition[],
    /** By how much a scale may be off, of itself; the instruments that were read, '' where nobody says which. */
    private readonly scales: { off: number; instruments: readonly string[] },
  ) {
    this.network = compile(plan)
    this.conditions = conditions
    this.joints = jointsOf(this.network)
    this.wires = this.joints.filter(j => j.kind === 'conductor')
    this.placed = new Map([...new Set(conditions.map(c => c.source))].map(s => [s, placedIn(this.network, s)]))
    const sources = [...this.placed].flatMap(([source, p]) =>
      [...new Set(p.sources.map(s => s.partId))].map(part => ({ source, part, sources: p.sources })),
    )
    const withOhm = new Set(
      sources.flatMap(s => s.sources.filter(x => x.partId === s.part && x.ohm > 0).map(x => x.partId)),
    )
    this.unknowns = [
      ...this.joints.map((joint): Unknown => ({ of: 'joint', joint, spread: joint.spread * joint.loopOhm })),
      ...sources.map(({ source, part, sources: all }): Unknown => {
        const highest = Math.max(...all.filter(x => x.partId === part).map(x => x.emfV))
        return { of: 'emf', part, source, spread: EMF_SPREAD * highest }
      }),
      ...[...withOhm].map((part): Unknown => ({ of: 'internal', part, spread: INTERNAL_SPREAD })),
      ...plan.parts.filter(isLoad).flatMap((p): Unknown[] => {
        const states = new Set(conditions.map(c => c.active.has(p.id)))
        return [...states].map(active => ({
          of: 'load',
          part: p.id,
          active,
          spread: active ? ACTIVE_SPREAD : IDLE_SPREAD,
        }))
      }),
      { of: 'warmth', spread: WARMTH_SPREAD },
      ...scales.instruments.flatMap((id): Unknown[] => [
        { of: 'scale', quantity: 'volts', with: id, spread: scales.off },
        { of: 'scale', quantity: 'amps', with: id, spread: 2 * scales.off },
      ]),
    ]
  }

  /** What each reading would be with some unknowns shifted; NaN where a condition has no operating point. */
  predicted(readings: readonly Reading[], shift: Shift = new Map()): number[] {
    const points = this.solved(shift)
    const { instruments } = this.scales
    const scaleOf = (r: Reading) => {
      const quantity = r.volts === undefined ? 'amps' : 'volts'
      const id = r.with !== undefined && instruments.includes(r.with) ? r.with : instruments[0]
      return 1 + this.shiftOf(shift, u => u.of === 'scale' && u.quantity === quantity && u.with === id)
    }
    return readings.map(r => {
      const point = points.get(r.condition)
      if (!point || point.status !== 'ok') return NaN
      if (r.volts === undefined) return Math.abs(this.ampsIn(point, r.at)) * scaleOf(r)
      return this.voltsAt(point, r.at, shift) * scaleOf(r)
    })
  }

  /** Change of each reading for each unknown, at a shift. */
  slopes(readings: readonly Reading[], shift: Shift = new Map()): number[][] {
    const at = this.predicted(readings, shift)
    return this.unknowns.map((unknown, k) => {
      const step = stepOf(unknown)
      const moved = this.predicted(readings, new Map([...shift, [k, (shift.get(k) ?? 0) + step]]))
      return moved.map((v, i) => (v - at[i]!) / step)
    })
  }

  /** Current in a lead, A, from its `from` to its `to`; 0 where a switch in it is open. */
  ampsIn(point: OperatingPoint, leadId: string): number {
    const branch = this.network.branchOfLead.get(leadId)
    return branch === undefined ? 0 : point.amps[branch]!
  }

  private voltsAt(point: OperatingPoint, at: string, shift: Shift): number {
    const node = this.network.nodeOf.get(at)
    if (node !== undefined) return point.volts[node]!
    // A lead's own side of a mating.
    const { lead, end } = leadSide(this.plan, at)!
    const volts = point.volts[this.network.nodeOf.get(lead[end])!]!
    const ohm = this.ohmAt(at, shift)
    return volts + (end === 'to' ? 1 : -1) * this.ampsIn(point, lead.id) * ohm
  }

  private ohmAt(place: string, shift: Shift): number {
    const k = this.unknowns.findIndex(u => u.of === 'joint' && u.joint.place === place)
    if (k < 0) return 0
    return (this.unknowns[k] as { joint: Joint }).joint.loopOhm + (shift.get(k) ?? 0)
  }

  private shiftOf(shift: Shift, is: (u: Unknown) => boolean): number {
    for (const [k, by] of shift) if (is(this.unknowns[k]!)) return by
    return 0
  }

  solved(shift: Shift = new Map()): Map<string, OperatingPoint> {
    const solver = new Solver(this.networkAt(shift))
    return new Map(this.conditions.map(c => [c.id, solver.solve(this.momentOf(c, shift))]))
  }

  private networkAt(shift: Shift): Network {
    const ohm = this.network.ohm.slice()
    for (const [k, by] of shift) {
      const unknown = this.unknowns[k]!
      if (unknown.of === 'joint') ohm[unknown.joint.branch]! += by
      if (unknown.of === 'warmth') for (const { branch, loopOhm } of this.wires) ohm[branch]! += by * loopOhm
    }
    return { ...this.network, ohm: ohm.map(o => Math.max(0, o)) }
  }

  private momentOf(condition: Condition, shift: Shift): Moment {
    const placed = this.placed.get(condition.source)!
    const sinks = new Map<string, Sink>()
    let { sources } = placed
    for (const [k, by] of shift) {
      const u = this.unknowns[k]!
      if (u.of === 'emf' && u.source === condition.source)
        sources = sources.map(s => (s.partId === u.part ? { ...s, emfV: s.emfV + by } : s))
      if (u.of === 'internal')
        sources = sources.map(s => (s.partId === u.part ? { ...s, ohm: s.ohm * Math.max(0.05, 1 + by) } : s))
      if (u.of !== 'load' || u.active !== condition.active.has(u.part)) continue
      const part = this.plan.parts.find(p => p.id === u.part)!
      const sink = sinkIn(part, condition)
      if (sink)
        sinks.set(part.id, { ...sink, value: sink.law === 'ohm' ? sink.value / (1 + by) : sink.value * (1 + by) })
    }
    return { ...condition, placed: { ...placed, sources }, sinks }
  }
}

function stepOf(unknown: Unknown): number {
  if (unknown.of === 'joint') return STEP.ohm
  return unknown.of === 'emf' ? STEP.volts : STEP.share
}

/** `l2.to` as a lead and its end; null where it is none that has an end fitted. */
export function leadSide(plan: Plan, at: string) {
  const match = /^(.+)\.(from|to)$/.exec(at)
  const lead = match && plan.leads.find(l => l.id === match[1])
  const end = match?.[2] as 'from' | 'to'
  return lead?.ends?.[end] ? { lead, end } : null
}

/** What a place of a reading is called: a terminal, a lead, or a lead's own side of a mating. */
export function pointName(plan: Plan, at: string): string {
  const side = leadSide(plan, at)
  return side ? `${leadName(side.lead)} itself at ${terminalName(plan, side.lead[side.end])}` : placeName(plan, at)
}
