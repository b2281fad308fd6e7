import type { Condition } from './conditions'

/** One operating point: volts per node, amps per branch (from → to). Arrays belong to the point. */
export interface OperatingPoint {
  condition: Condition
  status: 'ok' | 'collapses'
  volts: Float64Array
  amps: Float64Array
  /** Converters at work: what each gives and takes. */
  transfers: readonly WorkingTransfer[]
  /** What every source gives, in the order in which they are placed. */
  sources: readonly SourceFlow[]
  /** Where it collapses: the part of its loads' draw that the sources could still carry (0–1), and of which loads. */
  most?: { share: number; of: 'constant-power loads' | 'all loads' }
}

/** A source at an operating point. */
export interface SourceFlow {
  partId: string
  node: number
  amps: number
  /** At its limit: it gives all it can and its voltage falls, or (`overdrawn`) is asked for more than that. */
  limit?: 'gives-most' | 'overdrawn'
}

/** A converter at an operating point. */
export interface WorkingTransfer {
  partId: string
  node: number
  fromNode: number
  outV: number
  outA: number
  inputW: number
}
