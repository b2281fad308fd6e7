import { describe, expect, it } from 'vitest'
import { abResult, heardOf, type AbBlock } from '../../../core/noise/listen/ab'
import { Listening } from '../../../core/noise/listen/listening'
import { levelBetween, LiveSpectrum } from '../../../core/noise/listen/live'
import { randomFrom } from '../../../core/chance/random'
import { studentTail } from '../../../core/noise/listen/student'

describe('spectra as they come', () => {
  it('are the same in whatever pieces the samples come', () => {
    const random = randomFrom(1)
    const samples = Float32Array.from({ length: 40000 }, () => random.normal() * 0.01)
    const whole = new LiveSpectrum({ sampleRateHz: 48000, isIq: false })
    const pieces = new LiveSpectrum({ sampleRateHz: 48000, isIq: false })
    const rows = whole.push([samples])
    const others: Float32Array[] = []
    for (let at = 0; at < samples.length; at += 777) others.push(...pieces.push([samples.slice(at, at + 777)]))
    expect(rows.length).toBeGreaterThan(4)
    expect(others).toEqual(rows)
  })
  it('show a tone of I and Q on its side of the centre, at its level, and hiss at its power', () => {
    const live = new LiveSpectrum({ sampleRateHz: 48000, isIq: true })
    const n = live.size
    const at = -90 * live.binHz
    const tone = (f: (x: number) => number) =>
      Float32Array.from({ length: n }, (_, k) => 0.1 * f((2 * Math.PI * at * k) / 48000))
    const [row] = live.push([tone(Math.cos), tone(Math.sin)])
    const loudest = row!.indexOf(Math.max(...row!))
    expect(live.lowHz + loudest * live.binHz).toBeCloseTo(at, 6)
    // 0.1 of full scale: −20 dB.
    expect(10 * Math.log10(row![loudest]!)).toBeCloseTo(-20, 1)
    const random = randomFrom(2)
    const hiss = () => Float32Array.from({ length: 30 * n }, () => 0.01 * random.normal())
    const rows = new LiveSpectrum({ sampleRateHz: 48000, isIq: true }).push([hiss(), hiss()])
    const mean = Float64Array.from(rows[0]!, (_, b) => rows.reduce((s, r) => s + r[b]!, 0) / rows.length)
    // Two channels of 0.01 each: −40 dB + 3 dB over the whole width; a tenth of it is 10 dB less.
    expect(levelBetween(mean, 0, n)).toBeCloseTo(-36.99, 0)
    expect(levelBetween(mean, 0, n / 10)).toBeCloseTo(-46.99, 0)
  })
})

describe('on against off', () => {
  const blocks = (seed: number, each: number, riseDb: number, { breathes = 1, segments = 12 } = {}): AbBlock[] => {
    const random = randomFrom(seed)
    return Array.from({ length: 2 * each }, (_, k) => {
      const isOn = k % 2 === 0
      const level = -90 + breathes * random.normal() + (isOn ? riseDb : 0)
      return {
        isOn,
        powers: Float64Array.from({ length: segments }, () => 10 ** ((level + 0.4 * random.normal()) / 10)),
      }
    })
  }
  it("uses Student's distribution: its published points", () => {
    expect(studentTail(2.262, 9)).toBeCloseTo(0.025, 4)
    expect(studentTail(1.812, 10)).toBeCloseTo(0.05, 4)
    expect(studentTail(3.169, 10)).toBeCloseTo(0.005, 4)
    expect(studentTail(0, 5)).toBeCloseTo(0.5, 12)
  })
  it('says nothing until both were heard', () => {
    expect(abResult([])).toBeNull()
    expect(abResult(blocks(1, 1, 6).slice(0, 1))).toBeNull()
  })
  it('calls chance what is chance: nothing switched, alternated three to eight times', () => {
    let [said, tried] = [0, 0]
    for (let seed = 1; seed <= 600; seed++) {
      tried++
      if (abResult(blocks(seed, 3 + (seed % 6), 0))!.isMore) said++
    }
    expect(said / tried).toBeLessThan(0.03)
  })
  it('finds 4 dB in four alternations, states its error, and holds it as often as it says', () => {
    let [found, within] = [0, 0]
    for (let seed = 1; seed <= 300; seed++) {
      const result = abResult(blocks(seed, 4, 4))!
      if (result.isMore) found++
      if (Math.abs(result.whole.differenceDb - 4) <= result.whole.errorDb) within++
    }
    expect(found / 300).toBeGreaterThan(0.8)
    // One standard deviation: 68 in a hundred, and some more where the scatter is not known.
    expect(within / 300).toBeGreaterThan(0.62)
    expect(within / 300).toBeLessThan(0.8)
  })
  it('is told as weaker, as no change where the error is small, and else as not sure', () => {
    expect(heardOf(abResult(blocks(3, 5, 10))!)).toBe('weaker')
    expect(heardOf(abResult(blocks(4, 8, 0, { breathes: 0.3 }))!)).toBe('same')
    expect(heardOf(abResult(blocks(5, 1, 2))!)).toBe('not-sure')
  })
  it('what is louder with the device off is no finding about it', () => {
    const result = abResult(blocks(3, 5, -10))!
    expect(result).toMatchObject({ isMore: true })
    expect(heardOf(result)).toBe('not-sure')
  })
})

describe('a receiver that is listened to', () => {
  const RATE = 48000
  /** Half a second of I and Q: hiss, and lines of 5,230 Hz spacing while the device is on. */
  function half(random: ReturnType<typeof randomFrom>, isOn: boolean, at: number): Float32Array[] {
    const n = RATE / 2
    const [i, q] = [new Float32Array(n), new Float32Array(n)]
    for (let k = 0; k < n; k++) {
      i[k] = 0.004 * random.normal()
      q[k] = 0.004 * random.normal()
      if (!isOn) continue
      for (let line = 2680; line <= 2687; line++) {
        const phase = (2 * Math.PI * (line * 5230 - 14.04e6) * (at * n + k)) / RATE
        i[k]! += 0.002 * Math.cos(phase)
        q[k]! += 0.002 * Math.sin(phase)
      }
    }
    return [i, q]
  }
  function session(isOnAt: (half: number) => boolean) {
    const random = randomFrom(9)
    const listening = new Listening({ sampleRateHz: RATE, isIq: true, centreHz: 14.04e6 })
    for (let block = 0; block < 6; block++) {
      listening.switchTo(block % 2 ? 'off' : 'on')
      for (let h = 0; h < 5; h++) listening.push(half(random, isOnAt(block), 5 * block + h))
      if (block === 0) listening.combs()
    }
    listening.switchTo(null)
    return listening
  }
  it('names the comb with its harmonics, and finds the same in on against off, line by line', () => {
    const listening = session(block => block % 2 === 0)
    const result = listening.compared()!
    expect(result).toMatchObject({ on: 3, off: 3, isMore: true, heard: 'weaker' })
    // Of eight the lowest lies in the edge of the recording, which is left out.
    expect(result.lines).toHaveLength(7)
    for (const line of result.lines) {
      expect(line.differenceDb).toBeGreaterThan(10)
      expect(Math.abs(line.hz / 5230 - Math.round(line.hz / 5230))).toBeLessThan(0.01)
    }
    listening.forget()
    expect(listening.compared()).toBeNull()
  })
  it('is weaker with it off where only its lines tell', () => {
    const random = randomFrom(4)
    const listening = new Listening({ sampleRateHz: RATE, isIq: false, centreHz: null })
    const second = (isOn: boolean, at: number) =>
      Float32Array.from({ length: RATE }, (_, k) => {
        const t = at + k / RATE
        const row = (spacingHz: number) =>
          [1, 2, 3, 4, 5, 6, 7].reduce((s, line) => s + Math.sin(2 * Math.PI * spacingHz * line * t + line * line), 0)
        // Another comb goes on all the while: it does not matter that its lines do not rise.
        return 0.02 * random.normal() + 0.0012 * row(1307) + (isOn ? 0.0012 * row(910.5) : 0)
      })
    for (let block = 0; block < 6; block++) {
      const isOn = block % 2 === 0
      listening.switchTo(isOn ? 'on' : 'off')
      for (let k = 0; k < 3; k++) listening.push([second(isOn, 3 * block + k)])
      if (block === 0) expect(listening.combs().combs).toHaveLength(2)
    }
    const result = listening.compared()!
    expect(Math.abs(result.whole.differenceDb)).toBeLessThan(1)
    expect(result).toMatchObject({ isMore: true, heard: 'weaker' })
  })
  it('finds nothing where nothing was switched', () => {
    const result = session(() => true).compared()!
    expect(result.isMore).toBe(false)
    expect(Math.abs(result.whole.differenceDb)).toBeLessThan(0.5)
  })
  it('counts no stretch of less than a second', () => {
    const listening = new Listening({ sampleRateHz: RATE, isIq: false, centreHz: null })
    const random = randomFrom(2)
    for (const state of ['on', 'off'] as const) {
      listening.switchTo(state)
      listening.push([Float32Array.from({ length: RATE }, () => 0.01 * random.normal())])
    }
    listening.switchTo(null)
    expect(listening.compared()).toBeNull()
  })
})
