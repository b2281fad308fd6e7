import type { Comb, CombResult } from '../comb/comb'
import { findCombs } from '../comb/find'
import { ROUNDED } from '../comb/fit'
import { isIq, lineMotion, meanSpectrum, waterfall, type Recording, type Waterfall } from './spectrum'
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
  const best = tries.reduce((a, b) => (explained(b.result, b.w * stepHz) > explained(a.result, a.w * stepHz) ? b : a))
  return { ...best.result, tones: best.tones, bins: [...bins], fall: null, motions: [] }
}

/** How much of what stands out is lines, each for as much as it is nearer to its place than chance would put it. */
function explained({ combs, broadcast, mains }: CombResult, resolutionHz: number): number {
  const each = (spacingHz: number, offHz: number) => Math.log(spacingHz / Math.max(offHz, resolutionHz * ROUNDED))
  return (
    // A line with its sidebands is three tones at least.
    combs.reduce((sum, c) => sum + (c.rippleHz ? 3 : 1) * c.lines.length * each(c.spacingHz, c.waverHz), 0) +
    (broadcast ? broadcast.lines.length * each(broadcast.spacingHz, 0) : 0) +
    (mains ? mains.lines.length * each(mains.spacingHz, 0) : 0)
  )
}

/** Combs of typed tones. `resolutionHz` is the last figure that was written. */
export function hearTones(tones: readonly Tone[], resolutionHz = 100): Heard {
  return { ...findCombs(tones, resolutionHz), tones: [...tones], bins: null, fall: null, motions: [] }
}

/**
 * Combs of a recording, with how each wavers and drifts. null where it was stopped or is too short.
 * @param centreHz of I and Q; null where it is not known: then frequencies are told from it, and no harmonic numbers
 */
export function hearRecording(
  recording: Recording,
  centreHz: number | null = null,
  progress?: (share: number) => boolean,
): Heard | null {
  const fall = waterfall(recording, centreHz ?? 0, progress)
  if (!fall) return null
  const hasCentre = isIq(recording)
  const found = hearSpectrum(meanSpectrum(fall, hasCentre))
  const combs = hasCentre && centreHz === null ? found.combs.map(withoutHarmonics) : found.combs
  const motions = combs.map(comb => {
    const each = comb.lines.slice(0, 12).map(l => lineMotion(fall, l.hz, Math.min(comb.spacingHz / 4, 200)))
    const mean = (pick: (m: (typeof each)[number]) => number) =>
      each.reduce((s, m) => s + pick(m), 0) / Math.max(1, each.length)
    return { waverHz: mean(m => m.waverHz), driftHzPerS: mean(m => m.driftHzPerS) }
  })
  return { ...found, combs, fall, motions }
}

export const withoutHarmonics = (comb: Comb): Comb => ({
  ...comb,
  fundamentalHz: null,
  fundamentalUncertaintyHz: null,
  oddOnly: false,
  lines: comb.lines.map(l => ({ ...l, harmonic: null })),
})
