import { BANDS } from '../../core/catalog/bands'
import { randomFrom, type Random } from '../../core/chance/random'
import { bandsHit, clearSlots, linesInBand } from '../../core/noise/comb/bands'
import { fitFrom } from '../../core/noise/comb/fit'
import { broadcastOf } from '../../core/noise/comb/raster'
import { seedsOf } from '../../core/noise/comb/seeds'
import { foldedSidebands } from '../../core/noise/comb/sidebands'
import { causesOf } from '../../core/noise/cause'
import { emptyLogbook, type NoiseCase } from '../../core/noise/logbook'
import { observationSchema, type Observation } from '../../core/noise/observation'
import { floorOf, tonesOf, widened } from '../../core/noise/listen/tones'
import { observationWords } from '../../core/noise/observationWords'
import { caseReport, reportText } from '../../core/noise/report'
import { HEARD } from '../../core/noise/setup'
import { isPart, type Suspect } from '../../core/noise/suspect'
import { freshSurvey, rowWords, type Survey } from '../../core/noise/survey/survey'
import { noiseIntoPlan, surveyObservations } from '../../core/noise/survey/surveyEvidence'
import { deviceNoise, surveyResults } from '../../core/noise/survey/surveyResults'
import type { Plan } from '../../core/plan/schema'
import { combCorpus } from './combCorpus'
import { hear } from './combScores'
import { demoPlan } from './plans'

/** What is made of tones, surveys and evidence of every kind: whole answers, as in `recorded.ts`. */

const oneOf = <T>(r: Random, list: readonly T[]) => list[Math.floor(r.uniform() * list.length)]!

const TWENTY = BANDS.find(b => b.id === '20 m')!

function combAnswer(each: number, seed: number) {
  return combCorpus(each, seed).map(sample => {
    const { combs, broadcast, mains, unexplained } = hear(sample)
    return {
      recipe: sample.recipe,
      broadcast: broadcast && { ...broadcast, lines: broadcast.lines.length },
      mains,
      unexplained: unexplained.length,
      combs: combs.map(({ lines, ...comb }) => ({
        ...comb,
        lines: atSome(lines),
        hits: bandsHit({ ...comb, lines }),
        lines20m: linesInBand({ ...comb, lines }, TWENTY).length,
      })),
      clear: clearSlots(combs, TWENTY, 2700, 2),
    }
  })
}

/** A list at a few of its places, and how long it is. */
const atSome = <T>(list: readonly T[]) => ({
  count: list.length,
  some: [0, 1, 0.3, 0.7].flatMap(share => list.slice(Math.floor(share * (list.length - 1))).slice(0, 1)),
})

/** What each stage makes of a sample on the way to its combs. */
function stagesAnswer(each: number, seed: number) {
  return combCorpus(each, seed).map(({ recipe, bins, tones, resolutionHz = 1 }) => {
    const heard = tones ?? tonesOf(bins!)
    const rising = [...heard].sort((a, b) => a.hz - b.hz)
    const hz = rising.map(t => t.hz)
    const limits = { leastHz: 50, mostHz: 300e3, resolutionHz }
    const { seeds, trials } = seedsOf(hz, limits)
    return {
      recipe,
      widened: bins && [3, 4].map(times => atSome(widened(bins, times))),
      floor: bins && atSome([...floorOf(bins)]),
      tones: atSome(heard),
      folded: [1, 8].map(resolution => atSome(foldedSidebands(rising, resolution))),
      stations: broadcastOf(rising, resolutionHz),
      seeds: [atSome(seeds), trials],
      fits: atSome(seeds).some.map(s => {
        const fit = fitFrom(hz, s, resolutionHz)
        return fit && { ...fit, matched: atSome(fit.matched) }
      }),
    }
  })
}

const BAND_IDS = ['80 m', '40 m', '20 m', '2 m']
const TIMES = ['', '2026-06-13T03:00', '2026-06-13T14:00', '22:30']

/** Readings as people write them: S-units, dBm, nothing, an end of the meter. */
function reading(r: Random, loud: number): string {
  const units = Math.min(9, Math.floor(loud + 2 * r.uniform()))
  const forms = [
    `S${units}`,
    `s${units}`,
    `−${127 - 6 * units} dBm`,
    `-${125 - 6 * units}`,
    `S9+${10 * units}`,
    'S0',
    '',
  ]
  return forms[Math.floor(r.uniform() ** 2 * forms.length)]!
}

/** A survey filled in, some rows read again, with a dummy load or another feed. */
function madeUpSurvey(plan: Plan, seed: number): Survey {
  const r = randomFrom(seed)
  const survey = freshSurvey(plan, BAND_IDS, 's', 'made up')
  const rows = survey.rows.flatMap(row => [
    { ...row, at: oneOf(r, TIMES), who: 'one' },
    ...(r.uniform() < 0.4 ? [{ ...row, id: `${row.id}-again`, allowedBy: 'sun' as const }] : []),
    ...(r.uniform() < 0.2 ? [{ ...row, id: `${row.id}-dummy`, antenna: 'dummy' as const }] : []),
    ...(r.uniform() < 0.2 ? [{ ...row, id: `${row.id}-own`, feed: 'own-battery' as const }] : []),
  ])
  const loud = new Map(rows.map(row => [row.id, Object.keys(row.devices).length ? 4 * r.uniform() + 1 : 1]))
  const withAmps = rows.map(row => ({
    ...row,
    devices: Object.fromEntries(
      Object.entries(row.devices).map(([id, state]) => [id, { ...state!, currentA: Math.round(10 * r.uniform()) }]),
    ),
  }))
  const read = (row: { id: string }) =>
    Object.fromEntries(survey.columns.map(c => [c.id, reading(r, loud.get(row.id)!)]))
  return { ...survey, rows: withAmps, readings: Object.fromEntries(rows.map(row => [row.id, read(row)])) }
}

function surveyAnswer(plan: Plan, seed: number) {
  const survey = madeUpSurvey(plan, seed)
  const { devices } = causesOf(plan, { bands: BAND_IDS })
  const site = oneOf(randomFrom(seed), ['city', 'residential', 'rural', 'quiet-rural'] as const)
  const receiver = { attenuatorDb: 10 * (seed % 2), bandwidthHz: seed % 3 ? 2700 : 500 }
  const found = deviceNoise(survey, site, receiver)
  return {
    rows: survey.rows.map(row => rowWords(row, devices)),
    results: surveyResults(survey, site, receiver),
    found,
    intoPlan: found.map(f => noiseIntoPlan(plan, f)),
    evidence: surveyObservations(survey, ['20 m', '40 m'], devices, { site, receiver }),
  }
}

const STATES = ['off', 'idle', 'working'] as const
const ADDED = ['choke', 'lc-filter', 'mains-filter', 'distance', 'bond', 'swap'] as const
const CHANCE = { fall: 0.3, current: 0.3, antenna: 0.3, feed: 0.3, data: 0.2, gain: 0.2, added: 0.3, everything: 0.1 }

/** One finding of any kind that may be said. */
function madeUpFinding(r: Random, devices: readonly Suspect[], id: string): Observation {
  const parts = devices.filter(d => isPart(d.id))
  const device = oneOf(r, parts).id
  const maybe = (what: keyof typeof CHANCE, value: object) => (r.uniform() < CHANCE[what] ? value : {})
  const common = { id, at: '2026-06-13T12:00', bands: ['20 m'] }
  const listened = () => ({
    kind: 'listen',
    ...common,
    heard: oneOf(r, [...HEARD, 'not-sure']),
    ...maybe('fall', { fall: { db: 20 * r.uniform() - 3, errorDb: 1 + r.uniform() }, times: 6 }),
    ...maybe('current', { current: { device, amps: 8 * r.uniform() } }),
    setup: {
      devices: { [device]: { state: oneOf(r, STATES), currentA: 5 * r.uniform(), minutesOn: 20 * r.uniform() } },
      ...maybe('everything', { everything: 'off' }),
      ...maybe('antenna', { antenna: 'dummy' }),
      ...maybe('feed', { feed: oneOf(r, ['from-battery', 'own-battery']) }),
      ...maybe('data', { data: 'unplugged' }),
      ...maybe('gain', { rfGain: oneOf(r, ['up', 'down']) }),
      ...maybe('added', { added: [{ what: oneOf(r, ADDED), at: oneOf(r, [device, 'radio']) }] }),
    },
  })
  const kinds = [
    listened,
    listened,
    listened,
    () => ({
      kind: 'comb',
      ...common,
      spacingHz: r.uniform() < 0.2 ? null : 6e4 + 1e5 * r.uniform(),
      uncertaintyHz: 20,
    }),
    () => ({ kind: 'sniff', ...common, loudest: r.uniform() < 0.2 ? 'none' : device }),
    () => ({
      kind: 'own',
      ...common,
      words: 'seen',
      concerns: oneOf(r, devices).id,
      speaks: oneOf(r, ['for', 'against']),
    }),
  ]
  return observationSchema.parse(oneOf(r, kinds)())
}

/** A case of evidence at random, as its report stands. */
function caseAnswer(plan: Plan, seed: number) {
  const r = randomFrom(seed)
  const bands = oneOf(r, [['20 m'], ['30 m', '40 m'], ['2 m']])
  const { devices } = causesOf(plan, { bands })
  const observations = Array.from({ length: 1 + (seed % 6) }, (_, i) => madeUpFinding(r, devices, `o${i}`))
  const sound = oneOf(r, [undefined, 'hiss', 'tones', 'buzz', 'whine'] as const)
  const noiseCase: NoiseCase = {
    id: 'c',
    title: 'made up',
    openedAt: '2026-06-13T12:00:00Z',
    complaint: { bands, ...(sound && { sound }) },
    observations,
    cures: [],
    state: 'open',
  }
  const report = caseReport(plan, noiseCase, emptyLogbook())
  const { next, ranked, reasoned: _reasoned, all, log: _log, ...more } = report
  return {
    ...more,
    found: observations.map(o => observationWords(o, devices)),
    ranked: ranked.slice(0, 5),
    next: next.slice(0, 3).map(({ title, bits, rate, outcomes }) => ({ title, bits, rate, outcomes })),
    all: all.map(({ title, bits, lacks }) => [title, bits, lacks]),
    text: reportText(plan, noiseCase, report).split('\n'),
  }
}

const ofPlans = (seeds: number, answer: (plan: Plan, seed: number) => unknown) => () =>
  Object.fromEntries(
    (['tern-rock-light', 'narrowboat-heron'] as const).map(name => [
      name,
      Array.from({ length: seeds }, (_, i) => answer(demoPlan(name), i + 1)),
    ]),
  )

export const RECORDED_NOISE: Record<string, () => Record<string, unknown>> = {
  'noise-combs': () => ({ first: combAnswer(1, 1), second: combAnswer(1, 2), third: combAnswer(1, 3) }),
  'noise-stages': () => ({ first: stagesAnswer(1, 1), fourth: stagesAnswer(1, 4) }),
  'noise-surveys': ofPlans(6, surveyAnswer),
  'noise-cases': ofPlans(8, caseAnswer),
}
