import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { CONNECTORS } from '../../core/catalog/connectors'
import { FERRITES, RINGS } from '../../core/catalog/noise'
import { SCHOOLS } from '../../core/catalog/schools'
import { randomFrom } from '../../core/chance/random'
import { proceduresOf } from '../../core/commission/procedures'
import { settingFaults } from '../../core/commission/settings'
import { withSights } from '../../core/commission/sights'
import { singleFailures, sparesOf } from '../../core/commission/spares'
import { commissionSteps, takeDownSteps } from '../../core/commission/steps'
import { branchOf, pasteBranch } from '../../core/edit/branch'
import { feedsFor, landingsFor } from '../../core/edit/join'
import { leadsAlike } from '../../core/edit/lead'
import { hangsOn, takeOut, takersFor } from '../../core/edit/takeOut'
import { freePorts, freeTerminals } from '../../core/graph/free'
import { EventCourse } from '../../core/hours/course'
import { monthsOf } from '../../core/hours/months'
import { oddsOf } from '../../core/hours/odds'
import { readEventText } from '../../core/hours/readEvent'
import { fillingsOf, restingOf, startersOf } from '../../core/hours/refill'
import { sagOf } from '../../core/hours/sag'
import { setsFor } from '../../core/hours/sets'
import { eventSheet } from '../../core/hours/sheet'
import { whatIfs } from '../../core/hours/whatIf'
import { partsOf } from '../../core/kinds/index'
import { batteryLife } from '../../core/log/batteries'
import { historyOf } from '../../core/log/history'
import { readLogText } from '../../core/log/log'
import { usableReadings } from '../../core/log/usable'
import { mend } from '../../core/mend/mend'
import { causesOf } from '../../core/noise/cause'
import { insertionLossDb, impedance, UNKNOWN_LOOP, windingsFor } from '../../core/noise/choke/choke'
import { emptyLogbook, logbookSchema, type NoiseCase } from '../../core/noise/logbook'
import { caseReport } from '../../core/noise/report'
import { drawFault } from '../../core/noise/simulated/fault'
import { simulatedReceiver } from '../../core/noise/simulated/receiver'
import { surveyResults } from '../../core/noise/survey/surveyResults'
import { beginPlan, pairPlan } from '../../core/plan/beginning'
import type { Plan } from '../../core/plan/schema'
import { startingSources } from '../../core/plan/starter'
import { drill, DRILLS, type DrillKind } from '../../core/practice/drills'
import { faultsOf } from '../../core/practice/faults'
import { harmOf, hiddenIn, lookedAt, meterAt } from '../../core/practice/hidden'
import { nextReadings } from '../../core/readings/next'
import { consequencesOf, jointWords } from '../../core/readings/tell'
import { daysOf, standingOf, trendsOf } from '../../core/readings/trend'
import { chooseSchool } from '../../core/schools/choose'
import { compareSides } from '../../core/schools/compare'
import { waysToJoin } from '../../core/shelf/ways'
import { believeSymptom } from '../../core/symptoms/believe'
import { SYMPTOM_IDS } from '../../core/symptoms/symptom'
import { POWER_TESTS } from '../../core/symptoms/tests'
import { DEMOS, demoPlan } from './plans'

/** What the rooms beside the verdict answer on the demo stations: whole answers, as in `recorded.ts`. */

const demoText = (file: string) => readFileSync(join(import.meta.dirname, '../../demo', file), 'utf8')
const tern = () => demoPlan('tern-rock-light')

/** @throws where a demo file is refused */
function taken<R extends { ok: boolean }>(read: R): Extract<R, { ok: true }> {
  if (!read.ok) throw new Error(JSON.stringify(read))
  return read as Extract<R, { ok: true }>
}

/** Putting a station together, and practising on it. */
function benchAnswer(plan: Plan) {
  const steps = commissionSteps(plan)
  return {
    steps: steps.map(step => withSights(plan, step)),
    takeDown: takeDownSteps(plan),
    procedures: proceduresOf(plan),
    failures: singleFailures(plan),
    spares: sparesOf(plan),
    starters: startersOf(plan),
    faults: faultsOf(plan).map(({ fault }) => fault),
    hidden: [1, 2, 3].map(seed => {
      const hidden = hiddenIn(plan, seed)
      if (!hidden) return null
      const conditions = ['full/idle', 'nominal/idle', 'low/all']
      const metered = plan.parts.map(p => conditions.map((c, n) => meterAt(hidden, p.id, c, n)))
      const seen = plan.leads.map(l => lookedAt(hidden, l.id))
      return {
        fault: hidden.fault,
        complaint: hidden.complaint,
        metered,
        seen,
        harm: harmOf(hidden, { conditions } as never),
      }
    }),
  }
}

/** A season of readings and what a battery went through. */
function logAnswer() {
  const plan = tern()
  const { log } = taken(readLogText(demoText('log/tern-rock-light.json')))
  const { readings, aside } = usableReadings(plan, log)
  const days = daysOf(plan, readings)
  return {
    aside,
    days: days.map(({ day, found }) => ({ day, misfit: found.misfit, joints: found.joints })),
    standing: standingOf(days),
    trends: trendsOf(days),
    next: nextReadings(plan, days.at(-1)!.found).slice(0, 10),
    words: consequencesOf(plan, days.at(-1)!.found).map((does, i) => jointWords(days.at(-1)!.found.joints[i]!, does)),
    history: historyOf(plan, log),
    settings: settingFaults(plan, log),
    batteries: partsOf(plan.parts, 'battery').map(part => batteryLife(part, log)),
  }
}

/** Each symptom, with nothing tried and after one outcome of a test: of those a third with each symptom. */
function symptomAnswer(plan: Plan) {
  return SYMPTOM_IDS.map((symptom, n) => {
    const at = plan.parts.find(p => p.kind === 'radio')?.id
    return {
      symptom,
      untried: believeSymptom(plan, { symptom, at }),
      after: POWER_TESTS.map((test, t) =>
        test.outcomes
          .filter((_, i) => (n + t + i) % 3 === 0)
          .map(o => {
            const { causes } = believeSymptom(plan, { symptom, at, findings: [{ test: test.id, outcome: o.id }] })
            return causes.slice(0, 2).map(c => [c.id, c.probability])
          }),
      ),
    }
  })
}

/** A case that a simulated receiver makes up, test by test, as its report stands after each. */
function madeUpCase(plan: Plan, bands: string[], seed: number) {
  const causes = causesOf(plan, { bands })
  const random = randomFrom(seed)
  const fault = drawFault(causes, bands, random)
  const receiver = simulatedReceiver(fault, causes, { site: 'rural', random })
  const at = '2026-06-13T12:00:00Z'
  const logbook = emptyLogbook()
  let now: NoiseCase = {
    id: 'c',
    title: 'made up',
    openedAt: at,
    complaint: { bands },
    observations: [],
    cures: [],
    state: 'open',
  }
  const told: unknown[] = []
  for (let n = 0; n < 4; n++) {
    const report = caseReport(plan, now, logbook)
    const next = report.next[0]
    told.push({ headline: report.headline, ranked: report.ranked.slice(0, 3), next: next?.title, bits: next?.bits })
    if (!next) break
    now = { ...now, observations: [...now.observations, receiver.perform(next, `o${n}`, at)] }
  }
  return { fault, told, report: caseReport(plan, now, logbook) }
}

function noiseAnswer(name: 'tern-rock-light' | 'narrowboat-heron', bands: string[]) {
  const plan = demoPlan(name)
  const logbook = logbookSchema.parse(JSON.parse(demoText(`noise/${name}.json`)))
  const short = ({ reasoned: _reasoned, ...report }: ReturnType<typeof caseReport>) => report
  return {
    cases: logbook.cases.map(c => short(caseReport(plan, c, logbook))),
    surveys: logbook.surveys.map(s => surveyResults(s, 'rural', logbook.receiver)),
    madeUp: [1, 2, 3].map(seed => {
      const { report, ...more } = madeUpCase(plan, bands, seed)
      return { ...more, report: short(report) }
    }),
  }
}

function hoursAnswer(file: string, plan: Plan) {
  const { event } = taken(readEventText(demoText(`events/${file}.json`), plan))
  const course = new EventCourse(plan, event)
  const run = course.run({ everyH: 4 })
  const odds = oddsOf(course, { runs: 10, seed: 3 })
  return {
    run,
    // What costs more is not tried: with it this takes four times as long.
    sets: setsFor(plan, event, { least: 'massG', odds: 0.5, runs: 2, seed: 3, mostCost: 900 }),
    asked: whatIfs(plan, event).map(({ label }) => label),
    sheet: eventSheet(course, run, odds),
    sag: sagOf(plan, run),
    fillings: fillingsOf(plan, event),
    resting: restingOf(plan, event),
    months: monthsOf(plan, event),
  }
}

/** Both sides are made as good as they get, which takes long: of every third school; all are in `chosen`. */
const COMPARED = SCHOOLS.filter((_, i) => i % 3 === 0)

/** Both sides of a school, in few words. */
const sidesAnswer = (plan: Plan) =>
  Object.fromEntries(
    COMPARED.map(({ id, choices }) => [
      id,
      choices.map(c => {
        const { now, other, does, cannot, isSame } = compareSides(plan, id, c.id)
        return { choice: c.id, now, other, does, cannot, isSame }
      }),
    ]),
  )

/** The same sides as they are built, before anything is mended or sized. */
const chosenAnswer = (plan: Plan) =>
  Object.fromEntries(SCHOOLS.map(({ id, choices }) => [id, choices.map(c => chooseSchool(plan, id, c.id))]))

const mendAnswer = (plan: Plan) =>
  (['weight', 'cost', 'change'] as const).map(aim => {
    const { ways, ...more } = mend(plan, { for: aim, tries: 40 })
    return { ...more, ways: ways.map(({ plan: _plan, patch: _patch, ...way }) => way) }
  })

const choke = (ferrite: (typeof FERRITES)[number], ring: (typeof RINGS)[number]) =>
  [1, 4, 9].map(turns => {
    const wound = { ...ferrite, ...ring, cores: 2, turns }
    return [1.8e6, 14.1e6, 50e6].map(hz => {
      const z = impedance(wound, hz)
      return [z.re, z.im, insertionLossDb(z, UNKNOWN_LOOP)]
    })
  })

/** What a screen offers to do with each part and lead. */
const editsAnswer = (plan: Plan) => ({
  parts: plan.parts.map(({ id }) => ({
    id,
    hangs: hangsOn(plan, id),
    out: takeOut(plan, id),
    takers: takersFor(plan, id),
    feeds: feedsFor(plan, id),
    pasted: pasteBranch(demoPlan('clean-bench'), branchOf(plan, [id])),
  })),
  leads: plan.leads.map(lead => ({
    id: lead.id,
    from: landingsFor(plan, { lead, end: 'from' }),
    to: landingsFor(plan, { lead, end: 'to' }),
    alike: leadsAlike(plan, lead).map(l => l.id),
    out: takeOut(plan, lead.id),
  })),
  free: [freeTerminals(plan), freePorts(plan)],
})

/** Stations begun from four questions. */
function beginningsAnswer() {
  const asked = { name: 'Begun', lengthM: 2, conductor: { awg: 10 } as const }
  const sources = startingSources().map(({ id }) => id)
  const beside = { mains: 'supply-30', sun: 'panel-100', vehicle: 'vehicle-12' }
  return {
    alone: sources.map(source => beginPlan({ ...asked, source, loads: ['hf-100'] })),
    filled: sources.map(source => beginPlan({ ...asked, ...beside, source, loads: ['hf-100', 'vhf-50'] })),
    pairs: sources.map(source => pairPlan({ ...asked, source, load: 'cw-5' })),
  }
}

export const RECORDED_ROOMS: Record<string, () => Record<string, unknown>> = {
  edits: () => Object.fromEntries(DEMOS.map(name => [name, editsAnswer(demoPlan(name))])),
  beginnings: beginningsAnswer,
  bench: () => Object.fromEntries(DEMOS.map(name => [name, benchAnswer(demoPlan(name))])),
  drills: () =>
    Object.fromEntries(Object.keys(DRILLS).map(id => [id, [1, 2, 3, 4].map(s => drill(id as DrillKind, s))])),
  log: logAnswer,
  symptoms: () => ({ 'tern-rock-light': symptomAnswer(tern()) }),
  'noise-tern-rock-light': () => noiseAnswer('tern-rock-light', ['30 m', '20 m']),
  'noise-narrowboat-heron': () => noiseAnswer('narrowboat-heron', ['20 m', '15 m']),
  chokes: () => ({
    losses: FERRITES.map(f => RINGS.map(r => choke(f, r))),
    windings: windingsFor({ lowHz: 10.1e6, highHz: 14.35e6 }, 20, 6),
  }),
  hours: () => ({
    'tern-rock-weekend': hoursAnswer('tern-rock-weekend', tern()),
    'moor-walk-day': hoursAnswer('moor-walk-day', demoPlan('moor-walk-kit')),
  }),
  sides: () => ({ 'moor-walk-kit': sidesAnswer(demoPlan('moor-walk-kit')) }),
  chosen: () => Object.fromEntries(DEMOS.map(name => [name, chosenAnswer(demoPlan(name))])),
  mended: () => ({
    'tern-rock-light': mendAnswer(tern()),
    'narrowboat-heron': mendAnswer(demoPlan('narrowboat-heron')),
  }),
  joined: () =>
    Object.fromEntries(CONNECTORS.map(({ id }) => [id, CONNECTORS.map(to => waysToJoin(id, to.id, 8, [])[0] ?? null)])),
}
