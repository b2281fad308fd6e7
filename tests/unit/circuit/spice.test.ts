import { describe, expect, it } from 'vitest'
import { findCondition } from '../../../core/circuit/conditions'
import { solveMatrix } from '../../../core/circuit/matrix'
import { namePoint } from '../../../core/circuit/point'
import { readPlan } from '../../../core/plan/faults'
import { spicePlans } from '../../data/spice/plans'
import reference from '../../data/spice/volts.json'

/** Reference voltages: a general-purpose circuit simulator on netlists made by tests/data/spice/netlist.ts. */
describe('operating points against an independent simulator', () => {
  const plans = spicePlans()
  for (const { plan: name, condition, volts } of reference as unknown as {
    plan: string
    condition: string
    volts: Record<string, number>
  }[]) {
    it(`${name} ${condition} within 1 mV`, () => {
      const read = readPlan(plans[name]!.plan)
      if (!read.ok) throw new Error(JSON.stringify(read.faults))
      const found = findCondition(read.plan, condition)
      if (typeof found === 'string') throw new Error(found)
      const solved = solveMatrix(read.plan, [found])
      const point = namePoint(solved.network, solved.points[0]!)
      expect(point.status).toBe('ok')
      for (const [terminal, expected] of Object.entries(volts)) {
        expect(Math.abs(point.nodes[terminal]!.volts! - expected), terminal).toBeLessThan(1e-3)
      }
    })
  }
})
