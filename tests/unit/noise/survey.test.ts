import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { surveyCsv, surveyFromCsv } from '../../../core/formats/surveyCsv'
import { suspectsOf } from '../../../core/noise/suspect'
import {
  cellOrder,
  freshSurvey,
  keyed,
  levelOf,
  rowWords,
  surveySchema,
  withReading,
  type Survey,
} from '../../../core/noise/survey/survey'
import { noiseIntoPlan, surveyObservations } from '../../../core/noise/survey/surveyEvidence'
import { withMeasured } from '../../../core/noise/survey/measured'
import { deviceNoise, readingErrorDb, surveyResults } from '../../../core/noise/survey/surveyResults'
import { applyEdit } from '../../../core/edit/patch'
import { randomFrom } from '../../../core/chance/random'
import { busyPlan } from '../../data/noisy'
import { demoPlan } from '../../data/plans'

const plan = demoPlan('tern-rock-light')
const devices = suspectsOf(plan)
const survey: Survey = {
  ...freshSurvey(plan, ['30 m', '20 m'], 's1', 'noon'),
  rows: [
    { id: 'off', name: 'everything off', devices: {}, antenna: 'antenna', feed: 'shared' },
    {
      id: 'low',
      devices: { ctl: { state: 'working', currentA: 4 } },
      antenna: 'antenna',
      feed: 'shared',
      allowedBy: 'sun',
    },
    {
      id: 'high',
      devices: { ctl: { state: 'working', currentA: 9 } },
      antenna: 'antenna',
      feed: 'shared',
      who: 'HF operator',
      at: '2026-06-13T12:20:00Z',
    },
    {
      id: 'both',
      devices: { ctl: { state: 'working' }, mains: { state: 'working' } },
      antenna: 'antenna',
      feed: 'shared',
    },
    { id: 'dummy-off', devices: {}, antenna: 'dummy', feed: 'shared' },
    { id: 'dummy', devices: { ctl: { state: 'working', currentA: 9 } }, antenna: 'dummy', feed: 'shared' },
  ],
  readings: {
    off: { '30 m': 'S2', '20 m': 'S1' },
    low: { '30 m': 'S2' },
    high: { '30 m': 'S7', '20 m': 'S1.5' },
    both: { '30 m': 'S7' },
    'dummy-off': { '30 m': 'S0' },
    dummy: { '30 m': 'S0' },
  },
}

describe('a survey', () => {
  it("starts with everything off, each device alone, and everything as usual, over the station's bands", () => {
    const fresh = freshSurvey(plan, ['80 m', '30 m'], 's9', 'fresh')
    expect(fresh.rows.map(r => r.id)).toEqual(['off', 'mains', 'ctl', 'log', 'lamps', 'usual'])
    expect(fresh.columns.map(c => c.id)).toEqual(['80 m', '30 m'])
    expect(surveySchema.safeParse(fresh).success).toBe(true)
    expect(cellOrder(fresh).slice(0, 3)).toEqual([
      { row: 'off', column: '80 m' },
      { row: 'off', column: '30 m' },
      { row: 'mains', column: '80 m' },
    ])
  })
  it('says what a device costs and adds: S7 over S2 is 30 dB, and adds all but S7 itself', () => {
    const { cells } = surveyResults(survey, 'rural')
    const high = cells.find(c => c.row === 'high' && c.column === '30 m')!
    expect(high.costDb).toBe(30)
    // −85 dBm less −115 dBm in milliwatts: 10·log10(10^−8.5 − 10^−11.5) = −85.004 dBm.
    expect(high.addedDbm).toBeCloseTo(-85.004, 3)
    // Whole S-units: 6 dB over the root of twelve, and the band's breath.
    expect(high.uncertaintyDb).toBeCloseTo(2.11, 2)
    const low = cells.find(c => c.row === 'low')!
    expect(low.addedDbm).toBeNull()
    expect(low.atMostDbm).toBeGreaterThan(-115)
    expect(low.atMostDbm).toBeLessThan(-108)
  })
  it('compares each state with the floor of its own antenna and feed', () => {
    expect(surveyResults(survey, 'rural').cells.find(c => c.row === 'dummy')!.costDb).toBe(0)
  })
  it('says whether the floor is what is normal for here', () => {
    const verdict = (reading: string, site: 'city' | 'quiet-rural') =>
      surveyResults({ ...survey, readings: { off: { '30 m': reading } } }, site).floors[0]!.verdict
    // Quiet rural at 10.125 MHz in 2.7 kHz: −174 + 34.3 + 53.6 − 28.8 = −114.9 dBm, S2; city: −90.6 dBm, S6.
    expect(verdict('S2', 'quiet-rural')).toBe('normal')
    expect(verdict('S6', 'quiet-rural')).toBe('more')
    expect(verdict('S6', 'city')).toBe('normal')
    expect(verdict('S1', 'city')).toBe('quieter')
    // A meter at its lower end tells nothing of what is below.
    expect(verdict('S0', 'city')).toBe('end')
  })
  it("uses the receiver's calibration and attenuator", () => {
    const receiver = {
      attenuatorDb: 10,
      calibration: [
        { shown: 'S2', dbm: -110 },
        { shown: 'S7', dbm: -90 },
      ],
    }
    expect(
      surveyResults(survey, 'rural', receiver).cells.find(c => c.row === 'high' && c.column === '30 m')!.costDb,
    ).toBe(20)
    expect(levelOf('S2', 10.1e6, receiver)).toBe(-100)
    expect(levelOf('-97 dBm', 10.1e6)).toBe(-97)
    expect(levelOf('−97,5', 10.1e6)).toBe(-97.5)
    expect(levelOf('loud', 10.1e6)).toBeNull()
  })
  it('is evidence, row by row: only where one device alone was on, with its current', () => {
    const findings = surveyObservations(survey, ['30 m'], devices, { site: 'rural' })
    expect(findings.map(o => o.kind === 'listen' && o.heard)).toEqual(['gone', 'gone', 'same', 'gone'])
    expect(findings[0]).toMatchObject({
      bands: ['30 m'],
      setup: { devices: { mains: { state: 'off' }, ctl: { state: 'off' } } },
    })
    expect(findings[1]).toMatchObject({
      allowedBy: 'sun',
      setup: { devices: { mains: { state: 'off' }, ctl: { state: 'working', currentA: 4 } } },
    })
    expect(findings[3]).toMatchObject({ setup: { antenna: 'dummy' } })
    expect(surveyObservations(survey, ['2 m'], devices, { site: 'rural' })).toEqual([])
  })
  it('with everything off and loud all the same speaks for something outside; with nothing loud it is silent', () => {
    const only = (reading: string) =>
      surveyObservations({ ...survey, readings: { off: { '30 m': reading } } }, ['30 m'], devices, {
        site: 'quiet-rural',
      })
    expect(only('S8')).toMatchObject([
      { heard: 'same', setup: { devices: { ctl: { state: 'off' }, mains: { state: 'off' } } } },
    ])
    expect(only('S2')).toEqual([])
  })
  it('says of each device on which bands it is heard, and up to which current it was quiet', () => {
    expect(deviceNoise(survey, 'rural')).toEqual([{ device: 'ctl', bands: ['30 m'], quietUpToA: 4, heardFromA: 9 }])
    const loudLow = { ...survey, readings: { ...survey.readings, low: { '30 m': 'S8' } } }
    expect(deviceNoise(loudLow, 'rural')).toEqual([{ device: 'ctl', bands: ['30 m'], heardFromA: 4 }])
  })
  it('goes into the plan as what is known of the device, for every kind that keeps such a note', () => {
    const [found] = deviceNoise(survey, 'rural')
    // Quiet up to 6 A by an earlier test: that holds, since it was heard only from 9 A.
    expect(noiseIntoPlan(plan, found!)).toBeNull()
    const after = (heardFromA: number) => {
      const edited = applyEdit(plan, noiseIntoPlan(plan, { ...found!, heardFromA, bands: ['30 m', '20 m'] })!)
      if (!edited.ok) throw new Error(JSON.stringify(edited.faults))
      return edited.plan.parts.find(p => p.id === 'ctl')
    }
    expect(after(9)).toMatchObject({
      noise: { quietUpToA: 6, bands: ['30 m', '20 m'], note: 'It hisses once the sun is strong.' },
    })
    expect(after(5)).toMatchObject({ noise: { quietUpToA: 4 } })
    for (const device of suspectsOf(busyPlan())) {
      const patch = noiseIntoPlan(busyPlan(), { device: device.id, bands: ['40 m'] })
      if (patch) expect(applyEdit(busyPlan(), patch).ok, device.kind).toBe(true)
    }
    expect(noiseIntoPlan(plan, { device: 'bat', bands: [] })).toBeNull()
  })
  it('is keyed with one hand: digits, + for ten over nine, a point for half', () => {
    expect(keyed(undefined, '7')).toEqual({ reading: 'S7', next: true })
    expect(keyed('S9', '+')).toEqual({ reading: 'S9+10', next: false })
    expect(keyed('S9+10', '+')).toEqual({ reading: 'S9+20', next: false })
    expect(keyed('S4', '.')).toEqual({ reading: 'S4.5', next: false })
    expect(keyed('S4', 'x')).toBeNull()
  })
  it('takes a reading in and out, and keeps when its state was first listened to', () => {
    const empty = freshSurvey(plan, ['30 m', '20 m'], 's2', 'dusk')
    const { row, column } = cellOrder(empty)[0]!
    const once = withReading(empty, { row, column, value: 'S4' }, '2026-06-13T18:00:00Z')
    const twice = withReading(once, { row, column: '20 m', value: 'S5' }, '2026-06-13T18:05:00Z')
    expect(twice.readings[row]).toEqual({ '30 m': 'S4', '20 m': 'S5' })
    expect(twice.rows.map(r => r.at)).toEqual(twice.rows.map(r => (r.id === row ? '2026-06-13T18:00:00Z' : undefined)))
    const out = withReading(twice, { row, column, value: '' }, '2026-06-13T18:09:00Z')
    expect(out.readings[row]).toEqual({ '20 m': 'S5' })
    expect(out.rows).toEqual(twice.rows)
    expect(empty.readings).toEqual(freshSurvey(plan, ['30 m', '20 m'], 's2', 'dusk').readings)
  })
  it('names its states in words', () => {
    expect(survey.rows.map(r => rowWords(r, devices))).toEqual([
      'everything off',
      'Charge controller working at 4 A',
      'Charge controller working at 9 A',
      'Charge controller working, Mains supply working',
      'everything off; dummy load',
      'Charge controller working at 9 A; dummy load',
    ])
  })
})

describe('a survey of a silent station', () => {
  /** Digits typed by ear: what is there, a band that breathes, and a needle read to the nearest whole unit. */
  function silent(seed: number): Survey {
    const random = randomFrom(seed)
    const fresh = freshSurvey(busyPlan(), ['80 m', '40 m', '20 m', '15 m'], 's1', 'silent')
    const floors = fresh.columns.map(() => -115 + 25 * random.uniform())
    const digit = (dbm: number) => `S${Math.max(0, Math.min(9, Math.round((dbm + 127) / 6)))}`
    const readings = Object.fromEntries(
      fresh.rows.map(r => [
        r.id,
        Object.fromEntries(fresh.columns.map((c, k) => [c.id, digit(floors[k]! + 1.5 * random.normal())])),
      ]),
    )
    return { ...fresh, readings }
  }
  it('names a device in at most one of twenty', () => {
    const named = Array.from({ length: 400 }, (_, i) => deviceNoise(silent(i + 1), 'rural')).filter(d =>
      d.some(x => x.bands.length),
    )
    expect(named.length / 400).toBeLessThanOrEqual(0.05)
  })
  it('and one that is not still names its device, by two units on one band or by one on each of four', () => {
    const loud = (columns: string[], units: number) => {
      const survey = silent(7)
      const raised = Object.fromEntries(
        survey.columns.map(c => {
          const off = Number(survey.readings.off![c.id]!.slice(1))
          return [c.id, `S${off + (columns.includes(c.id) ? units : 0)}`]
        }),
      )
      return deviceNoise({ ...survey, readings: { ...survey.readings, inv: raised } }, 'rural').find(
        d => d.device === 'inv',
      )!
    }
    expect(loud(['40 m'], 2).bands).toEqual(['40 m'])
    expect(loud(['40 m'], 1).bands).toEqual([])
    expect(loud(['80 m', '40 m', '20 m', '15 m'], 1).bands).toHaveLength(4)
  })
  it('reads whole units to their true error, halves and decibels better, and repeats lower it', () => {
    // Six dB over the root of twelve, and the band's breath.
    expect(readingErrorDb('S7')).toBeCloseTo(Math.hypot(6 / Math.sqrt(12), 1.2), 9)
    expect(readingErrorDb('S7.5')).toBeCloseTo(Math.hypot(3 / Math.sqrt(12), 1.2), 9)
    expect(readingErrorDb('S9+10')).toBeGreaterThan(readingErrorDb('S7'))
    expect(readingErrorDb('-97 dBm')).toBeLessThan(1.3)
    const once = surveyResults(survey, 'rural').cells.find(c => c.row === 'high')!.errorDb
    const again = {
      ...survey,
      rows: [...survey.rows, { ...survey.rows.find(r => r.id === 'high')!, id: 'high2' }],
      readings: { ...survey.readings, high2: survey.readings.high! },
    }
    expect(surveyResults(again, 'rural').cells.find(c => c.row === 'high')!.errorDb).toBeLessThan(0.9 * once)
  })
})

describe('a survey as CSV', () => {
  it('comes back as it went, states, devices and readings', () => {
    const text = surveyCsv(survey)
    expect(text.split('\n')[0]).toBe('state,devices,antenna,feed,at,who,30 m,20 m')
    const read = surveyFromCsv(text, 's1', 'noon')
    if (!read.ok) throw new Error(read.wrong)
    const strip = (s: Survey) => ({
      columns: s.columns,
      rows: s.rows.map(r => ({ devices: r.devices, antenna: r.antenna, feed: r.feed })),
      readings: s.rows.map(r => s.readings[r.id] ?? {}),
    })
    expect(strip(read.survey)).toEqual(strip(survey))
    expect(surveySchema.safeParse(read.survey).success).toBe(true)
  })
  it('takes frequencies for columns', () => {
    const read = surveyFromCsv('state,devices,7.15 MHz,14100 kHz\noff,,S3,-101 dBm\n', 's', 'n')
    expect(read.ok && read.survey.columns.map(c => c.hz)).toEqual([7.15e6, 14.1e6])
  })
  it.each([
    ['', 1, /empty/],
    ['   \n', 1, /empty/],
    ['a,b\n1,2\n', 1, /the first line has a, b/],
    ['state,devices,99 m\nx,,S1\n', 1, /99 m is no band/],
    ['state,devices,20 m\noff,,S12\n', 2, /20 m is S12/],
    ['state,devices,20 m\noff,ctl=loud,S1\n', 2, /devices say ctl=loud/],
    ['state,devices,20 m\noff,,-97,5\n', 2, /commas for decimals/],
    ['state,devices,antenna,20 m\noff,,loop,S1\n', 2, /antenna is loop/],
    ['state,devices,20 m\n', 1, /nothing under/],
    ['state,devices\n', 1, /no column of a band/],
  ])('says what is wrong with %j', (text, line, wrong) => {
    const read = surveyFromCsv(text, 's', 'n')
    expect(read).toMatchObject({ ok: false, line })
    expect(!read.ok && read.wrong).toMatch(wrong)
    expect(!read.ok && read.right.length).toBeGreaterThan(5)
  })
  it('never throws, whatever the text', () => {
    fc.assert(fc.property(fc.string(), text => void surveyFromCsv(`state,devices,20 m\n${text}`, 's', 'n')))
  })
})

describe('on against off, measured, as cells of a survey', () => {
  const empty = freshSurvey(plan, ['30 m', '20 m'], 's1', 'noon')
  const cell = { device: 'ctl', column: '30 m', onDbm: -91.2, offDbm: -103.4, at: '2026-06-13T12:20:00Z' }
  it('fills the empty cells of the device alone and of everything off, and costs their difference', () => {
    const once = withMeasured(empty, cell)
    expect(once.rows).toHaveLength(empty.rows.length)
    const [result] = surveyResults(once, 'rural').cells
    expect(result).toMatchObject({ row: 'ctl', column: '30 m', isSure: true })
    expect(result!.costDb).toBeCloseTo(12.2, 9)
  })
  it('is a reading made again where the cells are full, and surer for it', () => {
    const once = withMeasured(empty, cell)
    const twice = withMeasured(once, { ...cell, onDbm: -92.2 })
    expect(twice.rows).toHaveLength(empty.rows.length + 2)
    expect(surveySchema.safeParse(twice).success).toBe(true)
    const [before, after] = [once, twice].map(s => surveyResults(s, 'rural').cells[0]!)
    expect(after!.costDb).toBeCloseTo(11.7, 9)
    expect(after!.errorDb).toBeLessThan(before!.errorDb)
  })
})
