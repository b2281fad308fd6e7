import { describe, expect, it } from 'vitest'
import { bitsOf, entropyBits, normalised, rateOf } from '../../../core/reason/odds'

describe('what a test tells', () => {
  it('is one bit where it tells two like causes apart for sure, none where it shows the same', () => {
    expect(
      bitsOf(
        [0.5, 0.5],
        [
          [1, 0],
          [0, 1],
        ],
      ),
    ).toBeCloseTo(1, 12)
    expect(
      bitsOf(
        [0.5, 0.5],
        [
          [0.7, 0.7],
          [0.3, 0.3],
        ],
      ),
    ).toBeCloseTo(0, 12)
  })
  it('by hand: right nine times in ten, 1 − H(0.9) = 0.531 bits', () => {
    expect(
      bitsOf(
        [0.5, 0.5],
        [
          [0.9, 0.1],
          [0.1, 0.9],
        ],
      ),
    ).toBeCloseTo(0.531, 3)
  })
  it('costs its minutes, and its euros as minutes', () => {
    expect(rateOf(1, { minutes: 4, euro: 0 })).toBe(0.25)
    expect(rateOf(1, { minutes: 4, euro: 4 })).toBe(0.1)
  })
  it('of probabilities made whole', () => {
    expect(normalised([1, 3])).toEqual([0.25, 0.75])
    expect(entropyBits([0.25, 0.25, 0.25, 0.25])).toBe(2)
    expect(entropyBits([1, 0])).toBeCloseTo(0, 12)
  })
})
