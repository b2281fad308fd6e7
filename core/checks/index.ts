import { arrivalOver, arrivalUnder, collapse, drop, powerSag } from './arrival'
import type { Check } from './check'
import { ampacity, copperClad } from './conductor'
import { connectorConductor, connectorHeat, connectorMating, connectorRating, matedTwice } from './connector'
import { dropperDirection, dropperIdle, dropperRating } from './dropper'
import { fuseMissing, fuseNuisance, fuseOverConductor, fusePlace } from './fuse'
import { partRating, portRating } from './ratings'
import { batteryContinuous, batteryDepth, batteryPeak, island, sourcesJoined, supplyOverload } from './source'

/** Every check there is; a new one is its file and a line here. */
export const CHECKS: readonly Check[] = [
  fuseMissing, fusePlace, fuseOverConductor, fuseNuisance,
  ampacity, copperClad,
  arrivalUnder, arrivalOver, collapse, drop, powerSag,
  batteryPeak, batteryContinuous, batteryDepth, supplyOverload, sourcesJoined, island,
  partRating, portRating,
  connectorMating, connectorRating, connectorHeat, connectorConductor, matedTwice,
  dropperIdle, dropperRating, dropperDirection,
]
