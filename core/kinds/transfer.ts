import { efficiencyAt } from './charging'
import type { Transfer } from './kind'

/** Voltage held at the output for an input, V: a buck cannot give more than it gets, a boost not less. */
export function transferOutV(t: Transfer, inV: number): number {
  switch (t.relation) {
    case 'at-most-input':
      return Math.max(0, Math.min(t.setV, inV - t.dropV))
    case 'at-least-input':
      return Math.max(t.setV, inV - t.dropV)
    case 'follows-input':
      return Math.max(0, inV - t.dropV)
    case 'any':
      return t.setV
  }
}

/** What is taken for what is given, W: P/η and the idle draw, or where the current itself is passed on what that is. */
export function transferInputW(t: Transfer, inV: number, outV: number, outA: number): number {
  if (t.takes === 'current') return t.idleW + inV * outA
  const outW = Math.max(0, outV * outA)
  return t.idleW + outW / efficiencyAt(t.efficiency, { amps: outA, watts: outW })
}
