import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { curveAt } from '../../../core/units/curve'

const ROWS = [
  [-20, 0.5],
  [0, 0.8],
  [20, 1],
] as const

describe('a table read along straight lines', () => {
  it.each([
    [-40, 0.5],
    [-20, 0.5],
    [-10, 0.65],
    [0, 0.8],
    [5, 0.85],
    [20, 1],
    [21, 1],
  ])('at %d it says %d', (x, y) => expect(curveAt(ROWS, x)).toBeCloseTo(y, 12))

  it('of one row says that row everywhere', () => expect([-1, 3, 9].map(x => curveAt([[3, 7]], x))).toEqual([7, 7, 7]))

  it('never leaves what its two neighbouring rows say', () => {
    const row = fc.tuple(fc.integer({ min: -1000, max: 1000 }), fc.integer({ min: -1000, max: 1000 }))
    const rows = fc.uniqueArray(row, { minLength: 2, maxLength: 9, selector: ([x]) => x })
    fc.assert(
      fc.property(rows, fc.integer({ min: -1100, max: 1100 }), (unsorted, x) => {
        const table = [...unsorted].sort(([a], [b]) => a - b)
        const below = table.findLast(([at]) => at <= x) ?? table[0]!
        const above = table.find(([at]) => at >= x) ?? table.at(-1)!
        const y = curveAt(table, x)
        expect(y).toBeGreaterThanOrEqual(Math.min(below[1], above[1]) - 1e-9)
        expect(y).toBeLessThanOrEqual(Math.max(below[1], above[1]) + 1e-9)
      }),
    )
  })
})
