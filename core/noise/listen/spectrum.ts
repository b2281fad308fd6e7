import FFT from 'fft.js'
import type { Bin } from './tones'

/** Samples of a recording: one channel is audio, two are I and Q around a centre frequency. Full scale is 1. */
export interface Recording {
  sampleRateHz: number
  channels: Float32Array[]
}

/**
 * A recording as spectra over time: one row of powers (full scale 1) a moment, all over the same frequencies. Powers,
 * since they are averaged: a level is taken where one is shown.
 */
export interface Waterfall {
  binHz: number
  lowHz: number
  rows: Float32Array[]
  secondsPerRow: number
}

/** Two channels that are this much alike are one sound twice; of I and Q each is what the other is not. */
const ALIKE = 0.95

/** Whether a recording is I and Q: two channels, and not the same sound in both. */
export function isIq({ channels: [left, right] }: Recording): boolean {
  if (!left || !right) return false
  let [ll, rr, lr] = [0, 0, 0]
  for (let n = 0; n < left.length; n += 7) {
    ll += left[n]! ** 2
    rr += right[n]! ** 2
    lr += left[n]! * right[n]!
  }
  return Math.abs(lr) < ALIKE * Math.sqrt(ll * rr)
}

/** Largest transform: 3 Hz a bin at 192 kS/s. */
const LARGEST = 65536

/** Size of the transform: a power of two that leaves some rows to average. */
export function transformSize(samples: number, rateHz: number): number {
  let size = 1024
  // Bins of a few Hz are as fine as an oscillator of a converter stands still for.
  while (size < LARGEST && size * 8 <= samples && rateHz / size > 2.5) size *= 2
  return size
}

/**
 * Spectra of a recording, windowed, half overlapped. `progress` is told the share done, and stops it by returning
 * false.
 * @returns null where it was stopped, or the recording is too short
 */
export function waterfall(
  recording: Recording,
  centreHz = 0,
  progress: (share: number) => boolean = () => true,
): Waterfall | null {
  const [i, second] = recording.channels
  const q = isIq(recording) ? second : undefined
  const samples = i?.length ?? 0
  const size = transformSize(samples, recording.sampleRateHz)
  if (!i || samples < size) return null
  const fft = new FFT(size)
  const window = Float64Array.from(
    { length: size },
    (_, n) => 0.42 - 0.5 * Math.cos((2 * Math.PI * n) / size) + 0.08 * Math.cos((4 * Math.PI * n) / size),
  )
  const gain = window.reduce((s, w) => s + w, 0)
  const data = new Float64Array(2 * size)
  const out = new Float64Array(2 * size)
  const bins = q ? size : size / 2
  // Half overlapped where the recording is short; a long one is quicker row by row, and has rows enough.
  const hop = samples >= 20 * size ? size : size / 2
  const count = Math.floor((samples - size) / hop) + 1
  const rows: Float32Array[] = []
  for (let r = 0; r < count; r++) {
    if (!progress(r / count)) return null
    const start = r * hop
    for (let n = 0; n < size; n++) {
      data[2 * n] = i[start + n]! * window[n]!
      data[2 * n + 1] = q ? q[start + n]! * window[n]! : 0
    }
    fft.transform(out, data)
    const row = new Float32Array(bins)
    for (let b = 0; b < bins; b++) {
      // Negative frequencies stand in the upper half of the transform: below the centre.
      const k = q ? (b + size / 2) % size : b
      const re = out[2 * k]! / gain
      const im = out[2 * k + 1]! / gain
      row[b] = re * re + im * im + 1e-20
    }
    rows.push(row)
  }
  const binHz = recording.sampleRateHz / size
  return {
    binHz,
    lowHz: q ? centreHz - recording.sampleRateHz / 2 : 0,
    rows,
    secondsPerRow: hop / recording.sampleRateHz,
  }
}

/**
 * The mean spectrum of a waterfall: powers averaged, dB. The receiver's own spike in the middle of an I/Q recording is
 * left out.
 */
export function meanSpectrum(fall: Waterfall, hasCentre: boolean): Bin[] {
  const n = fall.rows[0]?.length ?? 0
  const power = new Float64Array(n)
  for (const row of fall.rows) for (let b = 0; b < n; b++) power[b]! += row[b]!
  const bins = Array.from(power, (p, b): Bin => ({
    hz: fall.lowHz + b * fall.binHz,
    db: 10 * Math.log10(p / fall.rows.length),
  }))
  if (hasCentre)
    for (let b = Math.max(0, n / 2 - 2); b <= Math.min(n - 1, n / 2 + 2); b++)
      bins[b]!.db = bins[Math.max(0, n / 2 - 4)]!.db
  return bins
}

/** How a line moves over a recording: its scatter around a straight line, Hz, and that line's slope, Hz/s. */
export function lineMotion(fall: Waterfall, hz: number, reachHz: number): { waverHz: number; driftHzPerS: number } {
  const centre = (hz - fall.lowHz) / fall.binHz
  const reach = Math.max(2, Math.round(reachHz / fall.binHz))
  const places = fall.rows.map(row => {
    let best = Math.round(centre)
    for (
      let b = Math.max(1, Math.round(centre) - reach);
      b <= Math.min(row.length - 2, Math.round(centre) + reach);
      b++
    )
      if (row[b]! > row[best]!) best = b
    return best * fall.binHz
  })
  const n = places.length
  if (n < 3) return { waverHz: 0, driftHzPerS: 0 }
  const meanT = (n - 1) / 2
  const mean = places.reduce((s, p) => s + p, 0) / n
  const slope =
    places.reduce((s, p, t) => s + (t - meanT) * (p - mean), 0) / places.reduce((s, _, t) => s + (t - meanT) ** 2, 0)
  const scatter = Math.sqrt(places.reduce((s, p, t) => s + (p - mean - slope * (t - meanT)) ** 2, 0) / n)
  return { waverHz: Math.max(0, scatter - fall.binHz / Math.sqrt(12)), driftHzPerS: slope / fall.secondsPerRow }
}
