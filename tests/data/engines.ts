import { conditionsOf } from '../../core/circuit/conditions'
import { solveMatrix } from '../../core/circuit/matrix'
import { namePoint } from '../../core/circuit/point'
import { pathSvg } from '../../core/formats/svg'
import { spiceNetlist } from '../../core/formats/spice'
import { remove } from '../../core/edit/remove'
import { applyEdit } from '../../core/edit/patch'
import { suspectsOf } from '../../core/noise/suspect'
import { shownOf } from '../../core/picture/shown'
import { layoutPath } from '../../core/picture/layout'
import { readPlan } from '../../core/plan/faults'
import type { Plan } from '../../core/plan/schema'
import { chooseSchool, schoolsOf } from '../../core/schools/choose'
import { buildSheet } from '../../core/sheets/build'
import { shortStudy } from '../../core/short/study'
import { sizePlan } from '../../core/size/size'
import { fixesOf } from '../../core/verdict/fixes'
import { judge } from '../../core/verdict/verdict'

/**
 * Everything the program does with a plan, each engine once. @returns what each said
 * @throws where any of them throws, says a number that is none, or makes a plan that cannot be read
 */
export function throughEveryEngine(plan: Plan) {
  const { verdict, study } = judge(plan)
  const solved = solveMatrix(plan)
  const answers = {
    verdict,
    fixes: verdict.findings.map(f => ({ finding: f, fixes: fixesOf(f, study, verdict) })),
    points: solved.points.map(p => namePoint(solved.network, p)),
    shorts: shortStudy(plan),
    sized: sizePlan(plan, { for: 'weight' }),
    schools: schoolsOf(plan).flatMap(s => s.choices.map(c => chooseSchool(plan, s.id, c.id))),
    sheet: buildSheet(plan),
    layout: layoutPath(plan, verdict.arrivals, 1000),
    svg: pathSvg(plan, verdict, shownOf(study, verdict)),
    netlist: spiceNetlist(plan, conditionsOf(plan)[0]!),
    suspects: suspectsOf(plan),
  }
  refuseNonsense(answers, '')
  for (const { patch } of [...answers.fixes.flatMap(f => f.fixes), ...answers.schools]) mustApply(plan, patch)
  for (const part of plan.parts) mustApply(plan, remove(plan, part.id))
  return answers
}

function mustApply(plan: Plan, patch: Parameters<typeof applyEdit>[1]) {
  const edit = applyEdit(plan, patch)
  if (!edit.ok) throw new Error(`${JSON.stringify(patch)}: ${JSON.stringify(edit.faults)}`)
}

/** Figures that are none; two articles, or the same word twice. */
const NONSENSE = /NaN|undefined|Infinity|\b(the its|its the)\b|\b([a-z]{2,}) \2\b/i

/** No figure of an answer is NaN or endless, no sentence says so or stumbles. */
export function refuseNonsense(value: unknown, path: string) {
  if (typeof value === 'number' && Number.isNaN(value)) throw new Error(`${path} is NaN`)
  if (typeof value === 'string' && NONSENSE.test(value)) throw new Error(`${path} says "${value}"`)
  if (typeof value !== 'object' || value === null) return
  for (const [key, inner] of Object.entries(value)) refuseNonsense(inner, `${path}/${key}`)
}

/** A plan of loose parts and leads, read; throws where it is none. */
export function planOf(parts: object[], leads: object[], more: object = {}): Plan {
  const read = readPlan({ format: 'wireman-plan', version: 1, name: 'made', parts, leads, ...more })
  if (!read.ok) throw new Error(JSON.stringify(read.faults, null, 1))
  return read.plan
}
