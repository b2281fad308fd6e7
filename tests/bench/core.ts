import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { conditionsOf } from '../../core/circuit/conditions'
import { compile } from '../../core/circuit/network'
import { Solver } from '../../core/circuit/solve'
import { readPlanText } from '../../core/plan/faults'
import type { Plan } from '../../core/plan/schema'
import { shortStudy } from '../../core/short/study'
import { mend } from '../../core/mend/mend'
import { sizePlan } from '../../core/size/size'
import { judge } from '../../core/verdict/verdict'
import { madeUpPlan } from './plans'

/** Median, 95th percentile of a list, in the list's unit. */
export function spread(values: number[]): { median: number; p95: number } {
  const sorted = [...values].sort((a, b) => a - b)
  return {
    median: sorted[Math.floor(sorted.length / 2)]!,
    p95: sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * 0.95))]!,
  }
}

function timed(work: () => void, seconds = 1.5): { median: number; p95: number } {
  for (let i = 0; i < 5; i++) work()
  const times: number[] = []
  const stop = performance.now() + 1000 * seconds
  while (performance.now() < stop || times.length < 5) {
    const start = performance.now()
    work()
    times.push(performance.now() - start)
  }
  return spread(times)
}

const demo = (file: string): Plan => {
  const read = readPlanText(readFileSync(join(import.meta.dirname, '../../demo', file), 'utf8'))
  if (!read.ok) throw new Error(file)
  return read.plan
}

/** The made-up station with thin wires, and fuses too large. */
function brokenSixty(): Plan {
  const plan = madeUpPlan(60)
  const leads = plan.leads.map((l, i) => {
    if (i % 10 === 3) return { ...l, conductor: { awg: 20, insulationC: 105 } as const }
    return i % 10 === 6 ? { ...l, lengthM: 12 } : l
  })
  return { ...plan, leads }
}

export function benchCore(print: (line: string) => void) {
  const sixty = madeUpPlan(60)
  const network = compile(sixty)
  const solver = new Solver(network)
  const near = conditionsOf(sixty).filter(c => c.source === 'low')
  const rounds = timed(() => near.forEach(c => solver.run(c)))
  const each = (rounds.median / near.length) * 1000
  print(
    `operating point, ${sixty.parts.length} parts, ${network.nodeCount} nodes, from a near one: ` +
      `${each.toFixed(1)} µs, ${(1e6 / each).toFixed(0)} a second (aim 20 µs)`,
  )
  const plans: [string, Plan, string][] = [
    ['Tern Rock light', demo('tern-rock-light.json'), ''],
    ['60 parts', sixty, 'aim 10 ms'],
    ['250 parts', madeUpPlan(250), ''],
    ['1,000 parts', madeUpPlan(1000), 'aim 200 ms'],
  ]
  for (const [name, plan, aim] of plans) {
    const { median, p95 } = timed(() => judge(plan))
    print(
      `whole verdict, ${name} (${plan.parts.length} parts, ${plan.leads.length} leads, ` +
        `${conditionsOf(plan).length} conditions): median ${median.toFixed(2)} ms, 95 % ${p95.toFixed(2)} ` +
        `ms${aim && ` (${aim})`}`,
    )
  }
  for (const [name, plan] of [
    ['60 parts', sixty],
    ['1,000 parts', madeUpPlan(1000)],
  ] as const) {
    const shorts = shortStudy(plan).shorts.length
    const { median, p95 } = timed(() => shortStudy(plan))
    print(`short study, ${name} (${shorts} shorts): median ${median.toFixed(1)} ms, 95 % ${p95.toFixed(1)} ms`)
  }
  for (const [name, plan, aim] of [
    ['Tern Rock light', demo('tern-rock-light.json'), 'aim 1 s'],
    ['Narrowboat Heron', demo('narrowboat-heron.json'), 'aim 1 s'],
    ['60 parts with six things wrong', brokenSixty(), 'aim 5 s'],
  ] as const) {
    const { tried, ways } = mend(plan, { for: 'change' })
    const { median } = timed(() => mend(plan, { for: 'change' }), 0.5)
    print(
      `mend all, ${name} (${ways.length} ways, ${tried} plans tried): median ${(median / 1000).toFixed(2)} s (${aim})`,
    )
  }
  for (const aim of ['weight', 'cost', 'drop'] as const) {
    const { median, p95 } = timed(() => sizePlan(sixty, { for: aim }))
    print(
      `sizing ${sixty.leads.length} leads for least ${aim}: median ${median.toFixed(0)} ms, 95 % ` +
        `${p95.toFixed(0)} ms (aim 1 s)`,
    )
  }
}
