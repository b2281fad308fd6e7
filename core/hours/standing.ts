import { chargeSource, isCutOff, placedTogether, type Placed, type Standing } from '../circuit/placed'
import type { Network } from '../circuit/network'
import { gives, hasEngine, kindOf, type Part } from '../kinds/index'
import type { ChargeOutput, Sink, Source, Transfer } from '../kinds/kind'
import type { Store } from '../kinds/store'
import type { OwnStates } from './ownPacks'
import { arrivesAt, type SunInput } from './panels'

/** A part that holds something which runs out. */
export interface NamedStore extends Store {
  part: Part
}

export const storesOf = ({ plan, around }: Network): NamedStore[] =>
  plan.parts.flatMap(part => {
    const store = kindOf(part).store?.(part, around)
    return store ? [{ ...store, part }] : []
  })

/** What is on at a moment, apart from the loads. */
export interface Running {
  /** Supplies, chargers, vehicles that somebody has on. */
  on: ReadonlySet<string>
  /** Chargers that have filled what hangs on them and hold it. */
  floating: ReadonlySet<string>
  /** Stores that are too cold to be charged, and kept from it. */
  locked: ReadonlySet<string>
  /** Stores that have gone to sleep. */
  asleep: ReadonlySet<string>
  /** Stores that warm themselves. */
  heating: ReadonlySet<string>
  /** Radios that live on their own packs, or fill them. */
  own: OwnStates
  /** Load terminals that have opened. */
  open: ReadonlySet<string>
}

/** How full the stores are and what the sun gives, each in the order of its list. */
export interface Levels {
  charges: readonly number[]
  /** Of each sun input's label. */
  suns: readonly number[]
}

/** What stands in a network while the same is on: said once, then placed for any charges and sun. */
export function placingOf(
  network: Network,
  { stores, suns }: { stores: readonly NamedStore[]; suns: readonly SunInput[] },
  running: Running,
): (levels: Levels) => Placed {
  const { plan, around } = network
  const isOn = (terminal: string) =>
    around(terminal).some(a => running.on.has(a.part.id) || (gives(a.part) && !kindOf(a.part).runsOn))
  const parts = plan.parts.map(part => {
    const kind = kindOf(part)
    const sun = suns.findIndex(s => s.controllerId === part.id)
    const store = stores.findIndex(s => s.part.id === part.id)
    const charges = charging(part, isOn, running)
    const state = charges ? 'charging' : 'nominal'
    const transfers = (kind.transfers?.(part, state, around) ?? []).map(t => floated(t, part, running))
    const output = kind.charge?.(part, around)
    const gives = (given: ChargeOutput | null | undefined): Source[] => {
      const atWork = given && running.floating.has(part.id) ? heldAt(given) : given
      return atWork ? chargeSource(part, transfers, around, atWork) : []
    }
    const fixed = [
      ...(store < 0 ? ownSources(network, part, running) : []),
      ...(output && sun < 0 ? gives(onMains(output, part, running)) : []),
    ]
    const sources = ({ charges, suns: shares }: Levels): Source[] => [
      ...(store < 0 ? [] : storeSources(stores[store]!, charges[store]!, running)),
      ...fixed,
      ...(output && sun >= 0 ? gives(ofSun(output, suns[sun]!, shares[sun]!)) : []),
    ]
    // Panels stand beside the circuit: what a controller takes of them is not drawn twice.
    const sinks = (kind.standing?.(part, 'nominal', around) ?? []).filter(() => !charges || sun >= 0)
    const heaterW = running.heating.has(part.id) ? stores[store]!.cold!.heaterW! : 0
    const heater = (own: readonly Source[]): Sink => ({ at: own[0]?.at ?? part.id, law: 'power', value: heaterW })
    return { partId: part.id, sources, transfers, sinks, heater: heaterW > 0 ? heater : null }
  })
  return levels => {
    const standing: Standing = { sources: [], transfers: [], sinks: [] }
    for (const { partId, sources, transfers, sinks, heater } of parts) {
      const own = sources(levels)
      for (const s of own) standing.sources.push({ ...s, partId })
      for (const t of transfers) standing.transfers.push({ ...t, partId })
      for (const s of heater ? [heater(own), ...sinks] : sinks) standing.sinks.push({ ...s, partId })
    }
    return placedTogether(network, standing)
  }
}

/** Whether a gate or DC-DC charger has something to charge from; others always work. */
function charging(part: Part, isOn: (terminal: string) => boolean, running: Running): boolean {
  const kind = kindOf(part)
  if (kind.runsOn) return running.on.has(part.id)
  const output = kind.transfers && kind.charge?.(part, () => [])
  if (!output) return false
  return kind.passes(part).some(p => p.from !== output.at && isOn(p.from))
}

function ownSources({ plan, around }: Network, part: Part, { on }: Running): Source[] {
  const kind = kindOf(part)
  if (kind.needsController || isCutOff(plan, part, on.has(part.id))) return []
  if (hasEngine(part)) return kind.sources!(part, on.has(part.id) ? 'engine-on' : 'engine-off', around)
  if (kind.runsOn && !on.has(part.id)) return []
  return kind.sources?.(part, kind.runsOn ? 'charging' : 'nominal', around) ?? []
}

function storeSources(store: NamedStore, charge: number, { locked, asleep }: Running): Source[] {
  if (asleep.has(store.part.id)) return []
  const sources = store.sourcesAt(charge)
  return locked.has(store.part.id) ? sources.map(s => ({ ...s, leastA: 0 })) : sources
}

const onMains = (output: ChargeOutput, part: Part, { on }: Running): ChargeOutput | null =>
  on.has(part.id) ? output : null

/** A controller's output for what it has of the sun. */
function ofSun(output: ChargeOutput, input: SunInput, share: number): ChargeOutput | null {
  const arrives = arrivesAt(input, share)
  if (arrives <= 0) return null
  return input.takes === 'amps'
    ? { ...output, maxA: Math.min(output.maxA, arrives) }
    : { ...output, mostW: arrives * input.efficiency }
}

/** What holds a full battery; nothing where it has no such voltage. */
const heldAt = (output: ChargeOutput): ChargeOutput | null =>
  output.floatV === null ? null : { ...output, absorptionV: output.floatV }

/** A way that charges holds its float voltage once what it fills is full. */
function floated(transfer: Transfer, part: Part, { floating }: Running): Transfer {
  const output = kindOf(part).charge?.(part, () => [])
  if (!output || output.at !== transfer.to || !floating.has(part.id)) return transfer
  return { ...transfer, setV: output.floatV ?? transfer.setV, ...(output.floatV === null && { mostA: 0 }) }
}
