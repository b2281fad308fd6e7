import type { HoursEvent } from '../hours/event'
import { localAt } from '../hours/schedule'

/** Irradiance on the level for each hour of an event, W/m²; or the line that is wrong, why, and what would be right. */
export type IrradianceRead =
  { ok: true; irradianceWm2: number[] } | { ok: false; line: number; wrong: string; right: string }

const HOUR_MS = 3600e3
/** More than this the sun never gives on the level, clouds' edges and all. */
const MOST_WM2 = 1800
/** A meter's zero is off by this much at night. */
const ZERO_OFF_WM2 = 20
const COLUMN = /ghi|global|irradiance|w\s*\/?\s*m|wm2|solar/i
const SHAPE = 'a heading, then one row for each hour: a time as 2026-06-13 09:00 and W/m², as "time,wm2"'
/** A file of more rows than a year of minutes. */
const MOST_ROWS = 530_000

interface Row {
  line: number
  /** Local time, as if it were UTC. */
  at: number
  wm2: number
}

/** Reads irradiance from CSV (comma, semicolon or tab) for an event: its hours, means of rows that come more often. */
export function readIrradianceCsv(text: string, event: HoursEvent): IrradianceRead {
  const read = rowsOf(text, event)
  if (!Array.isArray(read)) return read
  const start = localAt(event, 0).getTime()
  const hours = Math.ceil(event.hours)
  const sums = Array.from({ length: hours }, () => ({ sum: 0, count: 0 }))
  for (const { at, wm2 } of read) {
    const slot = sums[Math.floor((at - start) / HOUR_MS)]
    if (!slot) continue
    slot.sum += wm2
    slot.count++
  }
  const gap = sums.findIndex(s => s.count === 0)
  if (gap < 0) return { ok: true, irradianceWm2: sums.map(s => Math.round((10 * s.sum) / s.count) / 10) }
  const until = sums.findIndex((s, i) => i > gap && s.count > 0)
  const ends = start + (until < 0 ? hours : until) * HOUR_MS
  const from = start + gap * HOUR_MS
  const after = read.find(r => r.at >= from) ?? read.at(-1)!
  const wrong = `from ${shown(from)} to ${shown(ends)} there is no row`
  return { ok: false, line: after.line, wrong, right: `a row for each hour of the event, which begins ${shown(start)}` }
}

const shown = (ms: number) => new Date(ms).toISOString().slice(0, 16).replace('T', ' ')

/** Rows in the order of their times. */
function rowsOf(text: string, event: HoursEvent): Row[] | Extract<IrradianceRead, { ok: false }> {
  const lines = text.replace(/^\uFEFF/, '').split(/\r?\n/)
  const isData = (l: string) => l.trim() !== '' && !l.startsWith('#')
  const headAt = lines.findIndex(isData)
  if (headAt < 0) return { ok: false, line: 1, wrong: 'there is nothing in it', right: SHAPE }
  if (lines.length > MOST_ROWS)
    return { ok: false, line: MOST_ROWS, wrong: 'it has too many rows', right: 'a year or less' }
  const separator = [';', '\t', ','].find(s => lines[headAt]!.includes(s))
  if (!separator) return { ok: false, line: headAt + 1, wrong: 'its heading has one column', right: SHAPE }
  const head = lines[headAt]!.split(separator).map(c => c.trim())
  const column = head.findIndex((name, i) => i > 0 && COLUMN.test(name))
  if (column < 0)
    return { ok: false, line: headAt + 1, wrong: `none of ${head.join(', ')} is irradiance`, right: SHAPE }
  const rows: Row[] = []
  for (let i = headAt + 1; i < lines.length; i++) {
    if (!isData(lines[i]!)) continue
    const cells = lines[i]!.split(separator).map(c => c.trim())
    const row = rowOf(cells, column, { line: i + 1, decimalComma: separator !== ',', offsetH: event.utcOffsetH ?? 0 })
    if ('wrong' in row) return { ok: false, ...row }
    rows.push(row)
  }
  if (!rows.length) return { ok: false, line: headAt + 1, wrong: 'there is no row under its heading', right: SHAPE }
  const twice = rows.findIndex((r, i) => i > 0 && r.at <= rows[i - 1]!.at)
  if (twice < 0) return rows
  const { line, at } = rows[twice]!
  return {
    ok: false,
    line,
    wrong: `${shown(at)} does not come after the row before it`,
    right: 'rows in order, each once',
  }
}

const TIME = /^(\d{4}-\d{2}-\d{2})[T ](\d{2}:\d{2})(?::\d{2}(?:\.\d+)?)?\s*(Z|[+-]\d{2}:?\d{2})?$/

function rowOf(
  cells: readonly string[],
  column: number,
  { line, decimalComma, offsetH }: { line: number; decimalComma: boolean; offsetH: number },
): Row | { line: number; wrong: string; right: string } {
  const time = TIME.exec(cells[0] ?? '')
  const at = time ? Date.parse(`${time[1]}T${time[2]}:00${time[3] ?? 'Z'}`) : NaN
  if (!time || Number.isNaN(at))
    return { line, wrong: `${cells[0] || 'nothing'} is no time`, right: 'as 2026-06-13 09:00' }
  const written = cells[column] ?? ''
  const figure = (decimalComma ? written.replace(',', '.') : written).replace('−', '-')
  const wm2 = figure === '' ? NaN : Number(figure)
  if (!(wm2 >= -ZERO_OFF_WM2 && wm2 <= MOST_WM2)) {
    const wrong = written === '' ? 'there is no figure' : `${written} is no irradiance on the level`
    return { line, wrong, right: `W/m² from 0 to ${MOST_WM2}` }
  }
  // One with a zone is turned to the event's own clock.
  return { line, at: time[3] ? at + offsetH * HOUR_MS : at, wm2: Math.max(0, wm2) }
}
