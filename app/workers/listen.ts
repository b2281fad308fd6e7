import { hearCsv } from '#core/formats/heardCsv'
import { centreInName, HEADING_BYTES, openWav, readWavPiece, wavPiece, wavSeconds } from '#core/formats/wav'
import type { CombResult } from '#core/noise/comb/comb'
import { hearRecording, type Heard } from '#core/noise/listen/listen'
import { isIq } from '#core/noise/listen/spectrum'

/**
 * What the comb view shows of a file: the combs, and its spectrum and waterfall cut down to what a screen has columns
 * for.
 */
export interface Listened extends CombResult {
  tones: number
  lowHz: number
  highHz: number
  /** Highest level in each column, dB; empty for typed tones. */
  columns: Float32Array
  /** Waterfall, a row of bytes a moment, newest last. */
  rows: Uint8Array[]
  tonesHz: number[]
  motions: Heard['motions']
  /** Of I and Q, what it is around; null where nothing says it: then frequencies count from there. */
  centreHz?: number | null
  /** Of a recording, which stretch of it was listened to, and how long all of it is, s. */
  stretch?: { fromS: number; toS: number; ofS: number }
}
export type ListenAnswer = { ok: true; listened: Listened } | { ok: false; wrong: string; right: string }

const COLUMNS = 900
const MOST_ROWS = 90

/** What a file is asked: as a Blob is. */
type Bytes = Pick<Blob, 'size' | 'slice'>

/** How a file is to be listened to. */
export interface Listening {
  /** What I and Q are around, where somebody says it; else the file or its name may. */
  saidHz?: number | null
  /** Of a long recording, from where, s. */
  fromS?: number
  /** Told the share done; stops it by returning false. */
  progress?: (share: number) => boolean
}

/** Longest list or spectrum that is read, bytes. */
const MOST_TEXT = 100e6

/** Reads and listens to a file of any of the three kinds; of a long recording, a minute. */
export async function listenTo(name: string, file: Bytes, listening: Listening = {}): Promise<ListenAnswer> {
  if (!file.size)
    return { ok: false, wrong: `${name} is empty`, right: 'a WAV recording, a spectrum or a list of tones' }
  const bytesOf = async (from: number, to: number) => new Uint8Array(await file.slice(from, to).arrayBuffer())
  const beginning = await bytesOf(0, HEADING_BYTES)
  const isWav = ['RIFF', 'RF64'].includes(new TextDecoder('latin1').decode(beginning.subarray(0, 4)))
  if (!isWav && !/\.wav$/i.test(name)) {
    if (file.size > MOST_TEXT)
      return { ok: false, wrong: `${name} has ${Math.round(file.size / 1e6)} MB of text`, right: 'at most 100 MB' }
    return listenToText(new TextDecoder().decode(await bytesOf(0, file.size)), name)
  }
  const opened = openWav(beginning, file.size)
  if (!opened.ok) return { ok: false, wrong: `${name}: ${opened.wrong}`, right: opened.right }
  const { wav } = opened
  const { start, bytes, fromS, toS } = wavPiece(wav, listening.fromS ?? 0)
  const recording = readWavPiece(wav, await bytesOf(start, start + bytes))
  const centreHz = listening.saidHz ?? wav.centreHz ?? centreInName(name)
  const heard = hearRecording(recording, centreHz, listening.progress)
  if (!heard)
    return { ok: false, wrong: `${name} is too short, or was stopped`, right: 'at least a second of recording' }
  const stretch = { fromS, toS, ofS: wavSeconds(wav) }
  return { ok: true, listened: { ...shown(heard), ...(isIq(recording) && { centreHz }), stretch } }
}

export function listenToText(text: string, name = 'the list'): ListenAnswer {
  const read = hearCsv(text)
  if (!read.ok) return { ok: false, wrong: `${name}, line ${read.line}: ${read.wrong}`, right: read.right }
  return { ok: true, listened: shown(read.heard) }
}

function shown(heard: Heard): Listened {
  const { bins, fall, tones } = heard
  const all = bins?.length ? bins : tones
  const lowHz = all.length ? Math.min(...ends(all)) : 0
  const highHz = all.length ? Math.max(...ends(all)) : 1
  const columns = new Float32Array(bins ? COLUMNS : 0).fill(-200)
  bins?.forEach(b => {
    const c = Math.min(COLUMNS - 1, Math.floor(((b.hz - lowHz) / (highHz - lowHz || 1)) * COLUMNS))
    if (b.db > columns[c]!) columns[c] = b.db
  })
  for (let c = 1; c < columns.length; c++) if (columns[c] === -200) columns[c] = columns[c - 1]!
  return {
    combs: heard.combs,
    broadcast: heard.broadcast,
    mains: heard.mains,
    unexplained: heard.unexplained,
    tones: tones.length,
    lowHz,
    highHz,
    columns,
    rows: fall ? waterfallRows(fall.rows) : [],
    tonesHz: tones.map(t => t.hz),
    motions: heard.motions,
  }
}

const ends = (list: readonly { hz: number }[]) => [list[0]!.hz, list.at(-1)!.hz]

/** Rows as bytes between the quietest and the loudest tenth. */
function waterfallRows(rows: Float32Array[]): Uint8Array[] {
  const step = Math.max(1, Math.ceil(rows.length / MOST_ROWS))
  const sample = rows[0]!.filter((_, i) => i % 97 === 0).sort()
  const floor = Math.max(1e-20, sample[Math.floor(sample.length / 2)]!)
  return rows
    .filter((_, r) => r % step === 0)
    .map(row => {
      const out = new Uint8Array(COLUMNS)
      for (let c = 0; c < COLUMNS; c++) {
        let most = 0
        const to = Math.max(Math.floor((c * row.length) / COLUMNS) + 1, Math.floor(((c + 1) * row.length) / COLUMNS))
        for (let b = Math.floor((c * row.length) / COLUMNS); b < to; b++) if (row[b]! > most) most = row[b]!
        out[c] = Math.max(0, Math.min(255, Math.round((10 * Math.log10(most / floor) * 255) / 40)))
      }
      return out
    })
}
