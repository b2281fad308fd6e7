import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { threeWay } from '../../../core/merge/threeWay'
import { BANDS } from '../../../core/catalog/bands'
import { believe } from '../../../core/noise/belief'
import { causesOf } from '../../../core/noise/cause'
import { CURES } from '../../../core/noise/cure'
import {
  caseSchema,
  emptyLogbook,
  logbookSchema,
  readCaseText,
  splitByBand,
  writeCase,
  type Logbook,
  type NoiseCase,
} from '../../../core/noise/logbook'
import type { Observation } from '../../../core/noise/observation'
import { caseReport, reportText } from '../../../core/noise/report'
import { busyPlan } from '../../data/noisy'
import { demoPlan } from '../../data/plans'

const plans = [
  demoPlan('narrowboat-heron'),
  demoPlan('tern-rock-light'),
  busyPlan(),
  { ...demoPlan('clean-bench'), leads: [] },
]
const band = fc.constantFrom(...BANDS.map(b => b.id))
const place = fc.constantFrom('ctl', 'inv', 'dcdc', 'mains', 'gone-from-the-plan', 'radio')
const maybe = <T>(arb: fc.Arbitrary<T>) => fc.option(arb, { nil: undefined })
const state = fc.record({
  state: fc.constantFrom('off', 'idle', 'working'),
  currentA: maybe(fc.double({ min: 0, max: 60, noNaN: true })),
  minutesOn: maybe(fc.integer({ min: 0, max: 90 })),
})
const common = {
  at: fc.constant('2026-06-13T12:00:00Z'),
  who: maybe(fc.constant('HF operator')),
  bands: maybe(fc.uniqueArray(band, { maxLength: 3 })),
}
const observation = fc.oneof(
  fc.record({
    kind: fc.constant('listen'),
    ...common,
    heard: fc.constantFrom('same', 'weaker', 'gone'),
    current: maybe(fc.record({ device: place, amps: fc.double({ min: 0, max: 60, noNaN: true }) })),
    setup: fc.record({
      devices: maybe(
        fc.dictionary(fc.constantFrom('ctl', 'inv', 'dcdc', 'mains', 'gone-from-the-plan'), state, { maxKeys: 3 }),
      ),
      antenna: maybe(fc.constantFrom('antenna', 'dummy')),
      feed: maybe(fc.constantFrom('shared', 'own-battery')),
      rfGain: maybe(fc.constantFrom('up', 'down')),
      added: maybe(
        fc.array(
          fc.record({ what: fc.constantFrom('choke', 'lc-filter', 'mains-filter', 'distance', 'bond'), at: place }),
          { maxLength: 3 },
        ),
      ),
    }),
  }),
  fc.record({
    kind: fc.constant('comb'),
    ...common,
    spacingHz: fc.option(fc.double({ min: 300, max: 600e3, noNaN: true })),
  }),
  fc.record({
    kind: fc.constant('sniff'),
    ...common,
    loudest: fc.constantFrom('ctl', 'inv', 'gone-from-the-plan', 'none'),
  }),
)
const cure = fc.record({
  at: fc.constant(''),
  what: fc.constantFrom(...CURES.map(c => c.id)),
  where: place,
  kept: fc.boolean(),
  byEar: maybe(fc.constantFrom('same', 'weaker', 'gone')),
  before: maybe(fc.constant({ '30 m': 'S7' })),
  after: maybe(fc.constant({ '30 m': 'S3' })),
})
const numbered = <T extends object>(stem: string, list: T[]) => list.map((o, i) => ({ ...o, id: `${stem}${i}` }))
const aCase: fc.Arbitrary<NoiseCase> = fc
  .record({
    bands: fc.uniqueArray(band, { maxLength: 4 }),
    sound: maybe(fc.constantFrom('hiss', 'tones', 'buzz', 'whine')),
    observations: fc.array(observation, { maxLength: 7 }),
    cures: fc.array(cure, { maxLength: 2 }),
    state: fc.constantFrom('open', 'cured', 'left'),
  })
  .map(
    ({ bands, sound, observations, cures, state: s }) =>
      JSON.parse(
        JSON.stringify({
          id: 'c1',
          title: 'made up',
          openedAt: '',
          complaint: { bands, sound },
          observations: numbered('o', observations),
          cures: numbered('k', cures),
          state: s,
        }),
      ) as NoiseCase,
  )

describe('whatever was written down', () => {
  it('is a valid case, and comes back from its file as it went', () => {
    fc.assert(
      fc.property(aCase, c => {
        expect(caseSchema.safeParse(c).success).toBe(true)
        const read = readCaseText(writeCase(c))
        expect(read.ok && { ...read.case, format: undefined, version: undefined }).toEqual({
          ...c,
          format: undefined,
          version: undefined,
        })
      }),
      { numRuns: 30 },
    )
  })
  it('leaves belief whole: probabilities that sum to 1, and a report that is said', () => {
    fc.assert(
      fc.property(aCase, fc.constantFrom(...plans), (c, plan) => {
        const report = caseReport(plan, c, emptyLogbook())
        expect(report.reasoned.belief.probabilities.reduce((s, p) => s + p, 0)).toBeCloseTo(1, 6)
        for (const p of report.reasoned.belief.probabilities) expect(p).toBeGreaterThanOrEqual(0)
        expect(report.ranked.length).toBeGreaterThan(0)
        for (const t of report.all) {
          expect(t.bits).toBeGreaterThanOrEqual(0)
          expect(t.outcomes.reduce((s, o) => s + o.probability, 0)).toBeCloseTo(1, 6)
        }
        const text = reportText(plan, c, report)
        expect(text).not.toMatch(/undefined|NaN|null/)
        expect(text).toContain('Never defeat a fuse')
      }),
      { numRuns: 20 },
    )
  })
  it('a finding repeated makes nobody less sure of what it speaks for', () => {
    const causes = causesOf(plans[0]!, { bands: ['20 m'] })
    expect(causes.priors.length).toBeGreaterThan(10)
    const say = (n: number): Observation[] =>
      Array.from({ length: n }, (_, i) => ({
        kind: 'listen',
        id: `o${i}`,
        at: '',
        setup: { devices: { inv: { state: 'off' } } },
        heard: 'gone',
      }))
    const mass = (n: number) =>
      caseReport(
        plans[0]!,
        {
          id: 'c',
          title: 't',
          openedAt: '',
          complaint: { bands: ['20 m'] },
          observations: say(n),
          cures: [],
          state: 'open',
        },
        emptyLogbook(),
      )
        .reasoned.belief.pairs.filter(p => p.device === 'inv')
        .reduce((s, p) => s + p.probability, 0)
    expect(mass(1)).toBeGreaterThan(mass(0))
    expect(mass(2)).toBeGreaterThanOrEqual(mass(1))
  })
  it('a log of 500 findings, half of them wrong, still ends in numbers', () => {
    const causes = causesOf(plans[0]!, { bands: ['20 m'] })
    const log = Array.from({ length: 500 }, (_, i): Observation => ({
      kind: 'listen',
      id: `o${i}`,
      at: '',
      setup: { devices: { inv: { state: 'off' } } },
      heard: i % 2 ? 'gone' : 'same',
    }))
    const { probabilities, pairs } = believe(causes, log)
    expect(probabilities.reduce((s, p) => s + p, 0)).toBeCloseTo(1, 6)
    expect(pairs[0]!.probability).toBeGreaterThan(0)
  })
  it('split by band, every finding is in some part, and a part has only its band', () => {
    fc.assert(
      fc.property(aCase, c => {
        const parts = splitByBand(c, n => `s${n}`)
        expect(parts).toHaveLength(c.complaint.bands.length)
        const everywhere = c.observations.filter(
          o => !o.bands?.length || o.bands.some(b => c.complaint.bands.includes(b)),
        )
        if (parts.length)
          expect(new Set(parts.flatMap(p => p.observations.map(o => o.id)))).toEqual(new Set(everywhere.map(o => o.id)))
        for (const p of parts) {
          expect(caseSchema.safeParse(p).success).toBe(true)
          for (const o of p.observations) if (o.bands?.length) expect(o.bands).toEqual(p.complaint.bands)
        }
      }),
      { numRuns: 30 },
    )
  })
  it('merged from two windows, nothing of either is lost', () => {
    const log = fc.tuple(aCase, aCase).map(([a, b]): Logbook => ({ ...emptyLogbook(), cases: [a, { ...b, id: 'c2' }] }))
    fc.assert(
      fc.property(log, log, (mine, theirs) => {
        const { value: both } = threeWay(emptyLogbook(), mine, theirs, { renames: true })
        const kept = both.cases.map(c => JSON.stringify({ ...c, id: '' }))
        for (const side of [mine, theirs])
          for (const c of side.cases) expect(kept).toContain(JSON.stringify({ ...c, id: '' }))
        expect(new Set(both.cases.map(c => c.id)).size).toBe(both.cases.length)
        expect(logbookSchema.safeParse(both).success).toBe(true)
      }),
      { numRuns: 20 },
    )
  })
  it('no text makes the reader of case files throw', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.json(),
          fc.jsonValue().map(v => JSON.stringify({ format: 'wireman-noise-case', version: 1, id: v, observations: v })),
        ),
        text => {
          const read = readCaseText(text)
          if (!read.ok) expect(read.wrong.length).toBeGreaterThan(3)
        },
      ),
    )
  })
})
