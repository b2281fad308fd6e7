import { describe, expect, it } from 'vitest'
import { listenTo, listenToText } from '../../../app/workers/listen'
import { writeWav } from '../../../core/formats/wav'
import { madeUpRecording } from '../../data/recordings'

const bytes = (text: string) => new TextEncoder().encode(text)
/** A file of these bytes, as a page has it. */
const blob = (content: Uint8Array) => new Blob([new Uint8Array(content)])

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
  it('of a recording: its comb, a column a pixel, a waterfall in bytes, and progress on the way', async () => {
    const shares: number[] = []
    const answer = await listenTo('evening.wav', blob(recording()), {
      saidHz: 7.1e6,
      progress: share => shares.push(share) > 0,
    })
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
  it('nothing where it was stopped', async () => {
    const answer = await listenTo('evening.wav', blob(recording()), { progress: share => share < 0.3 })
    expect(answer).toMatchObject({ ok: false, wrong: expect.stringContaining('stopped') })
  })
  it('of a spectrum: its highest level in each column', async () => {
    const lines = Array.from(
      { length: 4000 },
      (_, i) => `${14e6 + 100 * i},${i % 620 === 10 ? -70 : -100 + ((i * 7) % 5) / 5}`,
    )
    const answer = await listenTo('sweep.csv', blob(bytes(`frequency_hz,level_db\n${lines.join('\n')}\n`)))
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
  ] as const)('refuses %s in words', async (name, content, wrong) => {
    const answer = await listenTo(name, blob(content))
    expect(!answer.ok && answer.wrong).toMatch(wrong)
    expect(!answer.ok && answer.right.length).toBeGreaterThan(5)
  })
  it('knows a recording by what is in it, whatever it is called', async () => {
    expect((await listenTo('evening.bin', blob(recording()))).ok).toBe(true)
  })
  it('of a recording longer than memory: the minute that is asked for, and no byte beside it', async () => {
    const [rate, hours] = [192000, 5]
    const short = writeWav({ sampleRateHz: rate, channels: [new Float32Array(2048), new Float32Array(2048)] })
    const heading = short.slice(0, 44)
    const size = 44 + rate * 4 * 3600 * hours
    new DataView(heading.buffer).setUint32(40, 0, true)
    const asked: [number, number][] = []
    // Silence, but for one tone in the second hour.
    const file = {
      size,
      slice: (from = 0, to = size) => {
        asked.push([from, to])
        if (from === 0) return new Blob([heading, new Uint8Array(1 << 20)])
        const samples = new Int16Array((to - from) / 2)
        // A little hiss: without it the roundings would be tones of their own.
        let seed = 1
        const hiss = () => (seed = (seed * 16807) % 2147483647) / 5e7 - 21
        for (let n = 0; n < samples.length / 2; n++) {
          const phase = (2 * Math.PI * 24003.7 * n) / rate
          samples[2 * n] = Math.round(8000 * Math.cos(phase) + hiss())
          samples[2 * n + 1] = Math.round(8000 * Math.sin(phase) + hiss())
        }
        return new Blob([samples])
      },
    }
    const answer = await listenTo('night 7100kHz.wav', file, { fromS: 5400 })
    if (!answer.ok) throw new Error(answer.wrong)
    expect(answer.listened.stretch).toEqual({ fromS: 5400, toS: 5460, ofS: 18000 })
    expect(asked[1]).toEqual([44 + 5400 * rate * 4, 44 + 5460 * rate * 4])
    expect(answer.listened.unexplained.map(hz => Math.round(hz / 100) / 10)).toEqual([7124])
  })
})
