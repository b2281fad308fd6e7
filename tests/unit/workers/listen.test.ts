import { describe, expect, it } from 'vitest'
import { listenTo, listenToText } from '../../../app/workers/listen'
import { writeWav } from '../../../core/formats/wav'
import { madeUpRecording } from '../../data/recordings'

const bytes = (text: string) => new TextEncoder().encode(text)
const go = () => true

/** Two seconds of I and Q at 96 kS/s: hiss, and nine lines 8.1 kHz apart. */
const recording = () =>
  writeWav(
    madeUpRecording({
      seconds: 2,
      sampleRateHz: 96e3,
      hiss: 0.02,
      lines: 9,
      spacingHz: 8100,
      offsetHz: 500,
      level: 0.004,
      seed: 2,
    }),
  )

describe('what the comb view is shown', () => {
  it('of a recording: its comb, a column a pixel, a waterfall in bytes, and progress on the way', () => {
    const shares: number[] = []
    const answer = listenTo('evening.wav', recording(), 7.1e6, share => shares.push(share) > 0)
    if (!answer.ok) throw new Error(answer.wrong)
    const { combs, columns, rows, lowHz, highHz, motions } = answer.listened
    expect(combs).toHaveLength(1)
    expect(Math.abs(combs[0]!.spacingHz / 8100 - 1)).toBeLessThan(0.002)
    expect(columns).toHaveLength(900)
    expect([lowHz, highHz].map(hz => Math.round(hz / 1000))).toEqual([7052, 7148])
    expect(rows.length).toBeGreaterThan(2)
    expect(rows.length).toBeLessThanOrEqual(90)
    // Lines are bright, the floor is dark.
    const [row] = rows
    const lineAt = Math.round(((7.1e6 + 500 - lowHz) / (highHz - lowHz)) * 900)
    const near = Math.max(...row!.slice(lineAt - 2, lineAt + 3))
    const middle = [...row!].sort((a, b) => a - b)[450]!
    expect(near).toBeGreaterThan(middle + 60)
    expect(motions).toHaveLength(1)
    expect(shares.length).toBeGreaterThan(3)
    expect([...shares]).toEqual([...shares].sort((a, b) => a - b))
  })
  it('nothing where it was stopped', () => {
    const answer = listenTo('evening.wav', recording(), 7.1e6, share => share < 0.3)
    expect(answer).toMatchObject({ ok: false, wrong: expect.stringContaining('stopped') })
  })
  it('of a spectrum: its highest level in each column', () => {
    const lines = Array.from(
      { length: 4000 },
      (_, i) => `${14e6 + 100 * i},${i % 620 === 10 ? -70 : -100 + ((i * 7) % 5) / 5}`,
    )
    const answer = listenTo('sweep.csv', bytes(`frequency_hz,level_db\n${lines.join('\n')}\n`), 0, go)
    if (!answer.ok) throw new Error(answer.wrong)
    expect(answer.listened.rows).toEqual([])
    expect(Math.max(...answer.listened.columns)).toBe(-70)
    expect(Math.round(answer.listened.combs[0]!.spacingHz)).toBe(62000)
  })
  it('of typed tones: the tones themselves', () => {
    const answer = listenToText('frequency_khz\n14012\n14074\n14136\n14198\n')
    expect(answer.ok && answer.listened.tonesHz).toEqual([14012e3, 14074e3, 14136e3, 14198e3])
    expect(answer.ok && answer.listened.columns).toHaveLength(0)
  })
  it.each([
    ['a.wav', new Uint8Array(), /a\.wav is empty/],
    ['b.csv', bytes(''), /b\.csv is empty/],
    ['c.wav', bytes('RIFF1234WAVE'), /c\.wav: it says neither/],
    ['d.csv', bytes('frequency_hz\nabc\n'), /d\.csv, line 2: the frequency is abc/],
    ['e.txt', bytes('\0\0\0'), /line 1/],
  ] as const)('refuses %s in words', (name, content, wrong) => {
    const answer = listenTo(name, content, 0, go)
    expect(!answer.ok && answer.wrong).toMatch(wrong)
    expect(!answer.ok && answer.right.length).toBeGreaterThan(5)
  })
  it('knows a recording by what is in it, whatever it is called', () => {
    expect(listenTo('evening.bin', recording(), 7.1e6, go).ok).toBe(true)
  })
})
