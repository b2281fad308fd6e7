import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Random } from '../../core/chance/random'
import { readAdif } from '../../core/formats/adif'
import { readBackup } from '../../core/formats/backup'
import { readIrradianceCsv } from '../../core/formats/irradianceCsv'
import { readReadingsCsv } from '../../core/formats/readingsCsv'
import { readRecording } from '../../core/formats/recording'
import { surveyCsv, surveyFromCsv } from '../../core/formats/surveyCsv'
import { readTonesCsv } from '../../core/formats/tonesCsv'
import { readWav, writeWav } from '../../core/formats/wav'
import { localAt } from '../../core/hours/schedule'
import { readEvent, readEventText } from '../../core/hours/readEvent'
import { readLine } from '../../core/instruments/protocol'
import { readLogText } from '../../core/log/log'
import { findCombs } from '../../core/noise/comb/find'
import { logbookSchema, readCaseText } from '../../core/noise/logbook'
import { readPlan, readPlanText } from '../../core/plan/faults'
import { shelfFromCsv, shelfToCsv } from '../../core/shelf/csv'
import { shelfSchema } from '../../core/shelf/item'
import { readSymptomText } from '../../core/symptoms/readCase'
import { buildSheet } from '../../core/sheets/build'
import { readQuantity } from '../../core/units/quantity'
import { readWindow } from '../../core/units/window'
import { judge } from '../../core/verdict/verdict'
import { demoPlan } from '../data/plans'
import { brokenBytes, brokenJson, brokenText, pick } from './mutate'

/** All that reads something from outside: each with files that are well, and how they are broken. */

export interface Target {
  name: string
  /** A broken input. */
  make: (random: Random) => string | Uint8Array
  /** Reads it, and goes on with what was taken as the application does. @returns all that a user would see of it */
  read: (input: never) => unknown
}

const ROOT = join(import.meta.dirname, '../..')
const fileOf = (path: string) => readFileSync(join(ROOT, 'demo', path), 'utf8')
const DEMOS = ['clean-bench', 'moor-walk-kit', 'narrowboat-heron', 'tern-rock-light'] as const
const tern = demoPlan('tern-rock-light')
const EVENTS = ['heron-grey-week', 'moor-walk-day', 'tern-rock-weekend'].map(n => fileOf(`events/${n}.json`))
const weekend = readEvent(JSON.parse(EVENTS[2]!), tern)
if (!weekend.ok) throw new Error('the demo event cannot be read')

const json = (files: readonly string[]) => (random: Random) =>
  (random.uniform() < 0.75 ? brokenJson : brokenText)(pick(random, files), random)
const text = (files: readonly string[]) => (random: Random) => brokenText(pick(random, files), random)

/** What was taken of a file, taken again: nothing of it may be refused the second time, or come out otherwise. */
function same<T>(once: T, again: { ok: boolean } & Record<string, unknown>, key: string): T {
  if (!again.ok) throw new Error('what was read is refused when it is read again')
  if (JSON.stringify(again[key]) !== JSON.stringify(once)) throw new Error('read again, it is something else')
  return once
}

const TONES = 'MHz,dB\n7.012,-80\n7.030,-92\n7.048,-81\n7.066,-90\n7.084,-84\n'
const tinySurvey = logbookSchema.parse(JSON.parse(fileOf('noise/narrowboat-heron.json'))).surveys[0]!
const SURVEY = surveyCsv(tinySurvey)
const ADIF = '<ADIF_VER:5>3.1.0<EOH>\n<CALL:4>X1XX<QSO_DATE:8>20260613<TIME_ON:6>141500<MODE:3>SSB<EOR>\n'
/** The weekend's sun, hour by hour. */
const IRRADIANCE = [
  'time,wm2',
  ...Array.from({ length: Math.ceil(weekend.event.hours) }, (_, h) => {
    const at = new Date(localAt(weekend.event, 0).getTime() + 3600e3 * h)
    const wm2 = Math.max(0, Math.round(800 * Math.sin(((h % 24) - 6) / 4)))
    return `${at.toISOString().slice(0, 16).replace('T', ' ')},${wm2}`
  }),
].join('\n')
const RECORDING = [
  'wireman-instruments 1',
  'channel m1 V 0.01 hf Meter at the HF radio',
  'state full/idle',
  'read m1 13.21 2026-06-13T12:00:00',
  'read m1 13.20 2026-06-13T12:00:01',
  '',
].join('\n')
const QUANTITIES = ['13.8 V ± 15 %', '8 AWG', '2.5 mm²', '1,5 A', '12 ft 3 in', '½ m', '−4 °C', '2 500 mAh', '5 V']

export const TARGETS: readonly Target[] = [
  {
    name: 'plan',
    make: json(DEMOS.map(d => fileOf(`${d}.json`))),
    read(input: string) {
      const read = readPlanText(input)
      if (!read.ok) return read
      same(read.plan, readPlan(JSON.parse(JSON.stringify(read.plan))), 'plan')
      const { verdict } = judge(read.plan)
      return { verdict, sheet: buildSheet(read.plan) }
    },
  },
  {
    name: 'log',
    make: json([fileOf('log/tern-rock-light.json')]),
    read(input: string) {
      const read = readLogText(input)
      return read.ok ? same(read.log, readLogText(JSON.stringify(read.log)), 'log') : read
    },
  },
  {
    name: 'noise logbook',
    make: json(['noise/narrowboat-heron.json', 'noise/tern-rock-light.json'].map(fileOf)),
    read(input: string) {
      let value: unknown
      try {
        value = JSON.parse(input)
      } catch (error) {
        return { ok: false, wrong: String(error) }
      }
      const read = logbookSchema.safeParse(value)
      if (!read.success) return { ok: false, wrong: read.error.issues[0]!.message }
      return read.data.cases.map(c => readCaseText(JSON.stringify(c)).ok)
    },
  },
  {
    name: 'event',
    make: json(EVENTS),
    read(input: string) {
      const read = readEventText(input, tern)
      return read.ok ? same(read.event, readEvent(JSON.parse(JSON.stringify(read.event)), tern), 'event') : read
    },
  },
  {
    name: 'readings CSV',
    make: text([fileOf('readings/tern-rock-season.csv')]),
    read: (input: string) => readReadingsCsv(input, tern),
  },
  { name: 'recording', make: text([RECORDING]), read: (input: string) => readRecording(input, tern) },
  { name: 'instrument line', make: text(RECORDING.split('\n')), read: (input: string) => readLine(input) },
  {
    name: 'tones CSV',
    make: text([TONES, TONES.replaceAll(',', ';'), TONES.replaceAll('.', ',').replaceAll('\n', '\n\t')]),
    read(input: string) {
      const read = readTonesCsv(input)
      return read.ok && read.kind === 'tones' ? { read, combs: findCombs(read.tones, read.resolutionHz) } : read
    },
  },
  { name: 'survey CSV', make: text([SURVEY]), read: (input: string) => surveyFromCsv(input, 's1', 'Evening') },
  { name: 'ADIF', make: text([ADIF.repeat(3)]), read: (input: string) => readAdif(input) },
  {
    name: 'irradiance CSV',
    make: text([IRRADIANCE]),
    read: (input: string) => readIrradianceCsv(input, weekend.event),
  },
  {
    name: 'symptom case',
    make: json([fileOf('symptoms/tern-rock-cuts-out.json')]),
    read: (input: string) => readSymptomText(input, tern),
  },
  {
    name: 'shelf CSV',
    make: text([shelfToCsv(shelfSchema.parse(JSON.parse(fileOf('shelf.json'))))]),
    read: (input: string) => shelfFromCsv(input, n => `s${n}`),
  },
  {
    name: 'backup',
    make: text([
      [
        '{"format":"wireman-backup","version":1,"savedAt":"2026-06-13T12:00:00.000Z"}',
        `{"shelf":${fileOf('shelf.json')}}`,
      ]
        .map(line => line.replaceAll('\n', ' '))
        .join('\n'),
    ]),
    read: (input: string) => readBackup(input),
  },
  {
    name: 'WAV',
    make: random => {
      const channels = [Float32Array.from({ length: 1500 }, (_, i) => Math.sin(i / (2 + 9 * random.uniform())))]
      return brokenBytes(writeWav({ sampleRateHz: 8000, channels }), random)
    },
    read: (input: Uint8Array) => readWav(input),
  },
  {
    name: 'quantity',
    make: text(QUANTITIES),
    read: (input: string) => [...MEASURES.map(q => readQuantity(input, q, UNITS)), readWindow(input)],
  },
]
const MEASURES = [
  'length',
  'voltage',
  'current',
  'power',
  'resistance',
  'charge',
  'energy',
  'mass',
  'fraction',
  'frequency',
]
const UNITS = { length: 'm', conductor: 'awg', temperature: 'C' } as const
