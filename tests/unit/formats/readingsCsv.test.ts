import { describe, expect, it } from 'vitest'
import { readingsCsv, readReadingsCsv } from '../../../core/formats/readingsCsv'
import { demoPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const csv = (...rows: string[]) => ['at,condition,volts,amps', ...rows].join('\n')
const asideOf = (row: string, more = {}) => {
  const read = readReadingsCsv(csv('bat,full/idle,13.5,', row), tern, more)
  if (!read.ok) throw new Error(read.wrong)
  expect(read.readings).toHaveLength(1)
  const [aside] = read.aside
  return aside ? `${aside.line} ${aside.wrong}; ${aside.right}` : ''
}

describe('readings as CSV', () => {
  it('have their first line read however it is spaced and written', () => {
    const read = readReadingsCsv(' At ; CONDITION;Volts ; amps\nbat;full/idle;13,5;', tern)
    expect(read).toMatchObject({ ok: true, readings: [{ at: 'bat', volts: 13.5 }] })
  })
  it('are read: volts at terminals and lead ends, amps in leads, with the figure they were written to', () => {
    const read = readReadingsCsv(
      csv('bat,full/idle,13.5,', 'l2.to,full/all,12.84 V,', 'l2,full/all,,20.9', '# a note'),
      tern,
    )
    expect(read).toEqual({
      ok: true,
      aside: [],
      seen: [],
      readings: [
        { at: 'bat', condition: 'full/idle', volts: 13.5, digit: 0.1, line: 2 },
        { at: 'l2.to', condition: 'full/all', volts: 12.84, digit: 0.01, line: 3 },
        { at: 'l2', condition: 'full/all', amps: 20.9, digit: 0.1, line: 4 },
      ],
    })
  })
  it('take semicolons, decimal commas, other orders, millivolts, sights and times', () => {
    const text =
      'Condition;AT;Volts;Amps;time;seen\nfull/all;hf;12,71;;2026-06-13T09:00;\nfull/all;hf;12710 mV;;;\n;l2.to;;;;Warm'
    const read = readReadingsCsv(text, tern)
    if (!read.ok) throw new Error(read.wrong)
    expect(read.readings.map(r => [r.volts, r.digit, r.time])).toEqual([
      [12.71, 0.01, '2026-06-13T09:00'],
      [12.71, 0.001, undefined],
    ])
    expect(read.seen).toEqual([{ place: 'l2.to', saw: 'warm' }])
  })
  it.each([
    ['nobody,full/idle,13.5,', /^3 the plan has no point nobody to hold a meter to; a terminal/],
    ['l2,full/idle,13.5,', /^3 the plan has no point l2 .*; an end of it: l2.from or l2.to/],
    ['hf,full/dusk,13.5,', /^3 the plan has no condition full\/dusk; as charging\/idle/],
    ['hf,,13.5,', /no condition \(none is said\)/],
    ['hf,full/idle,132,', /^3 132 V is out of any reason here; below \d+ V; was it 13.2 V\?/],
    ['hf,full/idle,-3,', /sign the wrong way round; the probes turned.*crossed there: connect nothing/],
    ['hf,full/idle,13.5 °C,', /13.5 °C is in another unit; V, or mV/],
    ['hf,full/idle,13.5 A,', /another unit/],
    ['hf,full/idle,much,', /much is no figure/],
    ['hf,full/idle,,3', /amps are read in a lead, and hf is none; one of l1, l2/],
    ['l2,full/all,,2000', /out of any reason/],
    ['hf,full/idle,,', /there is no figure; volts or amps/],
    [',full/idle,13,', /does not say where/],
  ])('%s is kept aside, and told', (row, words) => {
    expect(asideOf(row)).toMatch(words)
  })
  it('of another revision are kept aside', () => {
    const text = 'at,condition,volts,revision\nbat,full/idle,13.5,3\nbat,full/idle,13.5,5'
    const read = readReadingsCsv(text, tern, { revision: 5 })
    expect(read).toMatchObject({
      ok: true,
      readings: [{ line: 3 }],
      aside: [{ line: 2, wrong: 'read on revision 3, this is 5' }],
    })
  })
  it.each([
    ['', /the file is empty/],
    ['at,volts\nbat,13', /without condition/],
    ['a,b,c\n1,2,3', /without at and condition/],
    ['at,condition\nbat,full/idle', /its first line is at,condition/],
  ])('%j is refused whole', (text, words) => {
    const read = readReadingsCsv(text, tern)
    expect(read.ok).toBe(false)
    if (!read.ok) expect(read.wrong).toMatch(words)
  })
  it('go out and come in the same', () => {
    const read = readReadingsCsv(csv('bat,full/idle,13.50,', 'l2,full/all,,20.9'), tern)
    if (!read.ok) throw new Error(read.wrong)
    const again = readReadingsCsv(readingsCsv(read.readings), tern)
    expect(again).toMatchObject({ ok: true, readings: read.readings })
  })
})

describe('readings written and read again', () => {
  it('keep every figure, its sign and its instrument', () => {
    const readings = [
      { at: 'hf', condition: 'full/idle', volts: 13.456, digit: 0.01, time: '2026-05-02', with: '=meter "2", old' },
      { at: 'l1', condition: 'full/idle', amps: -4.25, digit: 0.01 },
      { at: 'bat', condition: 'full/idle', volts: 13.5, digit: 0.01 },
    ]
    const text = readingsCsv(readings)
    expect(text).toContain('-4.25')
    expect(text).not.toContain("'-4.25")
    expect(text).toContain("'=meter")
    const read = readReadingsCsv(text, tern)
    if (!read.ok) throw new Error(read.wrong)
    expect(read.aside).toEqual([])
    expect(read.readings.map(r => r.volts ?? r.amps)).toEqual([13.456, -4.25, 13.5])
    expect(read.readings[0]!.with).toBe(`=meter "2", old`)
  })
})
