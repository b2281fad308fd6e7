/** Randomness that is passed in: uniform in 0–1, and a normal deviate. */
export interface Random {
  uniform: () => number
  normal: () => number
}

/** Reproducible randomness for made-up signals: mulberry32, and a normal deviate of it. */
export function randomFrom(seed: number): Random {
  let state = seed | 0
  const uniform = () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  const normal = () => Math.sqrt(-2 * Math.log(uniform() + 1e-12)) * Math.cos(2 * Math.PI * uniform())
  return { uniform, normal }
}
