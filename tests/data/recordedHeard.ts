import { BANDS, middleHz } from '../../core/catalog/bands'
import { randomFrom } from '../../core/chance/random'
import { causesOf, WAYS, type Cause, type Causes } from '../../core/noise/cause'
import { hearRecording } from '../../core/noise/listen/listen'
import { Listening, type ListenedTo } from '../../core/noise/listen/listening'
import type { Recording } from '../../core/noise/listen/spectrum'
import { NEEDS } from '../../core/noise/test'
import { HEARD, type Setup } from '../../core/noise/setup'
import { drawFault, faultOf, type Fault } from '../../core/noise/simulated/fault'
import { simulatedReceiver } from '../../core/noise/simulated/receiver'
import { followAdvice, informationBound } from '../../core/noise/simulated/solve'
import { isPart } from '../../core/noise/suspect'
import { CURES, type Cure } from '../../core/noise/cure'
import {
  emptyLogbook,
  readCaseText,
  splitByBand,
  triedCures,
  writeCase,
  type Logbook,
  type NoiseCase,
} from '../../core/noise/logbook'
import type { Observation } from '../../core/noise/observation'
import { caseReport, reportText } from '../../core/noise/report'
import type { Plan } from '../../core/plan/schema'
import { demoPlan } from './plans'
import { tried } from './someOf'

/**
 * What a simulated receiver hears of hidden faults, what a case says of it, and what listening makes of sound: whole
 * answers, as in `recorded.ts`.
 */

const SITES = ['city', 'residential', 'rural'] as const
const TWENTY = BANDS.find(b => b.id === '20 m')!
const EIGHTY = BANDS.find(b => b.id === '80 m')!

/** Everything that may be changed, one at a time and some together. */
function setupsAt(device: string, other: string): Setup[] {
  const at = (state: 'off' | 'idle' | 'working', more: object = {}): Setup => ({
    devices: { [device]: { state, ...more } },
  })
  return [
    {},
    at('off'),
    at('idle'),
    at('working', { currentA: 0.5 }),
    at('working', { currentA: 9 }),
    at('working', { minutesOn: 2 }),
    at('working', { minutesOn: 20 }),
    { devices: { [device]: { state: 'off' }, [other]: { state: 'off' } } },
    { everything: 'off' },
    { antenna: 'dummy' },
    { feed: 'own-battery' },
    { feed: 'from-battery' },
    { data: 'unplugged' },
    { rfGain: 'down' },
    ...(['choke', 'lc-filter', 'mains-filter', 'distance', 'bond', 'swap'] as const).flatMap(what =>
      [device, other, 'radio'].map((where): Setup => ({ added: [{ what, at: where }] })),
    ),
  ]
}

/** A sum and a few samples tell of a recording what a whole one would. */
function gistOf({ channels }: Recording) {
  return channels.map(c => ({
    power: c.reduce((sum, v) => sum + v * v, 0),
    samples: [...c.filter((_, k) => k % 997 === 0)],
  }))
}

function receiverAnswer(plan: Plan, causes: Causes, fault: Fault, seed: number) {
  const { device } = fault.cause
  const other = causes.devices.find(d => isPart(d.id) && d.id !== device)!.id
  const site = SITES[seed % SITES.length]!
  const receiver = simulatedReceiver(fault, causes, { site, random: randomFrom(seed), slips: 0.2 })
  const setups = setupsAt(device, other)
  return {
    fault: { ...fault, takesDb: undefined },
    setups: setups.map(setup => [
      receiver.levelDbm(setup, middleHz(TWENTY)),
      receiver.levelDbm(setup, middleHz(EIGHTY), 500),
      receiver.sReading(setup, TWENTY),
      receiver.audioRiseDb(setup),
      [0, 1, 2].map(
        n => (receiver.perform({ id: 't', what: 'listen', setup }, `o${n}`, 'now') as { heard: string }).heard,
      ),
    ]),
    sniffed: [0, 1, 2].map(n => receiver.perform({ id: 't', what: 'sniff' }, `s${n}`, 'now')),
    comb: receiver.perform({ id: 't', what: 'comb' }, 'c', 'now'),
    spectrum: [{}, setups[1]!, setups[9]!].map(setup =>
      receiver.spectrum(setup, 14.0e6, 14.35e6, 90).map(b => Number(b.db.toFixed(1))),
    ),
    recording: [{}, setups[1]!].map(setup => gistOf(receiver.recording(setup, 14.1e6, 0.1, 48000))),
  }
}

function hiddenFaults(causes: Causes): Fault[] {
  const bands = ['20 m']
  const drawn = Array.from({ length: 4 }, (_, i) => drawFault(causes, bands, randomFrom(i + 1)))
  const byWay = WAYS.flatMap(({ id }, i) => {
    const prior = causes.priors.find(p => p.cause.way === id && !p.cause.second && isPart(p.cause.device))
    return prior ? [faultOf(prior.cause as Cause, causes, bands, randomFrom(40 + i))] : []
  })
  const overs = causes.priors.filter(p => p.cause.when.kind !== 'always' && !p.cause.second && isPart(p.cause.device))
  return [...drawn, ...byWay, ...overs.slice(0, 3).map((p, i) => faultOf(p.cause, causes, bands, randomFrom(60 + i)))]
}

const STATIONS = ['tern-rock-light', 'narrowboat-heron'] as const
const ofStations = (answer: (plan: Plan, causes: Causes) => unknown) => () =>
  Object.fromEntries(
    STATIONS.map(name => {
      const plan = demoPlan(name)
      return [name, answer(plan, causesOf(plan, { bands: ['20 m'] }))]
    }),
  )

function solvedAnswer(plan: Plan, causes: Causes) {
  const faults = Array.from({ length: 5 }, (_, i) => drawFault(causes, ['20 m'], randomFrom(100 + i)))
  return {
    bound: informationBound(plan, causes),
    solved: faults.map((fault, i) => {
      const receiver = simulatedReceiver(fault, causes, { site: 'rural', random: randomFrom(i), slips: 0.1 })
      const atHand = new Set(NEEDS.slice(0, 2 * i + 1))
      const { log, ...solved } = followAdvice(plan, causes, { receiver, fault }, atHand)
      return { ...solved, log: log.map(l => [l.test.title, l.test.bits, l.observation]) }
    }),
  }
}

/** Findings of a hidden fault as somebody makes them who errs now and then, one test after the other as advised. */
function findingsOf(plan: Plan, causes: Causes, seed: number): Observation[] {
  const fault = drawFault(causes, ['20 m'], randomFrom(200 + seed))
  const receiver = simulatedReceiver(fault, causes, { site: 'rural', random: randomFrom(seed), slips: 0.3 })
  const { log } = followAdvice(plan, causes, { receiver, fault }, new Set(NEEDS))
  const made = log.map(l => l.observation)
  // One of them again, and the opposite heard.
  const [first] = made
  const again = first?.kind === 'listen' && { ...first, id: 'again', heard: first.heard === 'gone' ? 'same' : 'gone' }
  return [...made, ...(again ? [again as Observation] : [])].map((o, i) => ({ ...o, who: i % 2 ? 'B' : 'A' }))
}

const READ = ['S1', 'S4', 'S9+10', '−100 dBm', 'S3']
function curesAt(device: string, seed: number): Cure[] {
  return CURES.map(({ id: what }, i) => ({
    id: `k${i}`,
    at: '2026-06-13',
    what,
    where: i % 2 ? 'radio' : device,
    ...(i % 3 ? { before: { '20 m': READ[(seed + i) % 5]! }, after: { '20 m': READ[(seed * i) % 5]! } } : {}),
    ...(i % 4 === 0 && { byEar: HEARD[(seed + i) % 3] }),
    ...(i % 5 === 0 && { sideEffects: 'warm', cost: 12 }),
    kept: i % 2 === 0,
  }))
}

/** A case as it grows: its report after each finding in short, and at the end in full. */
function toldAnswer(plan: Plan, causes: Causes, seed: number) {
  const observations = findingsOf(plan, causes, seed)
  const device = causes.devices.find(d => isPart(d.id))!.id
  const radio = plan.parts.find(p => p.kind === 'radio')!.id
  const logbook: Logbook = {
    ...emptyLogbook(),
    atHand: NEEDS.slice(0, 3 + 2 * seed),
    receivers: {
      [radio]: {
        attenuatorDb: 6,
        calibration: [
          { shown: 'S4', dbm: -99 },
          { shown: 'S9', dbm: -70 },
        ],
      },
    },
  }
  const noiseCase: NoiseCase = {
    id: 'c',
    title: 'made up',
    openedAt: '2026-06-13T12:00:00Z',
    complaint: { bands: ['20 m', '40 m'], sound: (['hiss', 'tones', 'buzz', 'whine'] as const)[seed % 4] },
    observations,
    ...(seed % 2 && { radio }),
    skipped: [
      { test: 'dummy', why: 'will-not', at: '' },
      { test: 'sniff', why: 'cannot-now', at: '' },
    ],
    cures: curesAt(device, seed).slice(0, 2 * seed),
    state: 'open',
  }
  const at = (count: number) => caseReport(plan, { ...noiseCase, observations: observations.slice(0, count) }, logbook)
  const steps = observations.map((_, i) => {
    const { headline, ranked, doubts, contradictions, next } = at(i)
    return {
      headline,
      ranked: ranked.map(r => [r.label, r.percent, r.when]),
      doubts,
      contradictions,
      next: next[0]?.title,
    }
  })
  const { reasoned, all, next, ...more } = at(observations.length)
  const cured = { ...logbook, cases: [noiseCase] }
  return {
    steps,
    end: { ...more, next: next.map(t => t.title), all: all.map(t => [t.id, t.rate, t.euro, t.minutes]) },
    odds: reasoned.belief.pairs.slice(0, 5),
    text: reportText(plan, noiseCase, at(observations.length)).split('\n'),
    tried: triedCures(plan, cured),
    split: splitByBand(noiseCase, n => `n${n}`).map(c => [c.title, c.observations.length]),
    kept: tried(() => readCaseText(writeCase(noiseCase))),
  }
}

const RATE = 24000

/** Hiss, and while it is on a comb of tones and perhaps a broad rise. */
function sound(seed: number, isIq: boolean, seconds: number, isOn: boolean) {
  const random = randomFrom(seed)
  const n = Math.round(seconds * RATE)
  const channels = [0, 1]
    .slice(0, isIq ? 2 : 1)
    .map(() => Float32Array.from({ length: n }, () => 0.01 * random.normal()))
  if (!isOn) return channels
  for (let line = 1; line < 12; line++) {
    const hz = isIq ? 910 * (line - 6) + 233 : 910.5 * line
    for (let k = 0; k < n; k++) {
      const phase = (2 * Math.PI * hz * k) / RATE + line * line
      channels[0]![k]! += 0.004 * Math.cos(phase)
      if (isIq) channels[1]![k]! += 0.004 * Math.sin(phase)
    }
  }
  return channels
}

/** Switched to and fro as somebody does, once in pieces too short to count. */
function listeningAnswer(source: ListenedTo, seed: number) {
  const listening = new Listening(source)
  const states = ['on', 'off', 'on', 'off', 'off', 'on'] as const
  const levels = states.map((state, i) => {
    listening.switchTo(i === 4 ? null : state)
    const rows = listening.push(sound(10 * seed + i, source.isIq, i === 5 ? 1.2 : 2.2, state === 'on'))
    const middle = source.isIq ? (source.centreHz ?? 0) : 3000
    return [rows.length, listening.level(middle, 2700), listening.level(middle + 500, 300), listening.compared()?.whole]
  })
  const { combs, ...more } = listening.combs()
  const compared = listening.compared()!
  listening.forget()
  return {
    lowHz: listening.lowHz,
    levels,
    combs,
    unexplained: more.unexplained.length,
    mains: more.mains,
    compared: {
      ...compared,
      onDb: [...compared.onDb].filter((_, b) => b % 101 === 0),
      offDb: [...compared.offDb].filter((_, b) => b % 101 === 0),
    },
    forgotten: listening.compared(),
  }
}

/** The same sounds as recordings, with and without a centre. */
function recordingAnswer(isIq: boolean, centreHz: number | null) {
  const heard = hearRecording({ sampleRateHz: RATE, channels: sound(3, isIq, 3, true) }, centreHz)!
  return {
    tones: heard.tones,
    combs: heard.combs.map(({ lines, ...comb }) => ({ ...comb, lines: lines.slice(0, 4) })),
    motions: heard.motions,
    unexplained: heard.unexplained.length,
  }
}

export const RECORDED_HEARD: Record<string, () => unknown> = {
  'heard-faults': ofStations((plan, causes) => hiddenFaults(causes).map((f, i) => receiverAnswer(plan, causes, f, i))),
  'heard-solved': ofStations(solvedAnswer),
  'heard-told': ofStations((plan, causes) => [1, 2].map(seed => toldAnswer(plan, causes, seed))),
  'heard-live': () => ({
    audio: listeningAnswer({ sampleRateHz: RATE, isIq: false, centreHz: null }, 1),
    around: listeningAnswer({ sampleRateHz: RATE, isIq: true, centreHz: null }, 2),
    centred: listeningAnswer({ sampleRateHz: RATE, isIq: true, centreHz: 14.1e6 }, 3),
  }),
  'heard-recordings': () => ({
    audio: recordingAnswer(false, null),
    around: recordingAnswer(true, null),
    centred: recordingAnswer(true, 14.1e6),
  }),
}
