import { conditionsOf, findCondition, statesInWords } from '../../core/circuit/conditions'
import { solveMatrix } from '../../core/circuit/matrix'
import { namePoint, type NamedPoint } from '../../core/circuit/point'
import type { Plan } from '../../core/plan/schema'
import { figure, fixed } from '../../core/units/number'
import { percent } from '../../core/units/show'
import { out, printJson, refuse, type Call, type Command } from '../command'
import { readPlan } from '../inputs'

export const solve: Command = {
  name: 'solve',
  takes: 'PLAN.json',
  options: { condition: { value: 'low/all' }, json: {} },
  help: `The operating point in one condition (sourceState/loadState), or in all of them.
Exit 2: no such plan or condition.`,
  run(call) {
    const plan = readPlan(call)
    const one = call.has('condition') ? conditionNamed(plan, call) : null
    const solved = solveMatrix(plan, one ? [one] : conditionsOf(plan))
    const points = solved.points.map(p => namePoint(solved.network, p))
    if (call.json) printJson(one ? points[0] : points)
    else points.forEach(printPoint)
    return 0
  },
}

/** The condition of --condition, or the plan's first. */
export function conditionNamed(plan: Plan, call: Call) {
  const found = findCondition(plan, call.value('condition') ?? conditionsOf(plan)[0]!.id)
  if (typeof found !== 'string') return found
  const { sources, loads } = statesInWords(plan)
  const right = `one of ${sources}, a stroke, and one of ${loads}`
  return refuse('--condition', `there is no condition ${call.value('condition')} in this plan`, right)
}

function printPoint({ condition, status, most, nodes, leads }: NamedPoint) {
  const limit = most ? ` (at most ${percent(most.share)} of its ${most.of} could be carried)` : ''
  out(`${condition}: ${status}${limit}`)
  if (status !== 'ok') return
  for (const [id, { volts }] of Object.entries(nodes)) out(`  ${id.padEnd(16)} ${fixed(volts!, 3).padStart(8)} V`)
  for (const [id, l] of Object.entries(leads)) {
    const warmth = `${fixed(l.watts!, 1)} W  ${fixed(l.conductorC!, 0)} °C`
    out(`  ${id.padEnd(16)} ${figure(l.amps!, 2).padStart(8)} A  ${fixed(l.dropV!, 3)} V  ${warmth}`)
  }
}
