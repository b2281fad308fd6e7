/** Levels and materials that noise is judged by. */

/** S9, dBm: below and above 30 MHz (IARU region 1 recommendation R.1). */
export const S9_DBM = { hf: -73, vhf: -93 } as const
export const DB_PER_S_UNIT = 6

/** Receivers' input, Ω, at which dBm and µV belong together. */
export const RECEIVER_OHM = 50

/** Man-made noise: Fam = c − d·log10(f/MHz), dB above kT0 (ITU-R P.372 table 1). */
export const SITE_CLASSES = [
  { id: 'city', label: 'city', c: 76.8, d: 27.7 },
  { id: 'residential', label: 'residential', c: 72.5, d: 27.7 },
  { id: 'rural', label: 'rural', c: 67.2, d: 27.7 },
  { id: 'quiet-rural', label: 'quiet rural', c: 53.6, d: 28.6 },
] as const
export type SiteClass = (typeof SITE_CLASSES)[number]['id']

/** kT0 in 1 Hz at 290 K, dBm. */
export const THERMAL_DBM_PER_HZ = -174

/** Suppression ferrites by class: initial permeability, relaxation frequency, saturation (typical of the class). */
export const FERRITES = [
  { id: 'mnzn-5000', label: 'MnZn, μi 5000', initialPermeability: 5000, relaxationHz: 0.7e6, saturationT: 0.4 },
  {
    id: 'mnzn-1500',
    label: 'MnZn suppression, μi 1500',
    initialPermeability: 1500,
    relaxationHz: 3e6,
    saturationT: 0.35,
  },
  { id: 'nizn-800', label: 'NiZn, μi 800', initialPermeability: 800, relaxationHz: 8e6, saturationT: 0.3 },
  { id: 'nizn-125', label: 'NiZn, μi 125', initialPermeability: 125, relaxationHz: 100e6, saturationT: 0.3 },
] as const

/** Rings one can buy, mm (typical sizes). */
export const RINGS = [
  { id: 'ring-36', label: 'ring 36 × 23 × 15 mm', odMm: 36, idMm: 23, heightMm: 15 },
  { id: 'ring-61', label: 'ring 61 × 35.5 × 12.7 mm', odMm: 61, idMm: 35.5, heightMm: 12.7 },
  { id: 'ring-102', label: 'ring 102 × 66 × 15 mm', odMm: 102, idMm: 66, heightMm: 15 },
  // Two halves: the gap between them leaves a third to a half of the permeability.
  {
    id: 'clip-13',
    label: 'clip-on for a 13 mm cable, 29 mm long',
    odMm: 26,
    idMm: 13,
    heightMm: 29,
    worksShare: 0.4,
  },
] as const
