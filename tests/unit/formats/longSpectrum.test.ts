import { expect, it } from 'vitest'
import { readTonesCsv } from '../../../core/formats/tonesCsv'
import { hearSpectrum } from '../../../core/noise/listen/listen'
import { randomFrom } from '../../../core/chance/random'

it('a spectrum of 400,000 bins is read, and its comb of 62.1 kHz is found', () => {
  const SPACING_HZ = 62100
  const { normal } = randomFrom(4)
  const level = (hz: number) => (hz % SPACING_HZ === 0 && hz < 7.6e6 ? -60 : -100 + normal())
  const bins = Array.from({ length: 400000 }, (_, i) => 7e6 - (7e6 % SPACING_HZ) + 10 * i)
  const read = readTonesCsv(`frequency_hz,level_db\n${bins.map(hz => `${hz},${level(hz)}`).join('\n')}\n`)
  if (!read.ok || read.kind !== 'spectrum') throw new Error(JSON.stringify(read).slice(0, 200))
  expect(read.bins).toHaveLength(400000)
  const { combs } = hearSpectrum(read.bins)
  expect(combs.map(c => Math.round(c.spacingHz / 10) * 10)).toContain(SPACING_HZ)
})
