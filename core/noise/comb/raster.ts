import type { Tone } from '../listen/tones'
import { lnBinomialTail } from './chance'
import type { Comb } from './comb'

/** Where shortwave broadcasters are, with the edges they spill over, MHz (ITU Radio Regulations, article 5). */
const SHORTWAVE_MHZ = [
  [2.3, 2.5],
  [3.2, 3.4],
  [3.9, 4],
  [4.7, 5.1],
  [5.7, 6.3],
  [7.2, 7.6],
  [9.25, 10],
  [11.5, 12.2],
  [13.5, 13.9],
  [15, 15.9],
  [17.4, 18],
  [18.9, 19.1],
  [21.45, 21.9],
  [25.6, 26.1],
] as const

/**
 * Broadcasters' channel rasters, Hz (ITU regions 1 and 3: 9 kHz, region 2: 10 kHz; shortwave 5 kHz). Carriers keep to
 * them within 10 Hz (ITU-R SM.1045), and one receiver shows all of them off by the same share.
 */
const RASTERS: readonly { hz: number; low: number; high: number }[] = [
  { hz: 9000, low: 148e3, high: 1.7115e6 },
  { hz: 10000, low: 525e3, high: 1.71e6 },
  ...SHORTWAVE_MHZ.map(([low, high]) => ({ hz: 5000, low: low * 1e6, high: high * 1e6 })),
]

const CARRIER_HZ = 12
/** Steps of channels that stations keep to by habit as well, broadcasters or not, Hz. */
const STEPS_HZ = [5000, 9000, 10_000, 12_500]
/** A receiver's own error, millionths. */
const MOST_PPM = 30
/** Fewest carriers, their share of what stands out in the range, and the chance at which they are believed. */
const LEAST = 4
const SHARE = 0.6
const LN_CHANCE = Math.log(1e-4)
/** A carrier stands so far over its own modulation, dB, and speech is at most so far under it. */
const SPEECH_DB = 10
const OVER_MODULATION_DB = 6

export interface Stations {
  spacingHz: number
  /** Their carriers. */
  lines: number[]
  /** Weaker tones within a channel of a carrier: what it is modulated with. */
  modulation: number[]
  ppm: number
}

/** A row as close together as channels are, and no converter's lines: stations may make it, and it proves no device. */
export function asChannels(comb: Comb): Comb {
  const { spacingHz, uncertaintyHz, confidence } = comb
  const off = (hz: number) => Math.abs(spacingHz - hz)
  if (!STEPS_HZ.some(hz => off(hz) <= Math.max(CARRIER_HZ, 3 * uncertaintyHz))) return comb
  return { ...comb, channelStep: true, proven: false, confidence: Math.min(confidence, MOST_OF_CHANNELS) }
}
const MOST_OF_CHANNELS = 0.5

/**
 * Carriers that keep to a broadcasters' raster, all with one error: no oscillator of a converter stands so still on a
 * round figure. Where levels are told, the strongest tone of each channel is its carrier.
 */
export function broadcastOf(tones: readonly Tone[], resolutionHz: number): Stations | null {
  let best: (Stations & { lnChance: number }) | null = null
  for (const raster of RASTERS) {
    const within = tones.filter(t => t.hz >= raster.low && t.hz <= raster.high)
    const carriers = within.filter(t => isStrongest(t, within, raster.hz))
    const found = carriers.length >= LEAST ? onRaster(carriers, raster.hz, resolutionHz) : null
    if (found && (!best || found.lnChance < best.lnChance)) {
      const lines = found.on.map(t => t.hz)
      const modulation = within.filter(t => modulates(t, found.on, raster.hz)).map(t => t.hz)
      best = { spacingHz: raster.hz, lines, modulation, ppm: found.ppm, lnChance: found.lnChance }
    }
  }
  return best && { spacingHz: best.spacingHz, lines: best.lines, modulation: best.modulation, ppm: best.ppm }
}

/** Within its channel nothing is stronger, and nothing near it so much stronger that it could be that one's speech. */
const isStrongest = (tone: Tone, among: readonly Tone[], channelHz: number) =>
  tone.db === undefined ||
  among.every(t => {
    const away = Math.abs(t.hz - tone.hz)
    if (t === tone || away > 0.95 * channelHz) return true
    return (t.db ?? -Infinity) <= tone.db! + (away > channelHz / 2 ? SPEECH_DB : 0)
  })

const modulates = (tone: Tone, carriers: readonly Tone[], channelHz: number) =>
  tone.db !== undefined &&
  carriers.some(c => c !== tone && Math.abs(c.hz - tone.hz) <= channelHz / 2 && c.db! - tone.db! >= OVER_MODULATION_DB)

function onRaster(carriers: readonly Tone[], rasterHz: number, resolutionHz: number) {
  const toleranceHz = CARRIER_HZ + resolutionHz / 2
  const on = (ppm: number) =>
    carriers.filter(({ hz }) => {
      const right = hz / (1 + ppm * 1e-6)
      return Math.abs(right - Math.round(right / rasterHz) * rasterHz) <= toleranceHz
    })
  // Steps of the receiver's error as fine as it can be seen.
  const highest = carriers.at(-1)!.hz
  const stepPpm = (0.5 * toleranceHz) / (highest * 1e-6)
  const steps = Math.floor(MOST_PPM / stepPpm)
  let [most, ppm] = [on(0), 0]
  for (let i = 1; i <= steps; i++) {
    for (const p of [i * stepPpm, -i * stepPpm]) {
      const found = on(p)
      if (found.length > most.length) [most, ppm] = [found, p]
    }
  }
  // A figure in whole kHz is on the raster or it is not: one in nine is.
  const chance = (2 * toleranceHz) / rasterHz
  const lnChance = lnBinomialTail(carriers.length, most.length, Math.min(1, chance)) + Math.log(2 * steps + 1)
  const isRow = most.length >= LEAST && most.length >= SHARE * carriers.length && lnChance < LN_CHANCE
  return isRow ? { on: most, ppm, lnChance } : null
}
