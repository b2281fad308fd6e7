/** Normal distribution function (Abramowitz and Stegun 26.2.17, error under 1e-7). */
export function normalCdf(x: number): number {
  if (x < 0) return 1 - normalCdf(-x)
  const t = 1 / (1 + 0.2316419 * x)
  const poly = t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))))
  return 1 - (Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI)) * poly
}

/** Where the normal distribution leaves a share `above` of itself over: the inverse of its upper tail, by halving. */
export function normalQuantile(above: number): number {
  let [low, high] = [-8, 8]
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    if (1 - normalCdf(middle) > above) low = middle
    else high = middle
  }
  return low
}
