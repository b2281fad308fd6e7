/**
 * Upper tail of Student's distribution, P(T > t) for t ≥ 0: half the incomplete beta function at ν / (ν + t²)
 * (Abramowitz and Stegun 26.7.1 and 26.5.8, the continued fraction by Lentz).
 */
export function studentTail(t: number, freedom: number): number {
  return 0.5 * incompleteBeta(freedom / (freedom + t * t), freedom / 2, 0.5)
}

function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0
  if (x >= 1) return 1
  const front = Math.exp(lnGamma(a + b) - lnGamma(a) - lnGamma(b) + a * Math.log(x) + b * Math.log(1 - x))
  return x < (a + 1) / (a + b + 2) ? (front * fraction(x, a, b)) / a : 1 - (front * fraction(1 - x, b, a)) / b
}

const TINY = 1e-300

function fraction(x: number, a: number, b: number): number {
  let c = 1
  let d = 1 / lent(1 - ((a + b) * x) / (a + 1))
  let value = d
  for (let m = 1; m <= 200; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m))
    d = 1 / lent(1 + even * d)
    c = lent(1 + even / c)
    value *= d * c
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1))
    d = 1 / lent(1 + odd * d)
    c = lent(1 + odd / c)
    const step = d * c
    value *= step
    if (Math.abs(step - 1) < 1e-12) break
  }
  return value
}

const lent = (v: number) => (Math.abs(v) < TINY ? TINY : v)

/** ln Γ(z) by Lanczos' series (g = 7, nine terms). */
function lnGamma(z: number): number {
  const TERMS = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
    12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ]
  const x = z - 1
  const base = x + 7.5
  const series = TERMS.slice(1).reduce((s, term, i) => s + term / (x + i + 1), TERMS[0]!)
  return 0.5 * Math.log(2 * Math.PI) + (x + 0.5) * Math.log(base) - base + Math.log(series)
}
