/** Complex numbers, as far as chokes and filters need them. */
export interface Complex {
  re: number
  im: number
}

export const complex = (re: number, im = 0): Complex => ({ re, im })
export const add = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im })
export const multiply = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
})
export const magnitude = (a: Complex) => Math.hypot(a.re, a.im)

export function divide(a: Complex, b: Complex): Complex {
  const d = b.re ** 2 + b.im ** 2
  return { re: (a.re * b.re + a.im * b.im) / d, im: (a.im * b.re - a.re * b.im) / d }
}

/** Two impedances side by side. */
export const parallel = (a: Complex, b: Complex): Complex => divide(multiply(a, b), add(a, b))
