import { describe, expect, it } from 'vitest'
import { binomialTail, lnBinomialTail } from '../../../core/noise/comb/chance'
import { abResult, heardOf } from '../../../core/noise/listen/ab'
import { normalCdf, normalQuantile } from '../../../core/noise/listen/normal'
import { studentTail } from '../../../core/noise/listen/student'

/** How likely something comes by chance, against published tables and sums worked out exactly. */

describe("Student's distribution", () => {
  // Upper critical values as every table has them.
  it.each([
    [6.314, 1, 0.05],
    [2.92, 2, 0.05],
    [2.776, 4, 0.025],
    [3.707, 6, 0.005],
    [2.764, 10, 0.01],
    [3.552, 20, 0.001],
    [2.75, 30, 0.005],
    [1.98, 120, 0.025],
  ])('over %d at %d degrees leaves %d', (t, freedom, above) =>
    expect(studentTail(t, freedom) / above).toBeCloseTo(1, 2),
  )
  it('of one degree is an arc tangent, of two a root', () => {
    for (const t of [0, 0.1, 0.5, 1, 3, 20, 500]) {
      expect(studentTail(t, 1)).toBeCloseTo(0.5 - Math.atan(t) / Math.PI, 12)
      expect(studentTail(t, 2)).toBeCloseTo(0.5 - t / (2 * Math.sqrt(2 + t * t)), 12)
    }
  })
})

describe('the normal distribution', () => {
  it.each([
    [0, 0.5],
    [1, 0.841345],
    [-1, 0.158655],
    [1.96, 0.975002],
    [3, 0.99865],
    [-3, 0.00135],
  ])('under %d has %d', (x, below) => expect(normalCdf(x)).toBeCloseTo(below, 6))
  it.each([
    [0.5, 0],
    [0.025, 1.959964],
    [0.01, 2.326348],
    [0.9, -1.281552],
  ])('leaves %d over %d', (above, x) => expect(normalQuantile(above)).toBeCloseTo(x, 5))
})

describe('at least so many of so many', () => {
  /** Of a fair coin, in whole numbers: the sum of n over i, and two to the n. */
  function fair(n: number, k: number): number {
    let [choose, sum] = [1n, 0n]
    for (let i = 0n; i <= BigInt(n); i++) {
      if (i >= BigInt(k)) sum += choose
      choose = (choose * (BigInt(n) - i)) / (i + 1n)
    }
    return Number((sum * 10n ** 30n) / 2n ** BigInt(n)) / 1e30
  }
  it.each([
    [10, 8],
    [10, 10],
    [15, 3],
    [16, 9],
    [17, 9],
    [40, 30],
    [1000, 500],
    [1000, 560],
  ])('%d tosses, %d heads', (n, k) => expect(binomialTail(n, k, 0.5) / fair(n, k)).toBeCloseTo(1, 9))
  it('of an unfair one', () => {
    expect(binomialTail(20, 1, 0.05)).toBeCloseTo(1 - 0.95 ** 20, 12)
    expect(binomialTail(3, 2, 0.1)).toBeCloseTo(3 * 0.01 * 0.9 + 0.001, 12)
    expect(binomialTail(5, 5, 0.9)).toBeCloseTo(0.9 ** 5, 12)
  })
  it('is certain of none, and impossible of more than there are', () => {
    expect([binomialTail(5, 0, 0.1), binomialTail(5, -1, 0.1), binomialTail(5, 5, 1), binomialTail(5, 2, 1.5)]).toEqual(
      [1, 1, 1, 1],
    )
    expect([binomialTail(5, 6, 0.1), binomialTail(5, 1, 0), binomialTail(5, 1, -1)]).toEqual([0, 0, 0])
  })
  it('keeps what is too small for a number in logarithms', () =>
    expect(lnBinomialTail(2000, 2000, 1e-3)).toBeCloseTo(2000 * Math.log(1e-3), 6))
})

describe('on against off', () => {
  const block = (isOn: boolean, ...db: number[]) => ({ isOn, powers: Float64Array.from(db, d => 10 ** (d / 10)) })
  it('is a mean of decibels, its error by what the blocks scatter and the band breathes', () => {
    const { whole, segments, on, off, isMore } = abResult([
      block(true, 10),
      block(false, 6),
      block(true, 12),
      block(false, 8),
    ])!
    expect([on, off]).toEqual([2, 2])
    expect(segments).toEqual([whole])
    // Squares of 4 and the band's own 4 × 1 over 6 degrees: 1.155 dB, times √(1/2 + 1/2).
    expect(whole).toMatchObject({ onDb: expect.closeTo(11, 9), offDb: expect.closeTo(7, 9) })
    expect(whole.errorDb).toBeCloseTo(Math.sqrt(8 / 6), 9)
    // 4 over 1.155 is 3.464: beyond it to both sides Student leaves 1.34 % at six degrees.
    expect(whole.chance).toBeCloseTo(0.0134, 4)
    expect(isMore).toBe(false)
  })
  it('of one of them alone is nothing', () => {
    expect(abResult([block(true, 10)])).toBeNull()
    expect(abResult([block(false, 10)])).toBeNull()
  })
  it('asks more of one segment of many than of the whole', () => {
    const blocks = (segments: number) =>
      [true, false, true, false].map(isOn =>
        block(isOn, ...Array.from({ length: segments }, (_, s) => (isOn && s === 0 ? 14 : 9))),
      )
    const one = abResult(blocks(1))!.segments[0]!.chance
    expect(one).toBeLessThan(0.01)
    expect(abResult(blocks(1))!.isMore).toBe(true)
    // Of so many that it comes by chance in one of them.
    const many = Math.ceil(0.01 / one) + 1
    expect(abResult(blocks(many))!.isMore).toBe(false)
  })
  it('is heard weaker, the same, or is for the operator to say', () => {
    const heard = (on: number[], off: number[], times: number) =>
      heardOf(abResult(Array.from({ length: times }, () => [block(true, ...on), block(false, ...off)]).flat())!)
    expect(heard([20], [5], 3)).toBe('weaker')
    expect(heard([5], [20], 3)).toBe('not-sure')
    expect(heard([10], [10], 3)).toBe('same')
    // Two blocks each are known to 1.2 dB: too little to say that nothing has changed.
    expect(heard([10], [10], 1)).toBe('not-sure')
    expect(heard([13.9], [10], 1)).toBe('not-sure')
  })
})
