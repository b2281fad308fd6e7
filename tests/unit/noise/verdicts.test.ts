import { describe, expect, it } from 'vitest'
import { believe } from '../../../core/noise/belief'
import { causesOf } from '../../../core/noise/cause'
import { caseReport } from '../../../core/noise/report'
import { emptyLogbook, type NoiseCase } from '../../../core/noise/logbook'
import type { Observation } from '../../../core/noise/observation'
import type { Setup } from '../../../core/noise/setup'
import { verdictsOf } from '../../../core/noise/verdict'
import { demoPlan } from '../../data/plans'

const heron = demoPlan('narrowboat-heron')
const tern = demoPlan('tern-rock-light')
let count = 0
type Listen = Extract<Observation, { kind: 'listen' }>
const listen = (setup: Setup, heard: Listen['heard'], more: Partial<Listen> = {}): Observation => ({
  kind: 'listen',
  id: `o${++count}`,
  at: '',
  setup,
  heard,
  ...more,
})
const off = (...ids: string[]): Setup => ({ devices: Object.fromEntries(ids.map(i => [i, { state: 'off' as const }])) })
const ALL_OFF: Setup = { everything: 'off', feed: 'own-battery', data: 'unplugged' }
const best = (plan: typeof heron, observations: Observation[]) =>
  verdictsOf(believe(causesOf(plan, { bands: ['20 m'] }), observations))[0]!
const noiseCase = (observations: Observation[], more: Partial<NoiseCase> = {}): NoiseCase => ({
  id: 'c1',
  title: 'a hiss',
  openedAt: '',
  complaint: { bands: ['20 m'] },
  observations,
  cures: [],
  state: 'open',
  ...more,
})

describe('what an operator finds', () => {
  it('two devices at once: either off changes nothing or little, both off it is gone', () => {
    const one = best(tern, [
      listen(off('ctl'), 'same'),
      listen(off('mains'), 'same'),
      listen(off('ctl', 'mains'), 'gone'),
    ])
    expect([...one.devices].sort()).toEqual(['ctl', 'mains'])
    // One that comes and goes by itself was gone by chance: that is not ruled out yet.
    expect(one.probability).toBeGreaterThan(0.6)
    const other = best(heron, [
      listen(off('inv'), 'weaker'),
      listen(off('dcdc'), 'weaker'),
      listen(off('inv', 'dcdc'), 'gone'),
    ])
    expect([...other.devices].sort()).toEqual(['dcdc', 'inv'])
  })
  it('something outside is believed only with everything off, and the receiver only with the antenna off too', () => {
    const parts = [listen(off('inv', 'dcdc', 'fridge'), 'same'), listen({ antenna: 'dummy' }, 'gone')]
    expect(best(heron, parts).probability).toBeLessThan(0.9)
    const outside = best(heron, [...parts, listen(ALL_OFF, 'same'), listen(off('inv'), 'same')])
    expect(outside).toMatchObject({ devices: ['outside'] })
    expect(outside.probability).toBeGreaterThan(0.9)
    const without = best(heron, [listen({ antenna: 'dummy' }, 'same'), listen(off('inv', 'dcdc', 'fridge'), 'same')])
    expect(without.devices).not.toContain('outside')
    expect(without).toMatchObject({ devices: ['receiver'], pair: { wants: 'everything-off-dummy' } })
    const receiver = best(heron, [listen(ALL_OFF, 'same'), listen({ ...ALL_OFF, antenna: 'dummy' }, 'same')])
    expect(receiver).toMatchObject({ devices: ['receiver'] })
    expect(receiver.probability).toBeGreaterThan(0.9)
  })
  it('something that the plan does not name: all its parts off change nothing, the main switch does', () => {
    const found = best(heron, [
      listen(off('inv', 'dcdc', 'fridge'), 'same'),
      listen(ALL_OFF, 'gone'),
      listen({ antenna: 'dummy' }, 'gone'),
    ])
    expect(found.devices).toEqual(['other'])
  })
  it('what cannot be separated is not: its own battery with the data lead out says conducted, and not which', () => {
    const radio = heron.parts.find(p => p.kind === 'radio')!
    const load = heron.parts.find(p => p.kind === 'load')!
    const linked = { ...heron, parts: heron.parts.map(p => (p === radio ? { ...radio, dataTo: load.id } : p)) }
    const causes = causesOf(linked, { bands: ['20 m'] })
    const { pairs } = believe(causes, [
      listen(off(load.id), 'gone'),
      listen({ antenna: 'dummy' }, 'same'),
      listen({ feed: 'own-battery', data: 'unplugged' }, 'gone'),
    ])
    const ways = pairs.filter(p => p.device === load.id && p.probability > 0.1).map(p => p.way)
    expect(ways).toContain('data')
    expect(ways.some(w => w.startsWith('dc-'))).toBe(true)
    expect(pairs[0]!.probability).toBeLessThan(0.8)
  })
  it('a fall that was measured counts by its figure: to the floor and no farther', () => {
    const found = best(heron, [
      listen(off('inv'), 'gone', { fall: { db: 18, errorDb: 0.8 } }),
      listen({ antenna: 'dummy' }, 'same', { fall: { db: 1, errorDb: 0.8 } }),
    ])
    expect(found.devices).toEqual(['inv'])
    const { doubts, pairs } = believe(causesOf(heron, { bands: ['20 m'] }), [
      listen(off('inv'), 'gone', { fall: { db: 18, errorDb: 0.8 } }),
    ])
    expect(doubts).toEqual([])
    expect(pairs.filter(p => p.device === 'inv').reduce((s, p) => s + p.probability, 0)).toBeGreaterThan(0.8)
  })
  it('what is gone once whatever is switched, and back the next time, comes and goes by itself', () => {
    const causes = causesOf(heron, { bands: ['20 m'] })
    const found = (others: 'gone' | 'same') =>
      believe(causes, [
        listen(off('dcdc'), others),
        listen(off('dcdc'), 'same'),
        listen(off('fridge'), others),
        listen(off('fridge'), 'same'),
        ...[1, 2, 3].map(() => listen(off('inv'), 'gone')),
        listen(off('dcdc'), 'same'),
      ]).pairs[0]!
    const whenOf = (others: 'gone' | 'same') => [found(others).device, found(others).whens[0]!.when.kind]
    expect(whenOf('gone')).toEqual(['inv', 'at-times'])
    expect(whenOf('same')).toEqual(['inv', 'always'])
  })
  it('not being sure tells nothing', () => {
    const causes = causesOf(heron, { bands: ['20 m'] })
    const { probabilities } = believe(causes, [
      listen(off('inv'), 'not-sure'),
      listen({ antenna: 'dummy' }, 'not-sure'),
    ])
    probabilities.forEach((p, i) => expect(p).toBeCloseTo(causes.priors[i]!.odds, 12))
  })
  it('a thing that the plan does not have is a suspect where a finding speaks of it', () => {
    const report = caseReport(heron, noiseCase([listen(off('laptop'), 'gone')]), emptyLogbook())
    expect(report.ranked[0]!.label).toMatch(/^laptop/)
    expect(report.suggestions[0]!.title).toMatch(/portable receiver|plan does not name|quieter/i)
  })
})

describe('a case that is torn', () => {
  const slip = listen(off('inv'), 'same')
  const right = () => listen(off('inv'), 'gone')
  it('is voted down: the slip is doubted by name, proposed to be made again, and the cures are back', () => {
    const torn = caseReport(heron, noiseCase([right(), slip]), emptyLogbook())
    expect(torn.state).toBe('torn')
    const more = [
      right(),
      slip,
      right(),
      right(),
      listen({ antenna: 'dummy' }, 'gone'),
      listen({ feed: 'own-battery' }, 'same'),
    ]
    const report = caseReport(heron, noiseCase(more), emptyLogbook())
    expect(report.state).toBe('believed')
    expect(report.ranked[0]!.label).toBe('Inverter, by the antenna')
    expect(report.doubts[0]).toMatch(/^“Inverter off: as strong” is likely a slip/)
    expect(report.all.map(t => t.id)).toContain(`again:${slip.id}`)
    expect(report.suggestions.length).toBeGreaterThan(1)
  })
  it('proposes the doubted finding among the next tests while it still tells something', () => {
    const report = caseReport(heron, noiseCase([right(), slip, right(), right()]), emptyLogbook())
    expect(report.doubts).toHaveLength(1)
    expect(report.next.map(t => t.id)).toContain(`again:${slip.id}`)
  })
  it('keeps to what was skipped: not now comes last, not at all does not come', () => {
    const before = caseReport(heron, noiseCase([]), emptyLogbook()).next.map(t => t.id)
    const skipped: NoiseCase['skipped'] = [
      { test: before[0]!, why: 'cannot-now', at: '' },
      { test: before[1]!, why: 'will-not', at: '' },
    ]
    const after = caseReport(heron, noiseCase([], { skipped }), emptyLogbook()).next.map(t => t.id)
    expect(after.at(-1)).toBe(before[0])
    expect(after).not.toContain(before[1])
  })
  it.each([
    ['S5', 'S5', 'no change, 20 m 0 dB'],
    ['S7', 'S5', 'weaker, 20 m −12 dB'],
    ['S5', 'S6', 'no change, 20 m +6 dB'],
  ])('tells what a cure did from %s to %s: %s', (before, after, did) => {
    const read = { before: { '20 m': before }, after: { '20 m': after } }
    const cure = { id: 'k1', at: '', what: 'distance' as const, where: 'inv', ...read, kept: true }
    expect(caseReport(heron, noiseCase([], { cures: [cure] }), emptyLogbook()).cures[0]!.did).toBe(did)
  })
  it('puts a cure that was tried and did nothing last', () => {
    const found = [right(), listen({ antenna: 'dummy' }, 'gone'), listen({ feed: 'own-battery' }, 'same')]
    const first = caseReport(heron, noiseCase(found), emptyLogbook()).suggestions[0]!
    const cure = { id: 'k1', at: '', what: first.what, where: first.where, byEar: 'same' as const, kept: false }
    const after = caseReport(heron, noiseCase(found, { cures: [cure] }), emptyLogbook())
    expect(after.suggestions.at(-1)!.what).toBe(first.what)
  })
})
