import { conditionsOf, conditionWords, findCondition } from '#core/circuit/conditions'
import type { Extreme } from '#core/circuit/matrix'
import { namePoint, type NamedPoint } from '#core/circuit/point'
import { Solver } from '#core/circuit/solve'
import { staircase, type Staircase } from '#core/circuit/staircase'
import { CHECKS } from '#core/checks/index'
import type { Study } from '#core/study/study'
import { partIdOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { sourceLimitA } from '#core/protection/prospective'
import { buildSheet, type BuildSheet } from '#core/sheets/build'
import { sideOf, type Side } from '#core/schools/compare'
import type { ShelfItem } from '#core/shelf/item'
import { shortStudy, type ShortStudy } from '#core/short/study'
import { sizePlan, type SizeOptions, type SizeResult } from '#core/size/size'
import { fixesOf, type Fix } from '#core/verdict/fixes'
import { judge, type Verdict } from '#core/verdict/verdict'

/** What the picture shows of a judged plan beside the verdict itself. */
export interface Judged {
  verdict: Verdict
  /** The checks that found nothing, with their words. */
  passed: { id: string; title: string; why: string }[]
  /** Largest current of each lead, and its drop then. */
  leads: Record<string, { amps: number; dropV: number; condition: string }>
  /** Voltages at each source's terminals over all conditions. */
  sources: Record<string, { low: Extreme; high: Extreme } | null>
  /** Metres before the first fuse, for each lead on a battery. */
  unprotected: Record<string, { lengthM: number; end: 'from' | 'to'; bad: boolean }>
  conditions: { id: string; source: string; loadState: string; words: string }[]
}

export interface CoreApi {
  judge: (plan: Plan, shelf?: ShelfItem[]) => Judged
  point: (conditionId: string) => NamedPoint | null
  stairs: (loadId: string, conditionId: string) => Staircase | null
  fixes: (findingKey: string) => Fix[]
  sheet: () => BuildSheet | null
  shorts: (plan: Plan) => ShortStudy
  size: (plan: Plan, options: SizeOptions) => SizeResult
  compare: (plans: Plan[]) => Side[]
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

const api: CoreApi = {
  judge(plan, shelf) {
    const judged = judge(plan, shelf)
    study = judged.study
    verdict = judged.verdict
    const bad = new Set(
      verdict.findings.filter(f => f.check === 'fuse-missing' || f.check === 'fuse-place').map(f => f.place),
    )
    return {
      verdict,
      passed: CHECKS.filter(c => judged.verdict.passed.includes(c.id)).map(({ id, title, why }) => ({
        id,
        title,
        why,
      })),
      leads: Object.fromEntries(
        plan.leads.map(lead => {
          const { value, condition } = study!.leadAmps(lead)
          return [lead.id, { amps: value, dropV: study!.leadDropV(lead), condition }]
        }),
      ),
      sources: Object.fromEntries(study.sources.map(part => [part.id, study!.arrival(part.id)])),
      unprotected: Object.fromEntries(
        study.unprotected
          .filter(run => sourceLimitA(run.source) === null)
          .map(run => [
            run.lead.id,
            {
              lengthM: run.device ? run.lengthM : run.lead.lengthM,
              end: partIdOf(run.lead.from) === run.source.id ? ('from' as const) : ('to' as const),
              bad: bad.has(run.lead.id),
            },
          ]),
      ),
      conditions: conditionsOf(plan).map(c => ({
        id: c.id,
        source: c.source,
        loadState: c.loadState,
        words: conditionWords(plan, c.id),
      })),
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
  compare: plans => plans.map(sideOf),
}

/** Calls a method of the API by name. */
export function answer(method: string, args: unknown[]): unknown {
  const call = api[method as keyof CoreApi] as ((...args: unknown[]) => unknown) | undefined
  if (!call) throw new Error(`no method ${method}`)
  return call(...args)
}
