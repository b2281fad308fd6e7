import { describe, expect, it } from 'vitest'
import {
  isIq,
  lineMotion,
  meanSpectrum,
  transformSize,
  waterfall,
  type Waterfall,
} from '../../../core/noise/listen/spectrum'
import { floorOf, tonesOf, type Bin } from '../../../core/noise/listen/tones'

/** From samples to tones, each step worked out by hand. */

const binsOf = (levels: readonly number[]): Bin[] => levels.map((db, i) => ({ hz: 1000 + 10 * i, db }))
const flat = (n: number, at: Record<number, number>) => binsOf(Array.from({ length: n }, (_, i) => at[i] ?? 0))

describe('the size of a transform', () => {
  it.each([
    // Eight rows of 1,024 samples make two of 2,048.
    [8191, 48_000, 1024],
    [8192, 48_000, 2048],
    // One second: eight rows of 4,096 fit, eight of 8,192 do not.
    [48_000, 48_000, 8192],
    // However long, 48 kHz need no finer bins than 1.5 Hz.
    [1e9, 48_000, 32_768],
    // 2.5 Hz a bin are fine enough: 1,024 bins of 2,560 Hz in all.
    [1e9, 2560, 1024],
    [1e9, 2561, 2048],
    [1e9, 10e6, 65_536],
  ])('of %d samples at %d Hz is %f', (samples, rateHz, size) => expect(transformSize(samples, rateHz)).toBe(size))
})

describe('a recording', () => {
  const RATE = 8192
  const SIZE = 1024
  /** Of 8,191 samples: rows of 1,024, 8 Hz a bin. */
  const sampled = (wave: (n: number) => number) => Float32Array.from({ length: 8191 }, (_, n) => wave(n))
  const turn = (hz: number) => (n: number) => (2 * Math.PI * hz * n) / RATE
  const strongest = ({ rows, lowHz, binHz }: Waterfall) => {
    const row = rows[0]!
    const b = row.indexOf(Math.max(...row))
    return { hz: lowHz + b * binHz, power: row[b]! }
  }
  it('of a sine has a quarter of its power in one bin', () => {
    const fall = waterfall({ sampleRateHz: RATE, channels: [sampled(n => Math.cos(turn(800)(n)))] })!
    expect(fall).toMatchObject({ binHz: 8, lowHz: 0, secondsPerRow: 512 / RATE })
    // Half overlapped: (8,191 − 1,024) / 512 and one.
    expect(fall.rows.map(r => r.length)).toEqual(Array.from({ length: 14 }, () => SIZE / 2))
    expect(strongest(fall)).toEqual({ hz: 800, power: expect.closeTo(0.25, 4) })
  })
  it.each([800, -800])('of I and Q has all of it at %d Hz from its centre', hz => {
    const channels = [sampled(n => Math.cos(turn(hz)(n))), sampled(n => Math.sin(turn(hz)(n)))]
    const fall = waterfall({ sampleRateHz: RATE, channels }, 7e6)!
    expect(fall.lowHz).toBe(7e6 - RATE / 2)
    expect(strongest(fall)).toEqual({ hz: 7e6 + hz, power: expect.closeTo(1, 4) })
  })
  it('that is long is read row by row', () => {
    const long = { sampleRateHz: 2000, channels: [new Float32Array(20 * SIZE)] }
    const short = { sampleRateHz: 2000, channels: [new Float32Array(20 * SIZE - 1)] }
    expect(waterfall(long)!.rows).toHaveLength(20)
    expect(waterfall(short)!.rows).toHaveLength(38)
  })
  it('that is too short is none, and reading can be stopped', () => {
    const of = (samples: number) => ({ sampleRateHz: RATE, channels: [new Float32Array(samples)] })
    expect(waterfall(of(SIZE - 1))).toBeNull()
    expect(waterfall(of(SIZE))!.rows).toHaveLength(1)
    const shares: number[] = []
    const stopped = waterfall(of(4 * SIZE), 0, share => shares.push(share) < 3)
    expect([stopped, shares]).toEqual([null, [0, 1 / 7, 2 / 7]])
  })
  it('is I and Q where each channel is what the other is not', () => {
    const [cosine, sine] = [sampled(n => Math.cos(turn(300)(n))), sampled(n => Math.sin(turn(300)(n)))]
    expect(isIq({ sampleRateHz: RATE, channels: [cosine, sine] })).toBe(true)
    expect(isIq({ sampleRateHz: RATE, channels: [cosine, cosine.map(x => -0.4 * x)] })).toBe(false)
    expect(isIq({ sampleRateHz: RATE, channels: [cosine] })).toBe(false)
  })
})

describe('the mean of a waterfall', () => {
  const fall = (rows: number[][]): Waterfall => ({
    binHz: 5,
    lowHz: 100,
    rows: rows.map(r => Float32Array.from(r)),
    secondsPerRow: 1,
  })
  it('is of powers', () => {
    const mean = meanSpectrum(fall([[1, 0.01], [3, 0.03]]), false) // prettier-ignore
    expect(mean).toEqual([
      { hz: 100, db: expect.closeTo(10 * Math.log10(2), 5) },
      { hz: 105, db: expect.closeTo(10 * Math.log10(0.02), 5) },
    ])
  })
  it('leaves the spike in the middle of I and Q out', () => {
    const row = Array.from({ length: 16 }, (_, b) => 10 ** b)
    const told = (hasCentre: boolean) => meanSpectrum(fall([row]), hasCentre).map(b => Math.round(b.db / 10))
    expect(told(false)).toEqual(Array.from({ length: 16 }, (_, b) => b))
    expect(told(true)).toEqual([0, 1, 2, 3, 4, 5, 4, 4, 4, 4, 4, 11, 12, 13, 14, 15])
  })
})

describe('how a line moves', () => {
  /** A line at one bin a row, 4 Hz a bin, half a second a row. */
  const moving = (places: readonly number[]): Waterfall => ({
    binHz: 4,
    lowHz: 1000,
    rows: places.map(p => Float32Array.from({ length: 64 }, (_, b) => (b === p ? 1 : 0.001))),
    secondsPerRow: 0.5,
  })
  it('that stands still neither wavers nor drifts', () =>
    expect(lineMotion(moving([20, 20, 20, 20]), 1080, 40)).toEqual({ waverHz: 0, driftHzPerS: 0 }))
  it('that goes a bin a row drifts by its hertz in a second, and does not waver', () => {
    const { waverHz, driftHzPerS } = lineMotion(moving([18, 19, 20, 21, 22]), 1080, 40)
    expect([waverHz, driftHzPerS]).toEqual([expect.closeTo(0, 9), expect.closeTo(8, 9)])
  })
  it('that goes to and fro wavers around where it is', () => {
    // Bins −1, +1, +1, −1 around 20: no slope, and four hertz off each time, less what any place in a bin scatters.
    expect(lineMotion(moving([19, 21, 21, 19]), 1080, 40)).toEqual({ waverHz: 4 - 4 / Math.sqrt(12), driftHzPerS: 0 })
  })
  it('is looked for no farther than it is said to reach, two bins at least', () => {
    expect(lineMotion(moving([20, 20, 40, 20]), 1080, 40).waverHz).toBe(0)
    expect(lineMotion(moving([20, 22, 22, 20]), 1080, 1).waverHz).toBe(4 - 4 / Math.sqrt(12))
    expect(lineMotion(moving([20, 23, 23, 20]), 1080, 1).waverHz).toBe(0)
  })
  it('of two rows says nothing', () =>
    expect(lineMotion(moving([20, 25]), 1080, 40)).toEqual({ waverHz: 0, driftHzPerS: 0 }))
})

describe('the floor under a spectrum', () => {
  it('is the median around every second bin of sixteen, joined by straight lines', () => {
    const floor = [...floorOf(binsOf(Array.from({ length: 16 }, (_, i) => i)))]
    // At the ends three and four bins are left of the five: 1 of 0, 1, 2, and 14 of 12 to 15.
    expect(floor).toEqual([1, 1.5, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 14])
  })
  it('of a long spectrum looks fifty bins to either side', () => {
    const levels = Array.from({ length: 1000 }, (_, i) => (i < 500 ? 0 : 10))
    const floor = floorOf(binsOf(levels))
    expect([floor[0], floor[450], floor[550], floor[999]]).toEqual([0, 0, 10, 10])
    // At 500 there are fifty of one and fifty-one of the other.
    expect([floor[475], floor[500]]).toEqual([5, 10])
  })
})

describe('a tone', () => {
  it('stands where the parabola through its three bins does', () => {
    // 10, 20, 16: half of 6 over 14, a fifth of a bin to the right.
    const [tone, ...others] = tonesOf(flat(40, { 19: 10, 20: 20, 21: 16 }))
    expect(others).toEqual([])
    expect(tone).toEqual({ hz: expect.closeTo(1200 + (10 * 3) / 14, 9), db: 20 })
    expect(tonesOf(flat(40, { 19: 16, 20: 20, 21: 10 }))[0]!.hz).toBeCloseTo(1200 - (10 * 3) / 14, 9)
  })
  it('stands six decibels out of its floor', () => {
    expect(tonesOf(flat(40, { 20: 5.9 }))).toEqual([])
    expect(tonesOf(flat(40, { 20: 6 }))).toHaveLength(1)
  })
  it('of two bins alike is one', () => expect(tonesOf(flat(40, { 20: 20, 21: 20 }))).toHaveLength(1))
  it('is none where it is a plateau, or at the edge, or in four bins', () => {
    // A hill that stands 19 dB three bins off on both sides, and one of 16.
    expect(tonesOf(flat(60, { 27: 19, 28: 19.4, 29: 19.7, 30: 20, 31: 19.7, 32: 19.4, 33: 19 }))).toEqual([])
    expect(tonesOf(flat(60, { 27: 16, 28: 17, 29: 18, 30: 20, 31: 18, 32: 17, 33: 16 }))).toHaveLength(1)
    expect(tonesOf(flat(40, { 0: 20 }))).toEqual([])
    expect(tonesOf(flat(4, { 2: 20 }))).toEqual([])
  })
  it('rises out of the scatter of a rough floor three times', () => {
    // Up and down by ten: 1.48 × 10 × 3 is 44.
    const rough = (peak: number) =>
      binsOf(Array.from({ length: 101 }, (_, i): number => (i % 2 ? 10 : -10)).with(50, peak))
    expect(tonesOf(rough(60)).map(t => t.hz)).toEqual([1500])
    expect(tonesOf(rough(30))).toEqual([])
  })
})
