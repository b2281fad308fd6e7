import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { solveMatrix } from '../../core/circuit/matrix'
import { namePoint } from '../../core/circuit/point'
import { loadFace } from '../../cli/faces'
import { readAdif } from '../../core/formats/adif'
import { hearCsv } from '../../core/formats/heardCsv'
import { readIrradianceCsv } from '../../core/formats/irradianceCsv'
import { buildSheetPdf } from '../../core/formats/pdf/buildSheet'
import { eventPdf } from '../../core/formats/pdf/event'
import { labelsPdf } from '../../core/formats/pdf/labels'
import { casePdf } from '../../core/formats/pdf/noiseCase'
import { readReadingsCsv } from '../../core/formats/readingsCsv'
import { surveyCsv, surveyFromCsv } from '../../core/formats/surveyCsv'
import { labelsSvg } from '../../core/formats/svg'
import { readTonesCsv } from '../../core/formats/tonesCsv'
import { centreInName, openWav, readWav, wavPiece, writeWav } from '../../core/formats/wav'
import { EventCourse } from '../../core/hours/course'
import { readEventText } from '../../core/hours/readEvent'
import { eventSheet } from '../../core/hours/sheet'
import { readLogText } from '../../core/log/log'
import { logbookSchema, readCaseText, writeCase } from '../../core/noise/logbook'
import { caseReport } from '../../core/noise/report'
import { foldable } from '../../core/picture/fold'
import { layoutPath } from '../../core/picture/layout'
import { pathOnPaper } from '../../core/picture/paper'
import type { SceneOptions } from '../../core/picture/scene/drawing'
import { pathScene } from '../../core/picture/scene/scene'
import { shownOf } from '../../core/picture/shown'
import { readPlanText } from '../../core/plan/faults'
import type { Plan } from '../../core/plan/schema'
import { shelfFromCsv, shelfToCsv } from '../../core/shelf/csv'
import { shortStudy } from '../../core/short/study'
import { buildSheet } from '../../core/sheets/build'
import { LABEL_FORMATS } from '../../core/sheets/labels'
import { readSymptomText } from '../../core/symptoms/readCase'
import { METRIC } from '../../core/units/quantity'
import { judge } from '../../core/verdict/verdict'
import { demoPlan } from './plans'
import { dice, randomPlan, type Dice } from './randomPlans'
import { madeUpRecording } from './recordings'

/** What is read of damaged files, what is printed and what is drawn: whole answers, as in `recorded.ts`. */

const demoText = (file: string) => readFileSync(join(import.meta.dirname, '../../demo', file), 'utf8')
const tern = () => demoPlan('tern-rock-light')

/** What happens to a file that people handle. */
const DAMAGES: readonly ((d: Dice, lines: string[]) => string[])[] = [
  (d, lines) => lines.filter((_, i) => i !== Math.floor(d.roll() * lines.length)),
  (d, lines) => lines.flatMap((line, i) => (i === Math.floor(d.roll() * lines.length) ? [line, line] : [line])),
  (d, lines) => lines.slice(0, Math.max(1, Math.floor(d.roll() * lines.length))),
  (_, lines) => lines.map(line => line.replaceAll(',', ';')),
  (_, lines) => lines.map(line => line.replaceAll('.', ',').replaceAll(',', '\t')),
  (d, lines) => onOne(d, lines, line => line.replace(/\d+/g, n => `-${n}`)),
  (d, lines) => onOne(d, lines, line => line.replace(/\d/g, '9')),
  (d, lines) => onOne(d, lines, line => line.replace(/[a-z]{3,}/i, 'zzz')),
  (d, lines) => onOne(d, lines, line => line.slice(0, Math.floor(d.roll() * line.length))),
  (_, lines) => ['\uFEFFsep=,', ...lines],
  (_, lines) => ['# a remark', '', ...lines],
]
function onOne(d: Dice, lines: string[], change: (line: string) => string): string[] {
  const at = Math.floor(d.roll() * lines.length)
  return lines.map((line, i) => (i === at ? change(line) : line))
}

/** One value of a document changed as no program would write it. */
function hurt(d: Dice, value: unknown): unknown {
  if (Array.isArray(value) && value.length && d.chance(0.9)) {
    const at = Math.floor(d.roll() * value.length)
    return value.map((v, i) => (i === at ? hurt(d, v) : v))
  }
  if (typeof value === 'object' && value !== null && !Array.isArray(value)) {
    const key = d.of(Object.keys(value))
    const { [key]: inner, ...others } = value as Record<string, unknown>
    if (d.chance(0.08)) return others
    if (d.chance(0.08)) return { ...value, strange: 1 }
    return { ...value, [key]: hurt(d, inner) }
  }
  return d.of([-2, 'zzz', 1e9, null, true, {}, [], 0, 1.5])
}

/** A document with each of many values hurt. */
const readHurt = (text: string, times: number, read: (text: string) => unknown) =>
  Array.from({ length: times }, (_, i) => read(JSON.stringify(hurt(dice(400 + i), JSON.parse(text)))))

/** A file as it is, and after each thing that may happen to it. */
function readDamaged(text: string, read: (text: string) => unknown) {
  const damaged = DAMAGES.flatMap((damage, n) =>
    [1, 2].map(seed => damage(dice(100 * n + seed), text.split('\n')).join('\n')),
  )
  return [text, '', ...damaged].map(read)
}

/** A JSON file cut and torn, and with its values hurt. */
const ofDocument = (text: string, times: number, read: (text: string) => unknown) => [
  ...readDamaged(text, read),
  ...readHurt(text, times, read),
]

/** Of an answer that is taken only what it comes to; of a refusal all. */
const short = (read: object, of: (taken: never) => unknown) => ('ok' in read && read.ok ? of(read as never) : read)

const TONES = [
  'frequency_khz,level_dbm\n14010.2,-91\n14080.4,-89\n14150.5,-95\n',
  'Frequency (MHz);Amplitude\n14,0102;-91,5\n14,0804;-89\n14,1505;-95\n',
  '14010200\n14080400\n14150500\n14220700\n',
  'freq\tpower\n7000000\t-110\n7000100\t-109\n7000200\t-108.5\n7000300\t-60\n',
  'khz\n1,234\n2,345\n',
]

const ADIF = `made up<EOH>
<QSO_DATE:8>20260613<TIME_ON:6>120130<MODE:2>CW<BAND:3>20m<CALL:5>Q0ABC<EOR>
<QSO_DATE:8>20260613<TIME_ON:4>1205<MODE:3>SSB<CALL:5>Q0ABD<EOR>
<QSO_DATE:8>20261345<TIME_ON:4>1205<EOR><CALL:5>Q0ABC<EOR><qso_date:8>20260613<time_on:6>240000<eor>`

const IRRADIANCE = 'time,ghi\n2026-06-13T08:00,100\n2026-06-13T09:00,240.5\n2026-06-13T10:00,380\n'

function filesAnswer() {
  const plan = tern()
  const event = readEventText(demoText('events/tern-rock-weekend.json'), plan)
  if (!event.ok) throw new Error('the demo event is refused')
  const logbook = logbookSchema.parse(JSON.parse(demoText('noise/tern-rock-light.json')))
  let made = 0
  const shelf = shelfToCsv(JSON.parse(demoText('shelf.json')))
  const season = demoText('readings/tern-rock-season.csv').split('\n').slice(0, 14).join('\n')
  return {
    tones: TONES.map(text => readDamaged(text, readTonesCsv)),
    heard: readDamaged(TONES[0]!, text => short(hearCsv(text), (r: { heard: object }) => r.heard)),
    adif: readDamaged(ADIF, text => readAdif(text)),
    irradiance: readDamaged(IRRADIANCE, text => readIrradianceCsv(text, event.event)),
    survey: readDamaged(surveyCsv(logbook.surveys[0]!), text => surveyFromCsv(text, 's', 'survey')),
    shelf: readDamaged(shelf, text =>
      short(
        shelfFromCsv(text, () => `n${made++}`),
        (r: { items?: unknown[] }) => r.items?.slice(0, 8),
      ),
    ),
    readings: readDamaged(season, text => readReadingsCsv(text, plan)),
    plans: ofDocument(demoText('tern-rock-light.json'), 90, text =>
      short(readPlanText(text), (r: { plan: { leads: object[] } }) => r.plan.leads.length),
    ),
    boats: ofDocument(demoText('narrowboat-heron.json'), 60, text =>
      short(readPlanText(text), (r: { plan: { leads: object[] } }) => r.plan.leads.length),
    ),
    events: ofDocument(demoText('events/tern-rock-weekend.json'), 50, text =>
      short(readEventText(text, plan), (r: { event: { loads: object } }) => r.event.loads),
    ),
    logs: ofDocument(demoText('log/tern-rock-light.json'), 30, text =>
      short(readLogText(text), (r: { log: { readings: object[] } }) => r.log.readings.length),
    ),
    cases: ofDocument(writeCase(logbook.cases[0]!), 30, text =>
      short(readCaseText(text), (r: { case: { observations: object[] } }) => r.case.observations.length),
    ),
    symptoms: ofDocument(demoText('symptoms/tern-rock-cuts-out.json'), 20, text =>
      short(readSymptomText(text, plan), r => r),
    ),
  }
}

const digest = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex').slice(0, 16)
const tenth = (n: number) => Math.round(n * 1000) / 1000

/** A recording of each kind of sample: read whole, cut short and with lengths that are not filled in. */
function wavAnswer() {
  const recording = madeUpRecording({
    seconds: 0.01,
    sampleRateHz: 48000,
    hiss: 0.01,
    lines: 3,
    spacingHz: 9000,
    offsetHz: 300,
    level: 0.1,
    seed: 5,
  })
  const stereo = writeWav(recording)
  const mono = writeWav({ ...recording, channels: [recording.channels[0]!] })
  const changed = (bytes: Uint8Array, at: number, value: number, width: 2 | 4) => {
    const copy = bytes.slice()
    const view = new DataView(copy.buffer)
    if (width === 2) view.setUint16(at, value, true)
    else view.setUint32(at, value, true)
    return copy
  }
  const kinds = [8, 16, 24, 32, 64, 12].flatMap(bits =>
    [1, 3, 0xfffe].map(code => changed(changed(stereo, 34, bits, 2), 20, code, 2)),
  )
  const lengths = [0, 2 ** 32 - 1, 100, 7].map(said => changed(stereo, 40, said, 4))
  const channels = [0, 1, 3].map(n => changed(stereo, 22, n, 2))
  const rates = [0, 192000].map(hz => changed(stereo, 24, hz, 4))
  const cut = [0, 11, 20, 43, 44, 45, 301].map(n => mono.slice(0, n))
  const files = [stereo, mono, ...kinds, ...lengths, ...channels, ...rates, ...cut]
  return {
    written: [digest(stereo), digest(mono), [...stereo.slice(0, 60)]],
    read: files.map(bytes => {
      const read = readWav(bytes)
      if (!read.ok) return read
      const { channels: heard, sampleRateHz } = read.recording
      return { sampleRateHz, heard: heard.map(c => [c.length, tenth(c[1] ?? 0), tenth(c.at(-1) ?? 0)]) }
    }),
    pieces: [0, 0.004, 50, 200].map(fromS => {
      const opened = openWav(stereo, 44 + 4 * 48000 * 150)
      return opened.ok && wavPiece({ ...opened.wav, frames: 48000 * 150 }, fromS)
    }),
    centres: [
      'evening 14074kHz',
      '14.074 MHz',
      '_7100000Hz_',
      '7,1mhz.wav',
      '3 hz',
      'none',
      '14074khzx',
      '9999 MHz',
    ].map(centreInName),
  }
}

/** What is drawn on the pages of a PDF: places, words, lines, without the files of its typefaces. */
function drawnIn(pdf: Uint8Array): string[] {
  const text = Buffer.from(pdf).toString('latin1')
  const streams = [...text.matchAll(/stream\r?\n([\s\S]*?)endstream/g)].map(m => m[1]!)
  return streams.filter(s => /\bBT\b|\bre\b/.test(s) && /^[\x20-\x7e\s\x80-\xff]*$/.test(s)).flatMap(s => s.split('\n'))
}

async function printedAnswer() {
  const plan = tern()
  const { verdict, study } = judge(plan)
  const sheet = buildSheet(plan)
  const path = pathOnPaper(plan, verdict, shownOf(study, verdict))
  const event = readEventText(demoText('events/tern-rock-weekend.json'), plan)
  if (!event.ok) throw new Error('the demo event is refused')
  const course = new EventCourse(plan, event.event)
  const logbook = logbookSchema.parse(JSON.parse(demoText('noise/tern-rock-light.json')))
  const noiseCase = logbook.cases[0]!
  const report = caseReport(plan, noiseCase, logbook)
  return {
    sheet: drawnIn(await buildSheetPdf(sheet, { path, paper: 'letter', loadFace })),
    event: drawnIn(await eventPdf(eventSheet(course, course.run(), null), { loadFace })),
    case: drawnIn(await casePdf({ plan, noiseCase, report }, { loadFace })),
    labels: await Promise.all(LABEL_FORMATS.map(async f => drawnIn(await labelsPdf(sheet.labels, f, loadFace)))),
    labelsSvg: LABEL_FORMATS.map(f => labelsSvg(sheet.labels, f).split('><')),
  }
}

const TABLE = { width: 900, narrow: 380 }

/** The path as it is looked at: a part chosen, a load's staircase open, a short shown, parts folded, one condition. */
function scenesOf(plan: Plan) {
  const { verdict, study } = judge(plan)
  const shown = shownOf(study, verdict)
  const { network, points } = solveMatrix(plan)
  const scene = (options: Partial<SceneOptions>, width = TABLE.width, folded: ReadonlySet<string> = new Set()) => {
    const layout = layoutPath(plan, verdict.arrivals, width, folded)
    const { head, body, arrivals } = pathScene(plan, layout, { units: METRIC, verdict, shown, ...options })
    return [...head, ...body, ...arrivals].map(drawn => JSON.stringify(drawn))
  }
  const asIs = scene({})
  /** Of another view only what is drawn in another way. */
  const otherwise = (drawn: string[]) => drawn.filter(line => !asIs.includes(line))
  const at = shortStudy(plan).shorts
  const way = new Map(plan.leads.map((l, i) => [l.id, i % 2 === 0]))
  return {
    asIs,
    narrow: scene({}, TABLE.narrow),
    unjudged: otherwise(scene({ verdict: null, shown: null })),
    imperial: otherwise(scene({ units: { length: 'ft', conductor: 'mm2', temperature: 'F' } })),
    onPaper: otherwise(scene({ onPaper: true })),
    selected: [...plan.parts, ...plan.leads].map(({ id }) => otherwise(scene({ selected: id, lit: new Set([id]) }))),
    stairs: otherwise(scene({ shownLoad: plan.parts.at(-1)!.id })),
    points: points.slice(0, 3).map(p => otherwise(scene({ point: namePoint(network, p) }))),
    shorts: at.map(({ at, lead }) => otherwise(scene({ short: { at, lead, way, opens: new Map() } })).length),
    short: otherwise(scene({ short: { at: at.at(-1)!.at, lead: at.at(-1)!.lead, way, opens: new Map() } })),
    folded: plan.parts
      .filter(({ id }) => foldable(plan, id))
      .map(({ id }) => otherwise(scene({}, TABLE.width, new Set([id])))),
  }
}

const scenesAnswer = () =>
  Object.fromEntries(
    [tern(), demoPlan('narrowboat-heron'), ...[2, 9, 12].flatMap(seed => randomPlan(seed) ?? [])].map(plan => [
      plan.name,
      scenesOf(plan),
    ]),
  )

export const RECORDED_FILES: Record<string, () => unknown> = {
  'files-read': filesAnswer,
  'files-wav': wavAnswer,
  'files-printed': printedAnswer,
  scenes: scenesAnswer,
}
