import type { Recording } from '../noise/listen/spectrum'

/** Wherever a WAV file is refused. */
interface Refused {
  ok: false
  wrong: string
  right: string
}
export type WavResult = { ok: true; recording: Recording; centreHz: number | null } | Refused
export type WavOpened = { ok: true; wav: WavFile } | Refused

/** What a WAV file's heading says of it. */
export interface WavFile {
  sampleRateHz: number
  channels: number
  code: number
  bits: number
  /** Where its samples begin, bytes from the file's start, and how many of each channel there are. */
  start: number
  frames: number
  centreHz: number | null
}

/** A stretch of a file's samples. Bytes count from the file's start. */
export interface WavPiece {
  fromS: number
  toS: number
  start: number
  bytes: number
}

/** Of a long recording so much is read at once, s. */
export const MOST_SECONDS = 60
/** And so many samples of each channel: what fits into memory at any rate. */
const MOST_FRAMES = 60e6
/** A file's heading lies in so much of its beginning, bytes. */
export const HEADING_BYTES = 1 << 20

const WAV = 'a WAV recording, PCM or float, one channel of audio or two of I and Q'
const refuse = (wrong: string, right = WAV): Refused => ({ ok: false, wrong, right })

/** A whole file of WAV, or its first minute. Says what is wrong with one it cannot read. */
export function readWav(bytes: Uint8Array): WavResult {
  const opened = openWav(bytes, bytes.byteLength)
  if (!opened.ok) return opened
  const { start, bytes: length } = wavPiece(opened.wav, 0)
  return {
    ok: true,
    recording: readWavPiece(opened.wav, bytes.subarray(start, start + length)),
    centreHz: opened.wav.centreHz,
  }
}

/**
 * Reads the heading of a WAV recording: PCM of 8, 16, 24 or 32 bits or float of 32 or 64, one or two channels, any
 * rate. A recorder that crashed leaves a length of 0: then its samples go on to the end of the file.
 * @param beginning of the file, HEADING_BYTES of it or all
 * @param fileBytes how long the whole file is
 */
export function openWav(beginning: Uint8Array, fileBytes: number): WavOpened {
  const data = new DataView(beginning.buffer, beginning.byteOffset, beginning.byteLength)
  if (data.byteLength === 0) return refuse('the file is empty')
  const word = (at: number) =>
    at + 4 <= data.byteLength
      ? String.fromCharCode(data.getUint8(at), data.getUint8(at + 1), data.getUint8(at + 2), data.getUint8(at + 3))
      : ''
  if (!['RIFF', 'RF64'].includes(word(0)) || word(8) !== 'WAVE')
    return refuse('the file does not begin as a WAV file does')
  let format: Format | null = null
  let centreHz: number | null = null
  for (let at = 12; at + 8 <= data.byteLength;) {
    const name = word(at)
    const length = data.getUint32(at + 4, true)
    const body = at + 8
    if (name === 'fmt ') {
      if (body + 16 > data.byteLength) return refuse('the file stops in the middle of its heading')
      format = formatAt(data, body, length)
    }
    if (name === 'auxi') centreHz = receiverCentre(data, body, length)
    if (name === 'data') {
      if (!format) return refuse('its samples come before the line that says what they are')
      const wrong = formatRefused(format)
      if (wrong) return wrong
      const left = fileBytes - body
      const frames = Math.floor(samplesBytes(length, left) / ((format.bits / 8) * format.channels))
      if (frames < 1024) return refuse(`it holds ${frames} samples`, 'at least 1 024')
      return { ok: true, wav: { ...format, start: body, frames, centreHz } }
    }
    at = body + length + (length & 1)
  }
  return refuse(format ? 'it has no samples in it' : 'it says neither its format nor has samples')
}

/** Most that the length of 32 bits can say. */
const FIELD = 2 ** 32
/** A length that is 0 was not filled in by a recorder that crashed; beyond the field it is unsaid, or has run over. */
function samplesBytes(said: number, left: number): number {
  const isUnsaid = said === 0 || said === FIELD - 1 || left >= FIELD
  return isUnsaid ? left : Math.min(said, left)
}

interface Format {
  code: number
  channels: number
  sampleRateHz: number
  bits: number
}

function formatAt(data: DataView, body: number, length: number): Format {
  const code = data.getUint16(body, true)
  const isExtended = code === 0xfffe && length >= 26
  return {
    code: isExtended ? data.getUint16(body + 24, true) : code,
    channels: data.getUint16(body + 2, true),
    sampleRateHz: data.getUint32(body + 4, true),
    bits: data.getUint16(body + 14, true),
  }
}

function formatRefused({ code, bits, channels, sampleRateHz }: Format): Refused | null {
  const known = (code === 1 && [8, 16, 24, 32].includes(bits)) || (code === 3 && [32, 64].includes(bits))
  if (!known)
    return refuse(
      `its samples are of kind ${code} with ${bits} bits, which is compressed or not known here`,
      'PCM of 8, 16, 24 or 32 bits, or float of 32 or 64',
    )
  if (channels < 1 || channels > 2) return refuse(`it has ${channels} channels`, 'one of audio, or two of I and Q')
  if (sampleRateHz < 1000 || sampleRateHz > 20e6)
    return refuse(`its rate is ${sampleRateHz} samples a second`, 'between 1 000 and 20 000 000')
  return null
}

/** How long a recording is, s. */
export const wavSeconds = ({ frames, sampleRateHz }: WavFile) => frames / sampleRateHz

/** The piece of a recording that begins `fromS` seconds into it, or the last that is long enough. */
export function wavPiece(wav: WavFile, fromS: number): WavPiece {
  const most = Math.min(MOST_FRAMES, wav.sampleRateHz * MOST_SECONDS)
  const last = Math.max(0, wav.frames - most)
  const from = Math.min(Math.round(fromS * wav.sampleRateHz), last)
  const frames = Math.min(most, wav.frames - from)
  const frameBytes = (wav.bits / 8) * wav.channels
  return {
    fromS: from / wav.sampleRateHz,
    toS: (from + frames) / wav.sampleRateHz,
    start: wav.start + from * frameBytes,
    bytes: frames * frameBytes,
  }
}

/** The samples of a piece. @param bytes the file's, from where the piece starts */
export function readWavPiece({ bits, channels, code, sampleRateHz }: WavFile, bytes: Uint8Array): Recording {
  const data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const sampleBytes = bits / 8
  const frames = Math.floor(bytes.byteLength / (sampleBytes * channels))
  const read = reader(data, code, bits)
  const out = Array.from({ length: channels }, () => new Float32Array(frames))
  for (let n = 0; n < frames; n++)
    for (let c = 0; c < channels; c++) out[c]![n] = read((n * channels + c) * sampleBytes)
  return { sampleRateHz, channels: out }
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
