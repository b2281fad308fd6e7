/** What packs weigh, take of room and cost, by their chemistry: for what a part does not say of itself. */
export interface PackClass {
  /** As makers print it: volts of a cell times its amp-hours. */
  cellV: number
  whPerKg: number
  whPerLitre: number
  /** Money for a watt-hour, no shop's price. */
  costPerWh: number
  /** Years it lasts on the shelf and in gentle use. */
  years: number
}

const LEAD = { cellV: 2, whPerLitre: 85 }

/** Whole packs with case and management, typical of the class. */
const CLASSES: Record<string, PackClass> = {
  lifepo4: { cellV: 3.2, whPerKg: 100, whPerLitre: 160, costPerWh: 0.5, years: 10 },
  lipo: { cellV: 3.7, whPerKg: 150, whPerLitre: 300, costPerWh: 0.55, years: 3 },
  nmc: { cellV: 3.6, whPerKg: 160, whPerLitre: 320, costPerWh: 0.6, years: 5 },
  agm: { ...LEAD, whPerKg: 34, costPerWh: 0.2, years: 5 },
  gel: { ...LEAD, whPerKg: 33, costPerWh: 0.25, years: 6 },
  flooded: { ...LEAD, whPerKg: 42, costPerWh: 0.14, years: 5 },
  nimh: { cellV: 1.2, whPerKg: 60, whPerLitre: 180, costPerWh: 0.7, years: 5 },
  alkaline: { cellV: 1.5, whPerKg: 110, whPerLitre: 300, costPerWh: 0.3, years: 7 },
}

/** A bank or power station that does not say what its cells are. */
const BANK: PackClass = { cellV: 3.7, whPerKg: 160, whPerLitre: 300, costPerWh: 0.7, years: 5 }

export const packClass = (chemistryId: string | undefined): PackClass =>
  (chemistryId !== undefined && CLASSES[chemistryId]) || BANK
