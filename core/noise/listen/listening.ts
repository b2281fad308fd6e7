import { abResult, heardOf, type AbBlock, type AbDifference, type AbResult } from './ab'
import type { Comb, CombResult } from '../comb/comb'
import { hearSpectrum, withoutHarmonics } from './listen'
import { levelBetween, LiveSpectrum, NOISE_BINS, type LiveSource } from './live'
import type { Bin } from './tones'

/** A receiver that is listened to as it plays: its level, its combs, and what switching something makes of them. */

export interface ListenedTo extends LiveSource {
  /** Of I and Q; null where it is not known: frequencies then count from it. */
  centreHz: number | null
}

export type Switched = 'on' | 'off'

/** On against off, segment by segment and line by line. */
export interface Comparison extends Pick<AbResult, 'on' | 'off' | 'whole' | 'isMore'> {
  heard: ReturnType<typeof heardOf>
  /** Mean level in each Hz, dB under full scale. */
  perHz: { onDb: number; offDb: number }
  segments: (AbDifference & { lowHz: number; highHz: number })[]
  lines: (AbDifference & { hz: number })[]
  /** Mean spectra, dB. */
  onDb: Float32Array
  offDb: Float32Array
}

/** The spectrum that combs are looked for in follows what comes with this time constant, s. */
const FOLLOWS_S = 5
/** After a switch nothing is counted for so long: relays, gain controls and hands settle, s. */
const SETTLES_S = 0.5
/** A shorter stretch is no block, s. */
const LEAST_BLOCK_S = 1
const SEGMENTS = 16
/** A line is so many bins on each side of its middle. */
const LINE_BINS = 2
/** Of a sound-card recording the ends roll off: this share of each is left out. */
const EDGE = 0.03

interface Stretch {
  isOn: boolean
  power: Float64Array
  rows: number
}

export class Listening {
  readonly spectrum: LiveSpectrum
  private readonly mean: Float64Array
  private heardRows = 0
  private current: Stretch | null = null
  private settling = 0
  private readonly done: Stretch[] = []
  private lines: readonly number[] = []

  constructor(readonly source: ListenedTo) {
    this.spectrum = new LiveSpectrum(source)
    this.mean = new Float64Array(this.spectrum.bins)
  }

  get lowHz(): number {
    return this.spectrum.lowHz + (this.source.centreHz ?? 0)
  }

  /** Samples in, one array a channel. @returns rows of powers that they complete */
  push(channels: readonly Float32Array[]): Float32Array[] {
    const rows = this.spectrum.push(channels)
    for (const row of rows) this.take(row)
    return rows
  }

  private take(row: Float32Array) {
    this.heardRows++
    // At first a plain mean, so that it does not begin with silence.
    const share = Math.max(1 / this.heardRows, this.spectrum.rowSeconds / FOLLOWS_S)
    for (let b = 0; b < row.length; b++) this.mean[b]! += share * (row[b]! - this.mean[b]!)
    if (!this.current) return
    if (this.settling-- > 0) return
    const { power } = this.current
    for (let b = 0; b < row.length; b++) power[b]! += row[b]!
    this.current.rows++
  }

  /** From now on it is on, or off; null: neither is counted. */
  switchTo(state: Switched | null) {
    if (this.current && this.current.rows * this.spectrum.rowSeconds >= LEAST_BLOCK_S) this.done.push(this.current)
    this.current = state && { isOn: state === 'on', power: new Float64Array(this.spectrum.bins), rows: 0 }
    this.settling = Math.ceil(SETTLES_S / this.spectrum.rowSeconds)
  }

  /** Begins the comparison anew. */
  forget() {
    this.done.length = 0
    this.current = null
  }

  private binOf(hz: number): number {
    return (hz - this.lowHz) / this.spectrum.binHz
  }

  /** Level in a bandwidth around a frequency, dB under full scale. */
  level(hz: number, widthHz: number): number {
    return levelBetween(this.mean, this.binOf(hz - widthHz / 2), this.binOf(hz + widthHz / 2))
  }

  /** Combs of what was heard of late. */
  combs(): CombResult {
    const { binHz, bins } = this.spectrum
    const isIq = this.source.isIq
    const first = isIq ? Math.round(EDGE * bins) : Math.round(MIN_AUDIO_HZ / binHz)
    const all: Bin[] = []
    for (let b = first; b < (isIq ? bins - first : bins); b++)
      all.push({ hz: this.lowHz + b * binHz, db: 10 * Math.log10(this.mean[b]! + 1e-20) })
    // The receiver's own spike in the middle.
    if (isIq) for (let d = -2; d <= 2; d++) all[bins / 2 - first + d]!.db = all[bins / 2 - first - 4]!.db
    const found = hearSpectrum(all)
    this.lines = found.combs.flatMap((c: Comb) => c.lines.map(l => l.hz))
    const combs = isIq && this.source.centreHz === null ? found.combs.map(withoutHarmonics) : found.combs
    return { combs, broadcast: found.broadcast, mains: found.mains, unexplained: found.unexplained }
  }

  /** On against off as far as it goes; null until there is a stretch of each. */
  compared(): Comparison | null {
    const counted = [...this.done, ...(this.isBlock(this.current) ? [this.current!] : [])]
    const edges = this.edges()
    const blocks = counted.map((s): AbBlock => ({ isOn: s.isOn, powers: powersIn(s, edges) }))
    const result = abResult(blocks)
    if (!result) return null
    const around = this.lines.map(hz => [this.binOf(hz) - LINE_BINS, this.binOf(hz) + LINE_BINS + 1] as const)
    const ofLines = around.length
      ? abResult(counted.map(s => ({ isOn: s.isOn, powers: powersIn(s, around) })))!.segments
      : []
    const linesRise = ofLines.some(l => l.differenceDb > 0 && l.chance * ofLines.length < LINE_CHANCE)
    const { binHz } = this.spectrum
    const widthHz = (edges.at(-1)![1] - edges[0]![0]) * binHz
    const inEachHz = (db: number) => db - 10 * Math.log10(widthHz * NOISE_BINS)
    return {
      perHz: { onDb: inEachHz(result.whole.onDb), offDb: inEachHz(result.whole.offDb) },
      on: result.on,
      off: result.off,
      whole: result.whole,
      isMore: result.isMore || linesRise,
      heard: linesRise ? 'weaker' : heardOf(result),
      segments: result.segments.map((d, i) => ({
        ...d,
        lowHz: this.lowHz + edges[i]![0] * binHz,
        highHz: this.lowHz + edges[i]![1] * binHz,
      })),
      lines: ofLines.map((d, i) => ({ ...d, hz: this.lines[i]! })),
      onDb: meanDb(counted.filter(s => s.isOn)),
      offDb: meanDb(counted.filter(s => !s.isOn)),
    }
  }

  private isBlock(stretch: Stretch | null): boolean {
    return stretch !== null && stretch.rows * this.spectrum.rowSeconds >= LEAST_BLOCK_S
  }

  /** Bins between which the segments lie. */
  private edges(): (readonly [number, number])[] {
    const { bins } = this.spectrum
    const first = this.source.isIq ? EDGE * bins : MIN_AUDIO_HZ / this.spectrum.binHz
    const last = bins - (this.source.isIq ? first : 0)
    const each = (last - first) / SEGMENTS
    return Array.from({ length: SEGMENTS }, (_, i) => [first + i * each, first + (i + 1) * each] as const)
  }
}

/** What a sound card hears below this is no receiver's, Hz. */
const MIN_AUDIO_HZ = 40
/** A line that rises is more than chance where all lines together make it no oftener than this. */
const LINE_CHANCE = 0.01

function powersIn({ power, rows }: Stretch, edges: readonly (readonly [number, number])[]): Float64Array {
  return Float64Array.from(edges, ([from, to]) => {
    let sum = 0
    for (let b = Math.max(0, Math.floor(from)); b < Math.min(power.length, Math.floor(to)); b++) sum += power[b]!
    return sum / rows
  })
}

function meanDb(stretches: readonly Stretch[]): Float32Array {
  const rows = stretches.reduce((s, x) => s + x.rows, 0)
  return Float32Array.from(stretches[0]!.power, (_, b) => {
    const sum = stretches.reduce((s, x) => s + x.power[b]!, 0)
    return 10 * Math.log10(sum / rows + 1e-20)
  })
}
