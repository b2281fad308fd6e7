import { describe, expect, it } from 'vitest'
import { clearSlots, isToldIn, linesInBand } from '../../../core/noise/comb/bands'
import { lnBinomialTail } from '../../../core/noise/comb/chance'
import { findCombs } from '../../../core/noise/comb/find'
import { foldedSidebands } from '../../../core/noise/comb/sidebands'
import { hearSpectrum, hearTones } from '../../../core/noise/listen/listen'
import { tonesOf, widened } from '../../../core/noise/listen/tones'
import { randomFrom } from '../../../core/chance/random'
import { combScores, reliability } from '../../data/combScores'

const tones = (list: number[]) => list.map(hz => ({ hz }))

describe('combs of the corpus', () => {
  const { claims, recipes, mains } = combScores(4, 99)
  it('are found, and hardly anything else is', () => {
    const there = recipes.reduce((s, r) => s + r.there, 0)
    const found = recipes.reduce((s, r) => s + r.found, 0)
    expect(there).toBeGreaterThan(50)
    expect(found / there).toBeGreaterThan(0.9)
    const sure = claims.filter(c => c.confidence >= 0.9)
    expect(sure.filter(c => c.right).length / sure.length).toBeGreaterThan(0.97)
    expect(mains).toEqual([4, 0])
  })
  it('are none where nothing switches', () => {
    const empty = recipes.filter(r => /strewn|broadcasters|only|mains/.test(r.recipe))
    expect(empty.length).toBe(6)
    expect(empty.reduce((s, r) => s + r.claims, 0)).toBeLessThanOrEqual(1)
  })
  it('are as sure as they say, in every bin that has claims enough', () => {
    for (const { low, claims: count, right } of reliability(claims))
      if (count >= 20) expect(right / count).toBeGreaterThanOrEqual(low - 0.05)
  })
})

describe('a comb of any length', () => {
  it.each([4, 37, 38, 80, 200, 400])('of %i clean lines is one, at its own spacing', count => {
    const { combs } = findCombs(tones(Array.from({ length: count }, (_, k) => (40 + k) * 31337)), 10)
    expect(combs).toHaveLength(1)
    expect(combs[0]!.spacingHz).toBeCloseTo(31337, 0)
    expect(combs[0]!.lines).toHaveLength(count)
  })
  it('counts chance in logarithms: 400 of 400 at one in fifty is no underflow', () => {
    expect(lnBinomialTail(400, 400, 0.02)).toBeCloseTo(400 * Math.log(0.02), 6)
    expect(lnBinomialTail(400, 8, 0.02)).toBeCloseTo(Math.log(0.5485), 1)
    expect(lnBinomialTail(40, 0, 0.02)).toBe(0)
    expect(lnBinomialTail(40, 41, 0.02)).toBe(-Infinity)
  })
})

describe('a comb whose lines waver over several bins', () => {
  /** Hiss, and humps of a device whose oscillator wanders by so much, each bin scattered as one sweep leaves it. */
  function wandering(spreadHz: number, seed: number) {
    const random = randomFrom(seed)
    const scattered = () => (random.normal() ** 2 + random.normal() ** 2) / 2
    return Array.from({ length: 6000 }, (_, i) => {
      const hz = 14.0e6 + 10 * i
      const offHz = hz - Math.round(hz / 4730) * 4730
      const hump = 6 * Math.exp(-0.5 * (offHz / spreadHz) ** 2)
      return { hz, db: 10 * Math.log10(scattered() + hump * scattered() + 1e-9) }
    })
  }
  it.each([20, 40, 80])('of %i Hz is found over wider bins, where single bins show none', spreadHz => {
    for (const seed of [1, 2, 3]) {
      const bins = wandering(spreadHz, seed)
      expect(findCombs(tonesOf(bins), 10).combs).toEqual([])
      expect(hearSpectrum(bins).combs).toHaveLength(1)
    }
  })
  it.each([20, 40, 80, 160])('of %i Hz has its spacing as well known as it says', spreadHz => {
    const offs = Array.from({ length: 40 }, (_, seed) => {
      const [comb] = hearSpectrum(wandering(spreadHz, seed + 1)).combs
      return Math.abs(comb!.spacingHz - 4730) / comb!.uncertaintyHz
    })
    const within = (times: number) => offs.filter(o => o <= times).length / offs.length
    // Of a normal spread 68, 95 and 99.7 in a hundred; a lump has tones beyond its reach.
    expect(within(1)).toBeGreaterThan(0.5)
    expect(within(2)).toBeGreaterThan(0.8)
    expect(within(3)).toBeGreaterThan(0.94)
  })
  it('averages powers, whole bins at a time', () => {
    const bins = [-90, -80, -90, -100, -70].map((db, i) => ({ hz: 100 + 10 * i, db }))
    expect(widened(bins, 1)).toEqual(bins)
    const two = widened(bins, 2)
    expect(two.map(b => b.hz)).toEqual([105, 125])
    // (1e-9 + 1e-8) / 2 and (1e-9 + 1e-10) / 2.
    expect(two[0]!.db).toBeCloseTo(10 * Math.log10(5.5e-9), 9)
    expect(two[1]!.db).toBeCloseTo(10 * Math.log10(5.5e-10), 9)
  })
})

describe('tones read to the kilohertz', () => {
  it('give a likely spacing with its true error where they are three, and a proven one where they are eight', () => {
    const three = hearTones(tones([1850e3, 1916e3, 1982e3]), 1000).combs
    expect(three).toMatchObject([{ proven: false }])
    expect(three[0]!.confidence).toBeLessThan(0.9)
    // Rounding to 1 kHz: 289 Hz a tone, over the root of the sum of squares of −1, 0, 1.
    expect(three[0]!.uncertaintyHz).toBeCloseTo(1000 / Math.sqrt(12) / Math.sqrt(2), 0)
    const eight = Array.from({ length: 8 }, (_, k) => 1000 * Math.round(((28 + k) * 65300) / 1000))
    const [comb] = hearTones(tones(eight), 1000).combs
    expect(comb).toMatchObject({ proven: true })
    expect(Math.abs(comb!.spacingHz - 65300)).toBeLessThan(3 * comb!.uncertaintyHz)
  })
})

describe('mains', () => {
  it('buzz is a verdict of its own, and no comb of a device', () => {
    for (const [step, mainsHz] of [
      [100, 50],
      [120, 60],
      [50, 50],
      [60, 60],
    ] as const) {
      const heard = findCombs(tones(Array.from({ length: 14 }, (_, k) => 7.1e6 + 13 + step * k)), 1)
      expect(heard.combs).toEqual([])
      expect(heard.mains).toMatchObject({ mainsHz })
      expect(heard.mains!.spacingHz).toBeCloseTo(step, 3)
    }
  })
  it.each([217, 306, 420, 590])('are not a PWM of %i Hz', hz => {
    const heard = findCombs(tones(Array.from({ length: 14 }, (_, k) => Math.round(hz * (24000 + k)))), 1)
    expect(heard.mains).toBeNull()
    expect(heard.combs[0]!.spacingHz).toBeCloseTo(hz, 1)
  })
  it('ripple is folded into the line it stands about, and told', () => {
    const lines = [301, 302, 303, 304, 305, 306].map(n => n * 47230)
    const around = lines.flatMap(hz => [-2, -1, 0, 1, 2].map(k => ({ hz: hz + 100 * k, db: -90 - 6 * Math.abs(k) })))
    expect(foldedSidebands(around, 2).map(f => f.hz)).toEqual(lines)
    const heard = findCombs(around, 2)
    expect(heard.combs).toMatchObject([{ rippleHz: 100 }])
    expect(heard.combs[0]!.spacingHz).toBeCloseTo(47230, 3)
    expect(heard.mains).toBeNull()
  })
  it('the ripple told is the one of most lines, wherever the odd one stands', () => {
    const lines = [101, 102, 103, 104, 105, 106].map(n => n * 52100)
    for (const odd of [0, 3, 5]) {
      const around = lines.flatMap((hz, i) => [-1, 0, 1].map(k => hz + (i === odd ? 120 : 100) * k))
      expect(findCombs(tones(around), 1).combs).toMatchObject([{ rippleHz: 100 }])
    }
  })
  it('a line is the strongest of its sidebands, however far they go on one side', () => {
    const lines = [301, 302, 303, 304].map(n => n * 47230)
    // Of −1 there are neighbours on both sides too: it would do for a line if the weak came first.
    const around = lines.flatMap(hz => [-3, -2, -1, 0, 1].map(k => ({ hz: hz + 100 * k, db: -90 - 8 * Math.abs(k) })))
    expect(foldedSidebands(around, 2).map(f => f.hz)).toEqual(lines)
  })
  it('ripple of 120 Hz is told from one of 100 where no level is', () => {
    const lines = [101, 102, 103, 104, 105].map(n => n * 52100)
    const around = lines.flatMap(hz => [-1, 0, 1].map(k => hz + 120 * k))
    expect(findCombs(tones(around), 1).combs).toMatchObject([{ rippleHz: 120 }])
  })
})

describe('a row in several pieces', () => {
  it('is one, typed off three bands to 100 Hz: what lies between was not looked at', () => {
    const harmonics = [57, 58, 59, 60, 113, 114, 115, 116, 226, 227, 228, 229]
    const typed = harmonics.map((n, i) => 100 * Math.round((n * 62100 + ((i % 3) - 1) * 60) / 100))
    const [comb, ...more] = hearTones(tones(typed), 100).combs
    expect(more).toEqual([])
    expect(comb!.lines.map(l => l.harmonic)).toEqual(harmonics)
    expect(comb!.missing).toBe(0)
    expect(Math.abs(comb!.fundamentalHz! - 62100)).toBeLessThan(3 * comb!.fundamentalUncertaintyHz!)
  })
  it('that leaves every third line beside itself, as one that wanders does, is no second device', () => {
    const lines = Array.from({ length: 15 }, (_, k) => (1120 + k) * 12500)
    const beside = lines.filter((_, k) => k % 3 === 0).map(hz => hz + 83)
    expect(findCombs(tones([...lines, ...beside].sort((a, b) => a - b)), 3).combs).toHaveLength(1)
  })
})

describe("broadcasters' carriers", () => {
  it('are none on an amateur band, where spots are round by custom', () => {
    const spots = [7005, 7010, 7012, 7025, 7030, 7040, 7047, 7074, 7090, 7100, 7125, 7150, 7160, 7165, 7190]
    const heard = hearTones(tones(spots.map(khz => khz * 1e3)), 1000)
    expect(heard.broadcast).toBeNull()
    expect(heard.combs).toEqual([])
  })
  it('are known by one common error of the receiver, through their own modulation', () => {
    const random = randomFrom(3)
    const carriers = [9500, 9505, 9515, 9525, 9530, 9545, 9560].map(khz => khz * 1e3 * (1 + 13e-6))
    const speech = carriers.flatMap(hz =>
      Array.from({ length: 5 }, () => ({ hz: hz + 3000 * (random.uniform() - 0.5), db: -75 - 10 * random.uniform() })),
    )
    const heard = findCombs([...carriers.map(hz => ({ hz, db: -50 })), ...speech], 5)
    expect(heard.combs).toEqual([])
    expect(heard.broadcast!.lines).toHaveLength(7)
    expect(Math.abs(heard.broadcast!.ppm - 13)).toBeLessThan(2)
  })
  it('are known in whole kHz', () => {
    const heard = findCombs(tones([639, 657, 684, 693, 720, 747, 774].map(khz => khz * 1e3)), 1000)
    expect(heard.combs).toEqual([])
    expect(heard.broadcast).toMatchObject({ spacingHz: 9000 })
  })
})

describe('a spacing carried to other bands', () => {
  const exact = findCombs(tones([226, 227, 228, 229, 230].map(n => n * 62e3)), 20).combs[0]!
  it('goes from the fundamental where that is known, with its own error', () => {
    const lines = linesInBand(exact, { lowMHz: 28, highMHz: 28.2 })
    expect(lines.map(l => Math.round(l.hz / 62e3))).toEqual([452, 453, 454])
    expect(lines[0]!.uncertaintyHz).toBeLessThan(20)
  })
  it('is not told, and no slot is called clear, where its error nears the spacing', () => {
    const coarse = hearTones(tones([14012e3, 14074e3, 14136e3, 14198e3, 14260e3, 14322e3]), 1000).combs[0]!
    expect(coarse.fundamentalHz).toBeNull()
    const [near, far] = [
      { lowMHz: 14, highMHz: 14.35 },
      { lowMHz: 28, highMHz: 29.7 },
    ]
    expect(isToldIn(coarse, near)).toBe(true)
    expect(clearSlots([coarse], near, 2700).length).toBeGreaterThan(0)
    expect(isToldIn(coarse, far)).toBe(false)
    expect(clearSlots([coarse], far, 2700)).toEqual([])
  })
  it('leaves no line in a slot: a hundred devices, their lines typed on one band and looked for on another', () => {
    let [slots, broken] = [0, 0]
    for (let seed = 1; seed <= 100; seed++) {
      const random = randomFrom(seed)
      const hz = 30e3 + 90e3 * random.uniform()
      const first = Math.ceil(7e6 / hz)
      const typed = Array.from({ length: 9 }, (_, k) => 100 * Math.round(((first + k) * hz) / 100))
      const [comb] = hearTones(tones(typed), 100).combs
      for (const band of [
        { lowMHz: 14, highMHz: 14.35 },
        { lowMHz: 21, highMHz: 21.45 },
      ]) {
        for (const slot of comb ? clearSlots([comb], band, 2700) : []) {
          slots++
          if (Math.floor(slot.highHz / hz) > Math.floor(slot.lowHz / hz)) broken++
        }
      }
    }
    expect(slots).toBeGreaterThan(300)
    expect(broken / slots).toBeLessThan(0.01)
  })
})
