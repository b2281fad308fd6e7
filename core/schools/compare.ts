import { conditionsOf, loadsOf } from '../circuit/conditions'
import { compile } from '../circuit/network'
import { namePoint } from '../circuit/point'
import { Solver } from '../circuit/solve'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { needsOf } from '../sheets/needs'
import { totals } from '../size/totals'
import { judge } from '../verdict/verdict'

/** One side of a comparison: what a plan comes to. */
export interface Side {
  arrivals: Record<string, { name: string; lowV: number; highV: number } | null>
  /** Conductors and the parts that say their weight, g. */
  grams: number
  /** Everything that has a price, said or typical. */
  cost: number
  /**
   * Lost in conductors, contacts, fuses and converters with everything active at half charge, W; null where there is no
   * solution.
   */
  lossW: number | null
  findings: { severity: string; title: string }[]
}

export function sideOf(plan: Plan): Side {
  const { verdict } = judge(plan)
  const conditions = conditionsOf(plan)
  const condition = conditions.find(c => c.id === 'nominal/all') ?? conditions.find(c => c.loadState === 'all')!
  const network = compile(plan)
  const point = namePoint(network, new Solver(network).solve(condition))
  const lost =
    Object.values(point.leads).reduce((w, l) => w + (l.watts ?? 0), 0) +
    Object.values(point.parts).reduce((w, p) => w + Number(p.lossW ?? 0), 0)
  return {
    arrivals: Object.fromEntries(
      loadsOf(plan).map(l => {
        const span = verdict.arrivals[l.id]
        return [l.id, span ? { name: nameOf(l), lowV: span.low.value, highV: span.high.value } : null]
      }),
    ),
    grams: totals(plan).grams + plan.parts.reduce((g, p) => g + (p.massG ?? 0), 0),
    cost: needsOf(plan).reduce((c, n) => c + n.count * n.unitCost, 0),
    lossW: point.status === 'ok' ? lost : null,
    findings: verdict.findings.map(({ severity, title }) => ({ severity, title })),
  }
}
