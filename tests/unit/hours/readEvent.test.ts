import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { eventSchema, type HoursEvent } from '../../../core/hours/event'
import { readEvent, readEventText } from '../../../core/hours/readEvent'
import { clockWords, hoursAt, momentAt, stretchesOf } from '../../../core/hours/schedule'
import { demoPlan } from '../../data/plans'

const plan = demoPlan('tern-rock-light')
const base = { format: 'wireman-event', version: 1, name: 'Weekend', start: '2026-06-13T08:00', hours: 48 }
const event = eventSchema.parse(base)
const demo = (name: string) => readFileSync(join(import.meta.dirname, `../../../demo/events/${name}.json`), 'utf8')

describe('an event', () => {
  it.each([
    ['tern-rock-weekend', 'tern-rock-light'],
    ['tern-rock-both-evenings', 'tern-rock-light'],
    ['tern-rock-more-packs', 'tern-rock-light'],
    ['moor-walk-day', 'moor-walk-kit'],
    ['heron-grey-week', 'narrowboat-heron'],
  ] as const)('%s is read', (name, of) => {
    const read = readEventText(demo(name), demoPlan(of))
    expect(read.ok, JSON.stringify(read)).toBe(true)
  })
  it.each([
    ['{', /not JSON/, ''],
    ['[]', /format is missing/, '/format'],
    [{ ...base, version: 2 }, /newer/, '/version'],
    [{ ...base, start: '13 June' }, /start is "13 June"/, '/start'],
    [{ ...base, start: '2026-06-31T08:00' }, /there is no 2026-06-31/, '/start'],
    [{ ...base, hours: -3 }, /hours is −3/, '/hours'],
    [{ ...base, hours: 1e6 }, /hours is 1000000/, '/hours'],
    [{ ...base, wind: 3 }, /field wind is not known/, '/wind'],
    [{ ...base, activities: [{ part: 'hf', mode: 'morse' }] }, /mode is "morse"/, '/activities/0/mode'],
    [{ ...base, activities: [{ part: 'radio', mode: 'cw' }] }, /no part radio/, '/activities/0/part'],
    [{ ...base, activities: [{ part: 'bat', mode: 'cw' }] }, /bat is not a radio/, '/activities/0/part'],
    [{ ...base, activities: [{ part: 'hf', mode: 'cw', share: 1.4 }] }, /share is 1.4/, '/activities/0/share'],
    [{ ...base, activities: [{ part: 'hf', mode: 'cw', from: '25:00' }] }, /from is "25:00"/, '/activities/0/from'],
    [{ ...base, activities: [{ part: 'hf', mode: 'cw', from: 30, to: 20 }] }, /no time of this event/, '/activities/0'],
    [{ ...base, loads: [{ part: 'log', from: 50, to: 60 }] }, /no time of this event/, '/loads/0'],
    [{ ...base, supplied: [{ parts: ['hf'] }] }, /hf is not a supply/, '/supplied/0/parts/0'],
    [{ ...base, panels: [{ part: 'ctl' }] }, /ctl is not a panel/, '/panels/0/part'],
    [{ ...base, stores: [{ part: 'mains' }] }, /mains is not a battery/, '/stores/0/part'],
    [{ ...base, swaps: [{ part: 'bat', at: 49 }] }, /outside the event/, '/swaps/0/at'],
  ])('%j is refused in words, with its place', (value, wrong, path) => {
    const read = readEventText(typeof value === 'string' ? value : JSON.stringify(value), plan)
    expect(read.ok).toBe(false)
    if (read.ok) return
    expect(read.faults.map(f => f.wrong).join('; ')).toMatch(wrong)
    expect(read.faults.map(f => f.path)).toContain(path)
    for (const f of read.faults) expect(f.right.length).toBeGreaterThan(3)
  })
  it('that has one radio do two things at once is refused, with the hours', () => {
    const activities = [
      { part: 'hf', mode: 'voice', from: '09:00', to: '12:00' },
      { part: 'vhf', mode: 'fm', from: '09:00', to: '12:00' },
      { part: 'hf', mode: 'cw', from: '2026-06-14T11:30', to: '2026-06-14T13:00' },
    ]
    const read = readEvent({ ...base, activities }, plan)
    expect(read).toMatchObject({ ok: false, faults: [{ path: '/activities/2' }] })
    if (!read.ok) expect(read.faults[0]!.wrong).toMatch(/HF radio is told twice from Sun 11:30 to Sun 12:00/)
  })
})

describe('times', () => {
  const stretches = (times: object, more: Partial<HoursEvent> = {}) =>
    stretchesOf({ ...event, ...more }, times).map(s => [s.fromH, s.toH])
  it('are hours, days or clocks', () => {
    expect(stretches({})).toEqual([[0, 48]])
    expect(stretches({ from: 2.5, to: 4 })).toEqual([[2.5, 4]])
    expect(stretches({ from: '2026-06-13T20:00', to: '2026-06-14T02:30' })).toEqual([[12, 18.5]])
    expect(stretches({ from: '09:00', to: '12:00' })).toEqual([
      [1, 4],
      [25, 28],
    ])
  })
  it('go over midnight, and are cut to the event', () => {
    expect(stretches({ from: '22:00', to: '02:00' })).toEqual([
      [14, 18],
      [38, 42],
    ])
    // It began the evening before.
    expect(stretches({ from: '22:00', to: '10:00' })).toEqual([
      [0, 2],
      [14, 26],
      [38, 48],
    ])
    expect(stretches({ from: '20:00' })).toEqual([
      [12, 16],
      [36, 40],
    ])
    expect(stretches({ to: '10:00' })).toEqual([
      [0, 2],
      [16, 26],
      [40, 48],
    ])
  })
  it('are told by the local clock and are moments in UTC', () => {
    expect(clockWords(event, 0)).toBe('Sat 08:00')
    expect(clockWords(event, 43.5)).toBe('Mon 03:30')
    expect(momentAt({ ...event, utcOffsetH: 1 }, 0).toISOString()).toBe('2026-06-13T07:00:00.000Z')
    expect(hoursAt(event, '07:00')).toBe(-1)
  })
})
