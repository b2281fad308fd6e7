import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { FUSE_CLASSES } from '../../../core/catalog/fuses'
import { openingTime } from '../../../core/fuse/opening'

describe('opening times', () => {
  it.each([
    [1.35, 600, 0.75],
    [1.6, 50, 0.25],
    [2, 5, 0.15],
    [3.5, 0.5, 0.04],
    [6, 0.1, 0.02],
  ])('a blade at %f times its rating takes %f s at most, %f s at least (ISO 8820-3)', (multiple, slowest, fastest) => {
    const time = openingTime('blade', 20, 20 * multiple)!
    expect(time.slowestS).toBeCloseTo(slowest, 9)
    expect(time.fastestS).toBeCloseTo(fastest, 9)
  })
  it('lies on log–log lines between the rows', () => {
    // Halfway between 2 and 3.5 on a log scale: the root of both products.
    expect(openingTime('blade', 10, 10 * Math.sqrt(7))!.slowestS).toBeCloseTo(Math.sqrt(5 * 0.5), 9)
  })
  it('keeps I²t beyond the last row', () =>
    expect(openingTime('blade', 10, 600)!.slowestS * 600 ** 2).toBeCloseTo(0.1 * 60 ** 2, 6))
  it('need not open below the first row', () => expect(openingTime('blade', 20, 22)).toBeNull())
  it('is never slower at a larger current, and slowest is never under fastest, for every class', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...FUSE_CLASSES),
        fc.double({ min: 1.01, max: 200, noNaN: true }),
        fc.double({ min: 1, max: 3, noNaN: true }),
        (c, multiple, more) => {
          const at = openingTime(c.id, 10, 10 * multiple)
          const above = openingTime(c.id, 10, 10 * multiple * more)
          if (!at) return
          expect(at.slowestS).toBeGreaterThanOrEqual(at.fastestS)
          expect(above!.slowestS).toBeLessThanOrEqual(at.slowestS * (1 + 1e-9))
        },
      ),
    )
  })
})
