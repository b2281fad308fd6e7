/** ln n!, by Stirling's series from 16 on (Abramowitz and Stegun 6.1.41); the error is under 1e-12. */
function lnFactorial(n: number): number {
  if (n < 16) {
    let product = 1
    for (let i = 2; i <= n; i++) product *= i
    return Math.log(product)
  }
  const x = n + 1
  const series = 1 / (12 * x) - 1 / (360 * x ** 3) + 1 / (1260 * x ** 5)
  return (x - 0.5) * Math.log(x) - x + 0.5 * Math.log(2 * Math.PI) + series
}

/** ln P(at least k of n), each with chance p: kept in logarithms, so that no row is too long for it. */
export function lnBinomialTail(n: number, k: number, p: number): number {
  if (k <= 0 || p >= 1) return 0
  if (k > n || p <= 0) return -Infinity
  const term = (i: number) =>
    lnFactorial(n) - lnFactorial(i) - lnFactorial(n - i) + i * Math.log(p) + (n - i) * Math.log1p(-p)
  // The largest term of the tail, and the others against it.
  const top = Math.max(k, Math.min(n, Math.round(n * p)))
  const largest = term(top)
  let sum = 0
  for (let i = k; i <= n; i++) sum += Math.exp(term(i) - largest)
  return Math.min(0, largest + Math.log(sum))
}

/** P(at least k of n), each with chance p. */
export const binomialTail = (n: number, k: number, p: number) => Math.exp(lnBinomialTail(n, k, p))
