import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { conditionsOf } from '../../../core/circuit/conditions'
import { cutListCsv, partsCsv, shoppingCsv } from '../../../core/formats/csv'
import { dueIcal, eventIcal } from '../../../core/formats/ical'
import { readReadingsCsv, readingsCsv } from '../../../core/formats/readingsCsv'
import { spiceNetlist } from '../../../core/formats/spice'
import { labelsSvg, pathSvg } from '../../../core/formats/svg'
import { surveyCsv, surveyFromCsv } from '../../../core/formats/surveyCsv'
import { timelineCsv } from '../../../core/formats/timelineCsv'
import { readEvent } from '../../../core/hours/readEvent'
import { shownOf } from '../../../core/picture/shown'
import { readPlan } from '../../../core/plan/faults'
import type { Plan } from '../../../core/plan/schema'
import { buildSheet } from '../../../core/sheets/build'
import { LABEL_FORMATS, labelsOf } from '../../../core/sheets/labels'
import { shelfFromCsv, shelfToCsv } from '../../../core/shelf/csv'
import { FORMULA, oneLine, printable, withoutGuard } from '../../../core/units/inert'
import { judge } from '../../../core/verdict/verdict'
import weekend from '../../../demo/events/tern-rock-weekend.json'
import { EventCourse } from '../../../core/hours/course'
import { demoPlan } from '../../data/plans'

/** What somebody may call a thing, to do harm or not. */
const NAMES = [
  '=HYPERLINK("http://x","y")',
  '@SUM(A1:A9)',
  '+1+1',
  '-2+3',
  '\tTab=1',
  'a\r\nBEGIN:VEVENT\r\nSUMMARY:x',
  'x\n.include /etc/passwd\n* ',
  '</text><script>alert(1)</script>',
  '" onload="alert(1)',
  '&lt;![CDATA[',
  'bell \u0007 and \u001b[31m',
  '\u202egnirts\u202c',
  'half \ud800 letter',
  '站台 اسم שם ชื่อ 👩‍🔧',
]

/** A plan in which everything that has a name has such a one. */
function hostile(): Plan {
  const plan = structuredClone(demoPlan('tern-rock-light'))
  plan.parts.forEach((part, i) => (part.name = NAMES[i % NAMES.length]!))
  plan.leads.forEach((lead, i) => Object.assign(lead, { name: NAMES[(i + 5) % NAMES.length]!, note: NAMES[i]! }))
  plan.name = NAMES[6]!
  plan.loadStates?.forEach((s, i) => (s.name = NAMES[i]!))
  const read = readPlan(plan)
  if (!read.ok) throw new Error(JSON.stringify(read.faults))
  return read.plan
}
const plan = hostile()
const { verdict, study } = judge(plan)
const sheet = buildSheet(plan, [], { revision: 3, date: '2026-06-13' })
const readWeekend = readEvent(weekend, plan)
if (!readWeekend.ok) throw new Error('no event')
const { event } = readWeekend

describe('tables', () => {
  const shelf = NAMES.map((note, i) => ({ id: `s${i}`, what: 'conductor', awg: 10, metres: 3, note }) as never)
  const survey = {
    id: 's',
    name: 'S',
    columns: [{ id: '20 m', hz: 14.1e6 }],
    rows: NAMES.map((name, i) => ({
      id: `r${i}`,
      name: name.trim().slice(0, 80),
      who: name.slice(0, 80),
      devices: {},
      antenna: 'antenna' as const,
      feed: 'shared' as const,
    })),
    readings: {},
  }
  it.each([
    ['cut list', cutListCsv(sheet)],
    ['parts', partsCsv(sheet)],
    ['shopping', shoppingCsv(sheet)],
    ['shelf', shelfToCsv(shelf)],
    ['survey', surveyCsv(survey)],
    ['readings', readingsCsv(NAMES.map(n => ({ at: 'hf', condition: 'full/idle', volts: 13.2, with: n }) as never))],
    ['course', timelineCsv(new EventCourse(plan, event).run())],
  ])('%s: no cell is a formula, every row has as many', (_, csv) => {
    const { data, errors } = Papa.parse<string[]>(csv.trimEnd())
    expect(errors).toEqual([])
    expect(new Set(data.map(row => row.length)).size).toBe(1)
    for (const cell of data.flat()) expect(FORMULA.test(cell)).toBe(false)
  })
  it('that are read again give what was written', () => {
    const read = shelfFromCsv(shelfToCsv(shelf.slice(0, 4)), n => `s${n}`)
    if (!read.ok) throw new Error(JSON.stringify(read.faults))
    expect(read.items.map(i => i.note)).toEqual(NAMES.slice(0, 4))
    const again = surveyFromCsv(surveyCsv({ ...survey, rows: survey.rows.slice(0, 4) }), 's', 'S')
    if (!again.ok) throw new Error(again.wrong)
    expect(again.survey.rows.map(r => r.who)).toEqual(NAMES.slice(0, 4))
    const file = readingsCsv([{ at: 'hf', condition: 'full/idle', volts: -0.3, with: '=A1' } as never])
    const readings = readReadingsCsv(file, demoPlan('tern-rock-light'))
    if (!readings.ok) throw new Error(readings.wrong)
    expect(readings.readings[0]).toMatchObject({ volts: -0.3, with: '=A1' })
  })
  it('a word in quotes that is no formula keeps them', () => {
    expect(withoutGuard("'tis")).toBe("'tis")
    expect(withoutGuard("'=A1")).toBe('=A1')
    expect(withoutGuard("'-5")).toBe("'-5")
  })
})

describe('pictures', () => {
  it.each([
    ['path', pathSvg(plan, verdict, shownOf(study, verdict))],
    ['labels', labelsSvg(labelsOf(plan), LABEL_FORMATS[0]!)],
  ])('%s: words stay words, and nothing is in it that XML has no letter for', (_, svg) => {
    expect(svg).not.toMatch(/<script|onload="alert|<!\[CDATA\[/)
    expect(printable(svg)).toBe(svg)
    // Every element that is opened is closed, in its order.
    const open: string[] = []
    for (const [, slash, name, rest] of svg.matchAll(/<(\/?)([a-z]+)((?:[^>"]|"[^"]*")*)>/gi)) {
      if (slash) expect(open.pop()).toBe(name)
      else if (!rest!.endsWith('/')) open.push(name!)
    }
    expect(open).toEqual([])
  })
})

describe('netlists', () => {
  it('have no line that a name has made', () => {
    for (const condition of conditionsOf(plan)) {
      const lines = spiceNetlist(plan, condition).trimEnd().split('\n')
      for (const line of lines) expect(line).toMatch(/^(\*|[RVBEGIDHF]\w*\s|\.(nodeset|options|op|end|model)\b)/i)
      expect(lines.filter(l => /^\.(include|lib|control)/i.test(l))).toEqual([])
    }
  })
})

describe('calendars', () => {
  it('have as many entries as they should, each on lines of its own', () => {
    const one = eventIcal(plan, event)
    const own = eventIcal(demoPlan('tern-rock-light'), event)
    const count = (ics: string) => ics.split('\r\n').filter(l => l === 'BEGIN:VEVENT').length
    expect(count(one)).toBe(count(own))
    const due = dueIcal(NAMES.map(what => ({ on: '2026-06-13', what })))
    expect(count(due)).toBe(NAMES.length)
    for (const line of due.split('\r\n')) {
      expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75)
      expect(line).toMatch(/^( |BEGIN:|END:|VERSION:|PRODID:|UID:|DTSTAMP:|DTSTART;|SUMMARY:|$)/)
    }
  })
})

describe('words', () => {
  it('lose what turns or breaks their neighbours, and nothing else', () => {
    expect(printable('a\u202eb\u0000c')).toBe('ab\ufffdc')
    expect(printable('half \ud800!')).toBe('half \ufffd!')
    expect(printable('👩‍🔧 站 اسم\n')).toBe('👩‍🔧 站 اسم\n')
    expect(oneLine('a\r\n.op\u2028b')).toBe('a .op b')
  })
})
