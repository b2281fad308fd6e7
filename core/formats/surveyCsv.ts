import Papa from 'papaparse'
import { FORMULA, withoutGuard } from '../units/inert'
import { readQuantity } from '../units/quantity'
import { BANDS, middleHz } from '../catalog/bands'
import { levelOf, type Survey, type SurveyRow } from '../noise/survey/survey'
import type { Setup } from '../noise/setup'

/** A survey as CSV: one line a state, one column a band or frequency. */

const FIXED = ['state', 'devices', 'antenna', 'feed', 'at', 'who'] as const
const HEADING = `${FIXED.join(',')}, then one column a band (20 m) or frequency (14.1 MHz)`

const deviceWords = (devices: SurveyRow['devices']) =>
  Object.entries(devices)
    .map(([id, s]) => `${id}=${s!.state}${s!.currentA !== undefined ? `@${s!.currentA}` : ''}`)
    .join(' ')

export function surveyCsv(survey: Survey): string {
  return (
    Papa.unparse(
      {
        fields: [...FIXED, ...survey.columns.map(c => c.id)],
        data: survey.rows.map(r => [
          r.name ?? r.id,
          deviceWords(r.devices),
          r.antenna,
          r.feed,
          r.at ?? '',
          r.who ?? '',
          ...survey.columns.map(c => survey.readings[r.id]?.[c.id] ?? ''),
        ]),
      },
      { newline: '\n', escapeFormulae: FORMULA },
    ) + '\n'
  )
}

export type SurveyResult = { ok: true; survey: Survey } | { ok: false; line: number; wrong: string; right: string }

type Refusal = Extract<SurveyResult, { ok: false }>
const refuse = (line: number, wrong: string, right: string): Refusal => ({ ok: false, line, wrong, right })

type FixedName = (typeof FIXED)[number]

/** What the first line says: where the fixed fields stand, and which columns are bands. */
interface Heading {
  length: number
  at: Record<FixedName, number>
  columns: Survey['columns']
  places: number[]
}

/** Reads a survey. Never throws: says the line, what is wrong and what would be right. */
export function surveyFromCsv(text: string, id: string, name: string): SurveyResult {
  if (!text.trim()) return refuse(1, 'the file is empty', HEADING)
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, '').trim(), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t'],
  })
  const heading = headingOf((data[0] ?? []).map(h => h.trim()))
  if ('ok' in heading) return heading
  const survey: Survey = { id, name, columns: heading.columns, rows: [], readings: {} }
  for (let n = 1; n < data.length; n++) {
    const row = rowOf(data[n]!, n, heading)
    if ('ok' in row) return row
    const readings = readingsOf(data[n]!, n, heading)
    if ('ok' in readings) return readings as Refusal
    survey.rows.push(row)
    survey.readings[row.id] = readings
  }
  return survey.rows.length ? { ok: true, survey } : refuse(1, 'there is nothing under the heading', 'one line a state')
}

function headingOf(header: string[]): Heading | Refusal {
  const found = FIXED.map(f => [f, header.findIndex(h => h.toLowerCase() === f)] as const)
  const at = Object.fromEntries(found) as Heading['at']
  if (at.devices < 0) return refuse(1, `the first line has ${header.slice(0, 8).join(', ')}`, HEADING)
  const heading: Heading = { length: header.length, at, columns: [], places: [] }
  for (const [i, word] of header.entries()) {
    if (Object.values(at).includes(i)) continue
    const hz = frequencyOf(word)
    if (hz === null) return refuse(1, `the column ${word || i + 1} is no band and no frequency`, '20 m, or 14.1 MHz')
    heading.columns.push({ id: word, hz })
    heading.places.push(i)
  }
  return heading.columns.length ? heading : refuse(1, 'there is no column of a band', HEADING)
}

function rowOf(fields: string[], n: number, { length, at }: Heading): SurveyRow | Refusal {
  if (fields.length > length) {
    const wrong = `it has ${fields.length} fields, the heading ${length}: commas for decimals?`
    return refuse(n + 1, wrong, 'points for decimals, or semicolons between the fields')
  }
  const field = (f: FixedName) => withoutGuard(fields[at[f]]?.trim() ?? '')
  const devices = devicesFrom(field('devices'))
  const antenna = field('antenna') || 'antenna'
  const feed = field('feed') || 'shared'
  if (typeof devices === 'string')
    return refuse(n + 1, devices, 'part=off, part=idle or part=working@8.5, with spaces between')
  if (antenna !== 'antenna' && antenna !== 'dummy') return refuse(n + 1, `antenna is ${antenna}`, 'antenna or dummy')
  if (feed !== 'shared' && feed !== 'own-battery') return refuse(n + 1, `feed is ${feed}`, 'shared or own-battery')
  return {
    id: `r${n}`,
    ...(field('state') && { name: field('state').slice(0, 80) }),
    devices,
    antenna,
    feed,
    ...(field('at') && { at: field('at').slice(0, 40) }),
    ...(field('who') && { who: field('who').slice(0, 80) }),
  }
}

function readingsOf(fields: string[], n: number, { columns, places }: Heading): Record<string, string> | Refusal {
  const readings: Record<string, string> = {}
  for (const [k, place] of places.entries()) {
    const reading = fields[place]?.trim() ?? ''
    if (!reading) continue
    if (levelOf(reading, columns[k]!.hz) === null)
      return refuse(n + 1, `${columns[k]!.id} is ${reading}`, 'S0 to S9, S9+10, or a level as -97 dBm')
    readings[columns[k]!.id] = reading
  }
  return readings
}

function frequencyOf(word: string): number | null {
  const band = BANDS.find(b => b.id === word.replace(/\s+/g, ' '))
  if (band) return middleHz(band)
  const read = readQuantity(word, 'frequency')
  return read.ok && /hz$/i.test(word.trim()) && read.value > 0 && read.value < 3e9 ? read.value : null
}

function devicesFrom(text: string): NonNullable<Setup['devices']> | string {
  const devices: [string, NonNullable<Setup['devices']>[string]][] = []
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const match = /^([\w-]{1,40})=(off|idle|working)(?:@(\d+(?:\.\d+)?))?$/.exec(word)
    if (!match) return `the devices say ${word.slice(0, 40)}`
    const state = match[2] as 'off'
    devices.push([match[1]!, { state, ...(match[3] !== undefined && { currentA: Number(match[3]) }) }])
  }
  return Object.fromEntries(devices)
}
