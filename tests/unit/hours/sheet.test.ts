import { describe, expect, it } from 'vitest'
import { loadFace } from '../../../cli/faces'
import { eventPdf } from '../../../core/formats/pdf/event'
import { timelineCsv } from '../../../core/formats/timelineCsv'
import { eventSheet } from '../../../core/hours/sheet'
import { readTime, showTime } from '../../../app/hours/entries'
import { courseOf } from '../../data/events'
import { demoPlan } from '../../data/plans'

const course = courseOf(demoPlan('tern-rock-light'), {
  name: 'Weekend',
  activities: [{ who: 'Q0ABC', part: 'hf', mode: 'voice', powerW: 50, share: 0.3, from: '09:00', to: '21:00' }],
  loads: [{ part: 'lamps', duty: 0.5, from: '21:00', to: '23:00' }],
  supplied: [{ parts: ['mains'], from: '2026-06-13T19:00', to: '2026-06-13T22:00' }],
  swaps: [{ part: 'bat', at: 30 }],
})
const result = course.run()

describe('the sheet of an event', () => {
  const sheet = eventSheet(course, result, null)
  it('says who does what when, in the words of the plan', () => {
    expect(sheet.schedule).toEqual([
      {
        who: 'Q0ABC',
        what: 'HF radio, voice (SSB), 50 W, 30 % transmitting',
        when: 'Sat 09:00 to Sat 21:00, Sun 09:00 to Sun 21:00',
      },
      { who: '', what: 'Lamps, 50 % of the time', when: 'Sat 21:00 to Sat 23:00, Sun 21:00 to Sun 23:00' },
      { who: '', what: 'Mains supply on', when: 'Sat 19:00 to Sat 22:00' },
      { who: '', what: 'another House pack put in', when: 'Sun 14:00' },
    ])
  })
  it('says every two hours how full the pack is and what the radio that is used has', () => {
    expect(sheet.columns).toEqual(['House pack', 'HF radio, V'])
    expect(sheet.moments.map(m => m.at).slice(0, 4)).toEqual(['Sat 08:00', 'Sat 10:00', 'Sat 12:00', 'Sat 14:00'])
    expect(sheet.moments.at(-1)!.at).toBe('Mon 08:00')
    expect(sheet.moments[0]!.figures[0]).toBe('100 %')
  })
  it('is a PDF', async () => {
    expect(
      Buffer.from(await eventPdf(sheet, { loadFace }))
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-')
  })
})

describe('the timeline as CSV', () => {
  it('has a row for each moment and a figure in each of its columns', () => {
    const rows = timelineCsv(result).trim().split('\n')
    expect(rows[0]).toMatch(/^h,bat_charge,hf_volts,vhf_volts,log_volts,lamps_volts,sun_w,supplied_w,loads_w$/)
    expect(rows).toHaveLength(result.timeline.length + 1)
    for (const row of rows.slice(1)) expect(row.split(',').every(c => Number.isFinite(Number(c)))).toBe(true)
  })
})

describe('a time of an event as one types it', () => {
  const { event } = course
  it.each([
    ['09:00', '09:00'],
    ['9:00', '09:00'],
    ['Sat 19:00', '2026-06-13T19:00'],
    ['sunday 7:30', '2026-06-14T07:30'],
    ['2026-06-14 07:30', '2026-06-14T07:30'],
    ['2.5 h', 2.5],
    ['2,5', 2.5],
  ])('%s', (typed, time) => {
    const read = readTime(typed, event)
    expect(read).toBe(time)
    expect(readTime(showTime(read!, event), event)).toBe(time)
  })
  it.each(['Fri 19:00', '25:00', 'soon', 'Sat', 'Sat 9'])('%s is none', typed => {
    expect(readTime(typed, event)).toBeUndefined()
  })
  it('in an event of weeks names the date', () => {
    expect(showTime('2026-06-13T19:00', { ...event, hours: 400 })).toBe('2026-06-13 19:00')
  })
})

describe('the moments of a sheet', () => {
  it('end where the event ends, also between two of its steps', () => {
    // 37 hours are told every two: the last is an odd one.
    const odd = courseOf(demoPlan('tern-rock-light'), { ...course.event, hours: 37 })
    const at = eventSheet(odd, odd.run(), null).moments.map(m => m.at)
    expect(at.slice(-2)).toEqual(['Sun 20:00', 'Sun 21:00'])
  })
})
