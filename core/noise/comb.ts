import type { Tone } from './tones'

/**
 * One line of a comb: the tone that was heard, its place in the row, and its harmonic number where the comb is one of
 * multiples.
 */
export interface CombLine {
  hz: number
  index: number
  harmonic: number | null
  offHz: number
}

/** Evenly spaced tones. */
export interface Comb {
  /** Between neighbouring lines. */
  spacingHz: number
  /** Standard uncertainty of the spacing. */
  uncertaintyHz: number
  /** How surely it is no chance, 0–1. */
  confidence: number
  lines: CombLine[]
  /**
   * What it is a multiple of: the spacing, or half of it where only odd multiples are there; null where the lines are
   * no multiples.
   */
  fundamentalHz: number | null
  oddOnly: boolean
  /** How far the lines stray from even spacing, Hz: what an oscillator that is not radio grade does. */
  waverHz: number
  /** Lines that would lie between the outermost ones but were not heard. */
  missing: number
}

export interface CombResult {
  combs: Comb[]
  /** Carriers on the broadcasters' raster: evenly spaced, but no fault of the station's. */
  broadcast: { spacingHz: number; lines: number[] } | null
  unexplained: number[]
}

/** Fewest lines that make a comb. */
const LEAST_LINES = 3

/**
 * A tone belongs to a line within this share of the spacing, or the resolution of what it was read from, whichever is
 * more.
 */
const TOLERANCE = 0.006

/** Spacings looked for, Hz. */
const SPACING = { least: 300, most: 600e3 }

/** A comb of which fewer than this share of the lines between its ends were heard is a coarser one's shadow. */
const LEAST_OCCUPIED = 0.34

/** Claimed only when chance is this unlikely. */
const LEAST_CONFIDENCE = 0.99

const MOST_COMBS = 4

/**
 * Broadcasters' channel rasters, Hz (ITU regions 1 and 3: 9 kHz, region 2: 10 kHz; shortwave 5 kHz), and how exactly
 * carriers keep to them.
 */
const RASTERS = [
  { hz: 9000, low: 148e3, high: 1.7115e6 },
  { hz: 10000, low: 525e3, high: 1.71e6 },
  { hz: 5000, low: 2.3e6, high: 26.1e6 },
] as const

const CARRIER_HZ = 25

/**
 * Finds the combs among tones; several at once, strongest claim first. `resolutionHz` is how exactly the tones were
 * read.
 */
export function findCombs(tones: readonly Tone[], resolutionHz = 1): CombResult {
  let left = dedupe(tones, resolutionHz)
  const raster = rasterOf(left, resolutionHz)
  // A full row of lines wider apart than the raster is no band of stations, however round its figure.
  const row = raster && bestComb(raster.lines, resolutionHz)
  const isRow =
    row &&
    row.spacingHz > 1.5 * raster.spacingHz &&
    row.lines.length >= 0.85 * raster.lines.length &&
    row.missing <= 0.4 * row.lines.length
  const broadcast = isRow ? null : raster
  if (broadcast) left = left.filter(t => !broadcast.lines.includes(t))
  const combs: Comb[] = []
  for (let round = 0; round < 2 * MOST_COMBS && combs.length < MOST_COMBS; round++) {
    const comb = bestComb(left, resolutionHz)
    if (!comb) break
    const twin = combs.find(c => isTwin(c, comb))
    if (twin) twin.waverHz = Math.max(twin.waverHz, beside(twin, comb))
    else combs.push(comb)
    const used = new Set(comb.lines.map(l => l.hz))
    left = left.filter(hz => !used.has(hz))
  }
  return { combs, broadcast, unexplained: left }
}

/** How far beside the lines of one comb another's lie, Hz. */
function beside(a: Comb, b: Comb): number {
  const apart = (b.lines[0]!.hz - a.lines[0]!.hz) / a.spacingHz
  return Math.abs(apart - Math.round(apart)) * a.spacingHz
}

/** A line that swings to and fro shows at both its turning points: the same comb twice, a little apart. */
const isTwin = (a: Comb, b: Comb) =>
  Math.abs(b.spacingHz / a.spacingHz - 1) < 0.003 && beside(a, b) < Math.max(80, 0.01 * a.spacingHz)

/** A wavering line shows as several peaks close together: within so many resolutions they are one. */
const SPLIT = 8

/** … but never more than this, Hz: tones somebody typed were told apart by eye. */
const SPLIT_MOST_HZ = 60

function dedupe(tones: readonly Tone[], resolutionHz: number): number[] {
  const sorted = tones.filter(t => Number.isFinite(t.hz) && t.hz > 0).sort((a, b) => a.hz - b.hz)
  const kept: Tone[] = []
  for (const tone of sorted) {
    const last = kept.at(-1)
    if (!last || tone.hz - last.hz > Math.min(SPLIT * resolutionHz, Math.max(SPLIT_MOST_HZ, resolutionHz)))
      kept.push(tone)
    else if ((tone.db ?? 0) > (last.db ?? 0)) kept[kept.length - 1] = tone
  }
  return kept.map(t => t.hz)
}

/**
 * Carriers that keep to a broadcasters' raster to a few Hz: no oscillator of a converter stands so still on a round
 * figure.
 */
function rasterOf(tones: number[], resolutionHz: number): { spacingHz: number; lines: number[] } | null {
  for (const raster of RASTERS) {
    const within = tones.filter(hz => hz >= raster.low && hz <= raster.high)
    const tolerance = Math.max(CARRIER_HZ, resolutionHz)
    const on = within.filter(hz => Math.abs(hz - Math.round(hz / raster.hz) * raster.hz) <= tolerance)
    const chance = (2 * tolerance) / raster.hz
    if (
      on.length >= 4 &&
      on.length >= 0.7 * within.length &&
      chance < 0.1 &&
      binomialTail(within.length, on.length, chance) < 1e-3
    )
      return { spacingHz: raster.hz, lines: on }
  }
  return null
}

interface Fit {
  spacing: number
  offset: number
  matched: { hz: number; k: number }[]
  occupied: number
  chance: number
}

function bestComb(tones: number[], resolutionHz: number): Comb | null {
  if (tones.length < LEAST_LINES) return null
  let best: Fit | null = null
  const tried = new Set<string>()
  const trials = { count: 0 }
  for (const { spacing, anchor } of candidates(tones)) {
    const key = `${Math.round(Math.log(spacing) / 0.002)} ${anchor}`
    if (tried.has(key)) continue
    tried.add(key)
    trials.count++
    const fit = fitFrom(tones, anchor, spacing, resolutionHz)
    if (fit && better(fit, best)) best = fit
  }
  if (!best) return null
  best = coarsest(tones, best, resolutionHz)
  // Every spacing looked at was a chance to be fooled.
  const confidence = 1 - Math.min(1, best.chance * trials.count)
  return confidence >= LEAST_CONFIDENCE ? combOf(best, confidence, resolutionHz) : null
}

/**
 * Half or a third of the true spacing explains the same tones and a stray one or two between them. Where nearly all
 * lines fall on
 * every second or third place, that is the comb.
 */
function coarsest(tones: number[], fit: Fit, resolutionHz: number): Fit {
  for (const factor of [3, 2]) {
    const classes = Array.from({ length: factor }, (_, r) =>
      fit.matched.filter(m => ((m.k % factor) + factor) % factor === r),
    )
    const most = classes.reduce((a, b) => (b.length > a.length ? b : a))
    const byChance = factor * binomialTail(fit.matched.length, most.length, 1 / factor)
    if (most.length < LEAST_LINES || byChance > 0.02 || fit.spacing * factor > SPACING.most) continue
    const wider = fitFrom(tones, most[0]!.hz, fit.spacing * factor, resolutionHz)
    if (wider && wider.matched.length >= most.length)
      return coarsest(tones, { ...wider, chance: Math.min(1, Math.max(wider.chance, fit.chance)) }, resolutionHz)
  }
  return fit
}

/** More surely no chance; of equals the wider spacing, since half of it explains the same tones. */
function better(fit: Fit, best: Fit | null): boolean {
  if (!best) return true
  const [a, b] = [Math.log10(fit.chance + 1e-30), Math.log10(best.chance + 1e-30)]
  return a < b - 0.3 || (a < b + 0.3 && fit.spacing > best.spacing)
}

/** How many neighbours of a tone are tried: all of a short list, few of a long one. */
function reachFor(tones: number): number {
  if (tones <= 40) return tones
  return tones > 120 ? 4 : 8
}

/**
 * Differences of neighbouring tones, and small parts of them where lines between are missing, each from one of its
 * tones.
 */
function* candidates(tones: number[]): Generator<{ spacing: number; anchor: number }> {
  const reach = reachFor(tones.length)
  for (let i = 0; i < tones.length; i++) {
    for (let j = i + 1; j < Math.min(tones.length, i + 1 + reach); j++) {
      const difference = tones[j]! - tones[i]!
      for (let part = 1; part <= 6; part++) {
        const spacing = difference / part
        if (spacing < SPACING.least) break
        if (spacing <= SPACING.most) yield { spacing, anchor: tones[i]! }
      }
    }
  }
}

/**
 * Follows a row of lines out from its first tone to both sides, taking each nearest tone in and fitting spacing and
 * offset again,
 * so that what was off at first does not grow with the distance.
 */
function fitFrom(tones: number[], anchor: number, start: number, resolutionHz: number): Fit | null {
  let spacing = start
  let offset = anchor
  let matched: Fit['matched'] = []
  const order = tones.map(hz => ({ hz, away: Math.abs(hz - anchor) })).sort((a, b) => a.away - b.away)
  const line = new Map<number, { hz: number; k: number; off: number }>()
  let widest = 0
  for (const { hz } of order) {
    const k = Math.round((hz - offset) / spacing)
    const predicted = offset + k * spacing
    const off = Math.abs(hz - predicted)
    const tolerance = Math.max(TOLERANCE * spacing, 1.5 * resolutionHz)
    // Too far out for the spacing as it is known so far: the place in the row cannot be told any more.
    if (Math.abs(k) > 3 * (widest + 4)) continue
    if (off > tolerance) continue
    const before = line.get(k)
    if (before && before.off <= off) continue
    line.set(k, { hz, k, off })
    widest = Math.max(widest, Math.abs(k))
    matched = [...line.values()]
    if (matched.length >= 3) ({ spacing, offset } = leastSquares(matched))
    if (Math.abs(spacing - start) > 0.02 * start) return null
  }
  if (matched.length > LEAST_LINES) {
    // The lines say themselves how exactly they keep to the row; a stray that fell near one does not.
    const offs = matched.map(m => Math.abs(m.hz - offset - m.k * spacing)).sort((a, b) => a - b)
    const usual = Math.max(5 * offs[Math.floor((offs.length - 1) / 2)]!, 2 * resolutionHz)
    const kept = matched.filter(m => Math.abs(m.hz - offset - m.k * spacing) <= usual)
    if (kept.length >= LEAST_LINES && kept.length < matched.length) {
      matched = kept
      ;({ spacing, offset } = leastSquares(matched))
    }
  }
  if (matched.length < LEAST_LINES) return null
  const ks = matched.map(m => m.k)
  const places = Math.max(...ks) - Math.min(...ks) + 1
  const occupied = matched.length / places
  if (occupied < LEAST_OCCUPIED) return null
  // Chance that so many of the tones between its ends fall onto lines: two of them made the row.
  const low = Math.min(...matched.map(m => m.hz))
  const high = Math.max(...matched.map(m => m.hz))
  const within = tones.filter(hz => hz >= low && hz <= high).length
  const spread = Math.max(1.5 * resolutionHz, 2.5 * rms(matched, spacing, offset), TOLERANCE * spacing * 0.3)
  const chance =
    binomialTail(Math.max(0, within - 2), matched.length - 2, Math.min(1, (2 * spread) / spacing)) *
    Math.max(1, tones.length - within + 1)
  return { spacing, offset, matched, occupied, chance }
}

function leastSquares(points: { hz: number; k: number }[]): { spacing: number; offset: number } {
  const n = points.length
  const meanK = points.reduce((s, p) => s + p.k, 0) / n
  const meanHz = points.reduce((s, p) => s + p.hz, 0) / n
  const spread = points.reduce((s, p) => s + (p.k - meanK) ** 2, 0)
  const spacing = points.reduce((s, p) => s + (p.k - meanK) * (p.hz - meanHz), 0) / spread
  return { spacing, offset: meanHz - spacing * meanK }
}

const rms = (points: { hz: number; k: number }[], spacing: number, offset: number) =>
  Math.sqrt(points.reduce((s, p) => s + (p.hz - offset - p.k * spacing) ** 2, 0) / points.length)

/** P(at least k of n), each with chance p. */
export function binomialTail(n: number, k: number, p: number): number {
  if (k <= 0) return 1
  if (p >= 1) return 1
  let term = (1 - p) ** n
  let below = 0
  for (let i = 0; i < k; i++) {
    below += term
    term *= (((n - i) / (i + 1)) * p) / (1 - p)
  }
  // Below 1e-9 the difference is rounding; the first terms of the tail itself say more.
  let tail = 0
  for (let i = k; i <= n && term > 0; i++) {
    tail += term
    term *= (((n - i) / (i + 1)) * p) / (1 - p)
  }
  return Math.min(1, below < 0.5 ? Math.max(tail, 1 - below) : tail)
}

function combOf(fit: Fit, confidence: number, resolutionHz: number): Comb {
  const { matched } = fit
  const { spacing, offset } = leastSquares(matched)
  const meanK = matched.reduce((s, m) => s + m.k, 0) / matched.length
  const spread = matched.reduce((s, m) => s + (m.k - meanK) ** 2, 0)
  const waverHz = rms(matched, spacing, offset)
  const each = Math.max(waverHz * Math.sqrt(matched.length / Math.max(1, matched.length - 2)), resolutionHz / 3)
  const uncertaintyHz = each / Math.sqrt(spread)
  const harmonics = multiples({ spacing, uncertaintyHz, offset, meanK, eachHz: each })
  const first = Math.min(...matched.map(m => m.k))
  const { fundamentalHz } = harmonics
  return {
    spacingHz: spacing,
    uncertaintyHz,
    confidence,
    oddOnly: harmonics.oddOnly,
    fundamentalHz,
    waverHz,
    missing: Math.max(...matched.map(m => m.k)) - first + 1 - matched.length,
    lines: matched
      .sort((a, b) => a.k - b.k)
      .map(m => ({
        hz: m.hz,
        index: m.k - first,
        harmonic: fundamentalHz === null ? null : Math.round(m.hz / fundamentalHz),
        offHz: m.hz - offset - m.k * spacing,
      })),
  }
}

/** A fitted comb: lines at offset + k · spacing, how surely, and how far each line is off. */
interface Fitted {
  spacing: number
  uncertaintyHz: number
  offset: number
  meanK: number
  eachHz: number
}

/**
 * Whether the lines are whole multiples of the spacing, or odd ones of half of it. High up, many fundamentals within
 * the spacing's
 * uncertainty would do: then it is one where at least one does, the nearest.
 */
function multiples({ spacing, uncertaintyHz, offset, meanK, eachHz }: Fitted): {
  fundamentalHz: number | null
  oddOnly: boolean
} {
  const centre = offset + meanK * spacing
  const n = centre / spacing - meanK
  const tolerance = Math.max(0.02, 3 * (eachHz / spacing + (Math.abs(n + meanK) * uncertaintyHz) / spacing))
  const whole = Math.abs(n - Math.round(n))
  const half = Math.abs(n - Math.floor(n) - 0.5)
  if (Math.round(n + meanK) === 0) return { fundamentalHz: null, oddOnly: false }
  // Where the uncertainty spans whole numbers, both readings are open; the plain one is taken.
  if (whole <= tolerance) return { fundamentalHz: centre / (Math.round(n) + meanK), oddOnly: false }
  if (half <= tolerance) return { fundamentalHz: centre / (Math.floor(n) + 0.5 + meanK) / 2, oddOnly: true }
  return { fundamentalHz: null, oddOnly: false }
}
