import { BANDS, middleHz, type Band } from '../catalog/bands'
import type { SiteClass } from '../catalog/noise'
import type { Advice, Test } from './advice'
import { WAYS, type Cause, type Causes, type Way } from './cause'
import { OUTSIDE } from './suspect'
import { dbmToS, normalDbm } from './level'
import { hearSpectrum } from './listen'
import type { Observation } from './observation'
import { GONE_DB, WEAKER_DB, type Heard, type Setup } from './setup'
import type { Random } from './random'
import type { Recording } from './spectrum'
import type { Bin } from './tones'

/** A made-up fault: its cause, and how it shows. Everything that the reasoning does not know is in here. */
export interface Fault {
  cause: Cause
  /** Between its lines. */
  spacingHz: number
  oddOnly: boolean
  /** How far a line wavers at 10 MHz, Hz. */
  waverHz: number
  /** Whether it shows lines, or only hiss. */
  lines: boolean
  /** Rise over the floor where it is worst, dB. */
  riseDb: number
  bands: string[]
  /** Exact share of its largest current at which it sets in. */
  setInShare: number
  /** How much of it comes in by each way, dB under the main one. */
  leaksDb: Record<Way, number>
  /** What each change takes off each way, dB. */
  takesDb: Record<Step, Record<Way, number>>
}

const STEP = [
  'dummy',
  'own-battery',
  'gain-down',
  'choke-radio',
  'choke-device',
  'lc-filter',
  'mains-filter',
  'distance',
  'bond',
] as const
type Step = (typeof STEP)[number]

/**
 * Ranges from which a fault draws what a change takes off, dB, for the ways it works on at all: [least, most]. They are the physics of
 * the simulated station, written apart from the reasoning's likelihoods.
 */
const TAKES: Record<Step, Partial<Record<Way, readonly [number, number]>>> = {
  dummy: { antenna: [22, 60], 'dc-common': [0, 10], mains: [0, 18] },
  'own-battery': {
    antenna: [0, 2],
    'dc-common': [12, 45],
    'dc-differential': [30, 60],
    audio: [25, 60],
    mains: [0, 12],
  },
  'gain-down': { antenna: [80, 90], 'dc-common': [80, 90], 'dc-differential': [80, 90], mains: [80, 90] },
  'choke-radio': { antenna: [0, 3], 'dc-common': [7, 32], mains: [0, 7] },
  'choke-device': { antenna: [2, 22], 'dc-common': [3, 28], 'dc-differential': [0, 1], mains: [0, 6] },
  'lc-filter': { 'dc-common': [0, 4], 'dc-differential': [14, 45], audio: [2, 25] },
  'mains-filter': { antenna: [0, 1], 'dc-common': [0, 1], mains: [9, 40] },
  distance: { antenna: [4, 22], 'dc-common': [0, 3], mains: [0, 5] },
  bond: { antenna: [0, 2], 'dc-common': [0, 18], 'dc-differential': [0, 1], audio: [0, 2], mains: [0, 5] },
}

/** Draws a hidden fault, its cause by the prior odds. */
export function drawFault(causes: Causes, bands: readonly string[], random: Random): Fault {
  let left = random.uniform()
  const prior = causes.priors.find(p => (left -= p.odds) < 0) ?? causes.priors.at(-1)!
  return faultOf(prior.cause, causes, bands, random)
}

/** A fault of a given cause. */
export function faultOf(cause: Cause, causes: Causes, bands: readonly string[], random: Random): Fault {
  const between = (low: number, high: number) => low + (high - low) * random.uniform()
  const device = causes.devices.find(d => d.id === cause.device)!
  const perWay = (of: (way: Way) => number) =>
    Object.fromEntries(WAYS.map(w => [w.id, of(w.id)])) as Record<Way, number>
  return {
    cause,
    // A maker's figure is good to a few percent.
    spacingHz: (device.switchingHz ?? between(35e3, 180e3)) * between(0.97, 1.03),
    oddOnly: random.uniform() < 0.25,
    waverHz: between(5, 60),
    lines: random.uniform() < 0.65,
    riseDb: between(12, 32),
    bands: [...bands],
    setInShare: cause.when.kind === 'over' ? cause.when.share + between(-0.1, 0.1) : 0,
    leaksDb: perWay(way =>
      way === cause.way ? 0 : way === 'audio' || (way === 'mains' && !device.hasMains) ? 90 : between(16, 34),
    ),
    takesDb: Object.fromEntries(
      STEP.map(step => [
        step,
        perWay(way => {
          const range = TAKES[step][way]
          return range ? between(...range) : 0
        }),
      ]),
    ) as Fault['takesDb'],
  }
}

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

/** A receiver with a waterfall at a station with a hidden fault. @param slips share of judgements by ear that come out one step wrong */
export function simulatedReceiver(
  fault: Fault,
  causes: Causes,
  site: SiteClass,
  random: Random,
  slips = 0,
): SimulatedReceiver {
  const device = causes.devices.find(d => d.id === fault.cause.device)!
  const heardOn = BANDS.find(b => fault.bands.includes(b.id)) ?? BANDS.find(b => b.id === '30 m')!
  const isOn = (setup: Setup) => emits(fault, setup, device.mostA)

  /** What is left of the noise after a change, dB against as it is heard unchanged. */
  function remainsDb(setup: Setup): number {
    if (!isOn(setup)) return -90
    const steps = stepsOf(setup, fault.cause.device)
    const power = WAYS.filter(w => w.id !== 'audio').reduce(
      (p, w) => p + 10 ** (-(fault.leaksDb[w.id] + steps.reduce((s, step) => s + fault.takesDb[step][w.id], 0)) / 10),
      0,
    )
    return 10 * Math.log10(power) + idleDb(setup)
  }
  const idleDb = (setup: Setup) => (setup.devices?.[fault.cause.device]?.state === 'idle' ? -5 : 0)

  function floorDbm(setup: Setup, hz: number, bandwidthHz: number): number {
    const own = -174 + 10 * Math.log10(bandwidthHz) + NOISE_FIGURE_DB
    const siteDbm = normalDbm(site, hz, bandwidthHz)
    return setup.antenna === 'dummy' ? own : powerSum(own, siteDbm)
  }
  /** The noise's level at full strength: so many dB over the floor with the antenna on, less away from its bands. */
  function faultDbm(setup: Setup, hz: number, bandwidthHz: number): number {
    if (fault.cause.way === 'audio') return -200
    const normal = floorDbm({}, hz, bandwidthHz)
    const on = BANDS.some(
      b => fault.bands.includes(b.id) && hz >= b.lowMHz * 1e6 * 0.97 && hz <= b.highMHz * 1e6 * 1.03,
    )
    return normal + fault.riseDb - (on ? 0 : 22) + remainsDb(setup)
  }
  const innocents = (setup: Setup, hz: number, bandwidthHz: number) =>
    causes.devices.filter(
      d => d.id !== OUTSIDE && d.id !== fault.cause.device && setup.devices?.[d.id]?.state !== 'off',
    ).length
      ? (setup.antenna === 'dummy' ? floorDbm(setup, hz, bandwidthHz) : floorDbm({}, hz, bandwidthHz)) + INNOCENT_DB
      : -200

  const levelDbm = (setup: Setup, hz: number, bandwidthHz = BANDWIDTH_HZ, faultLessDb = 0) =>
    powerSum(
      powerSum(floorDbm(setup, hz, bandwidthHz) + BREATHES_DB * random.normal(), innocents(setup, hz, bandwidthHz)),
      faultDbm(setup, hz, bandwidthHz) - faultLessDb,
    )

  const audioRiseDb = (setup: Setup) => {
    if (fault.cause.way !== 'audio' || !isOn(setup)) return 0
    const steps = stepsOf(setup, fault.cause.device)
    return Math.max(0, fault.riseDb - steps.reduce((s, step) => s + fault.takesDb[step].audio, 0) + random.normal())
  }

  /** Frequencies of its lines between two ends. */
  function lineHz(lowHz: number, highHz: number): number[] {
    const step = fault.oddOnly ? 2 : 1
    const lines: number[] = []
    for (let n = Math.ceil(lowHz / fault.spacingHz); n * fault.spacingHz <= highHz; n++)
      if (n % step === 1 % step) lines.push(n * fault.spacingHz)
    return lines
  }
  const showsLines = (setup: Setup) => fault.lines && fault.cause.way !== 'audio' && isOn(setup)

  function spectrum(setup: Setup, lowHz: number, highHz: number, bins = 1500): Bin[] {
    const step = (highHz - lowHz) / bins
    const lines = showsLines(setup)
      ? lineHz(lowHz, highHz).map(hz => hz + ((fault.waverHz * hz) / 10e6) * random.normal())
      : []
    return Array.from({ length: bins }, (_, i) => {
      const hz = lowHz + (i + 0.5) * step
      // Averaged sweeps still scatter by a dB or so.
      let dbm = levelDbm(setup, hz, step, lines.length ? HISS_DB : 0) + 0.6 * random.normal()
      for (const line of lines) {
        if (Math.abs(line - hz) <= 1.5 * step)
          dbm = powerSum(dbm, faultDbm(setup, hz, BANDWIDTH_HZ) - 40 * ((line - hz) / (1.5 * step)) ** 2)
      }
      return { hz, db: dbm }
    })
  }

  function recording(setup: Setup, centreHz: number, seconds: number, sampleRateHz: number): Recording {
    const n = Math.round(seconds * sampleRateHz)
    const [i, q] = [new Float32Array(n), new Float32Array(n)]
    const sigma =
      0.01 *
      10 **
        ((levelDbm(setup, centreHz, BANDWIDTH_HZ, showsLines(setup) ? HISS_DB : 0) -
          floorDbm({}, centreHz, BANDWIDTH_HZ)) /
          40)
    for (let k = 0; k < n; k++) {
      i[k] = sigma * random.normal()
      q[k] = sigma * random.normal()
    }
    if (showsLines(setup)) {
      const amplitude = 0.004 * 10 ** ((fault.riseDb - 20 + remainsDb(setup)) / 20)
      for (const hz of lineHz(centreHz - 0.48 * sampleRateHz, centreHz + 0.48 * sampleRateHz)) {
        let phase = 2 * Math.PI * random.uniform()
        const wavers = (fault.waverHz * hz) / 10e6
        for (let k = 0; k < n; k++) {
          const swing = wavers * Math.sin((2 * Math.PI * 0.7 * k) / sampleRateHz)
          phase += (2 * Math.PI * (hz - centreHz + swing)) / sampleRateHz
          i[k]! += amplitude * Math.cos(phase)
          q[k]! += amplitude * Math.sin(phase)
        }
      }
    }
    return { sampleRateHz, channels: [i, q] }
  }

  /** As an operator judges: how far the noise stands over the floor with the device on and off, before and after the change. */
  function heard(setup: Setup): Heard {
    if (fault.cause.way === 'audio' || setup.rfGain === 'down') {
      const [before, after] = fault.cause.way === 'audio' ? [fault.riseDb, audioRiseDb(setup)] : [fault.riseDb, 0]
      return after <= 2 || before - after >= GONE_DB ? 'gone' : before - after < WEAKER_DB ? 'same' : 'weaker'
    }
    const hz = middleHz(heardOn)
    const off: Setup = { ...setup, devices: { ...setup.devices, [fault.cause.device]: { state: 'off' } } }
    const rise = levelDbm(setup, hz) - levelDbm(off, hz)
    // With a dummy load the floor falls: what counts is the noise itself.
    const left = faultDbm(setup, hz, BANDWIDTH_HZ) + 0.8 * random.normal()
    const full = faultDbm({}, hz, BANDWIDTH_HZ) + 0.8 * random.normal()
    if (rise < 1.8 || full - left >= GONE_DB) return 'gone'
    return full - left < WEAKER_DB ? 'same' : 'weaker'
  }

  function slipped(right: Heard): Heard {
    if (random.uniform() >= slips) return right
    return right === 'weaker' ? (random.uniform() < 0.5 ? 'same' : 'gone') : 'weaker'
  }

  function perform(test: Pick<Test, 'id' | 'what' | 'setup'>, id: string, at: string): Observation {
    const common = { id, at, bands: fault.bands }
    if (test.what === 'listen')
      return { kind: 'listen', ...common, setup: test.setup!, heard: slipped(heard(test.setup!)) }
    if (test.what === 'sniff') return { kind: 'sniff', ...common, loudest: sniffed() }
    const centreHz = middleHz(heardOn)
    const [comb] = showsLines({})
      ? hearSpectrum(spectrum({}, centreHz - SWEEP_HZ / 2, centreHz + SWEEP_HZ / 2)).combs
      : []
    return {
      kind: 'comb',
      ...common,
      spacingHz: comb ? Math.round((comb.oddOnly && comb.fundamentalHz) || comb.spacingHz) : null,
      ...(comb && { uncertaintyHz: comb.uncertaintyHz }),
    }
  }

  /** A set held close hears the device itself, by whatever way its noise comes into the station's receiver. */
  function sniffed(): string {
    const own = causes.devices.filter(d => d.id !== OUTSIDE)
    const loud = own
      .map(d => ({ id: d.id, db: (d.id === fault.cause.device ? nearDb(fault.cause.way) : 0) + 7 * random.normal() }))
      .sort((a, b) => b.db - a.db)
    return loud[0] && loud[0].db > 4 ? loud[0].id : 'none'
  }
  return {
    levelDbm,
    spectrum,
    recording,
    perform,
    audioRiseDb,
    sReading: (setup, band) => dbmToS(levelDbm(setup, middleHz(band)), middleHz(band)),
  }
}

const powerSum = (a: number, b: number) => 10 * Math.log10(10 ** (a / 10) + 10 ** (b / 10))
const nearDb = (way: Way) => ({ antenna: 16, 'dc-common': 14, 'dc-differential': 8, audio: 6, mains: 14 })[way]

function emits(fault: Fault, setup: Setup, mostA: number | undefined): boolean {
  const put = setup.devices?.[fault.cause.device]
  // Left as it is: the operator has made sure that it is heard.
  if (!put) return true
  if (put.state === 'off') return false
  const { when } = fault.cause
  if (when.kind === 'always') return true
  if (put.state === 'idle') return false
  if (when.kind === 'start') return (put.minutesOn ?? 0) <= 5
  return put.currentA === undefined || mostA === undefined || put.currentA / mostA >= fault.setInShare
}

function stepsOf(setup: Setup, culprit: string): Step[] {
  const steps: Step[] = []
  if (setup.antenna === 'dummy') steps.push('dummy')
  if (setup.feed === 'own-battery') steps.push('own-battery')
  if (setup.rfGain === 'down') steps.push('gain-down')
  for (const { what, at } of setup.added ?? []) {
    if (what === 'bond' || what === 'lc-filter') steps.push(what)
    else if (at === 'radio') steps.push(...(what === 'choke' ? ['choke-radio' as const] : []))
    else if (at === culprit) steps.push(what === 'choke' ? 'choke-device' : what)
  }
  return steps
}

export interface Solved {
  right: boolean
  tests: number
  minutes: number
  euro: number
  named: { device: string; way: Way }
  log: { test: Advice; observation: Observation }[]
}
