import { describe, expect, it } from 'vitest'
import { readTonesCsv } from '../../../core/formats/tonesCsv'
import { centreInName, readWav, writeWav } from '../../../core/formats/wav'
import { hearRecording } from '../../../core/noise/listen/listen'
import { randomFrom } from '../../../core/chance/random'
import { isIq, waterfall } from '../../../core/noise/listen/spectrum'

describe('a WAV recording', () => {
  const recording = {
    sampleRateHz: 48000,
    channels: [
      Float32Array.from({ length: 4800 }, (_, n) => 0.5 * Math.sin(n / 7)),
      Float32Array.from({ length: 4800 }, (_, n) => 0.4 * Math.cos(n / 5)),
    ],
  }
  it('comes back as it was written, to 16 bits', () => {
    const read = readWav(writeWav(recording))
    if (!read.ok) throw new Error(read.wrong)
    expect(read.recording.sampleRateHz).toBe(48000)
    for (let c = 0; c < 2; c++)
      for (let n = 0; n < 4800; n += 97)
        expect(read.recording.channels[c]![n]).toBeCloseTo(recording.channels[c]![n]!, 3)
  })
  it.each([
    [8, 1, 1],
    [24, 1, 6],
    [32, 1, 7],
    [32, 3, 6],
  ])('of %i bits, kind %i, is read', (bits, code, digits) => {
    const frames = 2048
    const view = new DataView(new ArrayBuffer(44 + (frames * bits) / 8))
    const text = (at: number, word: string) => [...word].forEach((ch, i) => view.setUint8(at + i, ch.charCodeAt(0)))
    text(0, 'RIFF')
    text(8, 'WAVEfmt ')
    text(36, 'data')
    view.setUint32(16, 16, true)
    view.setUint16(20, code, true)
    view.setUint16(22, 1, true)
    view.setUint32(24, 96000, true)
    view.setUint16(34, bits, true)
    view.setUint32(40, (frames * bits) / 8, true)
    const value = (n: number) => 0.5 * Math.sin(n / 9)
    for (let n = 0; n < frames; n++) {
      const at = 44 + (n * bits) / 8
      if (code === 3) view.setFloat32(at, value(n), true)
      else if (bits === 8) view.setUint8(at, Math.round(128 + 127 * value(n)))
      else if (bits === 24) {
        const v = Math.round(value(n) * 8388607)
        view.setUint16(at, v & 0xffff, true)
        view.setInt8(at + 2, v >> 16)
      } else view.setInt32(at, Math.round(value(n) * 2147483647), true)
    }
    const read = readWav(new Uint8Array(view.buffer))
    if (!read.ok) throw new Error(read.wrong)
    for (let n = 0; n < frames; n += 61) expect(read.recording.channels[0]![n]).toBeCloseTo(value(n), digits)
  })
  it.each([
    [new Uint8Array(0), 'empty'],
    [new TextEncoder().encode('hello, this is no recording at all'), 'does not begin'],
    [writeWav(recording).slice(0, 30), 'stops in the middle'],
    [writeWav(recording).slice(0, 400), 'samples'],
  ])('broken is refused in words', (bytes, words) => {
    const read = readWav(bytes)
    expect(read.ok).toBe(false)
    if (!read.ok) expect(read.wrong).toContain(words)
  })
  it('of I and Q gives the comb at its true frequencies, with its wavering', () => {
    const { uniform, normal } = randomFrom(3)
    const [rate, centre, f0] = [96000, 14.1e6, 11870]
    const n = 4 * rate
    const [i, q] = [new Float32Array(n), new Float32Array(n)]
    for (let k = 0; k < n; k++) {
      i[k] = 0.02 * normal()
      q[k] = 0.02 * normal()
    }
    for (let h = Math.ceil((centre - 44e3) / f0); h * f0 < centre + 44e3; h++) {
      let phase = 6.28 * uniform()
      for (let k = 0; k < n; k++) {
        phase += (2 * Math.PI * (h * f0 - centre + 15 * Math.sin((5 * k) / rate))) / rate
        i[k]! += 0.004 * Math.cos(phase)
        q[k]! += 0.004 * Math.sin(phase)
      }
    }
    const heard = hearRecording({ sampleRateHz: rate, channels: [i, q] }, centre)!
    expect(heard.combs).toHaveLength(1)
    expect(heard.combs[0]!.spacingHz / f0).toBeCloseTo(1, 3)
    expect((Math.round(heard.combs[0]!.lines[0]!.hz / f0) * f0) / heard.combs[0]!.lines[0]!.hz).toBeCloseTo(1, 5)
    expect(heard.motions[0]!.waverHz).toBeGreaterThan(2)
  })
  it('can be stopped', () => expect(hearRecording(recording, 0, () => false)).toBeNull())
})

describe('tone lists and spectra', () => {
  it.each([
    ['frequency_hz\n7000000\n7031000\n', [7e6, 7.031e6]],
    ['frequency_khz\n7031.5\n7000\n', [7e6, 7.0315e6]],
    ['frequency_khz;level_db\n7000,5;-80\n', [7.0005e6]],
  ])('%j', (text, hz) => {
    const read = readTonesCsv(text)
    expect(read.ok && read.kind === 'tones' && read.tones.map(t => t.hz)).toEqual(hz)
  })
  it('many bins on an even grid are a spectrum', () => {
    const text =
      'frequency_hz,level_db\n' + Array.from({ length: 80 }, (_, i) => `${7e6 + 100 * i},${-100 + (i % 3)}`).join('\n')
    const read = readTonesCsv(text)
    expect(read.ok && read.kind === 'spectrum' && read.bins.length).toBe(80)
  })
  it.each([
    ['', 1, 'empty'],
    ['frequency_khz,level_db\n7000,5,-80\n', 2, 'commas for decimals'],
    ['station\nseven\n', 1, 'station'],
    ['frequency_hz\nseven\n', 2, 'seven'],
    ['frequency_hz\n', 1, 'nothing under'],
    ['frequency_hz,level_db\n7000000,loud\n', 2, 'loud'],
    ['frequency_hz\n-3\n', 2, '-3'],
  ])('%j is refused by its line', (text, line, words) => {
    const read = readTonesCsv(text)
    expect(read.ok).toBe(false)
    if (!read.ok) expect(`${read.line} ${read.wrong}`).toMatch(new RegExp(`^${line} .*${words}`))
  })

  const levels = (heading: string, level: (i: number) => string, separator = ',') =>
    `${heading}\n${Array.from({ length: 80 }, (_, i) => `${7e6 + 100 * i}${separator}${level(i)}`).join('\n')}\n`
  it.each([
    ['level_dbm', levels('frequency_hz,level_dbm', i => `${-100 + (i % 3)}`), -99],
    ['dBµV, with a typographic minus', levels('Frequency (Hz);dBµV', i => `−${20 - (i % 3)},5`, ';'), -19.5],
    ['a power', levels('Hz,power_mw', i => `${i % 3 ? 1e-9 : 1e-10}`), -90],
    ['an amplitude', levels('freq_hz\tamplitude', i => `${i % 3 ? 1e-4 : 1e-5}`, '\t'), -80],
    ['minus infinity', levels('frequency_hz,level_dbfs', i => (i % 3 ? '-80' : '-inf')), -80],
    ['no heading', levels('# a sweep', i => `${-100 + (i % 3)}`), -99],
    ['sep= and comments', `sep=;\n# made at noon\n${levels('frequency_hz;level_db', () => '-88', ';')}`, -88],
  ])('of levels as %s is a spectrum', (_, text, second) => {
    const read = readTonesCsv(text)
    if (!read.ok || read.kind !== 'spectrum') throw new Error(JSON.stringify(read).slice(0, 200))
    expect(read.bins).toHaveLength(80)
    expect(read.bins[1]!.db).toBeCloseTo(second, 9)
    expect(Number.isFinite(read.bins[0]!.db)).toBe(true)
  })
  it.each([
    ['steps of 100 Hz and no level', levels('frequency_hz,note', () => 'x'), 'no level is told'],
    ['one column only', `hz\n${Array.from({ length: 90 }, (_, i) => 7e6 + 50 * i).join('\n')}`, 'as even as a sweep'],
  ])('a sweep of %s is refused, and not taken for tones', (_, text, words) => {
    const read = readTonesCsv(text)
    expect(read.ok).toBe(false)
    if (!read.ok) expect(read.wrong).toContain(words)
  })
  it.each([
    ['frequency_khz\n14012\n14074\n14136\n', 1000],
    ['frequency_khz\n14012.4\n14074.0\n14136.2\n', 100],
    ['MHz\n14.012\n14.074\n', 1000],
    ['frequency_hz\n14012400\n14074000\n', 100],
    ['frequency_hz\n14012437\n14074000\n', 1],
    ['14012\n14074\n14136\n', 1000],
  ])('%j was read to %i Hz', (text, resolutionHz) => {
    expect(readTonesCsv(text)).toMatchObject({ ok: true, kind: 'tones', resolutionHz })
  })
})

describe('a WAV recording as it comes', () => {
  const I = Float32Array.from({ length: 8192 }, (_, n) => 0.3 * Math.sin(n / 7))
  const Q = Float32Array.from({ length: 8192 }, (_, n) => 0.3 * Math.cos(n / 7))
  it.each([0, 0xffffffff])('of a recorder that crashed, its length %i, goes on to the end of the file', length => {
    const bytes = writeWav({ sampleRateHz: 48000, channels: [I, Q] })
    new DataView(bytes.buffer).setUint32(40, length, true)
    const read = readWav(bytes)
    expect(read.ok && read.recording.channels[0]!.length).toBe(8192)
  })
  it('of 64-bit float is read', () => {
    const view = new DataView(new ArrayBuffer(44 + 8 * 2048))
    new Uint8Array(view.buffer).set(writeWav({ sampleRateHz: 48000, channels: [I] }).slice(0, 44))
    view.setUint16(20, 3, true)
    view.setUint16(34, 64, true)
    view.setUint32(40, 8 * 2048, true)
    for (let n = 0; n < 2048; n++) view.setFloat64(44 + 8 * n, I[n]!, true)
    const read = readWav(new Uint8Array(view.buffer))
    expect(read.ok && read.recording.channels[0]![77]).toBeCloseTo(I[77]!, 6)
  })
  it.each([
    ['14074kHz', 14.074e6],
    ['evening 7.1 MHz.wav', 7.1e6],
    ['rec_20260101_7100000Hz_iq.wav', 7.1e6],
    ['evening.wav', null],
    ['192kS.wav', null],
  ])('named %j is around %d Hz', (name, hz) => expect(centreInName(name)).toBe(hz))
  it("says around what it is in its receiver's chunk", () => {
    const plain = writeWav({ sampleRateHz: 48000, channels: [I, Q] })
    const chunk = new DataView(new ArrayBuffer(8 + 36))
    ;[...'auxi'].forEach((c, i) => chunk.setUint8(i, c.charCodeAt(0)))
    chunk.setUint32(4, 36, true)
    chunk.setUint32(8 + 32, 3.65e6, true)
    const bytes = new Uint8Array([...plain.slice(0, 36), ...new Uint8Array(chunk.buffer), ...plain.slice(36)])
    expect(readWav(bytes)).toMatchObject({ ok: true, centreHz: 3.65e6 })
  })
  it('is audio where both channels hold the same sound, and I and Q where they do not', () => {
    expect(isIq({ sampleRateHz: 48000, channels: [I, Q] })).toBe(true)
    expect(isIq({ sampleRateHz: 48000, channels: [I, I.map(v => 0.9 * v)] })).toBe(false)
    expect(isIq({ sampleRateHz: 48000, channels: [I] })).toBe(false)
    expect(waterfall({ sampleRateHz: 48000, channels: [I, I] })!.lowHz).toBe(0)
  })
})
