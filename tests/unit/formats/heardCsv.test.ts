import { describe, expect, it } from 'vitest'
import { randomFrom } from '../../../core/chance/random'
import { hearCsv } from '../../../core/formats/heardCsv'

/** Lists that look like something else: lines of a comb, a sweep's own steps, stations on round figures. */

const csv = (hz: readonly number[], { levels = true, digits = 3 } = {}) => {
  const random = randomFrom(3)
  const rows = hz.map(f => (f / 1000).toFixed(digits) + (levels ? `,${(-60 - 15 * random.uniform()).toFixed(1)}` : ''))
  return [levels ? 'frequency_khz,level_db' : 'frequency_khz', ...rows].join('\n')
}
const rowOf = (spacingHz: number, from: number, to: number, step = 1) => {
  const numbers: number[] = []
  for (let n = from; n <= to; n += step) numbers.push(n)
  return numbers.map(n => n * spacingHz)
}
/** Lines that waver, the more the higher they are. */
const wavering = (row: number[], share: number) => {
  const random = randomFrom(7)
  return row.map(hz => hz + share * hz * random.normal())
}
const heard = (text: string) => {
  const read = hearCsv(text)
  if (!read.ok) throw new Error(read.wrong)
  return read.heard
}
const spacings = (text: string) => heard(text).combs.map(c => Math.round(c.spacingHz))

describe('a full row of lines with their levels', () => {
  it.each([
    ['all of 62.1 kHz', wavering(rowOf(62_100, 29, 231), 6e-7), 62_100],
    ['400 of 15.734 kHz', wavering(rowOf(15_734, 115, 514), 2e-7), 15_734],
    ['odd ones of 118.3 kHz', wavering(rowOf(118_300, 17, 253, 2), 3e-7), 236_600],
  ])('%s is one comb, and no sweep', (_what, tones, spacingHz) => {
    expect(spacings(csv(tones))).toEqual([spacingHz])
  })
  it('some of which stand on the broadcasters’ raster is no broadcaster', () => {
    // 65 kHz is thirteen times 5 kHz.
    const { combs, broadcast } = heard(csv(wavering(rowOf(65_000, 29, 461, 2), 2e-6)))
    expect(combs.map(c => Math.round(c.spacingHz))).toEqual([130_000])
    expect(broadcast).toBeNull()
  })
  it('as exact as it was written could be a sweep: it is said, and without levels it is a comb', () => {
    const exact = rowOf(62_100, 29, 225)
    const read = hearCsv(csv(exact))
    expect(read).toMatchObject({ ok: false, right: expect.stringMatching(/without levels/) })
    expect(!read.ok && read.wrong).toMatch(/197 rows stand exactly 62\.100 kHz apart and are read as a spectrum/)
    expect(spacings(csv(exact, { levels: false }))).toEqual([62_100])
  })
  it('a coarse sweep with a comb in it is a sweep', () => {
    const random = randomFrom(9)
    const rows = Array.from({ length: 400 }, (_, i) => {
      const db = -95 + 1.5 * random.normal() + (i % 5 ? 0 : 30)
      return `${(1.8e6 + 25e3 * i).toFixed(0)},${db.toFixed(1)}`
    })
    expect(spacings(['frequency_hz,level_db', ...rows].join('\n')).map(s => Math.round(s / 1000))).toEqual([125])
  })
})

describe('stations on round figures', () => {
  it('in whole kHz prove no device', () => {
    const [comb] = heard(
      csv(
        [7010, 7015, 7025, 7030, 7040, 7050, 7055, 7070].map(k => k * 1000),
        { digits: 0 },
      ),
    ).combs
    expect(comb).toMatchObject({ channelStep: true, proven: false })
    expect(comb!.confidence).toBeLessThanOrEqual(0.5)
  })
  it('a converter near no such step is proven as ever', () => {
    const [comb] = heard(csv(wavering(rowOf(15_200, 460, 480), 2e-7))).combs
    expect(comb).toMatchObject({ channelStep: false, proven: true })
  })
})

describe('lines at multiples of the mains', () => {
  it.each([
    [100, false],
    [60, false],
    [300, true],
    [150, true],
  ])('%s Hz apart: could a clock make them? %s', (spacingHz, rare) => {
    const tones = rowOf(spacingHz, 1, 14)
    expect(heard(csv(tones)).mains).toMatchObject({ rare })
  })
})
