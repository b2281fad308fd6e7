import { z } from 'zod'
import { CHEMISTRY_IDS } from '../catalog/chemistries'
import { id, words } from '../kinds/fields'
import { jsonFault, schemaFaults, shown, type Fault } from '../plan/faults'
import { SEEN, type Reading, type Seen, type Sight } from '../readings/reading'
import { powerFindingSchema } from '../symptoms/readCase'
import { SYMPTOM_IDS } from '../symptoms/symptom'
import { LOG_LISTS } from './merge'

/**
 * The one definition of the open format of a station's log, `wireman-log` version 1: what was built, set, measured,
 * seen and suspected, and the life of its batteries. Every entry has an id of its own, so that two windows' entries
 * are told apart.
 */

export const LOG_FORMAT = 'wireman-log'
export const LOG_VERSION = 1

const entryId = z.string().regex(/^[A-Za-z0-9_-]{1,60}$/)
const when = z.iso.datetime({ offset: true, local: true }).describe('ISO 8601')
const place = z.string().min(1).max(90)
const note = z.string().max(1000).optional()
const who = z
  .string()
  .min(1)
  .max(60)
  .optional()
  .describe('the device that entered it; unsaid: the station’s own machine')
const volts = z.number().min(-1000).max(1000)
const amps = z.number().min(-10000).max(10000)

const readingSchema = z.strictObject({
  id: entryId,
  time: when,
  at: place.describe('volts: a terminal, or a lead’s own side of a mating (l2.to); amps: a lead'),
  condition: z
    .string()
    .min(1)
    .max(120)
    .describe('of the plan: full/idle, full/only:hf; or rested, of a pack by itself'),
  volts: volts.optional(),
  amps: amps.optional(),
  digit: z.number().gt(0).max(100).optional().describe('last figure that the instrument shows; unsaid: 0.01'),
  with: entryId.optional().describe('the instrument'),
  revision: z.int().min(1).optional().describe('of the plan'),
  note,
  who,
})

const instrumentSchema = z.strictObject({
  id: entryId,
  name: words,
  offsetV: z.number().min(-5).max(5).optional().describe('what it shows too much'),
  resolutionV: z.number().gt(0).max(1).optional(),
  offsetA: z.number().min(-50).max(50).optional(),
  resolutionA: z.number().gt(0).max(10).optional(),
})

const settingSchema = z.strictObject({
  id: entryId,
  time: when,
  part: id,
  chemistry: z.enum(CHEMISTRY_IDS as [string, ...string[]]).optional(),
  absorptionV: volts.optional(),
  floatV: volts.optional(),
  chargeA: amps.optional().describe('as its switch, jumper or plugged fuse sets it'),
  loadTimerH: z.number().min(0).max(1000).optional().describe('0: none'),
  cutV: volts.optional(),
  portsOn: z.string().max(200).optional(),
  torqueNm: z.number().gt(0).max(200).optional(),
  note,
  who,
})

const batterySchema = z.strictObject({
  id: entryId,
  time: when,
  part: id,
  what: z.enum(['bought', 'charged', 'rested', 'capacity', 'resistance', 'cells', 'topped-up', 'equalised', 'stored']),
  cost: z.number().min(0).max(1e7).optional(),
  ah: z.number().min(0).max(100000).optional().describe('put in, or taken out in a capacity test'),
  volts: volts.optional().describe('rested; at the end of a capacity test'),
  celsius: z.number().min(-60).max(80).optional(),
  loads: z
    .array(z.strictObject({ amps, volts }))
    .length(2)
    .optional()
    .describe('two loads one after the other: its resistance'),
  cellVolts: z.array(volts).min(2).max(100).optional(),
  note,
  who,
})

export const logSchema = z.strictObject({
  format: z.literal(LOG_FORMAT),
  version: z.literal(LOG_VERSION),
  readings: z.array(readingSchema).max(20_000),
  seen: z
    .array(
      z.strictObject({
        id: entryId,
        time: when,
        place,
        saw: z.enum(Object.keys(SEEN) as [Sight, ...Sight[]]),
        note,
        who,
      }),
    )
    .max(2000),
  instruments: z.array(instrumentSchema).max(50),
  steps: z
    .array(
      z.strictObject({ id: z.string().min(1).max(200), time: when, note, who, revision: z.int().min(1).optional() }),
    )
    .max(2000)
    .describe('of commissioning that are done, by the step’s own id'),
  settings: z.array(settingSchema).max(500),
  symptoms: z
    .array(
      z.strictObject({
        id: entryId,
        time: when,
        symptom: z.enum(SYMPTOM_IDS),
        at: z.string().max(40).optional(),
        findings: z.array(powerFindingSchema).max(200),
        note,
        who,
      }),
    )
    .max(500),
  batteries: z.array(batterySchema).max(5000),
})
export type Log = z.infer<typeof logSchema>
export type LogReading = Log['readings'][number]
export type BatteryEntry = Log['batteries'][number]
export type SettingEntry = Log['settings'][number]

export const EMPTY_LOG: Log = {
  format: LOG_FORMAT,
  version: LOG_VERSION,
  readings: [],
  seen: [],
  instruments: [],
  steps: [],
  settings: [],
  symptoms: [],
  batteries: [],
}

/** Reads a log from text. Never throws: every fault is listed. */
export function readLogText(text: string): { ok: true; log: Log } | { ok: false; faults: Fault[] } {
  let value: unknown
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch (error) {
    const right = 'a wireman-log file, as Wireman exports it'
    const wrong = `the file is not JSON: ${jsonFault(text, error as Error)}`
    return { ok: false, faults: [{ path: '', wrong, right }] }
  }
  const { version } = (value ?? {}) as { version?: unknown }
  if (typeof version === 'number' && version > LOG_VERSION) {
    const wrong = `version ${shown(version)} is newer than this program reads`
    return { ok: false, faults: [{ path: '/version', wrong, right: `version ${LOG_VERSION}, or a newer Wireman` }] }
  }
  const parsed = logSchema.safeParse(value)
  if (parsed.success) return { ok: true, log: parsed.data }
  return { ok: false, faults: parsed.error.issues.flatMap(issue => schemaFaults(issue, value)) }
}

/**
 * A log as it is kept: an entry says which device made it, and goes on saying so whoever changes it.
 * @param who saves it; empty: the station's own machine
 */
export function signedLog(log: Log, before: Log, who: string): Log {
  const signed = LOG_LISTS.filter(list => list !== 'instruments').map(list => {
    const were = new Map((before[list] as Signable[]).map(e => [e.id, e.who]))
    const entries = (log[list] as Signable[]).map(({ who: _said, ...entry }) => {
      const by = were.has(entry.id) ? were.get(entry.id) : who
      return by ? { ...entry, who: by } : entry
    })
    return [list, entries]
  })
  return { ...log, ...Object.fromEntries(signed) } as Log
}
interface Signable {
  id: string
  who?: string
}

/** The digit of an instrument that nobody described, V and A. */
const USUAL_DIGIT = { volts: 0.01, amps: 0.1 }

/** A log's readings as the reasoning takes them, less what instruments show too much; rested ones are apart. */
export function readingsOf(log: Log): Reading[] {
  const instruments = new Map(log.instruments.map(i => [i.id, i]))
  return log.readings.flatMap((r): Reading[] => {
    if (r.condition === RESTED || (r.volts === undefined) === (r.amps === undefined)) return []
    const own = r.with === undefined ? undefined : instruments.get(r.with)
    const ofVolts = r.volts !== undefined
    const resolution = ofVolts ? own?.resolutionV : own?.resolutionA
    return [
      {
        at: r.at,
        condition: r.condition,
        ...(ofVolts ? { volts: r.volts! - (own?.offsetV ?? 0) } : { amps: r.amps! - (own?.offsetA ?? 0) }),
        time: r.time,
        digit: r.digit ?? resolution ?? USUAL_DIGIT[ofVolts ? 'volts' : 'amps'],
        line: 0,
        id: r.id,
        ...(r.with !== undefined && { with: r.with }),
      },
    ]
  })
}
/** The condition of a pack's reading by itself, with nothing on it. */
export const RESTED = 'rested'

export const seenOf = (log: Log): Seen[] => log.seen.map(({ place: at, saw }) => ({ place: at, saw }))
