/** A row to begin with: from one of the tones on, so far apart. */
export interface Seed {
  anchor: number
  spacing: number
}

export interface Seeds {
  seeds: Seed[]
  /** How many rows could have been begun with: each was a chance to be fooled. */
  trials: number
}

/** Up to so many tones every pair begins a row; more of them are sifted first. */
const FEW = 40
/** Neighbours to which differences are taken, of many tones. */
const REACH = 10
/** Lines between two neighbours that may be missing, and one. */
const MOST_PARTS = 6
/** Spacings of many tones that are looked at more closely, and rows that each begins. */
const MOST_SPACINGS = 60
const ROWS_EACH = 4
/** Spacings this close are one, as a share. */
const SAME_SHARE = 0.003

export interface Limits {
  leastHz: number
  mostHz: number
  /** How exactly a tone was read, Hz. */
  resolutionHz: number
}

/**
 * Where rows may begin: differences of neighbouring tones, and small parts of them where lines between are missing. Of
 * many tones those spacings that come up more often than the ones beside them, so that the work grows with the tones
 * and no faster.
 * @param tones Hz, rising
 */
export function seedsOf(tones: readonly number[], limits: Limits): Seeds {
  const all = [...differences(tones, limits)]
  if (tones.length <= FEW) {
    const seen = new Set<string>()
    const seeds = all.filter(({ anchor, spacing }) => {
      const key = `${Math.round(Math.log(spacing) / 0.002)} ${anchor}`
      return !seen.has(key) && seen.add(key)
    })
    return { seeds, trials: Math.max(1, seeds.length) }
  }
  return { seeds: sifted(all, limits.resolutionHz), trials: Math.max(1, all.length) }
}

function* differences(tones: readonly number[], { leastHz, mostHz }: Limits): Generator<Seed & { part: number }> {
  const reach = tones.length <= FEW ? tones.length : REACH
  for (let i = 0; i < tones.length; i++) {
    for (let j = i + 1; j < Math.min(tones.length, i + 1 + reach); j++) {
      const difference = tones[j]! - tones[i]!
      for (let part = 1; part <= MOST_PARTS && difference / part >= leastHz; part++)
        if (difference / part <= mostHz) yield { anchor: tones[i]!, spacing: difference / part, part }
    }
  }
}

/** The bin of a histogram in which differences of one spacing fall together: as wide as it is read, or a share. */
function binOf(spacing: number, resolutionHz: number): number {
  const linear = Math.max(1.2 * resolutionHz, 1e-3)
  const from = linear / SAME_SHARE
  if (spacing < from) return Math.round(spacing / linear)
  return Math.round(1 / SAME_SHARE + Math.log(spacing / from) / SAME_SHARE)
}

function sifted(all: readonly (Seed & { part: number })[], resolutionHz: number): Seed[] {
  const bins = new Map<number, { votes: number; from: Seed[] }>()
  for (const seed of all) {
    const key = binOf(seed.spacing, resolutionHz)
    const bin = bins.get(key) ?? { votes: 0, from: [] }
    // A part of a difference is a guess: it counts for less.
    bin.votes += 1 / seed.part
    if (seed.part === 1 || bin.from.length < ROWS_EACH) bin.from.push(seed)
    bins.set(key, bin)
  }
  const votes = (key: number) => bins.get(key)?.votes ?? 0
  const usual = smoothed(bins)
  const standing = [...bins.keys()]
    .map(key => {
      const here = votes(key - 1) + votes(key) + votes(key + 1)
      const expected = 3 * usual(key)
      return { key, above: (here - expected) / Math.sqrt(expected + 1) }
    })
    .sort((a, b) => b.above - a.above || b.key - a.key)
    .slice(0, MOST_SPACINGS)
  return standing.flatMap(({ key }) => spread(bins.get(key)!.from, ROWS_EACH))
}

/** Votes that a bin of this neighbourhood has, on average. */
function smoothed(bins: ReadonlyMap<number, { votes: number }>): (key: number) => number {
  const WIDE = 64
  const sums = new Map<number, number>()
  for (const [key, { votes }] of bins) {
    const block = Math.floor(key / WIDE)
    sums.set(block, (sums.get(block) ?? 0) + votes)
  }
  const at = (block: number) => (sums.get(block) ?? 0) / WIDE
  return key => {
    const place = key / WIDE - 0.5
    const block = Math.floor(place)
    return at(block) + (at(block + 1) - at(block)) * (place - block)
  }
}

/** So many of a list, from end to end. */
function spread<T>(list: readonly T[], count: number): T[] {
  if (list.length <= count) return [...list]
  return Array.from({ length: count }, (_, i) => list[Math.floor((i * (list.length - 1)) / (count - 1))]!)
}
