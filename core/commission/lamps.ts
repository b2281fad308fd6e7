import { solveMatrix } from '../circuit/matrix'
import { kindOf } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { figure, fixed } from '../units/number'
import type { CommissionStep } from './step'

/** What warning devices should show at the end of connecting. */
export function lampSteps(plan: Plan): CommissionStep[] {
  const warning = plan.parts.flatMap(part => {
    const { underV, overV } = kindOf(part).warns?.(part) ?? {}
    return underV === undefined && overV === undefined ? [] : [{ part, underV, overV }]
  })
  if (!warning.length) return []
  const { network, points } = solveMatrix(plan)
  const idle = points.find(p => p.status === 'ok' && ['full/idle', 'nominal/idle'].includes(p.condition.id))
  return warning.map(({ part, underV, overV }) => {
    const v = idle?.volts[network.nodeOf.get(part.id) ?? -1]
    const isOn = v !== undefined && (v < (underV ?? -Infinity) || v > (overV ?? Infinity))
    const limits = [
      underV !== undefined && `under ${figure(underV)} V`,
      overV !== undefined && `over ${figure(overV)} V`,
    ].filter(Boolean)
    const at = v === undefined ? '' : ` At the ${fixed(v, 2)} V that stand there it is ${isOn ? 'on' : 'off'}.`
    return {
      id: `lamp ${part.id}`,
      phase: 'idle',
      part: part.id,
      does: `Look at ${nameOf(part)}.`,
      why: 'An alarm that is never seen to work is none.',
      see: `It warns ${limits.join(' and ')}.${at} Test it once with its own button, or with a bench supply.`,
      stopIf: `It is ${isOn ? 'off' : 'on'}: its thresholds are set otherwise, or the volts are not as they should be.`,
    } satisfies CommissionStep
  })
}
