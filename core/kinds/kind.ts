import type { z } from 'zod'
import type { SourceState } from '../battery/emf'
import type { Caution } from '../catalog/cautions'
import type { ChargeProfiles, Efficiency } from './fields'
import type { Part } from './index'
import type { LoadCut, OwnPack, Store, SunTaking } from './store'

/** A fuse or breaker as a part or a lead holds it. */
export interface Opener {
  kind: 'fuse' | 'breaker'
  type: string
  ratedA: number
  ohm?: number
  /** What it says itself that it can break, V and A. */
  ratedV?: number
  breakingA?: number
}

/** Where a lead lands. `id` is the terminal's full name in the plan: `partId` or `partId.terminal`. */
export interface Terminal {
  id: string
  connector?: string
  sex?: 'plug' | 'socket'
  /** Limit of this outlet or port itself, beyond its connector's, A. */
  ratedA?: number
  /** The check that judges `ratedA` in words of its own; unsaid: port-rating. */
  ratedBy?: string
  /** The fuse or breaker that sits between this terminal and the rest of its part. */
  opener?: Opener
  /** Where the part says them, as `ports.0.connector`; absent where they are the device's own and cannot be changed. */
  fields?: { connector?: string; opener?: string }
}

/**
 * A resistance inside a part, between two of its own nodes; 0 Ω makes them one node. A diode passes current from a to
 * b.
 */
export interface Link {
  a: string
  b: string
  ohm: number
  diode?: { saturationA: number; emission: number; seriesOhm: number; count: number }
}

/**
 * A way inside a part from one terminal to another that is no resistance of its operating point: a gate's, a
 * converter's.
 * Behind it things are live; `faultOhm` says what a short behind it is fed through, null where nothing of a short's
 * current passes.
 */
export interface Pass {
  from: string
  to: string
  faultOhm: number | null
}

/**
 * A source at a terminal: an EMF behind a resistance; 0 Ω holds the terminal at the EMF. Beyond `mostA` it gives just
 * that, at whatever voltage results; under `leastA` it takes no more than that: 0 for what never sinks.
 */
export interface Source {
  at: string
  emfV: number
  ohm: number
  leastA?: number
  mostA?: number
  /** In place of EMF and resistance: volts and amps of a falling curve, straight lines between, flat beyond. */
  curve?: readonly (readonly [volts: number, amps: number])[]
}

/** What a load takes at its terminal: amps, watts or ohms by `law`. */
export interface Sink {
  at: string
  law: 'current' | 'power' | 'ohm'
  value: number
}

/**
 * What a part drives into a dead short at a terminal: an EMF behind a resistance, or no more than a limit of its own.
 * `by`: by itself; out of what its input gets; or only while it charges a battery.
 */
export type IntoShort = { at: string; by: 'itself' | 'input' | 'charging' } & (
  | {
      kind: 'emf'
      emfV: number
      ohm: number
      /** Its management system's likely trip, A: not counted on. */ tripA?: number
    }
  | {
      kind: 'limited'
      volts: number
      amps: number
      /** By its nature or a limit that does not fail, as a panel's: fuse enough for a conductor that carries it. */
      sure: boolean
    }
)

/**
 * What a part takes at one terminal and gives at another, at a voltage of its own: the two sides are networks apart.
 * It holds `setV`, within what `relation` allows: a buck at most its input less `dropV`, a boost at least that; a gate
 * follows its input. For what it gives it `takes` the power, over its efficiency, as what switches does; or the very
 * current, as a gate or a linear regulator does. `idleW` is taken besides.
 */
export interface Transfer {
  from: string
  to: string
  relation: 'at-most-input' | 'at-least-input' | 'any' | 'follows-input'
  takes: 'power' | 'current'
  setV: number
  dropV: number
  idleW: number
  /** Of what takes power; a current passed on has that of its voltages. */
  efficiency: Efficiency
  /** What its output gives at most, A; unsaid: all that is asked. It never sinks. */
  mostA?: number
}

/**
 * What a part puts into a battery: at which terminal, to which voltages, with which current at most; and what it takes
 * for that elsewhere.
 */
export interface ChargeOutput {
  at: string
  chemistry: string | undefined
  absorptionV: number | null
  floatV: number | null
  maxA: number
  /** Where what it gets is a power, as from a panel at its best point, W. */
  mostW?: number
  /** Fields of the part that say what it is set to, the profiles it has, and its current. */
  fields: { set: string; profiles: string; current: string }
  profiles: ChargeProfiles
  /** It does not charge under the battery's lowest temperature. */
  lockOut?: boolean
  /** Currents it can be set to, A; unsaid: it is what it is. */
  choicesA?: readonly number[]
}

/** Voltages a part stands at a terminal. */
export interface Window {
  at: string
  minV: number
  nominalV?: number
  maxV: number
  /** Field of the part that says it, as `supply`. */
  field: string
  /** Above it somebody may be hurt: a capacitor bursts, a cell vents. */
  hurts?: boolean
  /** The check that judges it; unsaid: part-window. */
  judgedBy?: string
}

/** Current a part gives or passes in all, A. */
export interface Limit {
  of: 'gives' | 'passes'
  continuousA: number
  peakA?: number
  /** Fields of the part that say it. */
  fields: readonly string[]
  /** The check that judges it in words of its own; unsaid: source-rating, block-rating. */
  judgedBy?: string
}

/** How a part may make noise. */
export interface NoiseClass {
  /**
   * Prior odds to be the noisy one, from what operators report of the class: how hard it switches, how little it is
   * filtered.
   */
  odds: number
  /** Has an AC side, by which noise can leave. */
  hasMains?: boolean
  /** Needs sun to work. */
  needsSun?: boolean
  /** Terminal that carries its noise straight into what hangs on it. */
  loadTerminal?: string
}

/** What is done with a part when a station is connected. */
export interface HookUpRule {
  /**
   * When its leads are connected: what gives power by itself; what takes its voltage from the battery, so that it comes
   * right after;
   * what charges; the sun; loads last.
   */
  turn: 'gives' | 'readsBattery' | 'sun' | 'between' | 'load'
  /** How live its terminals are while a lead is being connected: 0 dead … 3 a battery. Its end comes last. */
  live: 0 | 1 | 2 | 3
  /** It is dead until somebody does this: plugs it in, uncovers it. Unsaid: its terminals are live as they stand. */
  wakes?: string
  /** What to meter there before the lead goes on. */
  meter?: string
  caution?: string
}

/**
 * Parts that stand on the same wire as a terminal: joined by leads, blocks and joints, with nothing between that
 * changes the voltage.
 */
export type Around = (terminal: string) => readonly { part: Part; terminal: string }[]

/** Where nothing stands around, for questions that do not turn on it. */
export const ALONE: Around = () => []

export type Quantity =
  | 'text'
  /** Words of several lines. */
  | 'note'
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
  | 'temperature'
  /** A bare number, of either sign. */
  | 'number'
  /** Three lengths in millimetres. */
  | 'size'
  /** Several words, or several currents, parted by commas. */
  | 'words'
  | 'currents'
  /** Another part, several of them, a place of the site: chosen by their names. */
  | 'part'
  | 'parts'
  | 'zone'
  | 'terminal'
  /** A conductor's size; a supply window, as a manual prints it. */
  | 'conductor'
  | 'window'

export interface Choice {
  id: string
  label: string
}

/** One line of a part's form: where the figure stands in the part, what to call it, how it is entered. */
export interface FormField {
  path: string
  label: string
  quantity: Quantity
  choices?: readonly string[] | readonly Choice[]
  /** Shown only while this holds of the part. */
  when?: (part: Record<string, unknown>) => boolean
  /** Seldom asked: it stands below the rest. */
  more?: true
  /** A choice that has to be made: there is no none of them. */
  must?: true
  /** An object of which it is a required member: how it begins where it is not there yet. */
  within?: { path: string; fresh: (value: unknown) => Record<string, unknown> }
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
  /** Its entries have keys in place of numbers: what a key is called, and those there are. */
  keyed?: { label: string; choices: (part: Record<string, unknown>) => readonly Choice[] }
  /** It has so many entries or none: what it begins with. */
  begins?: readonly Record<string, unknown>[]
  /** Seldom asked: it stands below the rest. */
  more?: true
}

export interface CatalogueRow<P> {
  id: string
  label: string
  part: Omit<P, 'id'>
  source: string
}

interface Common<P extends { id: string; kind: string }> {
  kind: P['kind']
  label: string
  schema: z.ZodType<P>
  /** Terminals of a part; `used` names those that leads land on, for kinds that grow them as needed. */
  terminals: (part: P, used: readonly string[]) => Terminal[]
  /**
   * Terminal by which it is joined to what feeds it (a source: to what it feeds); unsaid: the one named by its id
   * alone.
   */
  entry?: (part: P) => string
  /** The next terminal of a kind that grows them, where another lead may land. */
  nextTerminal?: (part: P, used: readonly string[]) => string | null
  /** Nodes and resistances inside the part. */
  links: (part: P, used: readonly string[]) => Link[]
  /** Ways through it that are no resistance. */
  passes: (part: P) => Pass[]
  /** The two terminals by which it goes into the middle of a lead. */
  between?: readonly [string, string]
  /** A part that can be opened by hand: what it is called then, and itself closed. */
  opens?: (part: P) => { words: string; ends: readonly [string, string]; closed: P }
  /**
   * A list of the part's own terminals, each with an id: its field, and ids that are taken by others of its terminals.
   */
  ports?: { field: string; reserved: readonly string[]; /** Loads are added on its free ones. */ distributes: boolean }

  /** Other parts that it names: the field, and the id or ids that stand there. */
  mentions?: (part: P) => { field: string; ids: string | readonly string[] }[]

  /** What it drives into a dead short at its terminals. A BMS counts for nothing. */
  intoShort: (part: P) => IntoShort[]
  /** Voltages it stands; every one is judged by exactly one check. */
  windows: (part: P) => Window[]
  /**
   * Currents it gives or passes in all; every one is judged by exactly one check. Those of single terminals stand
   * there.
   */
  limits: (part: P, around: Around) => Limit[]
  /**
   * Highest voltage its terminals ever stand at, V, where that is none of its states' EMFs: a panel's on the coldest
   * morning.
   */
  highestV?: (part: P, lowestC: number) => number

  /** Power changed from one terminal to another in a state. */
  transfers?: (part: P, state: SourceState, around: Around) => Transfer[]
  /** What it takes whether anything is active or not. */
  standing?: (part: P, state: SourceState, around: Around) => Sink[]
  /** How it charges a battery; null where it does not. */
  charge?: (part: P, around: Around) => ChargeOutput | null
  /** It works only while somebody has this on. */
  runsOn?: 'mains' | 'engine'
  /** The battery that cranks its engine, Ah; `assumed` where it does not say. */
  starter?: (part: P) => { ah: number; assumed: boolean }
  /** How it takes the sun; null where no panel feeds it. */
  takesSun?: (part: P, around: Around) => SunTaking | null
  loadCut?: (part: P) => LoadCut | null
  /** The volts at its terminal outside of which it shows a warning. */
  warns?: (part: P) => { underV?: number | undefined; overV?: number | undefined }
  /** The same, as it was found: resting at so many volts where the plan takes it as full. */
  restingAt?: (part: P, volts: number) => P
  /** A larger or smaller one of the same make-up: what it holds, gives, weighs and costs goes with its size. */
  sized?: (part: P, factor: number) => P
  /** What a charging device on it has to be set to; null where it is not charged in its place. */
  settingFor?: (part: P) => { chemistry: string; seriesCells: number; maxChargeA?: number } | null
  /** What hangs on an AC source takes of it at full output, W. */
  acInputW?: (part: P) => number

  /**
   * Short lines about it: what its box says under its name (of other parts, by theirs), and its
   * one line where it stands in a row.
   */
  says: { box: (part: P, named: (id: string) => string) => string[]; line: (part: P) => string }
  /** It stands under the battery it fills and not in the way to the loads, or (a generator) by itself. */
  stands?: (part: P, used: readonly string[]) => 'inPath' | 'fills' | 'alone'

  /** How it may make noise; null: it cannot. */
  noise: NoiseClass | null
  /** Switching frequency of its power stage, Hz; undefined where it has none or it is not known. `what`: no article. */
  switching?: (part: P) => { hz?: number; what: string } | null
  /** Largest current it works with, A: its noise may begin somewhere below. */
  worksWithA?: (part: P) => number | undefined

  /** What it is on the shelf and on a shopping list; unsaid: itself, by its own name. */
  stock?: (part: P) => { key: string; what?: string; cost?: number }
  hookUp: (part: P, lowestC: number) => HookUpRule
  /** Dangers that one line on every sheet must name. */
  cautions: (part: P) => readonly Caution[]
  catalogue: readonly CatalogueRow<P>[]
  /**
   * What else changes where a field is set by hand, so that one figure stands in one place: fields and their
   * values.
   */
  goesAlong?: (part: P, path: string, value: unknown) => Readonly<Record<string, unknown>>
  form: readonly FormField[]
  lists?: readonly FormList[]
}

/** States of charge that a source goes through. */
export type SourceStates = readonly SourceState[]

interface SourceKind<P> {
  role: 'source'
  /** Its sources in a state. */
  sources: (part: P, state: SourceState, around: Around) => Source[]
  /** What it holds that runs out; null: it goes on as long as what feeds it. */
  store: (part: P, around: Around) => Store | null
  /** States this source goes through; none for one that has a single state. */
  sourceStates?: (part: P) => SourceStates
  /** The plan's states are those of what stores its energy; other sources take part in them. */
  stores?: boolean
  /** It powers nothing by itself: it wants a controller. */
  needsController?: boolean
  /** Goes to sleep below this current, A. */
  autoOffA?: (part: P) => number | undefined
  needs?: undefined
  sink?: undefined
  levels?: undefined
  transmits?: undefined
  transmitShare?: undefined
  ownPack?: undefined
  withIgnition?: undefined
  runsByItself?: undefined
}

interface BetweenKind {
  role: 'between'
  sources?: undefined
  store?: undefined
  sourceStates?: undefined
  stores?: undefined
  needsController?: undefined
  autoOffA?: undefined
  needs?: undefined
  sink?: undefined
  levels?: undefined
  transmits?: undefined
  transmitShare?: undefined
  ownPack?: undefined
  withIgnition?: undefined
  runsByItself?: undefined
}

interface LoadKind<P> {
  role: 'load'
  /** The voltages it needs where it is fed. */
  needs: (part: P) => Window
  sources?: undefined
  store?: undefined
  sourceStates?: undefined
  stores?: undefined
  needsController?: undefined
  autoOffA?: undefined
  /** What it takes; `powerW` chooses one of a radio's levels other than the one it is set to. */
  sink: (part: P, active: boolean, powerW?: number) => Sink
  /** Currents it can be set to take. */
  levels?: (part: P) => readonly { powerW: number; activeA: number }[]
  /** A transmitter: "hf transmits", where other loads are on. */
  transmits: boolean
  /** Share of its full power at a voltage; null where it does not say. */
  transmitShare?: (part: P, volts: number) => number | null
  /** A pack of its own, on which it goes on; unknown where it does not say what that holds. */
  ownPack?: (part: P) => OwnPack | 'unknown' | null
  /** Off with a vehicle's engine. */
  withIgnition?: (part: P) => boolean
  /** Goes on without anybody touching it. */
  runsByItself?: (part: P) => boolean
}

/**
 * All that the program knows of one kind of part. A new kind is one file that makes one of these, and its line in
 * all.ts. Members are
 * required wherever silence would be dangerous.
 */
export type PartKind<P extends { id: string; kind: string }> = Common<P> & (SourceKind<P> | BetweenKind | LoadKind<P>)

/** The limit of all that passes a part, where it says one, A. */
export function totalLimit(ratedA: number | undefined): Limit[] {
  return ratedA === undefined ? [] : [{ of: 'passes', continuousA: ratedA, fields: ['ratedA'] }]
}
