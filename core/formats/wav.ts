import type { Recording } from '../noise/listen/spectrum'

export type WavResult =
  { ok: true; recording: Recording; centreHz: number | null } | { ok: false; wrong: string; right: string }

/** Of a long recording so much is read, s. */
export const MOST_SECONDS = 60
/** Of a large file so much is enough for that at any rate that is common, bytes. */
export const MOST_BYTES = 400e6

/**
 * Reads a WAV recording: PCM of 8, 16, 24 or 32 bits or float of 32 or 64, one or two channels, any rate; of a large
 * one its beginning. A recorder that crashed leaves a length of 0: then it goes on to the end of the file. Says what is
 * wrong with one it cannot read.
 */
export function readWav(bytes: ArrayBuffer | Uint8Array): WavResult {
  const data =
    bytes instanceof Uint8Array ? new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength) : new DataView(bytes)
  const refuse = (
    wrong: string,
    right = 'a WAV recording, PCM or float, one channel of audio or two of I and Q',
  ): WavResult => ({ ok: false, wrong, right })
  if (data.byteLength === 0) return refuse('the file is empty')
  const word = (at: number) =>
    at + 4 <= data.byteLength
      ? String.fromCharCode(data.getUint8(at), data.getUint8(at + 1), data.getUint8(at + 2), data.getUint8(at + 3))
      : ''
  if (!['RIFF', 'RF64'].includes(word(0)) || word(8) !== 'WAVE')
    return refuse('the file does not begin as a WAV file does')
  let format: { code: number; channels: number; rate: number; bits: number } | null = null
  let centreHz: number | null = null
  for (let at = 12; at + 8 <= data.byteLength;) {
    const name = word(at)
    const length = data.getUint32(at + 4, true)
    const body = at + 8
    if (name === 'fmt ') {
      if (body + 16 > data.byteLength) return refuse('the file stops in the middle of its heading')
      let code = data.getUint16(body, true)
      if (code === 0xfffe && length >= 26) code = data.getUint16(body + 24, true)
      format = {
        code,
        channels: data.getUint16(body + 2, true),
        rate: data.getUint32(body + 4, true),
        bits: data.getUint16(body + 14, true),
      }
    }
    if (name === 'auxi') centreHz = receiverCentre(data, body, length)
    if (name === 'data') {
      if (!format) return refuse('its samples come before the line that says what they are')
      const left = data.byteLength - body
      // Not filled in by a recorder that crashed, or too long for the field.
      const isUnsaid = length === 0 || length === 0xffffffff
      const read = samples(data, { start: body, length: isUnsaid ? left : Math.min(length, left) }, format, refuse)
      return read.ok ? { ...read, centreHz } : read
    }
    at = body + length + (length & 1)
  }
  return refuse(format ? 'it has no samples in it' : 'it says neither its format nor has samples')
}

/** The receiver's own chunk: two times of 16 bytes, and then the centre frequency, Hz; null where it says none. */
function receiverCentre(data: DataView, body: number, length: number): number | null {
  const AT = 32
  if (length < AT + 4 || body + AT + 4 > data.byteLength) return null
  const hz = data.getUint32(body + AT, true)
  return hz > 0 ? hz : null
}

/**
 * The centre frequency that a file's name says, Hz: "evening 14074kHz", "14.074 MHz", "_7100000Hz_"; null where it says
 * none.
 */
export function centreInName(name: string): number | null {
  const match = /(\d+(?:[.,]\d+)?)\s*[_-]?\s*(hz|khz|mhz)(?![a-z])/i.exec(name)
  if (!match) return null
  const scale = { hz: 1, khz: 1e3, mhz: 1e6 }[match[2]!.toLowerCase()]!
  const hz = Number(match[1]!.replace(',', '.')) * scale
  return hz >= 1e4 && hz <= 3e9 ? hz : null
}

function samples(
  data: DataView,
  { start, length }: { start: number; length: number },
  format: { code: number; channels: number; rate: number; bits: number },
  refuse: (wrong: string, right?: string) => WavResult,
): WavResult {
  const { code, channels, rate, bits } = format
  const bytes = bits / 8
  const known = (code === 1 && [8, 16, 24, 32].includes(bits)) || (code === 3 && [32, 64].includes(bits))
  if (!known)
    return refuse(
      `its samples are of kind ${code} with ${bits} bits, which is compressed or not known here`,
      'PCM of 8, 16, 24 or 32 bits, or float of 32 or 64',
    )
  if (channels < 1 || channels > 2) return refuse(`it has ${channels} channels`, 'one of audio, or two of I and Q')
  if (rate < 1000 || rate > 20e6) return refuse(`its rate is ${rate} samples a second`, 'between 1 000 and 20 000 000')
  const frames = Math.min(Math.floor(length / (bytes * channels)), rate * MOST_SECONDS)
  if (frames < 1024) return refuse(`it holds ${frames} samples`, 'at least 1 024')
  const read = reader(data, code, bits)
  const out = Array.from({ length: channels }, () => new Float32Array(frames))
  for (let n = 0; n < frames; n++)
    for (let c = 0; c < channels; c++) out[c]![n] = read(start + (n * channels + c) * bytes)
  return { ok: true, recording: { sampleRateHz: rate, channels: out }, centreHz: null }
}

function reader(data: DataView, code: number, bits: number): (at: number) => number {
  if (code === 3) return bits === 64 ? at => data.getFloat64(at, true) : at => data.getFloat32(at, true)
  switch (bits) {
    case 8:
      return at => (data.getUint8(at) - 128) / 128
    case 16:
      return at => data.getInt16(at, true) / 32768
    case 24:
      return at => (data.getUint8(at) | (data.getUint8(at + 1) << 8) | (data.getInt8(at + 2) << 16)) / 8388608
    default:
      return at => data.getInt32(at, true) / 2147483648
  }
}

/** A recording as 16-bit PCM WAV: what the simulated receiver hands out. */
export function writeWav({ sampleRateHz, channels }: Recording): Uint8Array {
  const frames = channels[0]!.length
  const n = channels.length
  const view = new DataView(new ArrayBuffer(44 + frames * n * 2))
  const put = (at: number, text: string) => [...text].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)))
  put(0, 'RIFF')
  view.setUint32(4, 36 + frames * n * 2, true)
  put(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, n, true)
  view.setUint32(24, sampleRateHz, true)
  view.setUint32(28, sampleRateHz * n * 2, true)
  view.setUint16(32, n * 2, true)
  view.setUint16(34, 16, true)
  put(36, 'data')
  view.setUint32(40, frames * n * 2, true)
  for (let i = 0; i < frames; i++)
    for (let c = 0; c < n; c++)
      view.setInt16(44 + (i * n + c) * 2, Math.max(-32768, Math.min(32767, Math.round(channels[c]![i]! * 32767))), true)
  return new Uint8Array(view.buffer)
}
