import type { Observation } from '../../core/noise/observation'
import { emptyLogbook, logbookSchema, readCaseText, type Logbook, type NoiseCase } from '../../core/noise/logbook'
import { caseReport, reportText, type CaseReport } from '../../core/noise/report'
import { verdictsOf } from '../../core/noise/verdict'
import type { Plan } from '../../core/plan/schema'
import { out, printJson, refuse, type Call, type Command } from '../command'
import { fileOf, planNamed, readBytes } from '../inputs'
import { rounded } from '../../core/units/number'

export const noiseCase: Command = {
  name: 'case',
  takes: 'CASE.json',
  options: { plan: { value: 'PLAN.json' }, json: {} },
  help: `What the findings of a noise case say: causes with their probabilities, the next tests, contradictions and
doubted findings. With --plan its parts are the suspects, else what the findings speak of. A logbook is read as well:
its first open case, with its surveys.`,
  run(call) {
    const { book, one } = read(call)
    const plan = call.value('plan') === undefined ? NO_PLAN : planNamed(call, call.value('plan')!)
    const report = caseReport(plan, one, book)
    if (call.json) printJson(asJson(report))
    else out(reportText(plan, one, report).trimEnd())
    return 0
  },
}

/** No part is known: suspects are what the findings speak of. */
export const NO_PLAN: Plan = { format: 'wireman-plan', version: 1, name: 'no plan', parts: [], leads: [] }

function read(call: Call): { book: Logbook; one: NoiseCase } {
  const path = fileOf(call)
  const text = readBytes(path, 'a noise case').toString('utf8')
  const book = readBook(text)
  if (book) {
    const one = book.cases.find(c => c.state === 'open') ?? book.cases[0]
    return one ? { book, one } : refuse(path, 'the logbook has no case', 'a logbook with a case, or a case file')
  }
  const result = readCaseText(text)
  return result.ok ? { book: emptyLogbook(), one: result.case } : refuse(path, result.wrong, result.right)
}

function readBook(text: string): Logbook | null {
  try {
    const parsed = logbookSchema.safeParse(JSON.parse(text))
    return parsed.success ? parsed.data : null
  } catch {
    return null
  }
}

/** Causes, tests and doubts that are worth a line. */
const LEAST = 0.005
const MOST = 12

/** Causes with their odds, the next tests, contradictions and doubts. */
export function asJson(report: CaseReport) {
  const { belief, evidence } = report.reasoned
  const whenOf = (device: string) => report.ranked.find(r => r.pair.device === device)?.when ?? ''
  return {
    state: report.state,
    causes: verdictsOf(belief)
      .filter((v, i) => i === 0 || v.probability >= LEAST)
      .slice(0, MOST)
      .map(({ devices, pair, probability }) => ({
        ...(devices.length > 1 ? { devices } : { device: pair.device }),
        way: pair.way,
        ...(pair.also && { ways: [pair.way, pair.also.way] }),
        ...(pair.secondWay && { partly: pair.secondWay }),
        when: whenOf(pair.device) || pair.whens[0]!.when.kind,
        probability: toShown(probability),
        ...(pair.wants && { wants: pair.wants }),
      })),
    next: report.next
      .slice(0, MOST)
      .map(t => ({ test: t.id, title: t.title, do: t.do, bits: toShown(t.bits), minutes: t.minutes })),
    contradictions: report.contradictions,
    doubts: belief.doubts.map(({ index, probability }) => ({
      finding: findingOf(evidence[index]!),
      words: report.doubts[belief.doubts.findIndex(d => d.index === index)],
      probability: toShown(probability),
    })),
  }
}

const findingOf = (o: Observation) => o.id
const toShown = (value: number) => rounded(value, 4)
