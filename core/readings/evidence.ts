import { inverse, Matrix } from 'ml-matrix'

/**
 * Readings against a model that is linear near its planned figures: y = J·δ + noise, every δ with a spread of its own.
 * `slopes[k][i]`: of reading i for unknown k.
 */
export class Evidence {
  private readonly inverseS: Matrix
  private readonly weighted: number[]

  /** @param left what the readings are off, @param noise variance of each */
  constructor(
    readonly slopes: readonly (readonly number[])[],
    readonly variances: readonly number[],
    readonly left: readonly number[],
    readonly noise: readonly number[],
  ) {
    const m = left.length
    const s = Matrix.zeros(m, m)
    for (let i = 0; i < m; i++) s.set(i, i, noise[i]!)
    slopes.forEach((j, k) => {
      const variance = variances[k]!
      if (variance === 0) return
      for (let a = 0; a < m; a++) {
        if (j[a] === 0) continue
        for (let b = 0; b < m; b++) s.set(a, b, s.get(a, b) + variance * j[a]! * j[b]!)
      }
    })
    this.inverseS = m ? inverse(s) : s
    this.weighted = this.times(left)
  }

  private times(v: readonly number[]): number[] {
    return v.map((_, i) => v.reduce((sum, x, j) => sum + this.inverseS.get(i, j) * x, 0))
  }

  /** How much the readings know of a change along one unknown (1/variance), and where they see it. */
  along(k: number): { information: number; pull: number } {
    const j = this.slopes[k]!
    const weighted = this.times(j)
    return { information: dot(j, weighted), pull: dot(j, this.weighted) }
  }

  /** How much one reading speaks for a change along an unknown. */
  pullOf(k: number, reading: number): number {
    return this.slopes[k]![reading]! * this.weighted[reading]!
  }

  /** Of two unknowns: 1 where the readings cannot tell them apart, 0 where they have nothing to do with each other. */
  alike(k: number, l: number): number {
    const [a, b] = [this.along(k).information, this.along(l).information]
    if (a <= 0 || b <= 0) return 0
    return dot(this.slopes[k]!, this.times(this.slopes[l]!)) / Math.sqrt(a * b)
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

const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, x, i) => sum + x * b[i]!, 0)

/** Share of a normal deviate below a value (Abramowitz and Stegun 7.1.26, to 2e-7). */
export function normalShare(x: number): number {
  const t = 1 / (1 + 0.3275911 * (Math.abs(x) / Math.SQRT2))
  const poly = t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))))
  const tail = 0.5 * poly * Math.exp((-x * x) / 2)
  return x >= 0 ? 1 - tail : tail
}
