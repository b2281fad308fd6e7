import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { solveMatrix } from '../../core/circuit/matrix'
import { findCondition } from '../../core/circuit/conditions'
import { namePoint } from '../../core/circuit/point'
import { readPlan, readPlanText } from '../../core/plan/faults'
import type { Lead, Plan } from '../../core/plan/schema'
import type { Part } from '../../core/kinds/index'

/** Plans for tests, built from a small sound station so that each test says only what it is about. */

export const DEMOS = ['tern-rock-light', 'narrowboat-heron', 'moor-walk-kit', 'clean-bench'] as const

/** A demo station; `tern-rock-evening` is the lighthouse without its sun, three flaws only, for tests that count. */
export function demoPlan(name: (typeof DEMOS)[number] | 'tern-rock-evening'): Plan {
  const folder = name === 'tern-rock-evening' ? '.' : '../../demo'
  const read = readPlanText(readFileSync(join(import.meta.dirname, folder, `${name}.json`), 'utf8'))
  if (!read.ok) throw new Error(JSON.stringify(read.faults))
  return read.plan
}

type Loose = Record<string, unknown>

export const battery = (more: Loose = {}) => ({
  id: 'bat',
  kind: 'battery',
  chemistry: 'lifepo4',
  seriesCells: 4,
  capacityAh: 50,
  internalOhm: 0.01,
  continuousA: 50,
  peakA: 100,
  terminal: 'ring-m6',
  ...more,
})
export const radio = (more: Loose = {}) => ({
  id: 'hf',
  kind: 'radio',
  supply: { minV: 11, nominalV: 13.8, maxV: 15.9 },
  draw: { model: 'constant-current', idleA: 1, activeA: 10 },
  terminal: 'stack-45',
  ...more,
})
export const load = (more: Loose = {}) => ({
  id: 'pc',
  kind: 'load',
  supply: { minV: 10, nominalV: 12, maxV: 15 },
  draw: { model: 'constant-power', idleW: 10, activeW: 30 },
  terminal: 'stack-30',
  ...more,
})
/** A block with a fused port `p1`, `p2` … for each rating, A. */
export const block = (ratedA: readonly number[], more: Loose = {}) => ({
  id: 'blk',
  kind: 'block',
  feed: 'ring-m6',
  ports: ratedA.map((amps, i) => ({
    id: `p${i + 1}`,
    fuse: { type: 'blade', ratedA: amps },
    connector: 'stack-45',
  })),
  ...more,
})
export const fuse = (ratedA: number, atM = 0.1, more: Loose = {}) => ({
  id: 'f1',
  kind: 'fuse',
  type: 'blade',
  ratedA,
  atM,
  legs: 'positive',
  ...more,
})
export const lead = (more: Loose = {}) => ({
  id: 'l1',
  from: 'bat',
  to: 'hf',
  lengthM: 1,
  conductor: { awg: 10, insulationC: 105 },
  ends: { from: { connector: 'ring-m6', method: 'crimp' }, to: { connector: 'stack-45', method: 'crimp' } },
  inline: [fuse(20)],
  ...more,
})

/** A battery, one fused lead, one radio: passes every check. */
export function smallPlan(change: { parts?: Loose[]; leads?: Loose[]; site?: Loose; more?: Loose } = {}): Plan {
  const read = readPlan({
    format: 'wireman-plan',
    version: 1,
    name: 'small',
    site: {
      ambientC: { low: 0, typical: 20, high: 35 },
      ampacity: 'open',
      fuseDistance: 'strict',
      dropShare: 0.05,
      ...change.site,
    },
    parts: change.parts ?? [battery(), radio()],
    leads: change.leads ?? [lead()],
    ...change.more,
  })
  if (!read.ok) throw new Error(JSON.stringify(read.faults, null, 1))
  return read.plan
}

/** The named operating point of a plan in a condition. */
export function pointOf(plan: Plan, conditionId: string) {
  const condition = findCondition(plan, conditionId)
  if (typeof condition === 'string') throw new Error(condition)
  const solved = solveMatrix(plan, [condition])
  return namePoint(solved.network, solved.points[0]!)
}

export const withLead = (plan: Plan, id: string, change: Partial<Lead>): Plan => ({
  ...plan,
  leads: plan.leads.map(l => (l.id === id ? { ...l, ...change } : l)),
})
export const withPart = (plan: Plan, id: string, change: Loose): Plan => ({
  ...plan,
  parts: plan.parts.map(p => (p.id === id ? ({ ...p, ...change } as Part) : p)),
})
