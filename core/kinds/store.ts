import type { Source } from './kind'
import type { Panel } from './panel'

/** What a part holds, and what it takes of the sun: for its course over time. */

/**
 * What a source holds that runs out. `unit`: charge at its own voltage, or energy of its cells, of which `efficiency`
 * comes out at its terminals.
 */
export interface Store {
  unit: 'Ah' | 'Wh'
  capacity: number
  /** As makers print it: of its cells, at their usual volts. */
  printedWh: number
  chemistry: string | undefined
  efficiency: number
  /** What it gives at its terminals at a charge, 0–1, and takes where it can be charged there. */
  sourcesAt: (charge: number) => Source[]
  /** Where its law bends between 0 and 1. */
  bends: readonly number[]
  /** What its charge falls by, for an amp that goes out, A. */
  countedA: (amps: number) => number
  /** What of a charge put in is there to be taken out. */
  chargeEfficiency: number
  /** Of its capacity, what is left at a temperature. */
  coldShare: (celsius: number) => number
  /** The charge at which its owner stops, and what says so. */
  endOfUse: { charge: number; by: 'usable fraction' | 'stop voltage' | 'empty' }
  /** Current at which it cuts off, A, and how surely that is known. */
  tripA?: { amps: number; assumed?: string }
  /** It goes to sleep below this, A. */
  autoOffA?: number
  /** It is not to be charged under this, °C; `lockOut`: and is not; `heaterW`: it warms itself first. */
  cold?: { chargeAboveC: number; lockOut: boolean; heaterW?: number }
  /** Full cycles and years that it says it lasts. */
  lasts: { cycles?: number; years?: number }
  /** Figures that nobody stated, in words. */
  assumed: readonly string[]
}

/** What of a bank's cells comes out at its ports (typical of the class; makers print what the cells hold). */
export const BANK_EFFICIENCY = 0.88

interface SaidOfBank {
  autoOffA?: number
  cycleLife?: number
  lifeYears?: number
}

/** A bank that says its energy: it gives as it stands until its cells are empty. */
export function bankOf(energyWh: number, sourcesAt: Store['sourcesAt'], said: SaidOfBank): Store {
  const { autoOffA, cycleLife: cycles, lifeYears: years } = said
  return {
    unit: 'Wh',
    capacity: energyWh,
    printedWh: energyWh,
    chemistry: undefined,
    efficiency: BANK_EFFICIENCY,
    sourcesAt: charge => (charge > 0 ? sourcesAt(charge) : []),
    bends: [],
    countedA: amps => amps,
    chargeEfficiency: 1,
    coldShare: () => 1,
    endOfUse: { charge: 0, by: 'empty' },
    ...(autoOffA !== undefined && { autoOffA }),
    lasts: { cycles, years },
    assumed: [`of its cells' energy ${100 * BANK_EFFICIENCY} % comes out at its ports`],
  }
}

/** How a controller takes what the sun gives. */
export interface SunTaking {
  /** A tracking one takes the panels' best power, a switch their current. */
  takes: 'watts' | 'amps'
  panels: readonly Panel[]
  /** Of the watts it takes, what comes out. */
  efficiency: number
}

/** A pack inside a radio, on which it goes on when its supply is too low. */
export interface OwnPack {
  wh: number
  /** What the radio takes of it, listening and at the most it transmits on it, W. */
  idleW: number
  fullW: number
  /** The most it transmits on it, where it says so, W. */
  mostW?: number
  /** It goes back to its supply at so much, V. */
  backAtV: number
  /** It is filled above so much, V: by so much of its charge an hour, for so much at the inlet, W at V. */
  chargesAboveV: number
  fillPerHour: number
  fillW: number
  fillV: number
  chargedInUse: boolean
}

/** When a terminal for loads is opened by its part. */
export interface LoadCut {
  at: string
  belowV?: number
  /** It closes again there, V; `closesAssumed`: as is usual in its class. */
  closesV?: number
  closesAssumed?: boolean
  afterH?: number
}
