import { isLoad, needs } from '../kinds/index'
import type { Plan } from '../plan/schema'
import type { Arrival } from '../verdict/verdict'

/** The one axis of volts that all rows share, px. */
export interface Axis {
  x: number
  width: number
  minV: number
  maxV: number
  ticks: number[]
}

/** An axis that holds every window and everything that arrives. */
export function axisFor(plan: Plan, arrivals: Record<string, Arrival | null>, x: number, width: number): Axis {
  const values = plan.parts.filter(isLoad).flatMap(p => {
    const span = arrivals[p.id]
    return [needs(p).minV, needs(p).maxV, ...(span ? [span.low.value, span.high.value] : [])]
  })
  const minV = Math.floor(Math.min(11, ...values) - 0.2)
  const maxV = Math.ceil(Math.max(15, ...values) + 0.2)
  const stride = [1, 2, 5, 10, 20, 50].find(s => (maxV - minV) / s <= 8) ?? 100
  const ticks: number[] = []
  for (let v = Math.ceil(minV / stride) * stride; v <= maxV; v += stride) ticks.push(v)
  return { x, width, minV, maxV, ticks }
}

/** x of a voltage on the shared axis. */
export function axisX(axis: Axis, volts: number): number {
  return (
    axis.x +
    8 +
    ((axis.width - 16) * (Math.min(axis.maxV, Math.max(axis.minV, volts)) - axis.minV)) / (axis.maxV - axis.minV)
  )
}
