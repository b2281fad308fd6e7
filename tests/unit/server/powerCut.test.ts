import { describe, expect, it } from 'vitest'
import { cutsOf } from '../../data/cuts'

describe('the power is cut', () => {
  it('and nothing that was acknowledged is lost, in a few of the many cuts that the benchmark makes', async () => {
    const told = await cutsOf({ cuts: 3, edits: 40, seed: 1 })
    expect(told.lost).toEqual([])
    expect(told.cuts).toBeGreaterThan(1)
  })
})
