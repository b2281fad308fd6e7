import type { z } from 'zod'
import type { SourceState } from '../battery/emf'

/** Where a lead lands. `id` is the terminal's full name in the plan: `partId` or `partId.terminal`. */
export interface Terminal {
  id: string
  connector?: string
  sex?: 'plug' | 'socket'
  /** Limit of this outlet or port itself, beyond its connector's, A. */
  ratedA?: number
  /** The fuse that sits between this terminal and the rest of its part. */
  fuse?: { type: string, ratedA: number, ohm?: number }
}

/** A resistance inside a part, between two of its own nodes; 0 Ω makes them one node. */
export interface Link { a: string, b: string, ohm: number }

/** A source at a terminal: an EMF behind a resistance; 0 Ω holds the terminal at the EMF. */
export interface Source { at: string, emfV: number, ohm: number }

/** What a load takes at its terminal: amps, watts or ohms by `law`. */
export interface Sink { at: string, law: 'current' | 'power' | 'ohm', value: number }

/** States a source takes part in: a battery's own ones, or none (a supply has only its setting). */
export type SourceStates = readonly SourceState[]

export type Quantity =
  | 'text' | 'voltage' | 'current' | 'power' | 'resistance' | 'charge' | 'count' | 'fraction' | 'connector' | 'choice' | 'mass' | 'length' | 'energy'

/** One line of a part's form: where the figure stands in the part, what to call it, how it is entered. */
export interface FormField {
  path: string
  label: string
  quantity: Quantity
  choices?: readonly string[]
  /** Shown only while this holds of the part. */
  when?: (part: Record<string, unknown>) => boolean
}

export interface CatalogueRow<P> {
  id: string
  label: string
  part: Omit<P, 'id'>
  source: string
}

/** All that the program knows of one kind of part. A new kind is one file that makes one of these, listed in index.ts. */
export interface PartKind<P extends { id: string, kind: string }> {
  kind: P['kind']
  label: string
  role: 'source' | 'between' | 'load'
  schema: z.ZodType<P>
  /** Terminals of a part; `used` names those that leads land on, for kinds that grow them as needed. */
  terminals: (part: P, used: readonly string[]) => Terminal[]
  /** Nodes and resistances inside the part. */
  links?: (part: P, used: readonly string[]) => Link[]
  /** The source in a state, or null where it gives nothing. */
  source?: (part: P, state: SourceState) => Source | null
  /** States of charge this source goes through; none for one that has a single state. */
  sourceStates?: (part: P) => SourceStates
  /** What it takes; `powerW` chooses one of a radio's levels other than the one it is set to. */
  sink?: (part: P, active: boolean, powerW?: number) => Sink
  catalogue: readonly CatalogueRow<P>[]
  form: readonly FormField[]
}
