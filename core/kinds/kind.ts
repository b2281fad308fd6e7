import type { z } from 'zod'
import type { SourceState } from '../battery/emf'
import type { Efficiency, SupplyWindow } from './fields'
import type { Part } from './index'

/** Where a lead lands. `id` is the terminal's full name in the plan: `partId` or `partId.terminal`. */
export interface Terminal {
  id: string
  connector?: string
  sex?: 'plug' | 'socket'
  /** Limit of this outlet or port itself, beyond its connector's, A. */
  ratedA?: number
  /** The fuse that sits between this terminal and the rest of its part. */
  fuse?: { type: string; ratedA: number; ohm?: number }
}

/** A resistance inside a part, between two of its own nodes; 0 Ω makes them one node. A diode passes current from a to b. */
export interface Link {
  a: string
  b: string
  ohm: number
  diode?: { saturationA: number; emission: number; seriesOhm: number; count: number }
}

/** A source at a terminal: an EMF behind a resistance; 0 Ω holds the terminal at the EMF. */
export interface Source {
  at: string
  emfV: number
  ohm: number
}

/** What a load takes at its terminal: amps, watts or ohms by `law`. */
export interface Sink {
  at: string
  law: 'current' | 'power' | 'ohm'
  value: number
}

/**
 * Power that a part takes at one terminal and gives at another, at a voltage of its own: the two sides are networks apart.
 * It holds `setV`, within what `relation` allows: a buck at most its input less `dropV`, a boost at least that; a gate follows its input.
 */
export interface Transfer {
  from: string
  to: string
  relation: 'at-most-input' | 'at-least-input' | 'any' | 'follows-input'
  setV: number
  dropV: number
  idleW: number
  efficiency: Efficiency
}

/** What a part puts into a battery: at which terminal, to which voltages, with which current at most; and what it takes for that elsewhere. */
export interface ChargeOutput {
  at: string
  chemistry: string | undefined
  absorptionV: number | null
  floatV: number | null
  maxA: number
}

/** Parts that stand on the same wire as a terminal: joined by leads, blocks and joints, with nothing between that changes the voltage. */
export type Around = (terminal: string) => readonly { part: Part; terminal: string }[]

/** States a source takes part in: a battery's own ones, or none (a supply has only its setting). */
export type SourceStates = readonly SourceState[]

export type Quantity =
  | 'text'
  | 'yes'
  | 'voltage'
  | 'current'
  | 'power'
  | 'resistance'
  | 'charge'
  | 'count'
  | 'fraction'
  | 'connector'
  | 'choice'
  | 'mass'
  | 'length'
  | 'energy'
  | 'frequency'

/** One line of a part's form: where the figure stands in the part, what to call it, how it is entered. */
export interface FormField {
  path: string
  label: string
  quantity: Quantity
  choices?: readonly string[]
  /** Shown only while this holds of the part. */
  when?: (part: Record<string, unknown>) => boolean
}

/** A list inside a part, as a battery's packs: one line of the form for each entry. */
export interface FormList {
  path: string
  label: string
  /** What one entry is called. */
  one: string
  /** A new entry. */
  fresh: (part: Record<string, unknown>) => Record<string, unknown>
  fields: readonly FormField[]
}

export interface CatalogueRow<P> {
  id: string
  label: string
  part: Omit<P, 'id'>
  source: string
}

/** All that the program knows of one kind of part. A new kind is one file that makes one of these, listed in index.ts. */
export interface PartKind<P extends { id: string; kind: string }> {
  kind: P['kind']
  label: string
  role: 'source' | 'between' | 'load'
  schema: z.ZodType<P>
  /** Terminals of a part; `used` names those that leads land on, for kinds that grow them as needed. */
  terminals: (part: P, used: readonly string[]) => Terminal[]
  /** Terminal by which it is joined to what feeds it (a source: to what it feeds); unsaid: the one named by its id alone. */
  entry?: (part: P) => string
  /** Nodes and resistances inside the part. */
  links?: (part: P, used: readonly string[]) => Link[]
  /** Its sources in a state. */
  sources?: (part: P, state: SourceState, around: Around) => Source[]
  /** Power changed from one terminal to another in a state, or null. */
  transfer?: (part: P, state: SourceState, around: Around) => Transfer | null
  /** What it takes whether anything is active or not. */
  standing?: (part: P, state: SourceState, around: Around) => Sink[]
  /** How it charges a battery; null where it does not. */
  charge?: (part: P, around: Around) => ChargeOutput | null
  /** What voltage it needs at its input. */
  window?: (part: P) => { at: string; window: SupplyWindow } | null
  /** Switching frequency of its power stage, Hz; undefined where it has none or it is not known. */
  switching?: (part: P) => { hz?: number; what: string } | null
  /** States of charge this source goes through; none for one that has a single state. */
  sourceStates?: (part: P) => SourceStates
  /** What it takes; `powerW` chooses one of a radio's levels other than the one it is set to. */
  sink?: (part: P, active: boolean, powerW?: number) => Sink
  catalogue: readonly CatalogueRow<P>[]
  form: readonly FormField[]
  lists?: readonly FormList[]
  /** The two terminals by which it goes into the middle of a lead. */
  between?: readonly [string, string]
}
