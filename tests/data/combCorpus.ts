import { randomFrom, type Random } from '../../core/chance/random'
import type { Bin, Tone } from '../../core/noise/listen/tones'

/**
 * Tone lists and spectra with what is in them, made from how switching devices, broadcasters and mains behave and not
 * from how combs are looked for.
 */
export interface Sample {
  recipe: string
  /** Line spacings that are there, Hz. */
  spacings: number[]
  /** Mains frequency of a buzz that is there. */
  mainsHz?: 50 | 60
  ripple?: number
  tones?: Tone[]
  resolutionHz?: number
  bins?: Bin[]
}

const BANDS = [1.9, 3.65, 7.1, 10.12, 14.2, 18.1, 21.2, 24.94, 28.5].map(mhz => mhz * 1e6)

const within = (r: Random, low: number, high: number) => low + (high - low) * r.uniform()
const oneOf = <T>(r: Random, list: readonly T[]) => list[Math.floor(r.uniform() * list.length)]!
const toStep = (hz: number, step: number) => Math.round(hz / step) * step

/** Switching frequencies are spread evenly over their logarithm. */
const switchingHz = (r: Random, low = 18e3, high = 250e3) => low * (high / low) ** r.uniform()

interface Device {
  hz: number
  odd: boolean
}

/** Lines of a device between two frequencies: each heard with a chance, each off by its oscillator's wander. */
function linesOf(r: Random, { hz, odd }: Device, [low, high]: readonly [number, number], heard: number): number[] {
  const lines: number[] = []
  const wander = within(r, 1, 25)
  for (let n = Math.ceil(low / hz); n * hz <= high; n++) {
    if (odd && n % 2 === 0) continue
    if (r.uniform() < heard) lines.push(n * hz + (wander * n * hz * r.normal()) / 10e6)
  }
  return lines
}

const spacingOf = ({ hz, odd }: Device) => (odd ? 2 * hz : hz)

/** A device with so many lines above a band's edge, and how far they go. */
function deviceNear(r: Random, lines: number): { device: Device; span: readonly [number, number] } {
  const device = { hz: switchingHz(r), odd: r.uniform() < 0.2 }
  const low = oneOf(r, BANDS) + within(r, -100e3, 100e3)
  return { device, span: [low, low + lines * spacingOf(device)] }
}

function typed(
  r: Random,
  { least, most, step, strays }: { least: number; most: number; step: number; strays: number },
) {
  const { device, span } = deviceNear(r, Math.round(within(r, least, most)))
  const hz = linesOf(r, device, span, within(r, 0.7, 1))
  for (let k = 0; k < strays; k++) hz.push(within(r, ...span))
  const tones = [...new Set(hz.map(f => toStep(f, step)))].map(f => ({ hz: f }))
  return { spacings: [spacingOf(device)], tones, resolutionHz: step }
}

const strewn = (r: Random, step: number, most = 30) => {
  const low = oneOf(r, BANDS)
  const width = within(r, 30e3, 400e3)
  const count = Math.round(within(r, 3, most))
  return {
    spacings: [],
    tones: Array.from({ length: count }, () => ({ hz: toStep(low + width * r.uniform(), step) })),
    resolutionHz: step,
  }
}

/** Power of each bin: hiss averaged over eight sweeps, and what is put on it. */
class Sweep {
  private readonly power: Float64Array
  constructor(
    private readonly r: Random,
    private readonly lowHz: number,
    private readonly stepHz: number,
    bins: number,
  ) {
    this.power = new Float64Array(bins)
    for (let b = 0; b < bins; b++) {
      let sum = 0
      for (let k = 0; k < 16; k++) sum += r.normal() ** 2
      this.power[b] = sum / 16
    }
  }
  get span(): readonly [number, number] {
    return [this.lowHz, this.lowHz + this.stepHz * this.power.length]
  }
  /** A carrier, as a windowed transform shows it: three bins wide. */
  carrier(hz: number, overDb: number) {
    const at = (hz - this.lowHz) / this.stepHz
    for (let b = Math.max(0, Math.floor(at) - 2); b <= Math.min(this.power.length - 1, Math.floor(at) + 3); b++)
      this.power[b]! += 10 ** (overDb / 10) * Math.exp(-((b - at) ** 2) / 0.5)
  }
  /** Speech or a digital signal: a few kHz of uneven power. */
  station(hz: number, widthHz: number, overDb: number) {
    for (let f = hz; f < hz + widthHz; f += this.stepHz) {
      const b = Math.round((f - this.lowHz) / this.stepHz)
      if (b >= 0 && b < this.power.length) this.power[b]! += 10 ** ((overDb + 4 * this.r.normal()) / 10)
    }
  }
  /** A broadcaster: its carrier, and speech on both sides of it. */
  broadcaster(hz: number, overDb: number) {
    this.carrier(hz, overDb)
    const peaks = Math.round(within(this.r, 4, 14))
    for (let k = 0; k < peaks; k++) {
      const away = within(this.r, 80, 4200)
      const less = within(this.r, 14, 30)
      this.carrier(hz + away, overDb - less)
      this.carrier(hz - away, overDb - less)
    }
  }
  bins(): Bin[] {
    return Array.from(this.power, (p, b) => ({ hz: this.lowHz + b * this.stepHz, db: 10 * Math.log10(p) - 110 }))
  }
}

function sweepOf(r: Random, devices: number, { stations = 2, birdies = 3, stepHz = 50 } = {}) {
  const sweep = new Sweep(r, oneOf(r, BANDS) - within(r, 0, 300e3), stepHz, 16000)
  const there: Device[] = []
  for (let k = 0; k < devices; k++) {
    const device = { hz: switchingHz(r, 15e3, 90e3), odd: r.uniform() < 0.15 }
    there.push(device)
    const level = within(r, 10, 26)
    for (const hz of linesOf(r, device, sweep.span, within(r, 0.75, 1))) sweep.carrier(hz, level + 3 * r.normal())
  }
  for (let k = 0; k < stations; k++) sweep.station(within(r, ...sweep.span), within(r, 200, 2700), within(r, 8, 25))
  for (let k = 0; k < birdies; k++) sweep.carrier(within(r, ...sweep.span), within(r, 10, 25))
  return { spacings: there.map(spacingOf), bins: sweep.bins() }
}

/** A device whose lines carry sidebands of rectified mains, over fine bins. */
function rippled(r: Random) {
  const stepHz = 8
  const sweep = new Sweep(r, oneOf(r, BANDS), stepHz, 48000)
  const device = { hz: switchingHz(r, 18e3, 60e3), odd: false }
  const ripple = oneOf(r, [100, 120] as const)
  for (const hz of linesOf(r, device, sweep.span, 1)) {
    const level = within(r, 18, 28)
    sweep.carrier(hz, level)
    for (let k = 1; k <= 3; k++) for (const side of [-1, 1]) sweep.carrier(hz + side * k * ripple, level - 5 * k)
  }
  return { spacings: [device.hz], ripple, bins: sweep.bins() }
}

function raster(r: Random) {
  const [rasterHz, low] = oneOf(r, [
    [9000, 600e3],
    [10000, 900e3],
    [5000, 7.2e6],
    [5000, 9.5e6],
  ] as const)
  const sweep = new Sweep(r, low, 50, 8000)
  const ppm = within(r, -15, 15)
  const [from, to] = sweep.span
  for (let n = Math.ceil(from / rasterHz); n * rasterHz < to; n++)
    if (r.uniform() < 0.55) sweep.broadcaster(n * rasterHz * (1 + ppm * 1e-6), within(r, 10, 45))
  return { spacings: [], bins: sweep.bins() }
}

/** Hiss that a rectifier switches: lines at twice the mains frequency over a stretch. */
function buzz(r: Random) {
  const mainsHz = oneOf(r, [50, 60] as const)
  const step = oneOf(r, [1, 2, 5])
  const low = oneOf(r, BANDS)
  const first = Math.ceil(low / (2 * mainsHz))
  const off = within(r, 0, 2 * mainsHz)
  const count = Math.round(within(r, 6, 60))
  const hz = Array.from({ length: count }, (_, k) => (first + k) * 2 * mainsHz * (1 + within(r, -3e-8, 3e-8)) + off)
  const tones = hz.filter(() => r.uniform() < 0.85).map(f => ({ hz: toStep(f, step) }))
  return { spacings: [], mainsHz, tones, resolutionHz: step }
}

/** A controller that switches the panel a few hundred times a second. */
function pwm(r: Random) {
  // Not on a multiple of the mains frequency: there nobody could tell.
  const hz = oneOf(r, [within(r, 205, 237), within(r, 262, 296), within(r, 305, 345), within(r, 365, 395)])
  const low = oneOf(r, BANDS)
  const tones: Tone[] = []
  for (let n = Math.ceil(low / hz); tones.length < within(r, 12, 80); n++)
    if (r.uniform() < 0.9) tones.push({ hz: toStep(n * hz + 0.8 * r.normal(), 1), db: within(r, -110, -90) })
  return { spacings: [hz], tones, resolutionHz: 1 }
}

/** A clean row of any length from 4 to 400. */
function clean(r: Random) {
  const count = Math.round(4 * 100 ** r.uniform())
  const hz = switchingHz(r)
  const first = Math.ceil(within(r, 1e6, 14e6) / hz)
  const tones = Array.from({ length: count }, (_, k) => ({ hz: toStep((first + k) * hz, 10) }))
  return { spacings: [hz], tones, resolutionHz: 10 }
}

const RECIPES: Record<string, (r: Random) => Omit<Sample, 'recipe'>> = {
  'typed, whole kHz, 3 to 5 lines': r => typed(r, { least: 3, most: 5, step: 1000, strays: 0 }),
  'typed, whole kHz, 6 to 20 lines, strays': r =>
    typed(r, { least: 6, most: 20, step: 1000, strays: Math.round(within(r, 0, 3)) }),
  'typed, 100 Hz, 4 to 14 lines, strays': r =>
    typed(r, { least: 4, most: 14, step: 100, strays: Math.round(within(r, 0, 4)) }),
  'clean, 4 to 400 lines': clean,
  'one device on a sweep': r => sweepOf(r, 1),
  'two devices on a sweep': r => sweepOf(r, 2),
  'three devices on a sweep': r => sweepOf(r, 3, { stations: 1 }),
  'a device among many carriers': r => sweepOf(r, 1, { stations: 4, birdies: 20 }),
  'ripple on a device': rippled,
  'PWM of 200 to 400 Hz': pwm,
  'mains buzz': buzz,
  'a few tones strewn, whole kHz': r => strewn(r, 1000, 6),
  'tones strewn, whole kHz': r => strewn(r, 1000),
  'tones strewn, 10 Hz': r => strewn(r, 10),
  'broadcasters, modulated': raster,
  'stations and carriers only': r => sweepOf(r, 0, { stations: 6, birdies: 25 }),
}

/** So many of each recipe, the same each time. */
export function combCorpus(each: number, seed = 1): Sample[] {
  return Object.entries(RECIPES).flatMap(([recipe, make], n) =>
    Array.from({ length: each }, (_, i) => ({ recipe, ...make(randomFrom(seed + 7919 * n + 104729 * i)) })),
  )
}
