import { EventCourse } from '../../core/hours/course'
import type { HoursEvent } from '../../core/hours/event'
import { readEventText } from '../../core/hours/readEvent'
import { oddsOf, type Odds } from '../../core/hours/odds'
import type { Course } from '../../core/hours/run'
import { clockWords } from '../../core/hours/schedule'
import { clearSkyWm2, onPlaneWm2, splitIrradiance } from '../../core/hours/sun/irradiance'
import { sunPosition } from '../../core/hours/sun/position'
import { courseWords, failureWords } from '../../core/hours/tell'
import { timelineCsv } from '../../core/formats/timelineCsv'
import { eventSheet } from '../../core/hours/sheet'
import { readAdif } from '../../core/formats/adif'
import { readIrradianceCsv } from '../../core/formats/irradianceCsv'
import { eventIcal } from '../../core/formats/ical'
import { calibrate, type Measured } from '../../core/hours/calibrate'
import { readMeasured } from '../../core/hours/measured'
import { learnFrom } from '../../core/hours/learn'
import { MODES } from '../../core/hours/modes'
import { monthsOf, type Month } from '../../core/hours/months'
import { sagOf, sagWords } from '../../core/hours/sag'
import { nameOf } from '../../core/plan/find'
import { loadFace } from '../faces'
import { partName } from '../../core/plan/names'
import { percent } from '../../core/units/show'
import { out, printJson, refuse, Refusal, type Call, type Command } from '../command'
import { printCharging, printSets, printWhatIf, printWorth } from './lasting'
import { readBytes, readFigure, readPlan, writeOut } from '../inputs'
import { figure, fixed } from '../../core/units/number'

export const hours: Command = {
  name: 'hours',
  takes: 'PLAN.json',
  options: {
    event: { value: 'EVENT.json' },
    runs: { value: 'N' },
    seed: { value: 'S' },
    'step-minutes': { value: 'M' },
    measured: { value: 'AH|WH|FROM-TO%' },
    months: {},
    irradiance: { value: 'SUN.csv' },
    size: { value: 'weight|cost|volume' },
    odds: { value: '%' },
    'most-wh': { value: 'WH' },
    box: { value: 'LxWxH' },
    budget: { value: 'N' },
    refill: { value: 'HOURS' },
    charging: {},
    'what-if': {},
    worth: { value: 'CYCLES-A-YEAR' },
    ical: {},
    csv: {},
    pdf: { value: 'OUT.pdf' },
    log: { value: 'LOG.adi' },
    sun: {},
    lat: { value: 'DEG' },
    lon: { value: 'DEG' },
    tilt: { value: 'DEG' },
    azimuth: { value: 'DEG' },
    date: { value: 'YYYY-MM-DD' },
    json: {},
  },
  help: `How long a plan lasts through an event (--event, a wireman-event file): what ends it and when, energies, charge
and volts over time; with --runs N the odds in as many weathers (--seed S repeats them). With --sun, in place of a
plan, where the sun stands and what it gives each hour (UTC) of a --date at --lat and --lon, on a panel of --tilt
facing --azimuth. --months: the transmit time that sun alone carries for ever, month by month. --measured 18Ah, 230Wh
or 100-64%: the transmit time that explains it. --ical: watches and charging as a calendar;
--csv: the timeline; --pdf OUT.pdf: the event's sheet. --irradiance: what a CSV
file says of the sun, hour by hour (time,wm2). --log: what a log in ADIF tells of the time on the air. --size: the
least set of packs and panels that lasts with --odds (90) in --runs weathers, one pack of at most --most-wh, all in a
--box (mm), for at most a --budget; of packs in turn one filled while another is used, in --refill hours. --charging:
time to full by each charger and month, how long packs stay.
--what-if: other packs, panels, powers, held volts. --worth: cost per usable Wh, kg, year.
Exit 1: something fails before the end, no set lasts. Exit 2: it cannot be read.`,
  run(call) {
    if (call.has('sun')) return printSun(call)
    if (call.has('log')) return printLog(call)
    const plan = readPlan(call)
    const path = call.value('event') ?? refuse('--event', 'no event is named', 'the path of a wireman-event file')
    const read = readEventText(readBytes(path, 'the path of a wireman-event file').toString('utf8'), plan)
    if (!read.ok) throw new Refusal(read.faults, `${path} is not an event of this plan:`)
    const event = call.value('irradiance') === undefined ? read.event : withIrradiance(call, read.event)
    const course = new EventCourse(plan, event)
    if (call.has('ical')) return written(eventIcal(plan, event))
    if (call.has('csv')) return written(timelineCsv(course.run()))
    if (call.value('pdf') !== undefined) return writePdf(call.value('pdf')!, course)
    if (call.has('months')) return printMonths(call, monthsOf(plan, event))
    if (call.has('measured')) return printCalibration(call, course)
    if (call.has('size')) return printSets(call, plan, event)
    if (call.has('charging')) return printCharging(call, plan, event)
    if (call.has('what-if')) return printWhatIf(call, plan, event)
    if (call.has('worth')) return printWorth(call, plan, event)
    const step = call.value('step-minutes') === undefined ? 1 : minutes(call)
    const result = course.run({ stepH: step / 60 })
    const odds = call.value('runs') === undefined ? null : oddsOf(course, oddsAsked(call))
    const assumed = step > 1 ? [...course.assumed, oftenEnough(step)] : course.assumed
    if (call.json) printJson(asJson(course, result, odds, assumed))
    else print(course, result, odds, assumed)
    return result.ends ? 1 : 0
  },
}

function written(text: string): number {
  process.stdout.write(text)
  return 0
}

/** The PDF maker is large and rarely wanted: it is loaded only then. */
async function writePdf(path: string, course: EventCourse): Promise<number> {
  const { eventPdf } = await import('../../core/formats/pdf/event')
  writeOut('--pdf', path, await eventPdf(eventSheet(course, course.run(), null), { loadFace }))
  return 0
}

function withIrradiance(call: Call, event: HoursEvent): HoursEvent {
  const path = call.value('irradiance')!
  const read = readIrradianceCsv(readBytes(path, 'a CSV file of irradiance').toString('utf8'), event)
  if (!read.ok) return refuse(`${path}, line ${read.line}`, read.wrong, read.right)
  return { ...event, weather: { ...event.weather, irradianceWm2: read.irradianceWm2 } }
}

const MOST_RUNS = 100_000
function oddsAsked(call: Call): { runs: number; seed: number } {
  const runs = readFigure(call, 'runs', { above: 0 })
  const seed = readFigure(call, 'seed', { otherwise: 1 })
  if (!Number.isInteger(runs) || runs > MOST_RUNS)
    refuse('--runs', `it is ${runs}`, `a whole number, at most ${MOST_RUNS}`)
  if (!Number.isInteger(seed)) refuse('--seed', `it is ${seed}`, 'a whole number')
  return { runs, seed }
}

function minutes(call: Call): number {
  const value = readFigure(call, 'step-minutes', { above: 0 })
  return value <= 60 ? value : refuse('--step-minutes', `it is ${value}`, 'at most 60')
}

const oftenEnough = (minutes: number) =>
  `to look every ${figure(minutes)} minutes is often enough; what fails for less may be missed`

function asJson({ plan, event }: EventCourse, course: Course, odds: Odds | null, assumed: readonly string[]) {
  const { ends, failures, energy, leaves, timeline } = course
  return {
    says: courseWords(plan, event, course, odds),
    ends: ends && { atH: ends.atH, cause: ends.cause, place: ends.place },
    energy,
    leaves,
    failures,
    sag: sagOf(plan, course),
    assumed,
    ...(odds && { odds }),
    timeline,
  }
}

function print({ plan, event, stores }: EventCourse, course: Course, odds: Odds | null, assumed: readonly string[]) {
  out(courseWords(plan, event, course, odds))
  const nights = course.failures.filter(f => f !== course.ends)
  for (const f of nights)
    out(`  ${clockWords(event, f.atH)} to ${clockWords(event, f.untilH)}: ${failureWords(plan, f)}`)
  const { loadsWh, sunWh, suppliedWh, storesWh, lossWh } = course.energy
  const wh = (value: number) => `${fixed(value, 0)} Wh`
  out(`loads ${wh(loadsWh)}, lost ${wh(lossWh)}`)
  out(`from the sun ${wh(sunWh)}, mains and engine ${wh(suppliedWh)}, packs ${wh(storesWh)}`)
  for (const s of stores) out(`${nameOf(s.part)} ends at ${percent(course.leaves[s.part.id]!)}`)
  if (odds) {
    const when = odds.firstFailureH
    const spread = when
      ? `; the first failure comes between ${clockWords(event, when.p10)} and ${clockWords(event, when.p90)}`
      : ''
    out(`${odds.runs} runs (seed ${odds.seed}): nothing fails in ${percent(odds.onAir)}${spread}`)
    for (const c of odds.causes.slice(0, 5)) out(`  ${percent(c.share)}: ${failureWords(plan, c)}`)
  }
  for (const s of sagOf(plan, course)) out(sagWords(partName(plan, s.part), s))
  for (const a of assumed) out(`assumed: ${a}`)
}

/** Degrees of an option, of either sign, within bounds. */
function degrees(
  call: Call,
  option: string,
  { least, most, otherwise }: { least: number; most: number; otherwise?: number },
) {
  const text = call.value(option)
  if (text === undefined && otherwise !== undefined) return otherwise
  const value = Number((text ?? '').replace('−', '-').replace(',', '.'))
  if (text === undefined || text.trim() === '' || !(value >= least && value <= most))
    return refuse(
      `--${option}`,
      text === undefined ? 'it is not given' : `it is ${text}`,
      `degrees from ${least} to ${most}`,
    )
  return value
}

function printSun(call: Call): number {
  const place = {
    latDeg: degrees(call, 'lat', { least: -90, most: 90 }),
    lonDeg: degrees(call, 'lon', { least: -180, most: 180 }),
  }
  const facing = {
    tiltDeg: degrees(call, 'tilt', { least: 0, most: 90, otherwise: 0 }),
    azimuthDeg: degrees(call, 'azimuth', { least: 0, most: 360, otherwise: 180 }),
  }
  const date = call.value('date') ?? refuse('--date', 'it is not given', 'a day as 2026-06-21')
  const day = new Date(`${date}T00:00:00Z`)
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date) || Number.isNaN(day.getTime()) || day.toISOString().slice(0, 10) !== date)
    refuse('--date', `it is ${date}`, 'a day that there is, as 2026-06-21')
  const rows = Array.from({ length: 24 }, (_, h) => {
    const at = new Date(day.getTime() + h * 3600e3)
    const sun = sunPosition(at, place)
    const clear = clearSkyWm2(sun.elevationDeg)
    const planeWm2 = onPlaneWm2(splitIrradiance(clear, sun.elevationDeg, at), sun, facing)
    return { utc: at.toISOString(), ...sun, clearSkyWm2: clear, planeWm2 }
  })
  if (call.json) printJson({ hours: rows })
  else
    for (const r of rows)
      out(
        `${r.utc.slice(11, 16)}  elevation ${fixed(r.elevationDeg, 1)}°, azimuth ${fixed(r.azimuthDeg, 1)}°, ` +
          `level ${fixed(r.clearSkyWm2, 0)} W/m², panel ${fixed(r.planeWm2, 0)} W/m²`,
      )
  return 0
}

const MONTHS = 'January February March April May June July August September October November December'.split(' ')

const dutyWords = (duty: number | null) =>
  duty === null ? 'not even listening' : `${percent(duty)} of the transmit time planned`

function printMonths(call: Call, months: Month[]): number {
  if (call.json) printJson({ months })
  else for (const { month, duty } of months) out(`${MONTHS[month - 1]}: ${dutyWords(duty)}`)
  return 0
}

function measuredOf(call: Call): Measured {
  const text = call.value('measured')!
  return readMeasured(text) ?? refuse('--measured', `it is ${text}`, 'as 18Ah, 230Wh or 100-64%')
}

function printCalibration(call: Call, course: EventCourse): number {
  const [store] = course.stores
  const found = store ? calibrate(course, store.part.id, measuredOf(call)) : 'the plan has nothing that runs out'
  if (typeof found === 'string') return refuse('--measured', found, 'what the event could have taken')
  if (call.json) printJson({ calibration: found })
  else out(`${percent(found.duty)} of the transmit time planned (${percent(found.low)} to ${percent(found.high)})`)
  return 0
}

function printLog(call: Call): number {
  const path = call.value('log')!
  const read = readAdif(readBytes(path, 'an ADIF log').toString('utf8'))
  if (!read.ok) return refuse(`${path}, line ${read.line}`, read.wrong, read.right)
  const learned = learnFrom(read.contacts)
  if (call.json) printJson({ ...learned, skipped: read.skipped })
  else {
    const { contacts, onAirH, contactsPerHour } = learned
    out(`${contacts} contacts in ${fixed(onAirH, 1)} h on the air, ${fixed(contactsPerHour, 0)} an hour`)
    for (const m of learned.modes)
      out(`${MODES[m.mode].label}: ${m.contacts}, transmitting ${percent(m.share)} of the time`)
    if (read.skipped) out(`${read.skipped} records without a time are left out`)
  }
  return 0
}
