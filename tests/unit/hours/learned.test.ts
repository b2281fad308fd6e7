import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readAdif } from '../../../core/formats/adif'
import { eventIcal } from '../../../core/formats/ical'
import { calibrate, withDuty } from '../../../core/hours/calibrate'
import { learnFrom } from '../../../core/hours/learn'
import { readEventText } from '../../../core/hours/readEvent'
import { monthsOf } from '../../../core/hours/months'
import { MODES, type Mode } from '../../../core/hours/modes'
import { courseOf, eventOf, packAnd, wide } from '../../data/events'
import { demoPlan, radio } from '../../data/plans'

const record = (date: string, time: string, mode = 'SSB') =>
  `<CALL:5>Q0ABC <QSO_DATE:8>${date} <TIME_ON:${time.length}>${time} <MODE:${mode.length}>${mode} <EOR>\n`
const log = (...records: string[]) => `made by hand\n<ADIF_VER:5>3.1.4 <EOH>\n${records.join('')}`

describe('a log', () => {
  it('is read: contacts in order, those without a time counted', () => {
    const text = log(record('20260613', '1210', 'CW'), record('20260613', '120530'), '<CALL:5>Q0XYZ <EOR>\n')
    const read = readAdif(text)
    if (!read.ok) throw new Error(read.wrong)
    expect(read.skipped).toBe(1)
    expect(read.contacts.map(c => [c.at.toISOString(), c.mode])).toEqual([
      ['2026-06-13T12:05:30.000Z', 'SSB'],
      ['2026-06-13T12:10:00.000Z', 'CW'],
    ])
  })
  it.each([
    ['', /no record/],
    ['hello', /no record/],
    [log('<CALL:5>Q0ABC <EOR>'), /none of its 1 records has a time/],
    [`${log(record('20260613', '1210'))}<CALL:50>Q0`, /says 50 letters/],
  ])('that is none is refused in words', (text, wrong) => {
    const read = readAdif(text)
    expect(!read.ok && read.wrong).toMatch(wrong)
  })
  it('never throws, whatever is in it', () => {
    fc.assert(fc.property(fc.string(), text => void readAdif(`<EOH>${text}`)))
    fc.assert(fc.property(fc.string(), text => void readAdif(`<MODE:3>${text}<EOR>`)))
  })
  it('tells the time on the air, pauses apart, and how much of it was transmitted', () => {
    // Thirty contacts, two minutes apart; three hours off; thirty more.
    const at = (h: number) =>
      Array.from({ length: 30 }, (_, i) =>
        record('20260613', `${h + Math.floor((2 * i) / 60)}${String((2 * i) % 60).padStart(2, '0')}`),
      )
    const read = readAdif(log(...at(10), ...at(14)))
    if (!read.ok) throw new Error(read.wrong)
    const learned = learnFrom(read.contacts)
    expect(learned.onAirH).toBeCloseTo(2, 1)
    expect(learned.contactsPerHour).toBeCloseTo(30, 0)
    // Twenty-two seconds each, sixty of them, of two hours.
    expect(learned.modes).toEqual([{ mode: 'voice', contacts: 60, share: expect.closeTo((60 * 22) / 7200, 2) }])
  })
})

const plan = packAnd(
  radio({ id: 'hf', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 21 }, powerW: 100 }),
)
const usual = (mode: string) => MODES[mode as Mode].share

describe('a schedule held against what was measured', () => {
  const course = courseOf(plan, { hours: 3, activities: [{ part: 'hf', mode: 'voice', share: 0.2 }] })
  it('of amp-hours: the transmit time that takes them', () => {
    // Three hours at 1 A, and 0.08 of the time 20 A more: 7.8 Ah. Half as much transmitting again: 10.2 Ah.
    expect(calibrate(course, 'bat', { kind: 'Ah', value: 7.8 })).toMatchObject({ duty: expect.closeTo(1, 2) })
    expect(calibrate(course, 'bat', { kind: 'Ah', value: 10.2 })).toMatchObject({ duty: expect.closeTo(1.5, 2) })
  })
  it('of two readings of a display: within its last figure', () => {
    const found = calibrate(course, 'bat', { kind: 'percent', from: 100, to: 61, resolution: 1 })
    if (typeof found === 'string') throw new Error(found)
    expect(found.duty).toBeCloseTo(1, 1)
    expect(found.low).toBeLessThan(found.duty)
    expect(found.high).toBeGreaterThan(found.duty)
    // One hundredth of 20 Ah, of 4.8 Ah that a duty of 1 transmits.
    expect(found.high - found.duty).toBeCloseTo(0.2 / 4.8, 2)
  })
  it('says in words where no transmit time explains it', () => {
    expect(calibrate(course, 'bat', { kind: 'Ah', value: 1 })).toMatch(/by itself/)
    expect(calibrate(course, 'bat', { kind: 'Ah', value: 90 })).toMatch(/empty before/)
    expect(calibrate(course, 'none', { kind: 'Ah', value: 1 })).toMatch(/no store none/)
  })
  it('and goes into the event', () => {
    const next = withDuty(course.event, 1.5, usual)
    expect(next.activities![0]!.share).toBeCloseTo(0.3, 9)
  })
})

describe('the months', () => {
  const tern = demoPlan('tern-rock-light')
  const event = eventOf(tern, {
    place: { latDeg: 54, lonDeg: -4 },
    weather: { cloud: 0.4 },
    activities: [{ part: 'hf', mode: 'voice', powerW: 100, share: 0.3, from: '09:00', to: '15:00', between: 'off' }],
    loads: ['log', 'lamps'].map(part => ({ part, duty: 0, from: '09:00', to: '10:00', between: 'off' })),
    panels: [{ part: 'sun', tiltDeg: 45 }],
  })
  it('of a northern station: more in June than in December, by what falls on its panels', () => {
    const months = monthsOf(tern, event)
    expect(months).toHaveLength(12)
    const of = (m: number) => months[m - 1]!.duty ?? 0
    expect(of(6)).toBeGreaterThan(of(10))
    expect(of(6)).toBeGreaterThan(1.5 * of(12))
  })
  it('as days grow shorter too: a pack that is full every day lasts', () => {
    // By a run of twenty days from the middle of August at no transmit time: nothing fails in it.
    const read = readEventText(readFileSync('demo/events/tern-rock-weekend.json', 'utf8'), tern)
    if (!read.ok) throw new Error('no event')
    const { 7: august, 8: september } = monthsOf(tern, read.event)
    expect(august!.duty).not.toBeNull()
    // And of September in two days the pack is used up.
    expect(september!.duty).toBeNull()
  })
  it('without a sun there is none that lasts', () => {
    const { place: _place, ...dark } = event
    expect(monthsOf(tern, dark).every(m => m.duty === null)).toBe(true)
  })
})

describe('a calendar', () => {
  const tern = demoPlan('tern-rock-light')
  const made = eventIcal(
    tern,
    eventOf(tern, {
      utcOffsetH: 1,
      activities: [{ who: 'Ann; Bo, the night crew\nand others', part: 'hf', mode: 'cw', from: '22:00', to: '01:00' }],
      supplied: [{ parts: ['mains'], from: 11, to: 14 }],
      swaps: [{ part: 'bat', at: 20 }],
    }),
  )
  it('has each watch, the generator and the swap, in UTC', () => {
    expect(made.match(/BEGIN:VEVENT/g)).toHaveLength(4)
    expect(made).toContain('DTSTART:20260613T210000Z')
    expect(made).toContain('SUMMARY:Mains supply on')
    expect(made).toContain('SUMMARY:swap House pack')
  })
  it('is inert and folded: no line over 75 octets, no name that breaks out', () => {
    const lines = made.split('\r\n')
    expect(lines.every(l => Buffer.byteLength(l) <= 75)).toBe(true)
    expect(made).toContain('Ann\\; Bo\\, the night crew\\nand others')
    expect(lines.filter(l => l && !/^([A-Z-]+[:;]| )/.test(l))).toEqual([])
  })
})
