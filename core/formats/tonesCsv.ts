import Papa from 'papaparse'
import type { Bin, Tone } from '../noise/tones'

export type TonesResult =
  | { ok: true; kind: 'tones'; tones: Tone[] }
  | { ok: true; kind: 'spectrum'; bins: Bin[] }
  | { ok: false; line: number; wrong: string; right: string }

const HEADERS = 'frequency_hz or frequency_khz for a tone list; frequency_hz,level_db for a spectrum'

/**
 * Reads a tone list or a spectrum. Semicolons with decimal commas are read; a comma for a decimal between commas is
 * told apart and refused.
 */
export function readTonesCsv(text: string): TonesResult {
  if (!text.trim()) return { ok: false, line: 1, wrong: 'the file is empty', right: HEADERS }
  const { data, meta } = Papa.parse<string[]>(text.replace(/^\uFEFF/, '').trim(), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [';', '\t', ','],
  })
  const header = data[0]!.map(h => h.trim().toLowerCase())
  const frequency = header.findIndex(h => h === 'frequency_hz' || h === 'frequency_khz')
  if (frequency < 0) return { ok: false, line: 1, wrong: `the first line has ${header.join(', ')}`, right: HEADERS }
  const level = header.indexOf('level_db')
  const scale = header[frequency] === 'frequency_khz' ? 1000 : 1
  const decimal = (word: string) => (meta.delimiter === ',' ? word : word.replace(',', '.'))
  const rows: { hz: number; db: number | null }[] = []
  for (let i = 1; i < data.length; i++) {
    const row = data[i]!
    if (row.length > header.length)
      return {
        ok: false,
        line: i + 1,
        wrong: `it has ${row.length} fields, the heading ${header.length}: commas for decimals?`,
        right: 'points for decimals, or semicolons between the fields',
      }
    const hz = Number(decimal(row[frequency]?.trim() || 'x')) * scale
    const db = level < 0 ? null : Number(decimal(row[level]?.trim() || 'x'))
    if (!Number.isFinite(hz) || hz <= 0)
      return {
        ok: false,
        line: i + 1,
        wrong: `the frequency is ${row[frequency]?.trim() || 'missing'}`,
        right: `a number above 0 in ${scale === 1 ? 'Hz' : 'kHz'}`,
      }
    if (db !== null && !Number.isFinite(db))
      return {
        ok: false,
        line: i + 1,
        wrong: `the level is ${row[level]?.trim() || 'missing'}`,
        right: 'a number in dB',
      }
    rows.push({ hz, db })
  }
  if (!rows.length)
    return { ok: false, line: 1, wrong: 'there is nothing under the heading', right: 'one line a tone or bin' }
  rows.sort((a, b) => a.hz - b.hz)
  // Levels on an even grid of many bins are a spectrum; a few with levels are tones somebody wrote down.
  // A recording's spectrum has hundreds of thousands of bins: too many to be the arguments of one call.
  let [least, most] = [Infinity, 0]
  for (let i = 1; i < rows.length; i++) {
    const step = rows[i]!.hz - rows[i - 1]!.hz
    least = Math.min(least, step)
    most = Math.max(most, step)
  }
  const even = rows.length >= 64 && most < 1.5 * least
  return level >= 0 && even
    ? { ok: true, kind: 'spectrum', bins: rows.map(r => ({ hz: r.hz, db: r.db! })) }
    : { ok: true, kind: 'tones', tones: rows.map(r => ({ hz: r.hz, ...(r.db !== null && { db: r.db }) })) }
}
