import { chemistry } from '../catalog/chemistries'
import { curveAt, type Curve } from '../units/curve'
import { TAIL_PER_AH, type BatteryFacts } from './emf'

/**
 * What a class of cells does over time. Typical of the class: what a battery says of itself goes before, and where one
 * of these decides it is told as assumed.
 */
export interface CellClass {
  /** Of a charge that goes in, what comes out again. */
  coulombEfficiency: number
  /** Peukert's exponent; 1: its capacity does not depend on the current. */
  peukert: number
  /** Hours at which its capacity is printed. */
  ratedAtH: number
  /** From this charge on it takes less and less, down to its tail when full. */
  taperFrom: number
  /** Capacity left in the cold: of its capacity at 20 °C, straight lines between. */
  cold: Curve
  /** Lost by itself, of its capacity a month. */
  selfDischarge: number
  /** Years and full cycles it lasts in use at its usable fraction. */
  cycles: number
}

const LITHIUM_COLD = [
  [-20, 0.6],
  [-10, 0.75],
  [0, 0.88],
  [10, 0.95],
  [20, 1],
] as const
const LEAD_COLD = [
  [-20, 0.5],
  [0, 0.8],
  [20, 1],
  [40, 1.05],
] as const

const LITHIUM: CellClass = {
  coulombEfficiency: 0.99,
  peukert: 1,
  ratedAtH: 5,
  taperFrom: 0.95,
  cold: LITHIUM_COLD,
  selfDischarge: 0.02,
  cycles: 2000,
}
const LEAD: CellClass = {
  coulombEfficiency: 0.9,
  peukert: 1.12,
  ratedAtH: 20,
  taperFrom: 0.8,
  cold: LEAD_COLD,
  selfDischarge: 0.03,
  cycles: 500,
}

const CLASSES: Record<string, CellClass> = {
  lifepo4: { ...LITHIUM, cycles: 3000 },
  lipo: { ...LITHIUM, taperFrom: 0.85, cycles: 400 },
  nmc: { ...LITHIUM, taperFrom: 0.85, cycles: 600 },
  agm: { ...LEAD, peukert: 1.12 },
  gel: { ...LEAD, peukert: 1.1, cycles: 700 },
  flooded: { ...LEAD, coulombEfficiency: 0.85, peukert: 1.2, selfDischarge: 0.05 },
  nimh: { ...LITHIUM, coulombEfficiency: 0.7, cold: LEAD_COLD, selfDischarge: 0.15, cycles: 500 },
  alkaline: { ...LITHIUM, coulombEfficiency: 0, peukert: 1.3, ratedAtH: 20, cold: LEAD_COLD, cycles: 1 },
}

export const cellsOf = (chemistryId: string): CellClass => CLASSES[chemistryId]!

/** What is left of a capacity at a temperature. */
export const coldShare = (chemistryId: string, celsius: number): number => curveAt(cellsOf(chemistryId).cold, celsius)

/**
 * How fast a battery empties for what it gives: amps counted for amps given (Peukert, from the current at which its
 * capacity is printed). Slower than that it is what it is.
 */
export function countedAmps(battery: BatteryFacts, amps: number): number {
  const { peukert, ratedAtH } = cellsOf(battery.chemistry)
  if (peukert === 1) return amps
  const printedA = battery.capacityAh / ratedAtH
  return amps <= printedA ? amps : amps * (amps / printedA) ** (peukert - 1)
}

/** The most a battery takes at a charge, A: its limit, and less and less from where its class tapers, to its tail. */
export function acceptedAmps(battery: BatteryFacts, limitA: number, charge: number): number {
  if (chemistry(battery.chemistry).absorptionV === null) return 0
  const { taperFrom } = cellsOf(battery.chemistry)
  if (charge <= taperFrom) return limitA
  const tailA = Math.min(limitA, TAIL_PER_AH * battery.capacityAh)
  const share = Math.min(1, (charge - taperFrom) / (1 - taperFrom))
  return charge >= 1 ? 0 : limitA + (tailA - limitA) * share
}
