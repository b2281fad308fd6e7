import { BANDS, middleHz, type Band } from '../../catalog/bands'
import type { SiteClass } from '../../catalog/noise'
import type { Test } from '../test'
import { WAYS, type Causes, type Way } from '../cause'
import { faultSteps as stepsOf, type Fault } from './fault'
import { dbmToS, normalDbm } from '../level'
import { hearSpectrum } from '../listen/listen'
import type { Observation } from '../observation'
import type { Random } from '../../chance/random'
import { GONE_DB, WEAKER_DB, type Heard, type Setup } from '../setup'
import type { Recording } from '../listen/spectrum'
import { isPart, OUTSIDE, type Suspect } from '../suspect'
import type { Bin } from '../listen/tones'

export interface SimulatedReceiver {
  /** Noise level in a bandwidth at a frequency, dBm, without any line. */
  levelDbm: (setup: Setup, hz: number, bandwidthHz?: number) => number
  /** What its meter shows on a band. */
  sReading: (setup: Setup, band: Band) => string
  /** A sweep of so many bins. */
  spectrum: (setup: Setup, lowHz: number, highHz: number, bins?: number) => Bin[]
  /** I and Q around a frequency, full scale 1. */
  recording: (setup: Setup, centreHz: number, seconds: number, sampleRateHz: number) => Recording
  /** Whether a whine or hum is in the audio with the RF gain down. */
  audioRiseDb: (setup: Setup) => number
  /** Carries a test out and says what an operator would write down. */
  perform: (test: Pick<Test, 'id' | 'what' | 'setup'>, id: string, at: string) => Observation
}

const BANDWIDTH_HZ = 2700
/** How wide its waterfall goes when a comb is looked for. */
const SWEEP_HZ = 1.6e6
/** The receiver's own floor over kT0, dB. */
const NOISE_FIGURE_DB = 12
/** How far the site's noise breathes between two looks, dB. */
const BREATHES_DB = 0.8
/** How far between its lines the hiss of a comb stands under them, dB. */
const HISS_DB = 16
/** How far an innocent device stands under the floor, dB. */
const INNOCENT_DB = -9

/** Where the receiver stands, and how surely its operator judges. */
export interface Listening {
  site: SiteClass
  random: Random
  /** Share of judgements by ear that come out one step wrong; unsaid: none. */
  slips?: number
}

/** A receiver with a waterfall at a station with a hidden fault. */
export const simulatedReceiver = (fault: Fault, causes: Causes, listening: Listening): SimulatedReceiver =>
  new Receiver(fault, causes, listening)

class Receiver implements SimulatedReceiver {
  private readonly device: Suspect
  private readonly heardOn: Band
  private readonly site: SiteClass
  private readonly random: Random
  private readonly slips: number

  constructor(
    private readonly fault: Fault,
    private readonly causes: Causes,
    { site, random, slips = 0 }: Listening,
  ) {
    this.device = causes.devices.find(d => d.id === fault.cause.device)!
    this.heardOn = BANDS.find(b => fault.bands.includes(b.id)) ?? BANDS.find(b => b.id === '30 m')!
    this.site = site
    this.random = random
    this.slips = slips
  }

  private isOn(setup: Setup): boolean {
    return emits(this.fault, setup, this.device.mostA)
  }

  /** What is left of the noise after a change, dB against as it is heard unchanged. */
  private remainsDb(setup: Setup): number {
    if (!this.isOn(setup)) return -90
    const { fault } = this
    const steps = stepsOf(setup, fault.cause.device)
    const power = WAYS.filter(w => w.id !== 'audio').reduce(
      (p, w) => p + 10 ** (-(fault.leaksDb[w.id] + steps.reduce((s, step) => s + fault.takesDb[step][w.id], 0)) / 10),
      0,
    )
    return 10 * Math.log10(power) + this.idleDb(setup)
  }
  private idleDb(setup: Setup): number {
    return setup.devices?.[this.fault.cause.device]?.state === 'idle' ? -5 : 0
  }

  private floorDbm(setup: Setup, hz: number, bandwidthHz: number): number {
    const own = -174 + 10 * Math.log10(bandwidthHz) + NOISE_FIGURE_DB
    const siteDbm = normalDbm(this.site, hz, bandwidthHz)
    return setup.antenna === 'dummy' ? own : powerSum(own, siteDbm)
  }
  /** The noise's level at full strength: so many dB over the floor with the antenna on, less away from its bands. */
  private faultDbm(setup: Setup, hz: number, bandwidthHz: number): number {
    const { fault } = this
    if (fault.cause.way === 'audio') return -200
    const normal = this.floorDbm({}, hz, bandwidthHz)
    const on = BANDS.some(
      b => fault.bands.includes(b.id) && hz >= b.lowMHz * 1e6 * 0.97 && hz <= b.highMHz * 1e6 * 1.03,
    )
    return normal + fault.riseDb - (on ? 0 : 22) + this.remainsDb(setup)
  }
  private innocents(setup: Setup, hz: number, bandwidthHz: number): number {
    const others = this.causes.devices.filter(d => isPart(d.id) && d.id !== this.fault.cause.device)
    if (!others.some(d => setup.devices?.[d.id]?.state !== 'off')) return -200
    return this.floorDbm(setup.antenna === 'dummy' ? setup : {}, hz, bandwidthHz) + INNOCENT_DB
  }

  levelDbm(setup: Setup, hz: number, bandwidthHz = BANDWIDTH_HZ, faultLessDb = 0): number {
    const floor = this.floorDbm(setup, hz, bandwidthHz) + BREATHES_DB * this.random.normal()
    const others = powerSum(floor, this.innocents(setup, hz, bandwidthHz))
    return powerSum(others, this.faultDbm(setup, hz, bandwidthHz) - faultLessDb)
  }

  sReading(setup: Setup, band: Band): string {
    return dbmToS(this.levelDbm(setup, middleHz(band)), middleHz(band))
  }

  audioRiseDb(setup: Setup): number {
    const { fault } = this
    if (fault.cause.way !== 'audio' || !this.isOn(setup)) return 0
    const steps = stepsOf(setup, fault.cause.device)
    const taken = steps.reduce((s, step) => s + fault.takesDb[step].audio, 0)
    return Math.max(0, fault.riseDb - taken + this.random.normal())
  }

  /** Frequencies of its lines between two ends. */
  private lineHz(lowHz: number, highHz: number): number[] {
    const { fault } = this
    const step = fault.oddOnly ? 2 : 1
    const lines: number[] = []
    for (let n = Math.ceil(lowHz / fault.spacingHz); n * fault.spacingHz <= highHz; n++)
      if (n % step === 1 % step) lines.push(n * fault.spacingHz)
    return lines
  }
  private showsLines(setup: Setup): boolean {
    return this.fault.lines && this.fault.cause.way !== 'audio' && this.isOn(setup)
  }

  spectrum(setup: Setup, lowHz: number, highHz: number, bins = 1500): Bin[] {
    const step = (highHz - lowHz) / bins
    const wavers = (hz: number) => hz + ((this.fault.waverHz * hz) / 10e6) * this.random.normal()
    const lines = this.showsLines(setup) ? this.lineHz(lowHz, highHz).map(wavers) : []
    return Array.from({ length: bins }, (_, i) => {
      const hz = lowHz + (i + 0.5) * step
      // Averaged sweeps still scatter by a dB or so.
      const dbm = this.levelDbm(setup, hz, step, lines.length ? HISS_DB : 0) + 0.6 * this.random.normal()
      const near = lines.filter(line => Math.abs(line - hz) <= 1.5 * step)
      const lineDbm = (line: number) => this.faultDbm(setup, hz, BANDWIDTH_HZ) - 40 * ((line - hz) / (1.5 * step)) ** 2
      return { hz, db: near.reduce((sum, line) => powerSum(sum, lineDbm(line)), dbm) }
    })
  }

  recording(setup: Setup, centreHz: number, seconds: number, sampleRateHz: number): Recording {
    const n = Math.round(seconds * sampleRateHz)
    const channels = [new Float32Array(n), new Float32Array(n)] as const
    const hissDb = this.levelDbm(setup, centreHz, BANDWIDTH_HZ, this.showsLines(setup) ? HISS_DB : 0)
    const sigma = 0.01 * 10 ** ((hissDb - this.floorDbm({}, centreHz, BANDWIDTH_HZ)) / 40)
    for (let k = 0; k < n; k++) {
      channels[0][k] = sigma * this.random.normal()
      channels[1][k] = sigma * this.random.normal()
    }
    if (this.showsLines(setup)) this.addLines(setup, centreHz, sampleRateHz, channels)
    return { sampleRateHz, channels: [...channels] }
  }

  /** Adds the comb's lines to I and Q, each wavering by itself. */
  private addLines(
    setup: Setup,
    centreHz: number,
    sampleRateHz: number,
    [i, q]: readonly [Float32Array, Float32Array],
  ) {
    const { fault } = this
    const amplitude = 0.004 * 10 ** ((fault.riseDb - 20 + this.remainsDb(setup)) / 20)
    for (const hz of this.lineHz(centreHz - 0.48 * sampleRateHz, centreHz + 0.48 * sampleRateHz)) {
      let phase = 2 * Math.PI * this.random.uniform()
      const wavers = (fault.waverHz * hz) / 10e6
      for (let k = 0; k < i.length; k++) {
        const swing = wavers * Math.sin((2 * Math.PI * 0.7 * k) / sampleRateHz)
        phase += (2 * Math.PI * (hz - centreHz + swing)) / sampleRateHz
        i[k]! += amplitude * Math.cos(phase)
        q[k]! += amplitude * Math.sin(phase)
      }
    }
  }

  /**
   * As an operator judges: how far the noise stands over the floor with the device on and off, before and after the
   * change.
   */
  private heard(setup: Setup): Heard {
    const { fault } = this
    if (fault.cause.way === 'audio' || setup.rfGain === 'down') {
      const [before, after] = fault.cause.way === 'audio' ? [fault.riseDb, this.audioRiseDb(setup)] : [fault.riseDb, 0]
      if (after <= 2 || before - after >= GONE_DB) return 'gone'
      return before - after < WEAKER_DB ? 'same' : 'weaker'
    }
    const hz = middleHz(this.heardOn)
    const off: Setup = { ...setup, devices: { ...setup.devices, [fault.cause.device]: { state: 'off' } } }
    const rise = this.levelDbm(setup, hz) - this.levelDbm(off, hz)
    // With a dummy load the floor falls: what counts is the noise itself.
    const left = this.faultDbm(setup, hz, BANDWIDTH_HZ) + 0.8 * this.random.normal()
    const full = this.faultDbm({}, hz, BANDWIDTH_HZ) + 0.8 * this.random.normal()
    if (rise < 1.8 || full - left >= GONE_DB) return 'gone'
    return full - left < WEAKER_DB ? 'same' : 'weaker'
  }

  private slipped(right: Heard): Heard {
    if (this.random.uniform() >= this.slips) return right
    if (right !== 'weaker') return 'weaker'
    return this.random.uniform() < 0.5 ? 'same' : 'gone'
  }

  perform(test: Pick<Test, 'id' | 'what' | 'setup'>, id: string, at: string): Observation {
    const common = { id, at, bands: this.fault.bands }
    if (test.what === 'listen')
      return { kind: 'listen', ...common, setup: test.setup!, heard: this.slipped(this.heard(test.setup!)) }
    if (test.what === 'sniff') return { kind: 'sniff', ...common, loudest: this.sniffed() }
    const centreHz = middleHz(this.heardOn)
    const [comb] = this.showsLines({})
      ? hearSpectrum(this.spectrum({}, centreHz - SWEEP_HZ / 2, centreHz + SWEEP_HZ / 2)).combs
      : []
    return {
      kind: 'comb',
      ...common,
      spacingHz: comb ? Math.round((comb.oddOnly && comb.fundamentalHz) || comb.spacingHz) : null,
      ...(comb && { uncertaintyHz: comb.uncertaintyHz }),
    }
  }

  /** A set held close hears the device itself, by whatever way its noise comes into the station's receiver. */
  private sniffed(): string {
    const own = this.causes.devices.filter(d => isPart(d.id))
    const loud = own
      .map(d => ({
        id: d.id,
        db: (d.id === this.fault.cause.device ? nearDb(this.fault.cause.way) : 0) + 7 * this.random.normal(),
      }))
      .sort((a, b) => b.db - a.db)
    return loud[0] && loud[0].db > 4 ? loud[0].id : 'none'
  }
}

const powerSum = (a: number, b: number) => 10 * Math.log10(10 ** (a / 10) + 10 ** (b / 10))
const NEAR_DB: Partial<Record<Way, number>> = {
  antenna: 16,
  'dc-common': 14,
  'dc-differential': 8,
  audio: 6,
  mains: 14,
  data: 14,
}
const nearDb = (way: Way) => NEAR_DB[way] ?? 0

function emits(fault: Fault, setup: Setup, mostA: number | undefined): boolean {
  const { device } = fault.cause
  const isSwapped = setup.added?.some(a => a.what === 'swap' && a.at === device)
  if (isSwapped || (setup.everything === 'off' && device !== OUTSIDE)) return false
  const put = setup.devices?.[device]
  // Left as it is: the operator has made sure that it is heard.
  if (!put) return true
  if (put.state === 'off') return false
  const { when } = fault.cause
  if (when.kind === 'always') return true
  if (put.state === 'idle') return false
  if (when.kind === 'start') return (put.minutesOn ?? 0) <= 5
  return put.currentA === undefined || mostA === undefined || put.currentA / mostA >= fault.setInShare
}
