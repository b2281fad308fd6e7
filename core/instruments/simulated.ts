import { cellFamily } from '../catalog/chemistries'
import { randomFrom, type Random } from '../chance/random'
import { conditionsOf, findCondition } from '../circuit/conditions'
import { solveMatrix, type SolvedPlan } from '../circuit/matrix'
import { kindOf, type Part } from '../kinds/index'
import { nameOf } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Plan } from '../plan/schema'
import type { Fault } from '../practice/faults'
import { hiddenIn, type Hidden } from '../practice/hidden'
import { COMMAND, GREETING, lineOf, NO_PLACE, type Channel } from './protocol'

/**
 * Instruments that stand in for real ones: a meter whose probe one moves, a shunt at each battery, what controllers
 * and battery management systems show, all of the plan's own circuit, as planned or with one fault hidden in it.
 */

/** What one channel is of. */
interface Source {
  channel: Channel
  /** NaN: nothing to be shown. */
  of: (solved: SolvedPlan, condition: string) => number
}

/** Scales are off by so much, each its own; a last figure flickers. */
const SCALE_OFF = 0.003
const FLICKER = 0.4
const METER = 'meter'

export class SimulatedInstruments {
  readonly fault: Fault | null
  private readonly built: SolvedPlan
  private readonly crossed: Hidden['crossed'] | null
  private readonly random: Random
  private readonly fixed: Source[]
  private readonly scales = new Map<string, number>()
  private probe: string
  private condition: string

  /** @param hide seed of a fault that is hidden in it; null: built as planned */
  constructor(
    private readonly plan: Plan,
    { hide, seed = 1 }: { hide: number | null; seed?: number },
  ) {
    const hidden = hide === null ? null : shownBy(plan, hide)
    this.fault = hidden?.fault ?? null
    this.built = hidden?.built ?? solveMatrix(plan)
    this.crossed = hidden?.crossed ?? null
    this.random = randomFrom(7919 * seed + (hide ?? 0))
    this.fixed = plan.parts.flatMap(part => [...shuntOf(plan, part), ...controllerOf(plan, part), ...bmsOf(plan, part)])
    const landed = plan.leads.map(l => l.from)
    this.probe = landed.find(t => kindOf(partAt(plan, t)).stores) ?? landed[0] ?? NO_PLACE
    const all = conditionsOf(plan).map(c => c.id)
    this.condition = all.find(id => id === 'full/idle') ?? all.find(id => id.endsWith('/idle')) ?? all[0] ?? NO_PLACE
  }

  /** What somebody who has just come is told. */
  greeting(): string[] {
    const { plan, condition } = this
    return [GREETING, lineOf.simulated(plan.name), ...this.channels().map(lineOf.channel), lineOf.state(condition)]
  }

  /** What all instruments show now. */
  tick(time: string): string[] {
    return this.sources().map(({ channel, of }) => {
      const value = of(this.built, this.condition)
      return lineOf.read(channel, Number.isFinite(value) ? this.shown(channel, value) : null, time)
    })
  }

  /** @returns what is said to everybody of it */
  command(text: string): string[] {
    const [word, what = ''] = text.trim().split(' ')
    if (!COMMAND.test(text.trim())) return [lineOf.error('probe TERMINAL or state CONDITION')]
    if (word === 'probe') {
      if (!this.landed().includes(what)) return [lineOf.error(`the station has no ${what}`)]
      this.probe = what
      return [lineOf.channel(this.meter().channel)]
    }
    const found = findCondition(this.plan, what)
    if (typeof found === 'string') return [lineOf.error(found)]
    this.condition = found.id
    return [lineOf.state(found.id)]
  }

  private landed = () => this.plan.leads.flatMap(l => [l.from, l.to])
  private sources = () => [this.meter(), ...this.fixed]
  private channels = () => this.sources().map(s => s.channel)

  private meter(): Source {
    const at = this.probe
    const { crossed } = this
    // A meter held to crossed colours shows a minus; what stands there is joined to nothing.
    const of: Source['of'] =
      crossed?.at === at ? (solved, condition) => -voltsAt(crossed.from)(solved, condition) : voltsAt(at)
    const name = at === NO_PLACE ? 'Meter' : `Meter at ${terminalName(this.plan, at)}`
    return { channel: { id: METER, unit: 'V', digit: 0.01, at, name }, of }
  }

  private shown(channel: Channel, value: number): number {
    const [instrument] = channel.id.split('.') as [string]
    let scale = this.scales.get(instrument)
    if (scale === undefined) this.scales.set(instrument, (scale = 1 + SCALE_OFF * this.random.normal()))
    return value * scale + FLICKER * channel.digit * this.random.normal()
  }
}

/** A fault that instruments can show: a fuse at the wrong end they cannot. */
function shownBy(plan: Plan, seed: number): Hidden | null {
  const any = hiddenIn(plan, seed)
  return any?.fault.of === NOT_SHOWN ? (hiddenIn(plan, seed, 'joint') ?? any) : any
}
const NOT_SHOWN = 'far fuse'

const partAt = (plan: Plan, terminal: string): Part => plan.parts.find(p => p.id === terminal.split('.')[0])!

const pointAt = ({ points }: SolvedPlan, condition: string) => {
  const point = points.find(p => p.condition.id === condition)
  return point?.status === 'ok' ? point : null
}

const voltsAt =
  (terminal: string): Source['of'] =>
  (solved, condition) => {
    const node = solved.network.nodeOf.get(terminal)
    const point = pointAt(solved, condition)
    // What a broken circuit leaves without a way to any source has no volts; a station that collapsed shows none.
    return node === undefined || !point ? 0 : point.volts[node]!
  }

/** Out of a part and into a lead. */
const ampsOut =
  (plan: Plan, leadId: string, terminal: string): Source['of'] =>
  (solved, condition) => {
    const branch = solved.network.branchOfLead.get(leadId)
    const point = pointAt(solved, condition)
    if (branch === undefined || !point) return 0
    const way = plan.leads.find(l => l.id === leadId)!.from === terminal ? 1 : -1
    return way * point.amps[branch]!
  }

const leadAt = (plan: Plan, terminal: string) => plan.leads.find(l => l.from === terminal || l.to === terminal)
const terminalsOf = (plan: Plan, part: Part) => [
  ...new Set(plan.leads.flatMap(l => [l.from, l.to]).filter(t => t === part.id || t.startsWith(`${part.id}.`))),
]

/** Volts and amps at one terminal, as one instrument shows them. */
function pairAt(plan: Plan, terminal: string, { id, name }: { id: string; name: string }): Source[] {
  const lead = leadAt(plan, terminal)!
  return [
    { channel: { id: `${id}.v`, unit: 'V', digit: 0.01, at: terminal, name }, of: voltsAt(terminal) },
    { channel: { id: `${id}.a`, unit: 'A', digit: 0.1, at: lead.id, name }, of: ampsOut(plan, lead.id, terminal) },
  ]
}

function shuntOf(plan: Plan, part: Part): Source[] {
  const [terminal] = kindOf(part).stores ? terminalsOf(plan, part) : []
  return terminal ? pairAt(plan, terminal, { id: `shunt-${part.id}`, name: `Shunt at ${nameOf(part)}` }) : []
}

function controllerOf(plan: Plan, part: Part): Source[] {
  const kind = kindOf(part)
  const output = kind.takesSun && kind.charge?.(part, () => [])
  if (!output || !leadAt(plan, output.at)) return []
  return pairAt(plan, output.at, { id: `own-${part.id}`, name: `${nameOf(part)}, its own display` })
}

/** A pack with a management system of its own tells of its cells, a volt of which is one of so many. */
function bmsOf(plan: Plan, part: Part): Source[] {
  const [terminal] = kindOf(part).stores ? terminalsOf(plan, part) : []
  const { chemistry: id, seriesCells: count } = part as { chemistry?: string; seriesCells?: number }
  if (!terminal || !id || !count || cellFamily(id) !== 'lithium') return []
  const of: Source['of'] = (solved, condition) => voltsAt(terminal)(solved, condition) / count
  return Array.from({ length: count }, (_, n) => ({
    channel: {
      id: `bms-${part.id}.${n + 1}`,
      unit: 'V',
      digit: 0.001,
      at: NO_PLACE,
      name: `${nameOf(part)}, cell ${n + 1}`,
    },
    of,
  }))
}
