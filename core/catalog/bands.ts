/**
 * Amateur bands, MHz; the widest edges of any region, with region 1's upper edge where it is lower (IARU band plans).
 * And medium wave, where a pocket set hears what switches.
 */
export interface Band {
  id: string
  lowMHz: number
  highMHz: number
  region1HighMHz?: number
}

export const BANDS: readonly Band[] = [
  { id: '2200 m', lowMHz: 0.1357, highMHz: 0.1378 },
  { id: '630 m', lowMHz: 0.472, highMHz: 0.479 },
  { id: 'MW', lowMHz: 0.5265, highMHz: 1.7055 },
  { id: '160 m', lowMHz: 1.8, highMHz: 2 },
  { id: '80 m', lowMHz: 3.5, highMHz: 4, region1HighMHz: 3.8 },
  { id: '60 m', lowMHz: 5.3515, highMHz: 5.3665 },
  { id: '40 m', lowMHz: 7, highMHz: 7.3, region1HighMHz: 7.2 },
  { id: '30 m', lowMHz: 10.1, highMHz: 10.15 },
  { id: '20 m', lowMHz: 14, highMHz: 14.35 },
  { id: '17 m', lowMHz: 18.068, highMHz: 18.168 },
  { id: '15 m', lowMHz: 21, highMHz: 21.45 },
  { id: '12 m', lowMHz: 24.89, highMHz: 24.99 },
  { id: '10 m', lowMHz: 28, highMHz: 29.7 },
  { id: '6 m', lowMHz: 50, highMHz: 54, region1HighMHz: 52 },
  { id: '4 m', lowMHz: 70, highMHz: 70.5 },
  { id: '2 m', lowMHz: 144, highMHz: 148, region1HighMHz: 146 },
  { id: '70 cm', lowMHz: 430, highMHz: 440 },
  { id: '23 cm', lowMHz: 1240, highMHz: 1300 },
]

/** Middle of a band, Hz. */
export const middleHz = (band: Band) => Math.round(0.5e6 * (band.lowMHz + band.highMHz))

/** Whether a line of n·f lands in a band, and how many do. */
export function linesIn(band: Band, hz: number): number {
  return Math.max(0, Math.floor((band.highMHz * 1e6) / hz) - Math.ceil((band.lowMHz * 1e6) / hz) + 1)
}
