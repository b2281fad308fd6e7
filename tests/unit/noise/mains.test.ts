import { describe, expect, it } from 'vitest'
import type { Comb } from '../../../core/noise/comb/comb'
import { isMains, mainsOf } from '../../../core/noise/comb/mains'

/** Rows that the mains make, and rows near them that something else does. */

const row = (spacingHz: number, uncertaintyHz = 0.01, from = 1000): Comb => ({
  spacingHz,
  uncertaintyHz,
  confidence: 0.99,
  proven: true,
  channelStep: false,
  lines: [2, 0, 1].map(n => ({ index: n, harmonic: null, hz: from + n * spacingHz, offHz: 0 })),
  fundamentalHz: null,
  fundamentalUncertaintyHz: null,
  oddOnly: false,
  waverHz: 0,
  missing: 0,
  rippleHz: null,
})

describe('a row of the mains', () => {
  it.each([
    [50, 50],
    [60, 60],
    [100, 50],
    [120, 60],
    [150, 50],
    [180, 60],
    [200, 50],
    [240, 60],
    [250, 50],
    [300, 50],
    [360, 60],
  ])('%d Hz apart is of %d Hz', (spacingHz, mainsHz) => {
    expect(isMains(row(spacingHz))).toBe(true)
    expect(mainsOf([row(spacingHz)])).toMatchObject({ mainsHz, spacingHz, rare: spacingHz > 2.5 * mainsHz })
  })
  it.each([30, 55, 75, 110, 400, 420, 1000])('%d Hz apart is none', spacingHz =>
    expect(isMains(row(spacingHz))).toBe(false),
  )
  it('once and twice the mains keep to two in a thousand, and what the reading is unsure of', () => {
    expect([isMains(row(100.199, 0)), isMains(row(100.21, 0)), isMains(row(99.79, 0))]).toEqual([true, false, false])
    expect([isMains(row(101.099, 0.3)), isMains(row(101.11, 0.3))]).toEqual([true, false])
  })
  it('three times and more are told only where the spacing is known to one in a thousand', () => {
    expect([isMains(row(150.149, 0)), isMains(row(150.16, 0))]).toEqual([true, false])
    expect([isMains(row(150.249, 0.1)), isMains(row(150.26, 0.1))]).toEqual([true, false])
    expect([isMains(row(150, 0.1499)), isMains(row(150, 0.151))]).toEqual([true, false])
  })
  it('is one buzz of all its rows, their lines in order', () => {
    expect(mainsOf([])).toBeNull()
    expect(mainsOf([row(100, 0.01, 5000), row(100, 0.01, 1000)])!.lines).toEqual([1000, 1100, 1200, 5000, 5100, 5200])
  })
})
