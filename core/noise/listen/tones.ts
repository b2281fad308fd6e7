/** One tone: where it stands, and how strong it is where that is known. */
export interface Tone {
  hz: number
  db?: number
}

/** One point of a spectrum. */
export interface Bin {
  hz: number
  db: number
}

/** Peaks narrower than this many bins are tones; wider ones are stations or hiss. */
const FLOOR_BINS = 101
/** Over its floor a tone stands at least so many dB, and at least so many times the floor's own scatter. */
const LEAST_DB = 6
const LEAST_SIGMA = 3

function median(values: ArrayLike<number>): number {
  // A typed array sorts by number without being asked how: ten times as fast.
  const sorted = Float64Array.from(values).sort()
  return sorted.length ? sorted[Math.floor(sorted.length / 2)]! : 0
}

/** The floor under each bin, dB: the median of its surroundings, read at a step and joined by straight lines. */
export function floorOf(bins: readonly Bin[]): Float64Array {
  const half = Math.min(Math.floor(FLOOR_BINS / 2), Math.max(2, Math.floor(bins.length / 8)))
  const knots: { i: number; db: number }[] = []
  for (let i = 0; i < bins.length; i += half) {
    const around: number[] = []
    for (let k = Math.max(0, i - half); k <= Math.min(bins.length - 1, i + half); k++) around.push(bins[k]!.db)
    knots.push({ i, db: median(around) })
  }
  const floor = new Float64Array(bins.length)
  let k = 0
  for (let i = 0; i < bins.length; i++) {
    while (k + 1 < knots.length && knots[k + 1]!.i <= i) k++
    const [a, b] = [knots[k]!, knots[k + 1]]
    floor[i] = b ? a.db + ((b.db - a.db) * (i - a.i)) / (b.i - a.i) : a.db
  }
  return floor
}

/**
 * The same spectrum over bins `times` as wide: powers averaged. What wavers over several fine bins is one peak in a
 * wide one.
 */
export function widened(bins: readonly Bin[], times: number): Bin[] {
  if (times === 1) return [...bins]
  const out: Bin[] = []
  for (let i = 0; i + times <= bins.length; i += times) {
    let power = 0
    for (let k = i; k < i + times; k++) power += 10 ** (bins[k]!.db / 10)
    out.push({ hz: (bins[i]!.hz + bins[i + times - 1]!.hz) / 2, db: 10 * Math.log10(power / times) })
  }
  return out
}

/**
 * Tones of a spectrum: local peaks that stand out of the floor, their place read off a parabola through the three
 * highest bins.
 */
export function tonesOf(bins: readonly Bin[]): Tone[] {
  if (bins.length < 5) return []
  const floor = floorOf(bins)
  const above = bins.map((b, i) => b.db - floor[i]!)
  const sigma = 1.4826 * median(above.map(a => Math.abs(a)))
  const threshold = Math.max(LEAST_DB, LEAST_SIGMA * sigma)
  const tones: Tone[] = []
  for (let i = 1; i < bins.length - 1; i++) {
    const [l, c, r] = [above[i - 1]!, above[i]!, above[i + 1]!]
    if (c < threshold || c < l || c <= r) continue
    // A station is a plateau: what stands as high three bins off on both sides is no tone.
    const wide = Math.min(above[Math.max(0, i - 3)]!, above[Math.min(bins.length - 1, i + 3)]!)
    if (wide > c - 3) continue
    const bend = l - 2 * c + r
    const shift = bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (l - r)) / bend)) : 0
    const step = shift < 0 ? bins[i]!.hz - bins[i - 1]!.hz : bins[i + 1]!.hz - bins[i]!.hz
    tones.push({ hz: bins[i]!.hz + shift * step, db: bins[i]!.db })
  }
  return tones
}
