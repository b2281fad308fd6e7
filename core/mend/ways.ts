import { inVariant } from '../edit/variants'
import { isLoad, needs } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import type { Severity } from '../checks/check'
import { judge } from '../verdict/verdict'
import { tallyOf } from './tally'

/** One way of a station in figures, to be set beside the others. */
export interface WayFigures {
  /** Null: the plan itself. */
  id: string | null
  name: string
  /** How many findings of each severity, and the worst one's title. */
  counts: Record<Severity, number>
  worst: string
  loads: { id: string; name: string; lowV: number | null; highV: number | null; minV: number; maxV: number }[]
  /** The most that all sources together give in a state that has a solution, W. */
  mostW: number
  grams: number
  cost: number
}

/** Every way of a plan, itself first. */
export function compareWays(plan: Plan): WayFigures[] {
  const ways = [{ id: null, name: 'as planned' }, ...(plan.variants ?? [])]
  return ways.map(({ id, name }) => figuresOf(inVariant(plan, id), { id, name }))
}

function figuresOf(plan: Plan, { id, name }: { id: string | null; name: string }): WayFigures {
  const { verdict, study } = judge(plan)
  const counts: Record<Severity, number> = { danger: 0, fail: 0, caution: 0, note: 0 }
  for (const { severity } of verdict.findings) counts[severity]++
  const given = study.solved.points.map(p => {
    if (p.status !== 'ok') return 0
    const own = p.sources.filter(s => s.amps > 0 && !p.transfers.some(t => t.node === s.node && t.partId === s.partId))
    return own.reduce((w, s) => w + s.amps * p.volts[s.node]!, 0)
  })
  const { grams, cost } = tallyOf(plan, plan)
  return {
    id,
    name,
    counts,
    worst: verdict.findings[0]?.title ?? '',
    loads: plan.parts.filter(isLoad).map(load => {
      const arrival = verdict.arrivals[load.id]
      const { minV, maxV } = needs(load)
      const [lowV, highV] = [arrival?.low.value ?? null, arrival?.high.value ?? null]
      return { id: load.id, name: nameOf(load), lowV, highV, minV, maxV }
    }),
    mostW: Math.max(0, ...given),
    grams,
    cost,
  }
}
