import { z } from 'zod'
import { BANDS, middleHz } from '../../catalog/bands'
import { id, words } from '../../kinds/fields'
import type { Plan } from '../../plan/schema'
import { suspectsOf, type Suspect } from '../suspect'
import { calibratedDbm, type Receiver } from '../level'
import { setupSchema } from '../setup'
import { asGiven } from '../../units/number'

/** Which devices are on in a row of a survey; those it does not name are off. */
const stateSchema = z.strictObject({
  id,
  name: words.optional(),
  devices: setupSchema.shape.devices.unwrap(),
  antenna: z.enum(['antenna', 'dummy']),
  feed: z.enum(['shared', 'own-battery']),
  at: z.string().max(40).optional(),
  who: words.optional(),
  allowedBy: z.enum(['sun', 'load', 'mains']).optional(),
})
export type SurveyRow = z.infer<typeof stateSchema>

export const surveySchema = z.strictObject({
  id,
  name: words,
  radio: id.optional().describe('the radio it was heard with'),
  columns: z
    .array(z.strictObject({ id: words, hz: z.number().gt(0).max(3e9) }))
    .min(1)
    .max(60),
  rows: z.array(stateSchema).max(200),
  readings: z
    .record(z.string(), z.record(z.string(), z.string().max(20)))
    .describe('row id, column id: "S7", "S9+10" or "−97 dBm"'),
  note: z.string().max(2000).optional(),
})
export type Survey = z.infer<typeof surveySchema>

/** Level of a reading, dBm; null where it is none. */
export function levelOf(text: string | undefined, hz: number, receiver: Receiver = {}): number | null {
  if (!text?.trim()) return null
  const match = /^\s*([-−]\d{1,3}(?:[.,]\d+)?)\s*(?:dbm)?\s*$/i.exec(text)
  if (match) return Number(match[1]!.replace('−', '-').replace(',', '.')) + (receiver.attenuatorDb ?? 0)
  return calibratedDbm(text, hz, receiver)
}

/** A survey to be filled in: everything off, each device alone, everything as usual. */
export function freshSurvey(plan: Plan, bands: readonly string[], surveyId: string, name: string): Survey {
  const devices = suspectsOf(plan)
  const row = (rowId: string, on: Suspect[], label?: string): SurveyRow => ({
    id: rowId,
    ...(label && { name: label }),
    devices: Object.fromEntries(on.map(d => [d.id, { state: 'working' as const }])),
    antenna: 'antenna',
    feed: 'shared',
  })
  const columns = BANDS.filter(b => bands.includes(b.id)).map(b => ({ id: b.id, hz: middleHz(b) }))
  return {
    id: surveyId,
    name,
    columns: columns.length ? columns : [{ id: '40 m', hz: 7.15e6 }],
    readings: {},
    rows: [
      row('off', [], 'everything off'),
      ...devices.map(d => row(d.id, [d])),
      ...(devices.length > 1 ? [row('usual', devices, 'everything as usual')] : []),
    ],
  }
}

/** "Charge controller working at 9 A" */
export function rowWords(row: SurveyRow, devices: readonly Suspect[]): string {
  const on = Object.entries(row.devices).filter(([, s]) => s?.state !== 'off')
  const states = on.map(
    ([d, s]) =>
      `${devices.find(x => x.id === d)?.name ?? d} ` +
      `${s!.state}${s!.currentA !== undefined ? ` at ${asGiven(s!.currentA)} A` : ''}`,
  )
  const where = [
    ...(row.antenna === 'dummy' ? ['dummy load'] : []),
    ...(row.feed === 'own-battery' ? ['radio on a battery of its own'] : []),
  ]
  return [row.name ?? (states.length ? states.join(', ') : 'everything off'), ...where].join('; ')
}

export const isOff = (row: SurveyRow) => Object.values(row.devices).every(s => s?.state === 'off')

/** One reading's place: a state and a band. */
export interface SurveyCell {
  row: string
  column: string
}

/** Cells in the order in which they are filled: switching is the labour, so one state after the other, band by band. */
export function cellOrder(survey: Survey): SurveyCell[] {
  return survey.rows.flatMap(r => survey.columns.map(c => ({ row: r.id, column: c.id })))
}

/**
 * A survey with one reading put in, or taken out by an empty one. A state's first reading says when it was listened to.
 * @param now ISO 8601
 */
export function withReading(
  survey: Survey,
  { row, column, value }: SurveyCell & { value: string },
  now: string,
): Survey {
  const before = survey.readings[row] ?? {}
  const { [column]: _old, ...others } = before
  const begins = value !== '' && Object.keys(before).length === 0
  return {
    ...survey,
    readings: { ...survey.readings, [row]: value ? { ...others, [column]: value } : others },
    rows: begins ? survey.rows.map(r => (r.id === row && !r.at ? { ...r, at: now } : r)) : survey.rows,
  }
}

/**
 * The reading after a key at the radio: a digit is an S-unit, + adds ten dB over S9, . adds half a unit. null: the key
 * is none of these.
 */
export function keyed(before: string | undefined, key: string): { reading: string; next: boolean } | null {
  if (/^\d$/.test(key)) return { reading: `S${key}`, next: true }
  if (key === '+') {
    const over = /^S9\+(\d+)$/.exec(before ?? '')
    return { reading: `S9+${over ? Math.min(90, Number(over[1]) + 10) : 10}`, next: false }
  }
  if (key === '.' || key === ',') {
    const units = /^S([0-8])$/.exec(before ?? '')
    return units ? { reading: `S${units[1]}.5`, next: false } : null
  }
  return null
}
