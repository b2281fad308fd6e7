import { describe, expect, it } from 'vitest'
import { randomFrom } from '../../../core/chance/random'

const drawn = (n: number, draw: () => number) => Array.from({ length: n }, draw)
const mean = (list: number[]) => list.reduce((sum, v) => sum + v, 0) / list.length
const variance = (list: number[]) => mean(list.map(v => (v - mean(list)) ** 2))

describe('reproducible randomness', () => {
  it('is mulberry32: its first figures from seed 1, worked out apart in exact integers', () => {
    let state = 1n
    const [word, low] = [1n << 32n, (v: bigint) => v % (1n << 32n)]
    const exact = () => {
      state = low(state + 0x6d2b79f5n)
      let t = low((state ^ (state >> 15n)) * (1n | state))
      t = low(t + low((t ^ (t >> 7n)) * (61n | t))) ^ t
      return Number(low(t ^ (t >> 14n))) / Number(word)
    }
    expect(drawn(50, randomFrom(1).uniform)).toEqual(drawn(50, exact))
  })
  it('gives the same again from the same seed, and other figures from another', () => {
    expect(drawn(9, randomFrom(5).uniform)).toEqual(drawn(9, randomFrom(5).uniform))
    expect(drawn(9, randomFrom(6).uniform)).not.toEqual(drawn(9, randomFrom(5).uniform))
  })
  it('is even between 0 and 1', () => {
    const list = drawn(20000, randomFrom(3).uniform)
    expect(mean(list)).toBeCloseTo(0.5, 2)
    expect(variance(list)).toBeCloseTo(1 / 12, 2)
    for (const tenth of Array.from({ length: 10 }, (_, i) => i / 10))
      expect(list.filter(v => v >= tenth && v < tenth + 0.1).length / list.length).toBeCloseTo(0.1, 1)
  })
  it('is normal: mean 0, spread 1, two thirds within one', () => {
    const list = drawn(20000, randomFrom(4).normal)
    expect(mean(list)).toBeCloseTo(0, 1)
    expect(variance(list)).toBeCloseTo(1, 1)
    expect(list.filter(v => Math.abs(v) < 1).length / list.length).toBeCloseTo(0.683, 2)
    expect(list.filter(v => Math.abs(v) > 2).length / list.length).toBeCloseTo(0.0455, 2)
  })
})
