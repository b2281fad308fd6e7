import type { Fit, Place, Row } from './comb'
import type { Seed } from './seeds'

/** Fewest lines that make a row. */
export const LEAST_LINES = 3

/** A tone belongs to a line within this share of the spacing, or so many times how exactly it was read. */
const TOLERANCE = 0.006
const RESOLUTIONS = 1.5

/** Out to so many times as far as its lines reach, a row is followed as it is … */
const NEAR_PLACES = 3
/** … and from so many lines on as far as its places can be told: three times their error under this share of it. */
const KNOWN_LINES = 4
const SURE = 3
const TOLD = 0.2

/** A row of which fewer than this share of the lines between its ends were heard is a coarser one's shadow. */
const LEAST_OCCUPIED = 0.34

/** Lines keep to their places no better than this share of the spacing, as far as anybody counts on it. */
const BEST_SHARE = 2e-4

/** Standard deviation of what is read to the nearest step. */
export const ROUNDED = 1 / Math.sqrt(12)

/** Sums of a straight line through places, kept while places come and go. */
class Line {
  private n = 0
  private k = 0
  private hz = 0
  private kk = 0
  private khz = 0
  private hzhz = 0

  constructor(private readonly origin: number) {}

  put({ hz, k }: Place, times = 1) {
    const away = hz - this.origin
    this.n += times
    this.k += times * k
    this.hz += times * away
    this.kk += times * k * k
    this.khz += times * k * away
    this.hzhz += times * away * away
  }

  private get spread() {
    return this.kk - (this.k * this.k) / this.n
  }

  fitted(): Row {
    const spacing = (this.khz - (this.k * this.hz) / this.n) / this.spread
    return { spacing, offset: this.origin + (this.hz - spacing * this.k) / this.n }
  }

  /** How exactly a place far out is known, Hz: by the scatter of its lines, at least `leastHz` each. */
  errorAt(k: number, leastHz: number): number {
    const cross = this.khz - (this.k * this.hz) / this.n
    const left = this.hzhz - (this.hz * this.hz) / this.n - (cross * cross) / this.spread
    const eachHz = Math.max(leastHz, Math.sqrt(Math.max(0, left) / Math.max(1, this.n - 2)))
    return eachHz * Math.sqrt(1 / this.n + (k - this.k / this.n) ** 2 / this.spread)
  }
}

/** The straight line through places, by least squares. */
export function rowThrough(places: readonly Place[]): Row {
  const line = new Line(places[0]!.hz)
  places.forEach(p => line.put(p))
  return line.fitted()
}

export const offOf = ({ spacing, offset }: Row, { hz, k }: Place) => hz - offset - k * spacing

export const rms = (row: Row, places: readonly Place[]) =>
  Math.sqrt(places.reduce((s, p) => s + offOf(row, p) ** 2, 0) / places.length)

/**
 * Follows a row out from its first tone to both sides, taking each nearest tone in and fitting spacing and offset
 * again, so that what was off at first does not grow with the distance.
 * @param tones Hz, rising
 */
export function fitFrom(tones: readonly number[], seed: Seed, resolutionHz: number): Fit | null {
  const grown = grow(tones, seed, resolutionHz)
  if (!grown) return null
  const matched = withoutStrays(grown, resolutionHz)
  if (matched.length < LEAST_LINES) return null
  const row = rowThrough(matched)
  const places = placesLookedAt(tones, row, matched)
  if (matched.length / places < LEAST_OCCUPIED) return null
  return { ...row, ...evidenceOf(tones, row, { matched, places }, resolutionHz), matched, places }
}

function grow(tones: readonly number[], { anchor, spacing: start }: Seed, resolutionHz: number): Place[] | null {
  const line = new Line(anchor)
  const taken = new Map<number, Place & { off: number }>()
  let row: Row = { spacing: start, offset: anchor }
  let widest = 0
  for (const hz of outward(tones, anchor)) {
    const k = Math.round((hz - row.offset) / row.spacing)
    const isFar = Math.abs(k) > NEAR_PLACES * (widest + 4)
    // Too far out for the spacing as it is known so far: the place in the row cannot be told any more.
    if (isFar && taken.size < KNOWN_LINES) continue
    const errorHz = isFar ? SURE * line.errorAt(k, resolutionHz * ROUNDED) : 0
    if (errorHz > TOLD * row.spacing) continue
    const off = Math.abs(offOf(row, { hz, k }))
    if (off > Math.max(TOLERANCE * row.spacing, RESOLUTIONS * resolutionHz, errorHz)) continue
    const before = taken.get(k)
    if (before && before.off <= off) continue
    if (before) line.put(before, -1)
    line.put({ hz, k })
    taken.set(k, { hz, k, off })
    widest = Math.max(widest, Math.abs(k))
    if (taken.size >= LEAST_LINES) row = line.fitted()
    if (Math.abs(row.spacing - start) > 0.02 * start + resolutionHz) return null
  }
  return [...taken.values()].map(({ hz, k }) => ({ hz, k }))
}

/** Tones by their distance from one of them. */
function* outward(tones: readonly number[], anchor: number): Generator<number> {
  let right = tones.findIndex(hz => hz >= anchor)
  let left = right - 1
  while (left >= 0 || right < tones.length) {
    const isRight = left < 0 || (right < tones.length && tones[right]! - anchor <= anchor - tones[left]!)
    yield isRight ? tones[right++]! : tones[left--]!
  }
}

/** The lines say themselves how exactly they keep to the row; a stray that fell near one does not. */
function withoutStrays(matched: readonly Place[], resolutionHz: number): readonly Place[] {
  if (matched.length <= LEAST_LINES) return matched
  const row = rowThrough(matched)
  const offs = matched.map(m => Math.abs(offOf(row, m))).sort((a, b) => a - b)
  const usual = Math.max(5 * offs[Math.floor((offs.length - 1) / 2)]!, 2 * resolutionHz)
  const kept = matched.filter(m => Math.abs(offOf(row, m)) <= usual)
  return kept.length >= LEAST_LINES ? kept : matched
}

/**
 * How much likelier the tones between the row's ends are, were so many of them its lines and the rest strewn at random:
 * a normal distribution about each place against an even one. The two best tones made the row, and say nothing for it.
 */
function evidenceOf(
  tones: readonly number[],
  row: Row,
  { matched, places }: { matched: readonly Place[]; places: number },
  resolutionHz: number,
): Pick<Fit, 'sigmaHz' | 'evidence' | 'taken'> {
  const { spacing } = row
  const m = matched.length
  const free = Math.max(1, m - 2)
  const scatter = rms(row, matched) * Math.sqrt(m / free)
  const sigmaHz = Math.hypot(Math.max(scatter, resolutionHz * ROUNDED), BEST_SHARE * spacing)
  const ks = matched.map(p => p.k)
  const [first, last] = [Math.min(...ks), Math.max(...ks)]
  const low = row.offset + (first - 0.5) * spacing
  const high = row.offset + (last + 0.5) * spacing
  const within = tones.filter(hz => hz > low && hz < high).length
  const share = m / (within + 1)
  const peak = spacing / (Math.sqrt(2 * Math.PI) * sigmaHz)
  const each = matched
    .map(p => Math.log(share * peak * Math.exp(-0.5 * (offOf(row, p) / sigmaHz) ** 2) + 1 - share))
    .sort((a, b) => b - a)
  const lines = each.slice(2).reduce((s, v) => s + v, 0)
  const strays = (within - m) * Math.log(1 - share)
  return { sigmaHz, evidence: lines + strays, taken: occupancy(m, places) }
}

/** So many places without a single tone were not looked at: between two bands of a receiver. */
const NOT_LOOKED_AT = 8

/** Places between a row's ends where tones were looked for. */
function placesLookedAt(tones: readonly number[], row: Row, matched: readonly Place[]): number {
  const ks = matched.map(m => m.k).sort((a, b) => a - b)
  return ks.slice(1).reduce((count, k, i) => {
    const gap = k - ks[i]!
    if (gap <= NOT_LOOKED_AT) return count + gap
    const [low, high] = [row.offset + (ks[i]! + 0.5) * row.spacing, row.offset + (k - 0.5) * row.spacing]
    return count + (tones.some(hz => hz > low && hz < high) ? gap : 1)
  }, 1)
}

/** Logarithm of how likely so many of the places are taken at their own rate: none missing says nothing against it. */
function occupancy(taken: number, places: number): number {
  if (taken === places) return 0
  const rate = taken / places
  return taken * Math.log(rate) + (places - taken) * Math.log(1 - rate)
}
