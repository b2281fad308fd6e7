import { conditionsOf, findCondition } from '#core/circuit/conditions'
import { namePoint, type NamedPoint } from '#core/circuit/point'
import { Solver } from '#core/circuit/solve'
import { staircase, type Staircase } from '#core/circuit/staircase'
import { CHECKS } from '#core/checks/index'
import type { Study } from '#core/study/study'
import type { Plan } from '#core/plan/schema'
import { shownOf, type Shown } from '#core/picture/shown'
import { buildSheet, type BuildSheet } from '#core/sheets/build'
import type { SchoolId } from '#core/catalog/schools'
import { compareSides, schoolsThatMatter, type Compared, type SchoolMatters } from '#core/schools/compare'
import type { ShelfItem } from '#core/shelf/item'
import { compareWays, type WayFigures } from '#core/mend/ways'
import { mend, type MendOptions, type MendResult } from '#core/mend/mend'
import { shortStudy, type ShortStudy } from '#core/short/study'
import { sizePlan, type SizeOptions, type SizeResult } from '#core/size/size'
import { fixesOf, type Fix } from '#core/verdict/fixes'
import { judge, type Verdict } from '#core/verdict/verdict'

/** A verdict, and what is shown beside it. */
export interface Judged extends Shown {
  verdict: Verdict
  /** The checks that found nothing, with their words. */
  passed: { id: string; title: string; why: string }[]
  conditions: { id: string; source: string; loadState: string }[]
}

export interface CoreApi {
  judge: (plan: Plan, shelf?: ShelfItem[]) => Judged
  point: (conditionId: string) => NamedPoint | null
  stairs: (loadId: string, conditionId: string) => Staircase | null
  fixes: (findingKey: string) => Fix[]
  sheet: () => BuildSheet | null
  shorts: (plan: Plan) => ShortStudy
  size: (plan: Plan, options: SizeOptions) => SizeResult
  schools: (plan: Plan) => SchoolMatters[]
  /** Builds, mends and sizes both sides; tells how many plans it has tried. */
  compare: (plan: Plan, id: SchoolId, choice: string) => Compared
  /** Every way of a plan in figures. */
  ways: (plan: Plan) => WayFigures[]
  /** Tells how many plans it has tried as it goes on. */
  mend: (plan: Plan, options: Omit<MendOptions, 'onProgress'>) => MendResult
}

let study: Study | null = null
let verdict: Verdict | null = null

function pointOf(conditionId: string) {
  if (!study) return null
  const known = study.point(conditionId)
  if (known) return known
  const condition = findCondition(study.plan, conditionId)
  return typeof condition === 'string' ? null : new Solver(study.solved.network).solve(condition)
}

const passedOf = ({ passed }: Verdict) =>
  CHECKS.filter(c => passed.includes(c.id)).map(({ id, title, why }) => ({ id, title, why }))

const api: CoreApi = {
  judge(plan, shelf) {
    const judged = judge(plan, shelf)
    study = judged.study
    verdict = judged.verdict
    return {
      verdict,
      passed: passedOf(verdict),
      ...shownOf(study, verdict),
      conditions: conditionsOf(plan).map(({ id, source, loadState }) => ({ id, source, loadState })),
    }
  },
  point(conditionId) {
    const point = pointOf(conditionId)
    return point && study ? namePoint(study.solved.network, point) : null
  },
  stairs(loadId, conditionId) {
    const point = pointOf(conditionId)
    return point && study ? staircase(study.solved.network, point, loadId) : null
  },
  fixes(findingKey) {
    const finding = verdict?.findings.find(f => f.key === findingKey)
    return finding && study && verdict ? fixesOf(finding, study, verdict) : []
  },
  sheet: () => study && buildSheet(study.plan, study.shelf),
  shorts: plan => shortStudy(plan),
  size: (plan, options) => sizePlan(plan, options),
  schools: plan => schoolsThatMatter(plan),
  compare: (plan, id, choice) => compareSides(plan, id, choice, tried => tell(tried)),
  ways: plan => compareWays(plan),
  mend: (plan, options) => mend(plan, { ...options, onProgress: tried => tell(tried) }),
}

/** Where a method tells how far it is. */
let tell: (done: number) => void = () => {}

/** Calls a method of the API by name. */
export function answer(method: string, args: unknown[], progress: (done: number) => void = () => {}): unknown {
  tell = progress
  const call = api[method as keyof CoreApi] as ((...args: unknown[]) => unknown) | undefined
  if (!call) throw new Error(`no method ${method}`)
  return call(...args)
}
