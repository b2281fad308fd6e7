import { findCombs, type CombResult } from './comb'
import { lineMotion, meanSpectrum, waterfall, type Recording, type Waterfall } from './spectrum'
import { tonesOf, widened, type Bin, type Tone } from './tones'

/** What was heard: the tones, their combs, and the picture they come from. */
export interface Heard extends CombResult {
  tones: Tone[]
  bins: Bin[] | null
  fall: Waterfall | null
  motions: { waverHz: number; driftHzPerS: number }[]
}

/** How much wider bins are tried: an oscillator of a converter may waver over a hundred Hz. */
const WIDER = [1, 4, 16] as const

/**
 * Combs of a spectrum, over fine and wide bins: the width that explains most tones is the one that fits how the lines
 * waver.
 */
export function hearSpectrum(bins: readonly Bin[]): Heard {
  const stepHz = bins.length > 1 ? (bins.at(-1)!.hz - bins[0]!.hz) / (bins.length - 1) : 1
  const tries = WIDER.filter(w => bins.length / w >= 64 || w === 1).map(w => {
    const tones = tonesOf(widened(bins, w))
    return { tones, result: findCombs(tones, w * stepHz), w }
  })
  const explained = ({ result }: (typeof tries)[number]) =>
    result.combs.reduce((n, c) => n + c.lines.length, 0) + (result.broadcast?.lines.length ?? 0)
  const best = tries.reduce((a, b) => (explained(b) > explained(a) ? b : a))
  return { ...best.result, tones: best.tones, bins: [...bins], fall: null, motions: [] }
}

/** Combs of typed tones; they are taken as read to the last figure written, 100 Hz at most. */
export function hearTones(tones: readonly Tone[], resolutionHz = 100): Heard {
  return { ...findCombs(tones, resolutionHz), tones: [...tones], bins: null, fall: null, motions: [] }
}

/** Combs of a recording, with how each wavers and drifts. null where it was stopped or is too short. */
export function hearRecording(recording: Recording, centreHz = 0, progress?: (share: number) => boolean): Heard | null {
  const fall = waterfall(recording, centreHz, progress)
  if (!fall) return null
  const bins = meanSpectrum(fall, recording.channels.length === 2)
  const found = hearSpectrum(bins)
  const motions = found.combs.map(comb => {
    const each = comb.lines.slice(0, 12).map(l => lineMotion(fall, l.hz, Math.min(comb.spacingHz / 4, 200)))
    const mean = (pick: (m: (typeof each)[number]) => number) =>
      each.reduce((s, m) => s + pick(m), 0) / Math.max(1, each.length)
    return { waverHz: mean(m => m.waverHz), driftHzPerS: mean(m => m.driftHzPerS) }
  })
  return { ...found, fall, motions }
}
