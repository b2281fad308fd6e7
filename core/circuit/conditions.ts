import { isCharging, type SourceState } from '../battery/emf'
import { gives, hasEngine, isLoad, kindOf, type LoadPart, type Part } from '../kinds/index'
import type { Sink } from '../kinds/kind'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'

/** One state of the whole station. `id` is `sourceState/loadState`, as `low/all` or `charging/only:hf`. */
export interface Condition {
  id: string
  source: SourceState
  loadState: string
  /** Parts that are active, with the transmit power where it is not the one set. */
  active: ReadonlyMap<string, number | undefined>
  /** The plan's vehicle stands with its engine off: what the ignition switches takes nothing. */
  engineOff: boolean
  /** Loads that cannot be carried with the others: they drop out, and those are judged without them. */
  off?: ReadonlySet<string>
  /** The condition as it was asked for, with these on. */
  asked?: Condition
}

const STATES: readonly SourceState[] = ['charging', 'bulk', 'full', 'nominal', 'low', 'engine-on', 'engine-off']
const BATTERY_STATES: readonly SourceState[] = STATES.slice(0, 5)

/** Whether a part can put anything into a battery; without such a one no state of charging differs from the others. */
function canCharge(part: Part): boolean {
  const kind = kindOf(part)
  return (gives(part) && !kind.stores) || Boolean(kind.charge) || Boolean(kind.transfers)
}

/**
 * States of the sources a plan goes through: those of its batteries; without one, the sources' own, or only `nominal`.
 */
export function sourceStatesOf(plan: Plan): SourceState[] {
  const seen = new Set(plan.parts.flatMap(part => kindOf(part).sourceStates?.(part) ?? []))
  const possible = plan.parts.some(p => kindOf(p).stores) ? BATTERY_STATES : STATES
  const isCharged = plan.parts.some(canCharge)
  const states = possible.filter(s => seen.has(s) && (isCharged || !isCharging(s)))
  return states.length ? states : ['nominal']
}

export type { LoadPart }
export function loadsOf(plan: Plan): LoadPart[] {
  return plan.parts.filter(isLoad)
}

/** The loads that transmit. */
export const transmittersOf = (plan: Plan): LoadPart[] => loadsOf(plan).filter(l => kindOf(l).transmits)

/** Adds to a set of active parts all that follow one of them, and theirs. */
function withFollowers(loads: LoadPart[], active: Map<string, number | undefined>): Map<string, number | undefined> {
  for (let before = -1; before !== active.size;) {
    before = active.size
    for (const part of loads) {
      if (active.has(part.follows!) && !active.has(part.id)) active.set(part.id, undefined)
    }
  }
  return active
}

interface LoadStateOf {
  id: string
  active: Map<string, number | undefined>
}

/** Every load state: idle, all, only each one that follows nothing, and the plan's own. */
export function loadStatesOf(plan: Plan): LoadStateOf[] {
  const loads = loadsOf(plan)
  const named = (plan.loadStates ?? []).map(state => ({
    id: state.id,
    active: withFollowers(
      loads,
      new Map(state.active.map(e => (typeof e === 'string' ? [e, undefined] : [e.part, e.powerW]))),
    ),
  }))
  return [
    { id: 'idle', active: new Map() },
    { id: 'all', active: new Map(loads.map(l => [l.id, undefined])) },
    ...loads
      .filter(l => l.follows === undefined)
      .map(l => ({ id: `only:${l.id}`, active: withFollowers(loads, new Map([[l.id, undefined]])) })),
    ...named,
  ]
}

/** The whole matrix of conditions, source state by source state. */
export function conditionsOf(plan: Plan): Condition[] {
  const loadStates = loadStatesOf(plan)
  const engine = plan.parts.some(hasEngine)
  return sourceStatesOf(plan).flatMap(source =>
    loadStates.map(state => ({
      id: `${source}/${state.id}`,
      source,
      loadState: state.id,
      active: state.active,
      engineOff: engine && source !== 'engine-on' && !isCharging(source),
    })),
  )
}

/** What a load of a law takes that takes nothing. */
export const NOTHING = { current: 0, power: 0, ohm: Infinity } as const

/** What a load takes in a condition; undefined for a part that is none. */
export function sinkIn(part: Part, { active, engineOff, off }: Condition): Sink | undefined {
  const kind = kindOf(part)
  const sink = kind.sink?.(part, active.has(part.id), active.get(part.id))
  const isOff = off?.has(part.id) || (engineOff && kind.withIgnition?.(part))
  return sink && isOff ? { ...sink, value: NOTHING[sink.law] } : sink
}

/** The condition of that name, or in words why there is none. */
export function findCondition(plan: Plan, id: string): Condition | string {
  const all = conditionsOf(plan)
  const found = all.find(c => c.id === id)
  if (found) return found
  const { sources, loads } = statesInWords(plan)
  return `There is no condition ${id} in this plan. Source states: ${sources}; load states: ${loads}.`
}

/** So many load states are told of a plan that has more. */
const MOST_STATES_NAMED = 20

/** Of what conditions are named: source states and load states. */
export function statesInWords(plan: Plan): { sources: string; loads: string } {
  const loads = loadStatesOf(plan).map(s => s.id)
  const named = `${loads.slice(0, MOST_STATES_NAMED).join(', ')}${loads.length > MOST_STATES_NAMED ? ', …' : ''}`
  return { sources: sourceStatesOf(plan).join(', '), loads: named }
}

const SOURCE_WORDS: Record<SourceState, string> = {
  charging: 'end of charge',
  bulk: 'charging from low',
  full: 'full',
  nominal: 'half full',
  low: 'nearly empty',
  'engine-on': 'engine on',
  'engine-off': 'engine off',
}

/** "nearly empty, all active" */
export const conditionWords = (plan: Plan, id: string): string => conditionNames(plan)(id)

/** The same for many of them. */
export function conditionNames(plan: Plan): (id: string) => string {
  const hasBattery = plan.parts.some(p => kindOf(p).sourceStates)
  const loadStateName = loadStateNames(plan)
  return id => {
    const [source, loadState] = splitCondition(id)
    const words = loadStateName(loadState)
    return hasBattery ? `${SOURCE_WORDS[source as SourceState] ?? source}, ${words}` : words
  }
}

export function sourceStateWords(state: SourceState): string {
  return SOURCE_WORDS[state]
}

/** The words for a plan's load states: "all active", "HF radio transmits". */
export function loadStateNames(plan: Plan): (loadState: string) => string {
  const parts = new Map(plan.parts.map(p => [p.id, p]))
  return loadState => {
    if (loadState === 'idle') return 'all idle'
    if (loadState === 'all') return 'all active'
    if (!loadState.startsWith('only:')) return plan.loadStates?.find(s => s.id === loadState)?.name ?? loadState
    const part = parts.get(loadState.slice(5))
    return part ? `${nameOf(part)} ${kindOf(part).transmits ? 'transmits' : 'on'}` : loadState
  }
}

/** `low/all` → [`low`, `all`] */
export function splitCondition(id: string): [source: string, loadState: string] {
  const slash = id.indexOf('/')
  return [id.slice(0, slash), id.slice(slash + 1)]
}
