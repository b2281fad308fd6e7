import { z } from 'zod'
import { BANDS, middleHz } from '../catalog/bands'
import type { SiteClass } from '../catalog/noise'
import { id, words } from '../kinds/fields'
import { kindOf, type Part } from '../kinds/index'
import type { Patch } from '../edit/patch'
import { setField } from '../edit/set'
import { partById } from '../plan/find'
import type { Plan } from '../plan/schema'
import { suspectsOf, type Suspect } from './suspect'
import { added, calibratedDbm, normalDbm, type Receiver } from './level'
import type { Observation } from './observation'
import { setupSchema, type Heard } from './setup'

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

/** Standard uncertainty of one S-reading, dB: half a unit read, and a meter that is no instrument. */
export const READING_DB = 2

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
      `${s!.state}${s!.currentA !== undefined ? ` at ${s!.currentA} A` : ''}`,
  )
  const where = [
    ...(row.antenna === 'dummy' ? ['dummy load'] : []),
    ...(row.feed === 'own-battery' ? ['radio on a battery of its own'] : []),
  ]
  return [row.name ?? (states.length ? states.join(', ') : 'everything off'), ...where].join('; ')
}

export interface CellResult {
  row: string
  column: string
  onDbm: number
  offDbm: number
  /** How much the floor rises: what it costs on this band. */
  costDb: number
  /** What it adds by itself, dBm; null where it cannot be told from the floor. */
  addedDbm: number | null
  uncertaintyDb: number
  atMostDbm: number
}
export interface FloorResult {
  column: string
  dbm: number
  normalDbm: number
  /** `end`: the meter stands at its lower end, and what is below cannot be told. */ verdict:
    'quieter' | 'normal' | 'more' | 'end'
}

/**
 * A site is what it is within so many dB of the published median: sites of one class scatter, and antennas are not
 * lossless.
 */
const NORMAL_DB = 8

/**
 * What each state adds to the floor of its own antenna and feed, and what the floor itself is against what is normal
 * for here.
 */
export function surveyResults(
  survey: Survey,
  site: SiteClass,
  receiver: Receiver = {},
): { cells: CellResult[]; floors: FloorResult[] } {
  const cells: CellResult[] = []
  const floors: FloorResult[] = []
  for (const column of survey.columns) {
    const read = (row: SurveyRow) => levelOf(survey.readings[row.id]?.[column.id], column.hz, receiver)
    const off = (row: SurveyRow) =>
      survey.rows.find(r => isOff(r) && r.antenna === row.antenna && r.feed === row.feed && read(r) !== null)
    for (const row of survey.rows) {
      const dbm = read(row)
      if (dbm === null) continue
      if (isOff(row) && row.antenna === 'antenna' && !floors.some(f => f.column === column.id)) {
        const normal = normalDbm(site, column.hz, receiver.bandwidthHz ?? 2700)
        floors.push({
          column: column.id,
          dbm,
          normalDbm: normal,
          verdict: verdictOf(dbm, normal, survey.readings[row.id]![column.id]!),
        })
      }
      const base = off(row)
      if (isOff(row) || !base) continue
      const offDbm = read(base)!
      const what = added(dbm, offDbm, READING_DB)
      cells.push({
        row: row.id,
        column: column.id,
        onDbm: dbm,
        offDbm,
        costDb: dbm - offDbm,
        addedDbm: what.dbm,
        uncertaintyDb: what.uncertaintyDb,
        atMostDbm: what.atMostDbm,
      })
    }
  }
  return { cells, floors }
}

export const isOff = (row: SurveyRow) => Object.values(row.devices).every(s => s?.state === 'off')

/** A rise that readings of this uncertainty show surely, dB. */
export const SURE_DB = 2 * READING_DB

/**
 * What a survey says of the cause of a complaint: one finding a row in which one device alone was on, and one of the
 * rows in which
 * nothing was: quiet there and loud elsewhere, it is the station's own; loud there already, it comes from outside.
 */
export function surveyObservations(
  survey: Survey,
  bands: readonly string[],
  devices: readonly Suspect[],
  { site, receiver = {} }: { site: SiteClass; receiver?: Receiver },
): Observation[] {
  const { cells, floors } = surveyResults(survey, site, receiver)
  const here = cells.filter(c => bands.includes(c.column))
  return survey.rows.flatMap((row): Observation[] => {
    const mine = here.filter(c => c.row === row.id)
    const on = Object.entries(row.devices).filter(([, s]) => s?.state !== 'off')
    const say = (heard: Heard, heardOn: string[]): Observation[] => [
      {
        kind: 'listen',
        id: `${survey.id}-${row.id}`.slice(0, 40),
        at: row.at ?? '',
        ...(row.who && { who: row.who }),
        ...(row.allowedBy && { allowedBy: row.allowedBy }),
        bands: heardOn,
        heard,
        note: `from the survey ${survey.name}`,
        setup: {
          devices: {
            ...Object.fromEntries(
              devices.filter(d => !(d.id in row.devices)).map(d => [d.id, { state: 'off' as const }]),
            ),
            ...row.devices,
          },
          ...(row.antenna === 'dummy' && { antenna: 'dummy' as const }),
          ...(row.feed === 'own-battery' && { feed: 'own-battery' as const }),
        },
      },
    ]
    if (isOff(row)) {
      if (row.antenna === 'dummy') return []
      const lifted = [...new Set(here.filter(c => c.costDb >= SURE_DB).map(c => c.column))]
      if (lifted.length) return say('gone', lifted)
      const loud = floors.filter(f => bands.includes(f.column) && f.verdict === 'more').map(f => f.column)
      return loud.length ? say('same', loud) : []
    }
    if (!mine.length || on.length !== 1) return []
    const most = Math.max(...mine.map(c => c.costDb))
    return say(
      outcomeOf(most),
      mine.map(c => c.column),
    )
  })
}

/**
 * What a survey found of one device: the bands it was heard on, the least current at which it was, and the largest at
 * which it was not.
 */
export interface DeviceNoise {
  device: string
  bands: string[]
  quietUpToA?: number
  heardFromA?: number
}

/**
 * Of every device that was on alone. Quiet holds only up to the current at which it was tested, and under the least at
 * which it was heard.
 */
export function deviceNoise(survey: Survey, site: SiteClass, receiver: Receiver = {}): DeviceNoise[] {
  const { cells } = surveyResults(survey, site, receiver)
  const alone = survey.rows
    .filter(r => r.antenna === 'antenna')
    .flatMap(row => {
      const [on, ...more] = Object.entries(row.devices).filter(([, s]) => s?.state === 'working')
      const mine = cells.filter(c => c.row === row.id)
      return on && !more.length && mine.length
        ? [{ device: on[0], amps: on[1]!.currentA, bands: mine.filter(c => c.costDb >= SURE_DB).map(c => c.column) }]
        : []
    })
  return [...new Set(alone.map(a => a.device))].map(device => {
    const mine = alone.filter(a => a.device === device)
    const heardFromA = Math.min(...mine.filter(a => a.bands.length && a.amps !== undefined).map(a => a.amps!))
    const quiet = mine.filter(a => !a.bands.length && a.amps !== undefined && a.amps < heardFromA).map(a => a.amps!)
    return {
      device,
      bands: [...new Set(mine.flatMap(a => a.bands))],
      ...(quiet.length && { quietUpToA: Math.max(...quiet) }),
      ...(Number.isFinite(heardFromA) && { heardFromA }),
    }
  })
}

/**
 * What was found of a device, as a change of the plan; null where its kind keeps no such note, or it stands there
 * already.
 */
export function noiseIntoPlan(plan: Plan, found: DeviceNoise): Patch | null {
  const part = partById(plan, found.device)
  if (!part || !keepsNoise(part)) return null
  const before = 'noise' in part ? part.noise : undefined
  // An earlier test that was quiet at a higher current still holds, as long as nothing was heard below it.
  const earlierA =
    before?.quietUpToA !== undefined && before.quietUpToA < (found.heardFromA ?? Infinity)
      ? before.quietUpToA
      : undefined
  const { quietUpToA: _old, ...kept } = before ?? {}
  const quietUpToA = Math.max(found.quietUpToA ?? -1, earlierA ?? -1)
  const noise = { ...(quietUpToA >= 0 && { quietUpToA }), bands: found.bands, ...(kept.note && { note: kept.note }) }
  return JSON.stringify(noise) === JSON.stringify(before) ? null : setField(plan, part.id, 'noise', noise)
}

/** Whether the schema of its kind has a place for what is known of its noise. */
const keepsNoise = (part: Part) => 'noise' in (kindOf(part).schema as unknown as z.ZodObject).shape

/** Cells in the order in which they are filled: switching is the labour, so one state after the other, band by band. */
export function cellOrder(survey: Survey): { row: string; column: string }[] {
  return survey.rows.flatMap(r => survey.columns.map(c => ({ row: r.id, column: c.id })))
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

/** A reading against what is normal for the place; the meter's lower end tells nothing below it. */
function verdictOf(dbm: number, normal: number, reading: string): 'more' | 'end' | 'quieter' | 'normal' {
  if (dbm > normal + NORMAL_DB) return 'more'
  if (/^\s*s0\s*$/i.test(reading)) return 'end'
  return dbm < normal - NORMAL_DB ? 'quieter' : 'normal'
}

function outcomeOf(mostDb: number): 'same' | 'weaker' | 'gone' {
  if (mostDb >= 1.5 * SURE_DB) return 'same'
  return mostDb >= SURE_DB ? 'weaker' : 'gone'
}
