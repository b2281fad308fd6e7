/**
 * Readings against a model that is linear near its planned figures: y = J·δ + noise, every δ with a spread of its own.
 * `slopes[k][i]`: of reading i for unknown k. Their covariance S = N + J·V·Jᵀ is inverted over the unknowns, which are
 * fewer than the readings: S⁻¹ = N⁻¹ − N⁻¹·B·(1 + Bᵀ·N⁻¹·B)⁻¹·Bᵀ·N⁻¹ with B = J·√V (Woodbury's identity).
 */
export class Evidence {
  /** B, of each unknown that may be off. */
  private readonly spreads: readonly Float64Array[]
  private readonly inner: readonly Float64Array[]
  private readonly weighted: Float64Array
  /** Of each unknown its slopes through the inverse, once they were asked for. */
  private readonly through: (Float64Array | undefined)[] = []

  /** @param left what the readings are off, @param noise variance of each */
  constructor(
    readonly slopes: readonly (readonly number[])[],
    readonly variances: readonly number[],
    readonly left: readonly number[],
    readonly noise: readonly number[],
  ) {
    this.spreads = slopes.flatMap((j, k) => {
      const sd = Math.sqrt(variances[k]!)
      return sd > 0 && left.length ? [Float64Array.from(j, x => sd * x)] : []
    })
    const quiet = this.spreads.map(b => b.map((x, i) => x / noise[i]!))
    const inner = this.spreads.map((b, k) => {
      const row = Float64Array.from(quiet, q => dot(q, b))
      row[k]! += 1
      return row
    })
    this.inner = inverted(inner)
    this.weighted = this.times(left)
  }

  private times(v: readonly number[]): Float64Array {
    const quiet = Float64Array.from(v, (x, i) => x / this.noise[i]!)
    const seen = this.spreads.map(b => dot(b, quiet))
    this.inner.forEach((row, k) => {
      const by = dot(row, seen)
      const b = this.spreads[k]!
      for (let i = 0; i < b.length; i++) quiet[i]! -= (by * b[i]!) / this.noise[i]!
    })
    return quiet
  }

  private throughOf(k: number): Float64Array {
    return (this.through[k] ??= this.times(this.slopes[k]!))
  }

  /** How much the readings know of a change along one unknown (1/variance), and where they see it. */
  along(k: number): { information: number; pull: number } {
    const j = this.slopes[k]!
    return { information: dot(j, this.throughOf(k)), pull: dot(j, this.weighted) }
  }

  /** How much one reading speaks for a change along an unknown. */
  pullOf(k: number, reading: number): number {
    return this.slopes[k]![reading]! * this.weighted[reading]!
  }

  /** Of two unknowns: 1 where the readings cannot tell them apart, 0 where they have nothing to do with each other. */
  alike(k: number, l: number): number {
    const [a, b] = [this.along(k).information, this.along(l).information]
    if (a <= 0 || b <= 0) return 0
    return dot(this.slopes[k]!, this.throughOf(l)) / Math.sqrt(a * b)
  }

  /** Best estimate of an unknown and its error, with all others free within their spreads. */
  estimate(k: number, variance = this.variances[k]!): { value: number; error: number } {
    const { information, pull } = this.along(k)
    // As if its own variance were another than the one that stands in S.
    const more = variance - this.variances[k]!
    const value = (variance * pull) / (1 + more * information)
    const left = variance - (variance * variance * information) / (1 + more * information)
    return { value, error: Math.sqrt(Math.max(0, left)) }
  }

  /** Of what is left per reading: about 1 where readings and spreads fit together. */
  misfit(): number {
    return this.left.length ? dot(this.left, this.weighted) / this.left.length : 1
  }

  /** What one more reading would show of a change along each unknown beyond what is known, and its own variance. */
  ofReading(slopesOfIt: readonly number[], noise: number): { shows: number[]; variance: number } {
    const m = this.left.length
    const covariance = Array.from({ length: m }, (_, i) =>
      this.slopes.reduce((sum, j, k) => sum + this.variances[k]! * j[i]! * slopesOfIt[k]!, 0),
    )
    const weighted = this.times(covariance)
    const own = slopesOfIt.reduce((sum, j, k) => sum + this.variances[k]! * j * j, 0)
    return {
      shows: this.slopes.map((j, k) => slopesOfIt[k]! - dot(j, weighted)),
      variance: noise + Math.max(0, own - dot(covariance, weighted)),
    }
  }
}

/** An inverse in its place: Gauss and Jordan, no pivots needed where all is positive definite. */
function inverted(rows: Float64Array[]): Float64Array[] {
  rows.forEach((pivotRow, p) => {
    const by = 1 / pivotRow[p]!
    pivotRow[p] = 1
    for (let j = 0; j < pivotRow.length; j++) pivotRow[j]! *= by
    rows.forEach((row, i) => {
      if (i === p) return
      const factor = row[p]!
      row[p] = 0
      for (let j = 0; j < row.length; j++) row[j]! -= factor * pivotRow[j]!
    })
  })
  return rows
}

function dot(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!
  return sum
}

/** Share of a normal deviate below a value (Abramowitz and Stegun 7.1.26, to 2e-7). */
export function normalShare(x: number): number {
  const t = 1 / (1 + 0.3275911 * (Math.abs(x) / Math.SQRT2))
  const poly = t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))))
  const tail = 0.5 * poly * Math.exp((-x * x) / 2)
  return x >= 0 ? 1 - tail : tail
}
