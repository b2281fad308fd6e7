import { describe, expect, it } from 'vitest'
import { flowOf, linesOf, siemensOf, steepest, type Flow } from '../../../core/circuit/lines'

const source = (more: object) => ({ emfV: 13, ohm: 0.1, ...more })
const flowAt = (lines: NonNullable<ReturnType<typeof linesOf>>, aboveV: number) => {
  const out: Flow = { amps: 0, siemens: 0 }
  flowOf(lines, steepest(lines), aboveV, out)
  return out
}

describe('the lines of a source', () => {
  it('are none where it has no limit', () => expect(linesOf(source({}), false)).toBeNull())
  it('are one straight line through its EMF where its only limit is lifted', () => {
    const lines = linesOf(source({ mostA: 5 }), true)!
    // 0.3 V under 13 V over 0.1 Ω are 3 A, 0.7 V under it 7 A; 0.2 V above it takes 2 A.
    for (const [aboveV, amps] of [
      [-0.3, 3],
      [-0.7, 7],
      [0.2, -2],
    ] as const) {
      const flow = flowAt(lines, aboveV)
      expect(flow.amps).toBeCloseTo(amps, 9)
      expect(flow.siemens).toBeCloseTo(10, 9)
    }
  })
  it('are flat beyond what it gives at most and at least', () => {
    const lines = linesOf(source({ mostA: 5, leastA: 0 }), false)!
    expect([0, 1, 2].map(k => siemensOf(lines, k))).toEqual([0, 10, 0])
    expect(lines.amps).toEqual([5, 0])
    expect(lines.volts[0]).toBeCloseTo(-0.5, 9)
  })
})
