import type { Tone } from '../listen/tones'
import type { Comb, CombResult, Fit } from './comb'
import { fitFrom, LEAST_LINES } from './fit'
import { combOf } from './harmonics'
import { isMains, mainsOf } from './mains'
import { asChannels, broadcastOf } from './raster'
import { seedsOf, type Limits } from './seeds'
import { foldedSidebands, isSidebandAt, rippleBetween, type Folded } from './sidebands'
import { besideHz, wandering } from './wander'

/** Spacings looked for, Hz: from under a mains frequency up. */
const SPACING = { least: 45, most: 600e3 }
/** A spacing is told from how exactly a tone was read by this factor. */
const LEAST_RESOLUTIONS = 4

/** Claimed only from here on. */
const LEAST_CONFIDENCE = 0.9
/** A short list that somebody typed may name a likely spacing, marked as not proven, from here on … */
const LIKELY = 0.6
/** … of so many tones at most, all but one of which it explains; of more tones it is proven or it is none. */
const SHORT_LIST = 6
const FEW_LINES = 4

/**
 * Natural logarithm of the odds against a row, before anything of it is seen (from `./run bench`'s table). Who types a
 * few tones has picked them because they look even.
 */
const AGAINST = 2
const AGAINST_PICKED = 0

const MOST_COMBS = 6

/**
 * Finds the combs among tones; several at once, strongest claim first.
 * @param resolutionHz how exactly the tones were read: a bin's width, or the last figure that somebody wrote
 */
export function findCombs(tones: readonly Tone[], resolutionHz = 1): CombResult {
  const folded = foldedSidebands(dedupe(tones, resolutionHz), resolutionHz)
  const broadcast = stationsAmong(folded, resolutionHz)
  const modulation = new Set(broadcast?.modulation)
  const stations = new Set(broadcast?.lines)
  const heard = folded.map(t => t.hz).filter(hz => !stations.has(hz) && !modulation.has(hz))
  let left = heard
  const combs: Comb[] = []
  const buzz: Comb[] = []
  const beside: Beside = new Map()
  for (let round = 0; round < 2 * MOST_COMBS && combs.length < MOST_COMBS; round++) {
    const comb = bestComb(left, resolutionHz, folded.length <= SHORT_LIST)
    if (!comb) break
    const used = new Set(comb.lines.map(l => l.hz))
    const rippleHz = rippleOf(comb, folded)
    const isSideband = (hz: number) =>
      rippleHz !== null && isSidebandAt(Math.abs(besideHz(comb, hz)), rippleHz, resolutionHz)
    left = left.filter(hz => !used.has(hz) && !isSideband(hz))
    if (isMains(comb)) buzz.push(comb)
    else if (!joined(combs, comb, { resolutionHz, beside })) combs.push(asChannels({ ...comb, rippleHz }))
  }
  const isOfComb = broadcast && combs.some(c => standsIn(c, broadcast.lines, resolutionHz))
  return {
    combs: combs.map(comb => wandering(comb, withoutOthers(heard, comb, [...combs, ...buzz]))),
    broadcast:
      broadcast && !isOfComb ? { spacingHz: broadcast.spacingHz, lines: broadcast.lines, ppm: broadcast.ppm } : null,
    mains: mainsOf(buzz),
    unexplained: left,
  }
}

/** Tones without the lines of every other comb. */
function withoutOthers(tones: readonly number[], comb: Comb, all: readonly Comb[]): number[] {
  const others = new Set(all.filter(c => c !== comb).flatMap(c => c.lines.map(l => l.hz)))
  return tones.filter(hz => !others.has(hz))
}

/** Whether all of some lines stand where a wider row has places: of 65 kHz every line is on the 5 kHz raster too. */
function standsIn(comb: Comb, lines: readonly number[], resolutionHz: number): boolean {
  const nearHz = Math.max(WAVERS * comb.waverHz, resolutionHz)
  return (
    comb.proven &&
    nearHz < SAME_LINE.share * comb.spacingHz &&
    lines.every(hz => Math.abs(besideHz(comb, hz)) <= nearHz)
  )
}
/** Lines stray so many times as far as they do as a rule. */
const WAVERS = 4

/** A full row of lines wider apart than the raster is no band of stations, however round its figure. */
function stationsAmong(tones: readonly Tone[], resolutionHz: number) {
  const broadcast = broadcastOf(tones, resolutionHz)
  const row = broadcast && bestComb(broadcast.lines, resolutionHz)
  const isRow =
    row &&
    row.spacingHz > 1.5 * broadcast.spacingHz &&
    row.lines.length >= 0.85 * broadcast.lines.length &&
    row.missing <= 0.4 * row.lines.length
  return isRow ? null : broadcast
}

/** The sidebands that its lines have, where half of them have any: of lines that wander some have by chance. */
function rippleOf(comb: Comb, folded: readonly Folded[]): number | null {
  const at = new Map(folded.map(f => [f.hz, f.rippleHz]))
  const each = comb.lines.flatMap(l => at.get(l.hz) ?? [])
  if (2 * each.length < comb.lines.length) return null
  const count = (hz: number) => each.filter(e => e === hz).length
  return [...new Set(each)].sort((a, b) => count(b) - count(a) || a - b)[0]!
}

/** Rows whose spacings differ by less than this share … */
const SAME_SHARE = 5e-3
/** … and whose lines lie no farther beside the other's than this share of the spacing, and this many Hz, are one's. */
const SAME_LINE = { share: 0.06, hz: 700 }

/** Rows beside those that were found, with how far, Hz: sidebands stand on both sides of their line. */
type Beside = Map<Comb, number[]>

/** A comb beside one that was found: its sidebands, or lines that swing to and fro and show at both turning points. */
function joined(
  combs: Comb[],
  comb: Comb,
  { resolutionHz, beside }: { resolutionHz: number; beside: Beside },
): boolean {
  for (const twin of combs) {
    // What is left of a row may be every second or third of its lines, or a few that seem to stand closer.
    const ratio = comb.spacingHz / twin.spacingHz
    const [more, fewer] = [Math.max(1, Math.round(ratio)), Math.max(1, Math.round(1 / ratio))]
    if (Math.abs(fewer * comb.spacingHz - more * twin.spacingHz) > SAME_SHARE * twin.spacingHz) continue
    const offs = comb.lines.map(l => besideHz(twin, l.hz)).sort((a, b) => a - b)
    const farthest = Math.max(-offs[0]!, offs.at(-1)!)
    if (farthest > Math.min(SAME_LINE.share * twin.spacingHz, SAME_LINE.hz)) continue
    const usualHz = offs[Math.floor(offs.length / 2)]!
    const known = beside.get(twin) ?? []
    beside.set(twin, [...known, usualHz])
    const ripple = rippleBetween(Math.abs(usualHz), resolutionHz)
    const isPair = known.some(hz => Math.abs(hz + usualHz) < SAME_OFF * resolutionHz)
    if (ripple !== null && isPair) twin.rippleHz = Math.min(twin.rippleHz ?? Infinity, ripple)
    else twin.waverHz = Math.max(twin.waverHz, Math.abs(usualHz))
    return true
  }
  return false
}
/** Offsets that differ by less than so many resolutions are one. */
const SAME_OFF = 3

/** A wavering line shows as several peaks close together: within so many resolutions they are one. */
const SPLIT = 8

/** … but never more than this, Hz: tones somebody typed were told apart by eye, and sidebands lie 50 Hz apart. */
const SPLIT_MOST_HZ = 25

function dedupe(tones: readonly Tone[], resolutionHz: number): Tone[] {
  const sorted = tones.filter(t => Number.isFinite(t.hz)).sort((a, b) => a.hz - b.hz)
  const kept: Tone[] = []
  for (const tone of sorted) {
    const last = kept.at(-1)
    if (!last || tone.hz - last.hz > Math.min(SPLIT * resolutionHz, Math.max(SPLIT_MOST_HZ, resolutionHz)))
      kept.push(tone)
    else if ((tone.db ?? 0) > (last.db ?? 0)) kept[kept.length - 1] = tone
  }
  return kept
}

function bestComb(tones: readonly number[], resolutionHz: number, isPicked = false): Comb | null {
  if (tones.length < LEAST_LINES) return null
  const limits: Limits = {
    leastHz: Math.max(SPACING.least, LEAST_RESOLUTIONS * resolutionHz),
    mostHz: SPACING.most,
    resolutionHz,
  }
  const { seeds, trials } = seedsOf(tones, limits)
  let best: Fit | null = null
  for (const seed of seeds) best = better(fitFrom(tones, seed, resolutionHz), best)
  if (!best) return null
  best = multiplesOf(tones, best, limits)
  // Every row that could have been begun was a chance to be fooled.
  const confidence = logistic(best.evidence - Math.log(trials) - AGAINST)
  const few = best.matched.length <= FEW_LINES
  const isCoarse = few && resolutionHz > COARSE_SHARE * best.spacing
  if (confidence >= LEAST_CONFIDENCE && !isCoarse) return combOf(best, { confidence, resolutionHz })
  return isPicked && best.matched.length >= tones.length - 1 ? likely(best, tones.length, resolutionHz) : null
}

const logistic = (lnOdds: number) => 1 / (1 + Math.exp(-lnOdds))

/** A row in a short list: a likely spacing, and not proven. */
function likely(fit: Fit, tones: number, resolutionHz: number): Comb | null {
  const pairs = (tones * (tones - 1)) / 2
  const confidence = Math.min(MOST_LIKELY, logistic(whole(fit) - Math.log(pairs) - AGAINST_PICKED))
  return confidence >= LIKELY ? { ...combOf(fit, { confidence, resolutionHz }), proven: false } : null
}

/** Lines read no better than this share of their spacing are coarse: three or four of them prove nothing. */
const COARSE_SHARE = 2e-3
/** No more is stated of what is not proven. */
const MOST_LIKELY = 0.89

/** Lines fade one by one, and not by lot: how full a row is counts for so much of what it would by lot. */
const FULLNESS = 0.5

/** What speaks for a row: the tones, and how full it is. */
const whole = (fit: Fit) => fit.evidence + FULLNESS * fit.taken

function better(fit: Fit | null, best: Fit | null): Fit | null {
  if (!fit || !best) return fit ?? best
  return whole(fit) > whole(best) ? fit : best
}

/** Whether the row is one of twice or half the spacing, or three times, or a third: what says most of the tones. */
function multiplesOf(tones: readonly number[], fit: Fit, { leastHz, mostHz, resolutionHz }: Limits): Fit {
  const anchors = [...fit.matched].sort((a, b) => a.k - b.k).slice(0, 3)
  const others = [2, 3, 1 / 2, 1 / 3].flatMap(factor => {
    const spacing = fit.spacing * factor
    if (spacing < leastHz || spacing > mostHz) return []
    return anchors.flatMap(({ hz }) => fitFrom(tones, { anchor: hz, spacing }, resolutionHz) ?? [])
  })
  const best = others.reduce<Fit>((a, b) => (whole(b) > whole(a) + 1e-9 ? b : a), fit)
  return best === fit ? fit : multiplesOf(tones, best, { leastHz, mostHz, resolutionHz })
}
