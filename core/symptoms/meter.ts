import { chargeWhere } from '../battery/charge'
import { loadsOf } from '../circuit/conditions'
import { kindOf, needs, type LoadPart } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { amps, volts, watts } from '../units/show'

/** What a meter showed in a test, against the plan's own figures: an outcome is not guessed where it was read. */

/** A figure of a test. `before`: the same with the key up, where a fall is asked for. */
export interface Shown {
  read: number
  before?: number
}

/** An outcome, and what it was held against. */
export interface Held {
  outcome: string
  against: string
}

interface Metered {
  unit: 'V' | 'A' | 'W'
  /** A fall is asked for: the figure before as well. */
  falls?: true
  held: (shown: Shown, about: About) => Held | null
}

interface About {
  plan: Plan
  load: LoadPart | null
}

/** So much over the least may be under it by another meter, V. */
const NEARLY_V = 0.05
/** A fall that counts at a battery's posts, V; and what is nothing, of the least. */
const FALL_V = 0.5
const NOTHING = 0.3
/** What a battery holds: over this it is nearly full, under that nearly empty. */
const FULL = 0.75
const EMPTY = 0.2
/** More than this all night flattens a pack, A. */
const DRAIN_A = 0.1
/** A port that gives what is asked gives so much of it; steps of a source that lacks it (USB power delivery), V. */
const ASKED = 0.93
const STEPS_V = [9, 5]
const STEP_OFF_V = 0.5
/** Transmit power: full within a meter's tenth and some; next to none. */
const FULL_POWER = 0.8
const NO_POWER = 0.05

const falls = (read: number, minV: number): string => {
  if (read < NOTHING * minV) return 'nothing'
  return read < minV + NEARLY_V ? 'low' : 'holds'
}

const METERED: Record<string, Metered> = {
  'volts-at-radio-keyed': {
    unit: 'V',
    held: ({ read }, { load }) =>
      load && { outcome: falls(read, needs(load).minV), against: `${nameOf(load)} needs ${volts(needs(load).minV)}` },
  },
  'volts-at-battery-keyed': {
    unit: 'V',
    falls: true,
    held({ read, before }) {
      if (before === undefined || before <= 0) return null
      const against = `${volts(before - read)} less than with the key up`
      if (read < NOTHING * before) return { outcome: 'nothing', against }
      return { outcome: before - read > FALL_V ? 'low' : 'holds', against }
    },
  },
  'rested-volts': { unit: 'V', held: ({ read }, { plan }) => restedAt(plan, read) },
  'drain-all-off': {
    unit: 'A',
    held: ({ read }) => ({ outcome: Math.abs(read) > DRAIN_A ? 'some' : 'none', against: `${amps(DRAIN_A)} is much` }),
  },
  'volts-at-port': {
    unit: 'V',
    held({ read }, { load }) {
      const askedV = load && needs(load).nominalV
      if (!askedV) return null
      const against = `${volts(askedV)} is asked for`
      if (read >= ASKED * askedV) return { outcome: 'asked', against }
      const isStep = STEPS_V.some(step => step < ASKED * askedV && Math.abs(read - step) <= STEP_OFF_V)
      return { outcome: isStep ? 'lower' : 'sags', against }
    },
  },
  'changeover-battery-in': {
    unit: 'V',
    held: ({ read }, { load }) =>
      load && {
        outcome: read < needs(load).minV ? 'dips' : 'steady',
        against: `${nameOf(load)} needs ${volts(needs(load).minV)}`,
      },
  },
  'power-meter': {
    unit: 'W',
    held({ read }, { load }) {
      const fullW = load && 'powerW' in load ? load.powerW : undefined
      if (!fullW) return null
      const against = `${watts(fullW)} is full`
      if (read < NO_POWER * fullW) return { outcome: 'none', against }
      return { outcome: read < FULL_POWER * fullW ? 'down' : 'full', against }
    },
  },
}

/** How full the largest store is by what it rests at. */
function restedAt(plan: Plan, read: number): Held | null {
  const stores = plan.parts.flatMap(part => {
    const store = kindOf(part).store?.(part, () => [])
    return store && store.sourcesAt(1).length ? [{ part, store }] : []
  })
  const [largest] = stores.sort((a, b) => b.store.capacity - a.store.capacity)
  if (!largest) return null
  const restsAt = (charge: number) => largest.store.sourcesAt(charge)[0]!.emfV
  // What holds its voltage says nothing of its charge.
  if (restsAt(1) - restsAt(0) < FALL_V / 2) return null
  const against = `${nameOf(largest.part)} rests at ${volts(restsAt(EMPTY))} to ${volts(restsAt(FULL))}`
  if (read < NOTHING * restsAt(0)) return { outcome: 'nothing', against }
  const charge = chargeWhere(restsAt, read)
  if (charge >= FULL) return { outcome: 'full', against }
  return { outcome: charge <= EMPTY ? 'empty' : 'half', against }
}

/** The unit of the figure that a test may be told by, and whether one before is wanted; null: it has none. */
export function metered(test: string): { unit: 'V' | 'A' | 'W'; falls: boolean } | null {
  const of = METERED[test]
  return of ? { unit: of.unit, falls: of.falls === true } : null
}

/** What a figure makes of a test; null where the plan has nothing to hold it against. */
export function heldAgainst(plan: Plan, test: string, shown: Shown, at?: string): Held | null {
  const loads = loadsOf(plan)
  const load = loads.find(l => l.id === at) ?? loads.find(l => kindOf(l).transmits) ?? loads[0] ?? null
  return METERED[test]?.held(shown, { plan, load }) ?? null
}
