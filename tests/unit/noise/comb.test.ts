import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { binomialTail } from '../../../core/noise/comb/chance'
import { findCombs } from '../../../core/noise/comb/find'
import { clearSlots, linesInBand, suspects } from '../../../core/noise/comb/bands'
import { hearSpectrum } from '../../../core/noise/listen/listen'
import type { Bin, Tone } from '../../../core/noise/listen/tones'
import { randomFrom } from '../../../core/chance/random'

const tones = (list: number[]): Tone[] => list.map(hz => ({ hz }))

/** A noise floor with lines on it, some missing, wavering more at higher n, with a strong station or two. */
function spectrum(
  seed: number,
  {
    f0,
    low,
    high,
    aboveDb,
    missing = 0,
    jitterHz = 0,
    stations = 0,
    odd = false,
    f1 = 0,
  }: {
    f0: number
    low: number
    high: number
    aboveDb: number
    missing?: number
    jitterHz?: number
    stations?: number
    odd?: boolean
    f1?: number
  },
): { bins: Bin[]; lines: number } {
  const { uniform, normal } = randomFrom(seed)
  const stepHz = 100
  const power = Array.from(
    { length: Math.round((high - low) / stepHz) },
    () =>
      (normal() ** 2 +
        normal() ** 2 +
        normal() ** 2 +
        normal() ** 2 +
        normal() ** 2 +
        normal() ** 2 +
        normal() ** 2 +
        normal() ** 2) /
      8,
  )
  let lines = 0
  const add = (hz: number, db: number) => {
    const at = (hz - low) / stepHz
    for (let b = Math.floor(at) - 1; b <= Math.floor(at) + 2; b++)
      if (power[b] !== undefined) power[b]! += 10 ** (db / 10) * Math.exp(-((b - at) ** 2) / 0.4)
  }
  for (const f of [f0, f1]) {
    if (!f) continue
    for (let n = Math.ceil(low / f); n * f < high; n++) {
      if ((odd && n % 2 === 0) || uniform() < missing) continue
      lines++
      add(n * f + (jitterHz * normal() * n) / (low / f), aboveDb)
    }
  }
  for (let s = 0; s < stations; s++) {
    const centre = low + (high - low) * uniform()
    for (let k = -14; k <= 14; k++) add(centre + k * 100, 25 + 6 * normal())
  }
  return { bins: power.map((p, b) => ({ hz: low + b * stepHz, db: 10 * Math.log10(p) - 110 })), lines }
}

describe('the comb', () => {
  it('is found within 0.2 % at 10 dB over the floor with half the lines missing, through jitter and stations', () => {
    let found = 0
    let asked = 0
    for (let seed = 1; seed <= 60; seed++) {
      const { uniform } = randomFrom(seed * 77)
      const f0 = 16e3 + 45e3 * uniform()
      const made = spectrum(seed, {
        f0,
        low: 13.5e6,
        high: 14.7e6,
        aboveDb: 10,
        missing: 0.5,
        jitterHz: 60,
        stations: 2,
      })
      if (made.lines < 6) continue
      asked++
      const [comb] = hearSpectrum(made.bins).combs
      if (comb && Math.abs(comb.spacingHz / f0 - 1) < 0.002) {
        found++
        expect(Math.abs(comb.spacingHz - f0)).toBeLessThan(6 * comb.uncertaintyHz + 1)
      }
    }
    expect(asked).toBeGreaterThan(40)
    expect(found / asked).toBeGreaterThanOrEqual(0.95)
  })
  it('is not claimed in noise', () => {
    for (let seed = 1; seed <= 60; seed++)
      expect(hearSpectrum(spectrum(seed, { f0: 1e9, low: 7e6, high: 7.3e6, aboveDb: 10 }).bins).combs).toEqual([])
  })
  it('is not claimed among tones strewn at random', () => {
    let claims = 0
    for (let seed = 1; seed <= 200; seed++) {
      const { uniform } = randomFrom(seed)
      if (
        findCombs(tones(Array.from({ length: 5 + Math.floor(40 * uniform()) }, () => 7e6 + 3e5 * uniform())), 10).combs
          .length
      )
        claims++
    }
    expect(claims).toBeLessThanOrEqual(2)
  })
  it.each([
    [9000, 531e3],
    [10000, 540e3],
  ])('is not claimed among broadcast carriers on the %i Hz raster, and it is said what they are', (raster, start) => {
    for (let seed = 1; seed <= 20; seed++) {
      const { uniform, normal } = randomFrom(seed)
      const carriers = [
        ...new Set(Array.from({ length: 14 }, () => start + raster * Math.floor(110 * uniform()) + 3 * normal())),
      ]
      const result = findCombs(tones(carriers), 5)
      expect(result.combs).toEqual([])
      expect(result.broadcast?.spacingHz).toBe(raster)
    }
  })
  it('of two devices are told apart', () => {
    const { bins } = spectrum(5, { f0: 31.3e3, f1: 47.9e3, low: 20.6e6, high: 21.8e6, aboveDb: 16 })
    const spacings = hearSpectrum(bins)
      .combs.map(c => c.spacingHz)
      .sort((a, b) => a - b)
    expect(spacings).toHaveLength(2)
    expect(spacings[0]! / 31.3e3).toBeCloseTo(1, 2)
    expect(spacings[1]! / 47.9e3).toBeCloseTo(1, 2)
  })
  it('of odd lines only says so, and what they are multiples of', () => {
    const comb = findCombs(tones([33, 35, 37, 39, 41, 43].map(n => n * 62150)), 20).combs[0]!
    expect(comb).toMatchObject({ oddOnly: true })
    expect(comb.spacingHz).toBeCloseTo(124300, 3)
    expect(comb.fundamentalHz!).toBeCloseTo(62150, 1)
    expect(comb.lines.map(l => l.harmonic)).toEqual([33, 35, 37, 39, 41, 43])
  })
  it('gives back tones that belong to none', () => {
    const { combs, unexplained } = findCombs(tones([7.0e6, 7.031e6, 7.0443e6, 7.062e6, 7.0785e6, 7.093e6, 7.124e6]), 50)
    expect(combs[0]!.spacingHz).toBeCloseTo(31000, 0)
    expect(unexplained).toEqual([7.0443e6, 7.0785e6])
  })
  it('is the same wherever one starts to look: order, and a band higher up', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20e3, max: 90e3, noNaN: true }),
        fc.integer({ min: 40, max: 400 }),
        fc.shuffledSubarray([0, 1, 2, 3, 4, 5, 6, 7], { minLength: 8 }),
        (f0, n0, order) => {
          const [comb] = findCombs(tones(order.map(k => (n0 + k) * f0)), 10).combs
          expect(comb!.spacingHz / f0).toBeCloseTo(1, 4)
          expect(comb!.lines).toHaveLength(8)
        },
      ),
      { numRuns: 60 },
    )
  })
  it('gives every line of it in a band, the clear slots between, and who it could be', () => {
    const [comb] = findCombs(tones([226, 227, 228, 229, 230].map(n => n * 62e3)), 20).combs
    const band = { lowMHz: 14, highMHz: 14.35 }
    expect(linesInBand(comb!, band).map(l => Math.round(l.hz / 62e3))).toEqual([226, 227, 228, 229, 230, 231])
    const slots = clearSlots([comb!], band, 2700)
    for (const slot of slots)
      for (const { hz } of linesInBand(comb!, band)) expect(hz > slot.lowHz + 1 && hz < slot.highHz - 1).toBe(false)
    expect(slots[0]!.highHz - slots[0]!.lowHz).toBeGreaterThan(61e3)
    expect(
      suspects(comb!, [
        { id: 'inv', switchingHz: 61e3 },
        { id: 'ctl', switchingHz: 118e3 },
        { id: 'bb', switchingHz: 31.2e3 },
      ]),
    ).toMatchObject([
      { id: 'bb', relation: 'twice' },
      { id: 'inv', relation: 'fundamental' },
    ])
  })
  it('counts chance as the binomial does', () => {
    expect(binomialTail(10, 3, 0.5)).toBeCloseTo(0.9453125, 9)
    expect(binomialTail(5, 5, 0.1)).toBeCloseTo(1e-5, 12)
    expect(binomialTail(5, 0, 0.1)).toBe(1)
  })
})
