import { describe, expect, it } from 'vitest'
import { readIrradianceCsv } from '../../../core/formats/irradianceCsv'
import { readMeasured } from '../../../core/hours/measured'
import { eventOf, packAnd, wide } from '../../data/events'
import { load } from '../../data/plans'

const plan = packAnd(load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 1 } }))
const event = eventOf(plan, { start: '2026-06-13T08:00', hours: 4, utcOffsetH: 1 })
const two = (n: number) => String(n).padStart(2, '0')
const hourly = (hours: number[], zone = '') => hours.map(h => `2026-06-13 ${two(h)}:00${zone},${100 * h}`)
const csv = (...rows: string[]) => ['time,wm2', ...rows].join('\n')
const wrongOf = (text: string) => {
  const read = readIrradianceCsv(text, event)
  if (read.ok) throw new Error('it was read')
  return `${read.line}: ${read.wrong}; ${read.right}`
}

describe('irradiance as CSV', () => {
  it('is read for the hours of the event, of a longer file', () => {
    expect(readIrradianceCsv(csv(...hourly([6, 7, 8, 9, 10, 11, 12, 13])), event)).toEqual({
      ok: true,
      irradianceWm2: [800, 900, 1000, 1100],
    })
  })
  it('of UTC is turned to the clock of the event', () => {
    const read = readIrradianceCsv(csv(...hourly([7, 8, 9, 10], 'Z')), event)
    expect(read).toMatchObject({ irradianceWm2: [700, 800, 900, 1000] })
    const plus = readIrradianceCsv(csv(...hourly([9, 10, 11, 12], '+02:00')), event)
    expect(plus).toMatchObject({ irradianceWm2: [900, 1000, 1100, 1200] })
  })
  it('that comes every quarter of an hour is averaged', () => {
    const rows = [8, 9, 10, 11].flatMap(h => [0, 15, 30, 45].map(m => `2026-06-13T${two(h)}:${two(m)},${h * 10 + m}`))
    // 0, 15, 30 and 45 more: 22.5 on average.
    expect(readIrradianceCsv(csv(...rows), event)).toMatchObject({ irradianceWm2: [102.5, 112.5, 122.5, 132.5] })
  })
  it('is found among other columns, with semicolons, commas and a meter whose zero is off', () => {
    const rows = [8, 9, 10, 11].map(h => `2026-06-13 ${two(h)}:00;${h};12,5;${h === 8 ? '−3,5' : '250,5'}`)
    const text = ['# from the roof', 'time;hour;air °C;GHI W/m²', ...rows].join('\r\n')
    expect(readIrradianceCsv(text, event)).toMatchObject({ irradianceWm2: [0, 250.5, 250.5, 250.5] })
  })
  it('with a gap is told, from when to when and at which line', () => {
    expect(wrongOf(csv(...hourly([8, 9, 11])))).toBe(
      '4: from 2026-06-13 10:00 to 2026-06-13 11:00 there is no row; ' +
        'a row for each hour of the event, which begins 2026-06-13 08:00',
    )
    expect(wrongOf(csv(...hourly([8, 9])))).toMatch(/^3: from 2026-06-13 10:00 to 2026-06-13 12:00 there is no row/)
    expect(wrongOf(csv(...hourly([14, 15])))).toMatch(/^2: from 2026-06-13 08:00 to 2026-06-13 12:00/)
  })
  it.each([
    ['', /^1: there is nothing in it/],
    ['time wm2', /one column/],
    ['time,level', /none of time, level is irradiance/],
    ['time,wm2', /no row under its heading/],
    [csv('yesterday,5'), /^2: yesterday is no time; as 2026/],
    [csv('2026-06-13 08:00,'), /^2: there is no figure/],
    [csv('2026-06-13 08:00,much'), /^2: much is no irradiance/],
    [csv('2026-06-13 08:00,5000'), /^2: 5000 is no irradiance/],
    [csv('2026-06-13 09:00,5', '2026-06-13 08:00,5'), /^3: .* does not come after the row before/],
    [csv('2026-06-13 08:00,5', '2026-06-13 08:00,5'), /^3: .* does not come after/],
    [csv('2026-13-40 08:00,5'), /is no time/],
  ])('%s is refused in words', (text, words) => {
    expect(wrongOf(text)).toMatch(words)
  })
})

describe('what was measured, as one writes it', () => {
  it.each([
    ['18Ah', { kind: 'Ah', value: 18 }],
    ['230 wh', { kind: 'Wh', value: 230 }],
    ['12,5 Ah', { kind: 'Ah', value: 12.5 }],
    ['69-64%', { kind: 'percent', from: 69, to: 64, resolution: 1 }],
    ['69 % to 64 %', { kind: 'percent', from: 69, to: 64, resolution: 1 }],
    ['69.5–64.0 %', { kind: 'percent', from: 69.5, to: 64, resolution: 0.1 }],
  ])('%s', (text, value) => {
    expect(readMeasured(text)).toEqual(value)
  })
  it.each(['', '18', 'a lot', '64-69%', '169-64%', '-5Ah'])('%s is nothing', text => {
    expect(readMeasured(text)).toBeNull()
  })
})
