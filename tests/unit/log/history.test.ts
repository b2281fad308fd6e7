import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { EMPTY_LOG, readLogText, type Log } from '../../../core/log/log'
import { historyOf } from '../../../core/log/history'
import { demoPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const season = (() => {
  const read = readLogText(readFileSync(join(import.meta.dirname, '../../../demo/log/tern-rock-light.json'), 'utf8'))
  if (!read.ok) throw new Error(JSON.stringify(read.faults))
  return read.log
})()

describe('a station’s history', () => {
  it('of nothing is empty', () => expect(historyOf(tern, EMPTY_LOG)).toEqual([]))

  it('has every day of the log, the last first, and what was off on it', () => {
    const days = historyOf(tern, season)
    expect(days.map(d => d.day)).toEqual([...days.map(d => d.day)].sort().reverse())
    const said = new Set([
      ...season.readings.map(r => r.time.slice(0, 10)),
      ...season.batteries.map(b => b.time.slice(0, 10)),
      ...season.settings.map(s => s.time.slice(0, 10)),
      ...season.symptoms.map(s => s.time.slice(0, 10)),
      ...season.seen.map(s => s.time.slice(0, 10)),
      ...season.steps.map(s => s.time.slice(0, 10)),
    ])
    expect(new Set(days.map(d => d.day))).toEqual(said)
    const readings = days.flatMap(d => d.happened.filter(h => h.of === 'readings').map(h => ({ day: d.day, ...h })))
    // The joint that goes bad over the season: nothing on the first day, suspect on the last.
    expect(readings.at(-1)).toMatchObject({ isBad: false, words: expect.stringMatching(/all as they should be$/) })
    expect(readings[0]).toMatchObject({ isBad: true, words: expect.stringMatching(/ or .* suspect, 5\.9 mΩ$/) })
    expect(readings[0]!.words.match(/suspect/g)).toHaveLength(1)
  })

  it('says each thing in words, by its name', () => {
    const time = '2026-05-02T10:00:00'
    const log: Log = {
      ...EMPTY_LOG,
      steps: [
        { id: 'a', time, who: 'Field phone' },
        { id: 'b', time, who: 'Field phone' },
      ],
      seen: [{ id: 's', time, place: 'l2.to', saw: 'warm' }],
      settings: [{ id: 't', time, part: 'ctl', chemistry: 'lifepo4', absorptionV: 14.4, loadTimerH: 0 }],
      symptoms: [{ id: 'y', time, symptom: 'weak-late', at: 'hf', findings: [], note: 'since noon' }],
      batteries: [{ id: 'b', time, part: 'bat', what: 'capacity', ah: 71.25, volts: 11.2 }],
      readings: [{ id: 'r', time, at: 'bat', condition: 'rested', volts: 13.31 }],
    }
    expect(historyOf(tern, log)).toEqual([
      {
        day: '2026-05-02',
        happened: expect.arrayContaining([
          { of: 'step', words: '2 steps of putting together', who: ['Field phone'], isBad: false },
          { of: 'seen', words: expect.stringMatching(/HF lead at HF radio.*: warm$/), who: [], isBad: false },
          {
            of: 'setting',
            words: 'Charge controller: set to LiFePO4, absorbs at 14.4 V, no load timer',
            who: [],
            isBad: false,
          },
          { of: 'symptom', words: 'HF radio: “it gets weak late in the day”; since noon', who: [], isBad: true },
          { of: 'battery', words: 'House pack: capacity test, 71.3 Ah, 11.2 V', who: [], isBad: false },
          { of: 'readings', words: 'House pack, rested: 13.31 V', who: [], isBad: false },
        ]),
      },
    ])
  })

  it('keeps what the plan no longer has, by its id', () => {
    const time = '2026-05-02T10:00:00'
    const log: Log = { ...EMPTY_LOG, settings: [{ id: 't', time, part: 'gone', floatV: 13.5 }] }
    expect(historyOf(tern, log)[0]!.happened[0]!.words).toBe('gone: floats at 13.5 V')
    const read = { id: 'r', time, at: 'gone', condition: 'rested', volts: 13.31 }
    expect(historyOf(tern, { ...EMPTY_LOG, readings: [read] })[0]!.happened[0]!.words).toMatch(/13.31 V/)
  })
})
