import type { Condition } from '../circuit/conditions'
import type { Network } from '../circuit/network'
import type { Placed } from '../circuit/placed'
import type { Moment } from '../circuit/laden'
import type { OperatingPoint } from '../circuit/operatingPoint'
import { Solver } from '../circuit/solve'
import { sinkAmps } from '../kinds/draw'
import { kindOf } from '../kinds/index'
import type { Sink } from '../kinds/kind'
import type { SunInput } from './panels'
import { placingOf, type NamedStore, type Running } from './standing'
import type { Use } from './users'

/** Radios keyed apart from each other are solved in all their combinations up to so many. */
const MOST_COMBINED = 3

/** Where a figure stands among those of a moment. Flows: amps of an `Ah` store, watts at the ports of a `Wh` one. */
export interface Fields {
  count: number
  /** With nobody transmitting, and on average: each is a block of flows and energies. */
  quiet: number
  mean: number
  /** Within a block: after the flows of the stores. */
  loadsW: number
  suppliedW: number
  sunW: number
  storesW: number
  lossW: number
  /** Volts at each load with everything keyed that may be, and listening; then at each device's input. */
  keyedV: number
  listeningV: number
  inputV: number
  /** What each store gives with everything keyed, A. */
  keyedA: number
  /**
   * How far the nearest of all limits is: above 0 none is passed. The least of several is never nearer between two
   * points than straight between them, so that one figure tells of all.
   */
  margin: number
}

/** What is looked at in every moment of one plan. */
export interface Watched {
  network: Network
  stores: readonly NamedStore[]
  suns: readonly SunInput[]
  loads: readonly string[]
  /** What each load needs at least, V. */
  minV: readonly number[]
  /** Inputs that cut out under a voltage, and load terminals that open. */
  inputs: readonly { partId: string; at: string; belowV: number; closesV?: number; by: 'input' | 'load-cut' }[]
}

export function fieldsOf({ stores, loads, inputs }: Watched): Fields {
  const n = stores.length
  const block = n + 5
  return {
    quiet: 0,
    mean: block,
    loadsW: n,
    suppliedW: n + 1,
    sunW: n + 2,
    storesW: n + 3,
    lossW: n + 4,
    keyedV: 2 * block,
    listeningV: 2 * block + loads.length,
    inputV: 2 * block + 2 * loads.length,
    keyedA: 2 * block + 2 * loads.length + inputs.length,
    margin: 2 * block + 2 * loads.length + inputs.length + n,
    count: 2 * block + 2 * loads.length + inputs.length + n + 1,
  }
}

const CONDITION: Condition = { id: '', source: 'nominal', loadState: '', active: new Map(), engineOff: false }

/** The circuit of one plan at any moment: solved where a course first comes by. */
export class Moments {
  readonly fields: Fields
  private readonly solver: Solver

  constructor(readonly watched: Watched) {
    this.fields = fieldsOf(watched)
    this.solver = new Solver(watched.network)
  }

  /** The figures while the same is on, at charges of the stores, then what the sun gives. */
  figuresOf(running: Running, uses: readonly Use[]): (point: readonly number[]) => Float64Array {
    const { network, stores, suns } = this.watched
    const placing = placingOf(network, { stores, suns }, running)
    const asked = askedOf(uses)
    return point => {
      const levels = { charges: point.slice(0, stores.length), suns: point.slice(stores.length) }
      return this.figures(placing(levels), uses, asked)
    }
  }

  private figures(placed: Placed, uses: readonly Use[], asked: Asked): Float64Array {
    const { stores } = this.watched
    const { fields } = this
    const out = new Float64Array(fields.count)
    const solve = (sinks: Sinks) => carried(this.solver.solve({ ...CONDITION, placed, sinks } as Moment))
    out[fields.margin] = -MOST_MARGIN
    if (!placed.sources.length) return out
    const listening = solve(asked.listening)
    // Empty, it carries nothing: everything is off, and what comes in fills it.
    const quiet = listening.status === 'ok' ? listening : solve(asked.nothing)
    this.addTo(out, fields.quiet, { point: quiet, placed, share: 1 })
    this.voltsTo(out, fields.listeningV, listening)
    let all: OperatingPoint | null = null
    for (const { sinks, share, isAll } of asked.keyed) {
      const some = sinks && quiet === listening ? solve(sinks) : quiet
      this.addTo(out, fields.mean, { point: some.status === 'ok' ? some : quiet, placed, share })
      if (isAll && some !== quiet) all = some
    }
    all ??= solve(asked.all)
    this.voltsTo(out, fields.keyedV, all)
    this.inputsTo(out, all)
    const { status } = all
    stores.forEach((s, k) => {
      out[fields.keyedA + k] = status === 'ok' ? ampsOf(all, s.part.id) : Infinity
    })
    out[fields.margin] = this.marginOf(out, uses)
    return out
  }

  private marginOf(out: Float64Array, uses: readonly Use[]): number {
    const { stores, inputs, minV } = this.watched
    const { fields } = this
    const volts = uses.map((u, i) => (u.off ? Infinity : out[fields.keyedV + i]! - minV[i]!))
    const inputVolts = inputs.map((input, i) => out[fields.inputV + i]! - input.belowV)
    const amps = stores.map((s, k) => (s.tripA ? s.tripA.amps - out[fields.keyedA + k]! : Infinity))
    return Math.max(-MOST_MARGIN, Math.min(MOST_MARGIN, ...volts, ...inputVolts, ...amps))
  }

  private voltsTo(out: Float64Array, at: number, point: OperatingPoint) {
    const { network, loads } = this.watched
    loads.forEach((id, i) => {
      out[at + i] = point.status === 'ok' ? point.volts[network.nodeOf.get(id)!]! : 0
    })
  }

  private inputsTo(out: Float64Array, point: OperatingPoint) {
    const { network, inputs } = this.watched
    inputs.forEach(({ at }, i) => {
      // Where nothing is carried, it is not the device that cuts out.
      out[this.fields.inputV + i] = point.status === 'ok' ? point.volts[network.nodeOf.get(at)!]! : Infinity
    })
  }

  /** Adds flows and energies of a point, for its share of the time. */
  private addTo(out: Float64Array, at: number, { point, placed, share }: Part) {
    const { network, stores } = this.watched
    const { fields } = this
    if (point.status !== 'ok') return
    const { volts, amps } = point
    const add = (field: number, value: number) => {
      out[at + field]! += share * value
    }
    const loads = (point.condition as Moment).sinks
    for (const [id, sink] of loads) {
      const v = volts[network.nodeOf.get(id)!]!
      if (v > 0) add(fields.loadsW, v * sinkAmps(sink, v))
    }
    for (const s of placed.standing) add(fields.loadsW, volts[s.node]! * sinkAmps(s, volts[s.node]!))
    point.sources.forEach((flow, k) => {
      const source = placed.sources[k]!
      if (source.transfer) return
      const v = volts[flow.node]!
      const store = stores.findIndex(s => s.part.id === flow.partId)
      if (store < 0) {
        add(this.isSun(flow.partId) ? fields.sunW : fields.suppliedW, v * flow.amps)
        return
      }
      const { unit, efficiency } = stores[store]!
      // What its cells give, and what is lost on the way to its terminals.
      const insideW = unit === 'Ah' ? source.emfV * flow.amps : (v * flow.amps) / efficiency
      add(store, unit === 'Ah' ? flow.amps : v * flow.amps)
      add(fields.storesW, insideW)
      add(fields.lossW, insideW - v * flow.amps)
    })
    for (const t of point.transfers) add(fields.lossW, t.inputW - t.outV * t.outA)
    for (let b = 0; b < network.branchCount; b++)
      add(fields.lossW, (volts[network.from[b]!]! - volts[network.to[b]!]!) * amps[b]!)
  }

  private readonly isSun = (partId: string) => this.watched.suns.some(s => s.controllerId === partId)
}

interface Part {
  point: OperatingPoint
  placed: Placed
  share: number
}

/** A margin is a figure that can be reckoned with, wherever a limit is far away. */
const MOST_MARGIN = 1000

/** Less than this is none, A. */
const LEAST_A = 1e-5

/** A point at which a source is asked for more than it gives is none. */
function carried(point: OperatingPoint): OperatingPoint {
  const { sources } = (point.condition as Moment).placed
  const isEmpty = (k: number) => sources[k]!.mostA === 0
  const asksTooMuch = point.sources.some((s, k) => s.limit === 'overdrawn' || (isEmpty(k) && s.amps > LEAST_A))
  return asksTooMuch ? { ...point, status: 'collapses' } : point
}

const nothingOf = (sink: Sink): Sink => ({ ...sink, value: sink.law === 'ohm' ? Infinity : 0 })

const ampsOf = (point: OperatingPoint, partId: string) =>
  point.sources.reduce((sum, s) => (s.partId === partId ? sum + s.amps : sum), 0)

type Sinks = ReadonlyMap<string, Sink>

const sinksOf = (uses: readonly Use[], isKeyed: (use: Use) => boolean): Sinks =>
  new Map(uses.map(u => [u.part.id, isKeyed(u) ? u.full : u.mean]))

/** What the loads ask for in a moment, in every way in which it is solved. */
interface Asked {
  listening: Sinks
  nothing: Sinks
  /** Who has the key down, for what share of the time; null: nobody. `isAll`: that is everything at its most. */
  keyed: { sinks: Sinks | null; share: number; isAll: boolean }[]
  all: Sinks
}

function askedOf(uses: readonly Use[]): Asked {
  const all: Sinks = new Map(uses.map(u => [u.part.id, u.full]))
  const isAll = (sinks: Sinks) =>
    [...sinks].every(([id, s]) => s.law === all.get(id)!.law && s.value === all.get(id)!.value)
  return {
    listening: sinksOf(uses, () => false),
    nothing: new Map(uses.map(u => [u.part.id, nothingOf(u.idle)])),
    keyed: combined(uses.filter(u => u.keyed > 0)).map(({ keys, share }) => {
      const sinks = keys.size ? sinksOf(uses, u => keys.has(u)) : null
      return { sinks, share, isAll: sinks !== null && isAll(sinks) }
    }),
    all,
  }
}

/**
 * Who has the key down together, and for what share of the time: by chance of each other. Followers go with whom they
 * follow. Of many, one at a time: their flows add nearly.
 */
function combined(keyed: readonly Use[]): { keys: Set<Use>; share: number }[] {
  const leaders = keyed.filter(u => !keyed.some(o => o.part.id === u.part.follows))
  const groups = leaders.map(l => ({ of: l.keyed, keys: keyed.filter(u => u === l || u.part.follows === l.part.id) }))
  if (groups.length > MOST_COMBINED) {
    const rest = 1 - groups.reduce((sum, g) => sum + g.of, 0)
    return [{ keys: new Set(), share: rest }, ...groups.map(g => ({ keys: new Set(g.keys), share: g.of }))]
  }
  return Array.from({ length: 2 ** groups.length }, (_, bits) => {
    const on = groups.filter((_g, i) => (bits >> i) & 1)
    const share = groups.reduce((p, g) => p * (on.includes(g) ? g.of : 1 - g.of), 1)
    return { keys: new Set(on.flatMap(g => g.keys)), share }
  })
}

/** Inputs of a plan that cut out under a voltage. */
export function inputsOf({ plan }: Network): Watched['inputs'] {
  return plan.parts.flatMap(part => {
    const kind = kindOf(part)
    const windows = kind.transfers ? kind.windows(part) : []
    const cut = kind.loadCut?.(part)
    return [
      ...windows.map(w => ({ partId: part.id, at: w.at, belowV: w.minV, by: 'input' as const })),
      ...(cut?.belowV === undefined
        ? []
        : [{ partId: part.id, at: cut.at, belowV: cut.belowV, closesV: cut.closesV, by: 'load-cut' as const }]),
    ]
  })
}
