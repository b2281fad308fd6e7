import { conditionsOf } from '../../core/circuit/conditions'
import { solveMatrix } from '../../core/circuit/matrix'
import { namePoint } from '../../core/circuit/point'
import { cutListCsv, partsCsv, shoppingCsv } from '../../core/formats/csv'
import { spiceNetlist } from '../../core/formats/spice'
import { pathSvg } from '../../core/formats/svg'
import { shownOf } from '../../core/picture/shown'
import { layoutPath } from '../../core/picture/layout'
import type { Plan } from '../../core/plan/schema'
import { schoolsOf } from '../../core/schools/choose'
import { buildSheet } from '../../core/sheets/build'
import { shortStudy } from '../../core/short/study'
import { sizePlan } from '../../core/size/size'
import { fixesOf } from '../../core/verdict/fixes'
import { judge } from '../../core/verdict/verdict'
import { PAIRS } from './pairs'
import { DEMOS, demoPlan } from './plans'

/**
 * Whole answers on known plans. `recorded/` keeps them; a test says when one changes, and the change is then
 * looked at as a
 * difference in the commit that makes it. `./run record` writes them anew.
 */

/** Plans whose whole answer is kept: by file name. */
export const RECORDED: Record<string, () => Record<string, unknown>> = {
  ...Object.fromEntries(
    [...DEMOS, 'tern-rock-evening' as const].map(name => [name, () => wholeAnswer(demoPlan(name))]),
  ),
  'pairs-that-fire': () =>
    Object.fromEntries(Object.entries(PAIRS).map(([id, { fires }]) => [id, verdictAnswer(fires)])),
  'pairs-nearby': () => Object.fromEntries(Object.entries(PAIRS).map(([id, { near }]) => [id, verdictAnswer(near)])),
  'pairs-in-a-short': () => Object.fromEntries(Object.entries(PAIRS).map(([id, { fires }]) => [id, shortStudy(fires)])),
  'pairs-sized': () =>
    Object.fromEntries(
      Object.entries(PAIRS).map(([id, { fires }]) => [
        id,
        sizePlan(fires, { for: 'weight' }).changes.map(c => c.words),
      ]),
    ),
}

/** What the checks find and what would mend it. */
function verdictAnswer(plan: Plan) {
  const { verdict, study } = judge(plan)
  return {
    findings: verdict.findings.map(f => ({ ...f, why: undefined, fixes: fixesOf(f, study, verdict) })),
    arrivals: verdict.arrivals,
  }
}

/** All that the program says of a plan. */
function wholeAnswer(plan: Plan) {
  const { verdict, study } = judge(plan)
  const solved = solveMatrix(plan)
  const sheet = buildSheet(plan)
  return {
    ...verdictAnswer(plan),
    points: solved.points.map(p => namePoint(solved.network, p)),
    shorts: shortStudy(plan),
    sized: (['weight', 'cost', 'drop'] as const).map(aim => sizePlan(plan, { for: aim })),
    schools: schoolsOf(plan),
    sheet,
    csv: [cutListCsv(sheet), partsCsv(sheet), shoppingCsv(sheet)].map(text => text.split('\n')),
    netlist: spiceNetlist(plan, conditionsOf(plan)[0]!).split('\n'),
    layout: layoutPath(plan, verdict.arrivals, 1000),
    svg: pathSvg(plan, verdict, shownOf(study, verdict)).split('\n'),
  }
}

/** Numbers to seven figures, so that another machine's last bits change nothing; a thought on one line, to be read. */
export function asRecorded(value: unknown): string {
  const rounded = (_key: string, v: unknown) => {
    if (typeof v === 'number') return Number(v.toPrecision(7))
    return v instanceof Map ? [...v] : v
  }
  return inLines(JSON.parse(JSON.stringify(value, rounded)), '') + '\n'
}

const LINE = 120

function inLines(value: unknown, indent: string): string {
  const flat = JSON.stringify(value)
  if (typeof value !== 'object' || value === null || indent.length + flat.length <= LINE) return flat
  const inner = `${indent} `
  if (Array.isArray(value)) return `[\n${value.map(v => inner + inLines(v, inner)).join(',\n')}\n${indent}]`
  const members = Object.entries(value).map(([key, v]) => `${inner}${JSON.stringify(key)}: ${inLines(v, inner)}`)
  return `{\n${members.join(',\n')}\n${indent}}`
}
