import FFT from 'fft.js'

/** How samples of a receiver are to be read. */
export interface LiveSource {
  sampleRateHz: number
  /** Two channels around a centre; else one of audio. */
  isIq: boolean
}

/** Bins are about so wide, Hz: as fine as an oscillator of a converter stands still for, and a few rows a second. */
const BIN_HZ = 6

/** Spectra of sound as it comes, half overlapped: powers, full scale 1. */
export class LiveSpectrum {
  readonly size: number
  readonly binHz: number
  /** Of a row: below the centre first where there are two channels. */
  readonly bins: number
  private readonly fft: FFT
  private readonly window: Float64Array
  private readonly gain: number
  private readonly kept: Float64Array[]
  private filled = 0
  private readonly data: Float64Array
  private readonly out: Float64Array

  constructor(readonly source: LiveSource) {
    this.size = 1024
    while (source.sampleRateHz / this.size > 1.5 * BIN_HZ) this.size *= 2
    this.binHz = source.sampleRateHz / this.size
    this.bins = source.isIq ? this.size : this.size / 2
    this.fft = new FFT(this.size)
    this.window = Float64Array.from(
      { length: this.size },
      (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / this.size),
    )
    this.gain = this.window.reduce((s, w) => s + w, 0)
    this.kept = [new Float64Array(this.size), new Float64Array(this.size)]
    this.data = new Float64Array(2 * this.size)
    this.out = new Float64Array(2 * this.size)
  }

  /** Lowest frequency of a row, against the centre. */
  get lowHz(): number {
    return this.source.isIq ? -this.source.sampleRateHz / 2 : 0
  }

  /** Seconds from one row to the next. */
  get rowSeconds(): number {
    return this.size / 2 / this.source.sampleRateHz
  }

  /** Takes samples in, one array a channel. @returns the rows that they complete */
  push(channels: readonly Float32Array[]): Float32Array[] {
    const rows: Float32Array[] = []
    const [left, right] = channels
    for (let n = 0; n < left!.length; n++) {
      this.kept[0]![this.filled] = left![n]!
      this.kept[1]![this.filled] = this.source.isIq ? right![n]! : 0
      if (++this.filled < this.size) continue
      rows.push(this.row())
      for (const kept of this.kept) kept.copyWithin(0, this.size / 2)
      this.filled = this.size / 2
    }
    return rows
  }

  private row(): Float32Array {
    const { size, bins, data, out, window, gain } = this
    for (let n = 0; n < size; n++) {
      data[2 * n] = this.kept[0]![n]! * window[n]!
      data[2 * n + 1] = this.kept[1]![n]! * window[n]!
    }
    this.fft.transform(out, data)
    const row = new Float32Array(bins)
    for (let b = 0; b < bins; b++) {
      // Negative frequencies stand in the upper half of the transform: below the centre.
      const k = this.source.isIq ? (b + size / 2) % size : b
      const [re, im] = [out[2 * k]! / gain, out[2 * k + 1]! / gain]
      row[b] = re * re + im * im + 1e-20
    }
    return row
  }
}

/** Noise bandwidth of the window, bins: what a bin hears of noise beside it (Hann: 1.5). */
export const NOISE_BINS = 1.5

/** Level between two frequencies of a row, dB under full scale: its powers, without what bins hear twice. */
export function levelBetween(row: ArrayLike<number>, fromBin: number, toBin: number): number {
  let power = 0
  const [from, to] = [Math.max(0, Math.floor(fromBin)), Math.min(row.length, Math.ceil(toBin))]
  for (let b = from; b < to; b++) power += row[b]!
  return 10 * Math.log10(power / NOISE_BINS + 1e-20)
}
