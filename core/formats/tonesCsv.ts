import Papa from 'papaparse'
import type { Bin, Tone } from '../noise/listen/tones'
import { columnsOf, unheaded, type Columns } from './tonesColumns'

export type TonesResult =
  | { ok: true; kind: 'tones'; tones: Tone[]; resolutionHz: number }
  | { ok: true; kind: 'spectrum'; bins: Bin[] }
  | Refusal

export type Refusal = { ok: false; line: number; wrong: string; right: string }

const HEADERS = 'frequency_hz or frequency_khz for a tone list; frequency_hz,level_dbm for a spectrum'

const refuse = (line: number, wrong: string, right: string): Refusal => ({ ok: false, line, wrong, right })

/** A row of the file, with its line for whoever has to mend it. */
interface Row {
  line: number
  fields: string[]
}

interface Read {
  hz: number
  db: number | null
  /** The last figure of the frequency as it was written, Hz. */
  stepHz: number
}

/**
 * Reads a tone list or a spectrum, whatever its columns are called. Semicolons with decimal commas are read; a comma
 * for a decimal between commas is told apart and refused.
 */
export function readTonesCsv(text: string): TonesResult {
  const rows = rowsOf(text)
  if ('ok' in rows) return rows
  const [first, ...rest] = rows.rows
  const headed = columnsOf(first!.fields)
  const columns = headed ?? unheaded(rows.rows.map(r => r.fields))
  if (!columns) return refuse(first!.line, `the first line has ${first!.fields.slice(0, 6).join(', ')}`, HEADERS)
  const body = headed ? rest : rows.rows
  const read: Read[] = []
  for (const row of body) {
    const one = readRow(row, columns, rows.delimiter)
    if ('ok' in one) return one
    read.push(one)
  }
  if (!read.length) return refuse(first!.line, 'there is nothing under the heading', 'one line a tone or bin')
  return tonesOrSpectrum(read, columns, first!)
}

/** Lines that hold something, without comments and what a spreadsheet puts before them. */
function rowsOf(text: string): { rows: Row[]; delimiter: string } | Refusal {
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/)
  const separator = /^\s*"?sep=(.)"?\s*$/i.exec(lines[0] ?? '')?.[1]
  const kept = lines
    .map((words, i) => ({ line: i + 1, words }))
    .filter(({ words, line }) => words.trim() && !(separator && line === 1) && !/^\s*(#|\/\/|!|%)/.test(words))
  if (!kept.length) return refuse(1, 'the file is empty', HEADERS)
  const { data, meta } = Papa.parse<string[]>(kept.map(k => k.words).join('\n'), {
    ...(separator ? { delimiter: separator } : { delimitersToGuess: [';', '\t', ',', '|'] }),
  })
  const rows = data.map((fields, i) => ({ line: kept[i]?.line ?? i + 1, fields: fields.map(f => f.trim()) }))
  return { rows, delimiter: meta.delimiter }
}

function readRow({ line, fields }: Row, columns: Columns, delimiter: string): Read | Refusal {
  if (fields.length > columns.count && fields.slice(columns.count).some(Boolean))
    return refuse(
      line,
      `it has ${fields.length} fields, the heading ${columns.count}: commas for decimals?`,
      'points for decimals, or semicolons between the fields',
    )
  const figure = (word: string) => {
    const plain = word.replace(/^[−–]/, '-').replace(/e[−–]/i, 'e-')
    return delimiter === ',' ? plain : plain.replace(',', '.')
  }
  const frequency = figure(fields[columns.frequency.at] ?? '')
  const hz = Number(frequency || 'x') * columns.frequency.scale
  if (!Number.isFinite(hz) || hz <= 0)
    return refuse(line, `the frequency is ${frequency || 'missing'}`, `a number above 0 in ${columns.frequency.unit}`)
  const stepHz = lastFigure(frequency) * columns.frequency.scale
  if (!columns.level) return { hz, db: null, stepHz }
  const word = figure(fields[columns.level.at] ?? '')
  const db = levelDb(word, columns.level.law)
  if (db === null) return refuse(line, `the level is ${word || 'missing'}`, 'a number in dB')
  return { hz, db, stepHz }
}

/** Nothing at all, in dB: what a logarithm of nothing is written as. */
const NOTHING_DB = -250

function levelDb(word: string, law: NonNullable<Columns['level']>['law']): number | null {
  if (/^-?(inf|infinity|∞|1\.#inf)$/i.test(word)) return NOTHING_DB
  const value = Number(word || 'x')
  if (!Number.isFinite(value)) return null
  if (law === 'db') return value
  if (value < 0) return null
  const times = law === 'power' ? 10 : 20
  return value === 0 ? NOTHING_DB : Math.max(NOTHING_DB, times * Math.log10(value))
}

/** The worth of the last figure of a number as it was written; zeros at the end of a whole one may be rounding. */
function lastFigure(word: string): number {
  const [mantissa = '', exponent = '0'] = word.toLowerCase().split('e')
  const power = 10 ** Number(exponent)
  const decimals = mantissa.split('.')[1]
  if (decimals !== undefined) return 10 ** -decimals.length * power
  const zeros = /0*$/.exec(mantissa)![0].length
  return 10 ** Math.min(zeros, mantissa.length - 1) * power
}

/** Whole kHz are the coarsest that tones are taken as read to. */
const COARSEST_HZ = 1000
/** So many rows on an even grid are a sweep; a few with levels are tones somebody wrote down. */
const SWEEP_ROWS = 64
/** Tones nearer than this on an even grid, so many of them, are a sweep's own steps, Hz. */
const GRID_HZ = 1000

/** Steps that are all alike, or all in one proportion, but for the last figure that was written. */
function isGrid(rows: readonly Read[]): boolean {
  const last = rows.length - 1
  const [low, high] = [rows[0]!.hz, rows[last]!.hz]
  const writtenHz = rows.reduce((s, r) => Math.min(s, r.stepHz), Infinity)
  const keepsTo = (place: (share: number) => number) =>
    rows.every((r, i) => Math.abs(r.hz - place(i / last)) <= 1.01 * writtenHz + FLOAT_SHARE * r.hz)
  return keepsTo(share => low + share * (high - low)) || keepsTo(share => low * (high / low) ** share)
}
/** What single precision leaves of a figure. */
const FLOAT_SHARE = 1e-7

function tonesOrSpectrum(rows: Read[], columns: Columns, heading: Row): TonesResult {
  rows.sort((a, b) => a.hz - b.hz)
  // A recording's spectrum has hundreds of thousands of bins: too many to be the arguments of one call.
  let [least, most] = [Infinity, 0]
  for (let i = 1; i < rows.length; i++) {
    const step = rows[i]!.hz - rows[i - 1]!.hz
    least = Math.min(least, step)
    most = Math.max(most, step)
  }
  const isEven = rows.length >= SWEEP_ROWS && most < 1.5 * least
  // Lines of a comb stand even too, and waver: a sweep's steps are as exact as they were written.
  const isSweep = isEven && (most <= GRID_HZ || isGrid(rows))
  if (columns.level && isSweep) return { ok: true, kind: 'spectrum', bins: rows.map(r => ({ hz: r.hz, db: r.db! })) }
  if (isEven && (most <= GRID_HZ || columns.others.length)) {
    const others = columns.others.length ? `, and the column ${columns.others.join(', ')} is not known as one` : ''
    return refuse(
      heading.line,
      `its ${rows.length} rows are as even as a sweep's own steps, and no level is told${others}`,
      'a column level_dbm (or level_db, dBµV, power, amplitude), or the tones alone',
    )
  }
  // A zero at the end of some is chance: the finest that was written is how exactly they were read.
  const stepHz = rows.reduce((s, r) => Math.min(s, r.stepHz), Infinity)
  return {
    ok: true,
    kind: 'tones',
    tones: rows.map(r => ({ hz: r.hz, ...(r.db !== null && { db: r.db }) })),
    resolutionHz: Math.min(COARSEST_HZ, stepHz),
  }
}
