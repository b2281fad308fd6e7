/** Battery chemistries: rested open-circuit volts per cell by state of charge at 25 °C, and charge limits. */
export interface Chemistry {
  id: string
  label: string
  /** State of charge (0–1) → V per cell, straight lines between. */
  curve: readonly (readonly [soc: number, voltsPerCell: number])[]
  /** Charge voltage per cell, lowest and highest in use; null: not recharged in place. */
  absorptionV: readonly [number, number] | null
  floatV: readonly [number, number] | null
  /** The part of the capacity one plans to use. */
  usableFraction: number
  /** Lowest temperature for charging, °C. */
  chargeAboveC: number | null
  /** What it gives for long and takes, in amps per Ah, where nobody says: a cautious figure; null: not known. */
  assumed: { outPerAh: number; inPerAh: number } | null
  caution: string
  source: string
}

const FAMILIES: Readonly<Record<string, 'lithium' | 'lead'>> = {
  lifepo4: 'lithium',
  lipo: 'lithium',
  nmc: 'lithium',
  agm: 'lead',
  gel: 'lead',
  flooded: 'lead',
}
/** What is looked after alike. `other`: neither, or not to be charged at all. */
export const cellFamily = (id: string): 'lithium' | 'lead' | 'other' => FAMILIES[id] ?? 'other'

const percent = (rows: [number, number][], cells = 1): [number, number][] => rows.map(([p, v]) => [p / 100, v / cells])
const TYPICAL = 'typical of the chemistry; rested, 25 °C'

export const CHEMISTRIES: readonly Chemistry[] = [
  {
    id: 'lifepo4',
    label: 'LiFePO4',
    curve: percent([
      [0, 2.8],
      [5, 3.05],
      [10, 3.18],
      [20, 3.23],
      [30, 3.26],
      [40, 3.28],
      [50, 3.29],
      [60, 3.3],
      [70, 3.32],
      [80, 3.33],
      [90, 3.34],
      [95, 3.35],
      [100, 3.4],
    ]),
    absorptionV: [14.0 / 4, 14.6 / 4],
    floatV: [13.5 / 4, 13.8 / 4],
    usableFraction: 0.8,
    chargeAboveC: 0,
    assumed: { outPerAh: 1, inPerAh: 0.3 },
    caution: 'Lithium pack: never charge it below 0 °C; its BMS trip is not a fuse.',
    source: TYPICAL,
  },
  {
    id: 'lipo',
    label: 'LiPo',
    curve: percent([
      [0, 3.0],
      [10, 3.45],
      [30, 3.6],
      [50, 3.7],
      [70, 3.87],
      [90, 4.05],
      [100, 4.2],
    ]),
    absorptionV: [4.2, 4.2],
    floatV: null,
    usableFraction: 0.8,
    chargeAboveC: 0,
    assumed: { outPerAh: 1, inPerAh: 0.3 },
    caution: 'LiPo pack: charge it watched, on a surface that cannot burn.',
    source: TYPICAL,
  },
  {
    id: 'nmc',
    label: 'Li-ion (NMC)',
    curve: percent([
      [0, 3.0],
      [10, 3.45],
      [30, 3.6],
      [50, 3.7],
      [70, 3.87],
      [90, 4.05],
      [100, 4.2],
    ]),
    absorptionV: [4.2, 4.2],
    floatV: null,
    usableFraction: 0.8,
    chargeAboveC: 0,
    assumed: { outPerAh: 1, inPerAh: 0.3 },
    caution: 'Li-ion pack: never charge it below 0 °C; its BMS trip is not a fuse.',
    source: TYPICAL,
  },
  {
    id: 'agm',
    label: 'AGM lead-acid',
    curve: percent(
      [
        [0, 11.6],
        [25, 12.0],
        [50, 12.3],
        [75, 12.6],
        [100, 12.85],
      ],
      6,
    ),
    absorptionV: [14.4 / 6, 14.7 / 6],
    floatV: [13.5 / 6, 13.8 / 6],
    usableFraction: 0.5,
    chargeAboveC: -20,
    assumed: { outPerAh: 0.3, inPerAh: 0.2 },
    caution: 'Lead-acid battery: a spanner across the posts welds itself; take rings off.',
    source: TYPICAL,
  },
  {
    id: 'gel',
    label: 'gel lead-acid',
    curve: percent(
      [
        [0, 11.6],
        [25, 12.0],
        [50, 12.3],
        [75, 12.6],
        [100, 12.85],
      ],
      6,
    ),
    absorptionV: [14.0 / 6, 14.4 / 6],
    floatV: [13.5 / 6, 13.8 / 6],
    usableFraction: 0.5,
    chargeAboveC: -20,
    assumed: { outPerAh: 0.3, inPerAh: 0.2 },
    caution: 'Gel battery: never equalise it.',
    source: TYPICAL,
  },
  {
    id: 'flooded',
    label: 'flooded lead-acid',
    curve: percent(
      [
        [0, 11.5],
        [25, 11.85],
        [50, 12.15],
        [75, 12.45],
        [100, 12.7],
      ],
      6,
    ),
    absorptionV: [14.4 / 6, 14.8 / 6],
    floatV: [13.2 / 6, 13.5 / 6],
    usableFraction: 0.5,
    chargeAboveC: -20,
    assumed: { outPerAh: 0.2, inPerAh: 0.13 },
    caution: 'Flooded cells vent explosive gas on charge and hold acid: ventilate, no sparks, wear goggles.',
    source: TYPICAL,
  },
  {
    id: 'nimh',
    label: 'NiMH',
    curve: percent([
      [0, 1.0],
      [50, 1.2],
      [100, 1.4],
    ]),
    absorptionV: null,
    floatV: null,
    usableFraction: 1,
    chargeAboveC: 0,
    assumed: null,
    caution: '',
    source: TYPICAL,
  },
  {
    id: 'alkaline',
    label: 'alkaline',
    curve: percent([
      [0, 0.9],
      [100, 1.5],
    ]),
    absorptionV: null,
    floatV: null,
    usableFraction: 1,
    chargeAboveC: null,
    assumed: null,
    caution: '',
    source: TYPICAL,
  },
]

const byId = new Map(CHEMISTRIES.map(c => [c.id, c]))
export const CHEMISTRY_IDS = CHEMISTRIES.map(c => c.id)

export function chemistry(id: string): Chemistry {
  const found = byId.get(id)
  if (!found) throw new Error(`no chemistry ${id} in the catalogue`)
  return found
}
