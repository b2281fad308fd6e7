import type { SiteClass } from '../../catalog/noise'
import { added, expectedFloorDbm, type Receiver } from '../level'
import { normalQuantile } from '../listen/normal'
import { isOff, levelOf, type Survey, type SurveyRow } from './survey'

/** What a survey's readings say: what each state costs and adds, how surely, and the floor against what is normal. */

export interface CellResult {
  row: string
  column: string
  onDbm: number
  offDbm: number
  /** How much the floor rises: what it costs on this band; of a state that was read several times, on average. */
  costDb: number
  /** Standard uncertainty of that, dB. */
  errorDb: number
  /** More than chance makes of all cells of the survey together. */
  isSure: boolean
  /** What it adds by itself, dBm; null where it cannot be told from the floor. */
  addedDbm: number | null
  uncertaintyDb: number
  atMostDbm: number
}

export interface FloorResult {
  column: string
  dbm: number
  normalDbm: number
  /** `end`: the meter stands at its lower end, and what is below cannot be told. */
  verdict: 'quieter' | 'normal' | 'more' | 'end'
}

/** The band breathes between two readings, and no ear or needle stands still, dB. */
const BREATHES_DB = 1.2
/** Steps in which readings are written, dB. */
const STEP_DB = { unit: 6, half: 3, ten: 10, five: 5, one: 1 } as const

/** Standard uncertainty of one reading, dB, by how it was written: a whole S-unit is six dB wide. */
export function readingErrorDb(text: string): number {
  return Math.hypot(stepOf(text) / Math.sqrt(12), BREATHES_DB)
}

function stepOf(text: string): number {
  if (/^\s*s\s*\d\s*$/i.test(text)) return STEP_DB.unit
  if (/^\s*s\s*\d[.,]\d\s*$/i.test(text)) return STEP_DB.half
  const over = /\+\s*(\d+)/.exec(text)?.[1]
  if (over === undefined) return STEP_DB.one
  if (Number(over) % 10 === 0) return STEP_DB.ten
  return Number(over) % 5 === 0 ? STEP_DB.five : STEP_DB.one
}

/** Of surveys of a silent station, so many name a cell by chance; and so many a device, by all its bands together. */
const BY_CHANCE = 0.015
/** A rise that is less than this is none that anybody hears, dB. */
export const LEAST_RISE_DB = 4

interface Mean {
  dbm: number
  errorDb: number
}

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
  for (const { id: column, hz } of survey.columns) {
    const textOf = (row: SurveyRow) => survey.readings[row.id]?.[column]
    const read = (row: SurveyRow) => levelOf(textOf(row), hz, receiver)
    const meanOf = (rows: readonly SurveyRow[]) =>
      mean(rows.filter(r => read(r) !== null).map(r => [read(r)!, textOf(r)!]))
    for (const row of survey.rows) {
      const dbm = read(row)
      if (dbm === null) continue
      if (isOff(row) && row.antenna === 'antenna' && !floors.some(f => f.column === column)) {
        const normalDbm = expectedFloorDbm(site, hz, receiver.bandwidthHz ?? 2700)
        floors.push({ column, dbm, normalDbm, verdict: verdictOf({ dbm, normalDbm, hz }, textOf(row)!, row.at) })
      }
      const off = meanOf(survey.rows.filter(r => isOff(r) && sameFeed(r, row)))
      const on = meanOf(survey.rows.filter(r => sameState(r, row)))
      if (isOff(row) || !off || !on) continue
      const errorDb = Math.hypot(on.errorDb, off.errorDb)
      const what = added(on.dbm, off.dbm, errorDb / Math.SQRT2)
      cells.push({
        row: row.id,
        column,
        onDbm: dbm,
        offDbm: off.dbm,
        costDb: on.dbm - off.dbm,
        errorDb,
        isSure: false,
        addedDbm: what.dbm,
        uncertaintyDb: what.uncertaintyDb,
        atMostDbm: what.atMostDbm,
      })
    }
  }
  const times = normalQuantile(BY_CHANCE / Math.max(1, cells.length))
  return { cells: cells.map(c => ({ ...c, isSure: isRise(c, times) })), floors }
}

const isRise = ({ costDb, errorDb }: CellResult, times: number) =>
  costDb >= LEAST_RISE_DB && costDb > Math.max(2, times) * errorDb

const sameFeed = (a: SurveyRow, b: SurveyRow) => a.antenna === b.antenna && a.feed === b.feed
const stateKey = ({ devices }: SurveyRow) =>
  JSON.stringify(
    Object.entries(devices)
      .filter(([, s]) => s?.state !== 'off')
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  )
/** The same devices in the same state: read again. */
const sameState = (a: SurveyRow, b: SurveyRow) => sameFeed(a, b) && stateKey(a) === stateKey(b)

function mean(readings: readonly (readonly [dbm: number, text: string])[]): Mean | null {
  if (!readings.length) return null
  const n = readings.length
  const errors = readings.reduce((s, [, text]) => s + readingErrorDb(text) ** 2, 0)
  return { dbm: readings.reduce((s, [dbm]) => s + dbm, 0) / n, errorDb: Math.sqrt(errors) / n }
}

/**
 * A site is what it is within so many dB of the published median: sites of one class scatter, and antennas are not
 * lossless. Below 10 MHz the night brings static from afar.
 */
const NORMAL_DB = 8
const NIGHT = { belowHz: 10e6, db: 12, unsaidDb: 6 } as const

/** A reading against what is normal for the place; the meter's lower end tells nothing below it. */
function verdictOf(
  { dbm, normalDbm, hz }: { dbm: number; normalDbm: number; hz: number },
  reading: string,
  at: string | undefined,
): FloorResult['verdict'] {
  if (dbm > normalDbm + NORMAL_DB + (hz < NIGHT.belowHz ? nightDb(at) : 0)) return 'more'
  if (/^\s*s0\s*$/i.test(reading)) return 'end'
  return dbm < normalDbm - NORMAL_DB ? 'quieter' : 'normal'
}

function nightDb(at: string | undefined): number {
  const hour = /T(\d{2}):/.exec(at ?? '')?.[1] ?? /\b(\d{2}):\d{2}\b/.exec(at ?? '')?.[1]
  if (hour === undefined) return NIGHT.unsaidDb
  return Number(hour) >= 18 || Number(hour) < 7 ? NIGHT.db : 0
}

/** What a device does to the bands of a complaint, as an ear would say it; between the two it is not told. */
export function outcomeOf(cells: readonly CellResult[]): 'same' | 'weaker' | 'gone' | 'not-sure' {
  const sure = cells.filter(c => c.isSure).map(c => c.costDb)
  if (sure.length) return Math.max(...sure) >= 1.5 * LEAST_RISE_DB ? 'same' : 'weaker'
  return cells.every(c => c.costDb <= 1.3 * c.errorDb) ? 'gone' : 'not-sure'
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
  const times = normalQuantile(BY_CHANCE / Math.max(1, survey.rows.length))
  const alone = survey.rows
    .filter(r => r.antenna === 'antenna')
    .flatMap(row => {
      const [on, ...more] = Object.entries(row.devices).filter(([, s]) => s?.state === 'working')
      const mine = cells.filter(c => c.row === row.id)
      return on && !more.length && mine.length
        ? [{ device: on[0], amps: on[1]!.currentA, bands: heardOn(mine, times) }]
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

/** Bands on which a state is heard: each that is sure, or all that rose where together they are no chance. */
function heardOn(cells: readonly CellResult[], times: number): string[] {
  const sum = (of: (c: CellResult) => number) => cells.reduce((s, c) => s + of(c), 0)
  const together = sum(c => c.costDb / c.errorDb ** 2) / Math.sqrt(sum(c => 1 / c.errorDb ** 2))
  const rose = cells.filter(c => c.costDb >= LEAST_RISE_DB)
  return (rose.length > 1 && together > times ? rose : cells.filter(c => c.isSure)).map(c => c.column)
}
