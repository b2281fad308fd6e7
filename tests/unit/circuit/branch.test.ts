import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { carryingDiode, diodeBranch, kneeBranch } from '../../../core/circuit/branch'

/** A branch with diodes, against its own equation and against the slope between two points near each other. */

const aBranch = fc.record({
  ohm: fc.double({ min: 1e-3, max: 2, noNaN: true }),
  ohmPerAmp2: fc.double({ min: 0, max: 1e-4, noNaN: true }),
  forward: fc.constantFrom(1 as const, -1 as const),
  slopeV: fc.double({ min: 0.03, max: 0.2, noNaN: true }),
  saturationA: fc.double({ min: 1e-10, max: 1e-6, noNaN: true }),
  amps: fc.double({ min: 1e-3, max: 60, noNaN: true }),
})
type Branch = typeof aBranch extends fc.Arbitrary<infer T> ? T : never

/** What a current takes, forward through diodes, wire and its warming, V. */
const dropOf = ({ slopeV, saturationA, ohm, ohmPerAmp2 }: Branch, amps: number) =>
  slopeV * Math.log1p(amps / saturationA) + amps * (ohm + ohmPerAmp2 * amps * amps)
/** Volts more for one ampere more, by a difference. */
const slopeAt = (branch: Branch, amps: number) => {
  const step = amps * 1e-4
  return (dropOf(branch, amps + step) - dropOf(branch, amps - step)) / (2 * step)
}
const isNear = (value: number, expected: number) => Math.abs(value - expected) <= 1e-5 * Math.abs(expected)

describe('a branch with diodes', () => {
  it('carries at a voltage the current that drops it, and changes with it as its law does', () => {
    fc.assert(
      fc.property(aBranch, branch => {
        const { ohm, ohmPerAmp2, amps, forward } = branch
        const out = { amps: 0, siemens: 0 }
        diodeBranch(forward * dropOf(branch, amps), ohm, ohmPerAmp2, branch, out)
        expect(isNear(out.amps * forward, amps)).toBe(true)
        expect(isNear(1 / out.siemens, slopeAt(branch, amps))).toBe(true)
      }),
      { seed: 8 },
    )
  })

  it('passes no more than its saturation backward, ever less with the voltage', () => {
    fc.assert(
      fc.property(aBranch, fc.double({ min: 0, max: 100, noNaN: true }), (branch, volts) => {
        const { ohm, ohmPerAmp2, forward, saturationA, slopeV } = branch
        const out = { amps: 0, siemens: 0 }
        diodeBranch(-forward * volts, ohm, ohmPerAmp2, branch, out)
        expect(out.amps * -forward).toBeCloseTo(saturationA * (1 - Math.exp(-volts / slopeV)), 12)
        expect(out.siemens).toBeGreaterThan(0)
        expect(out.siemens).toBeLessThanOrEqual(saturationA / slopeV + 2e-12)
      }),
      { seed: 8 },
    )
  })

  it('is, where it carries a current, the line that touches its law there', () => {
    fc.assert(
      fc.property(aBranch, fc.double({ min: -1, max: 1, noNaN: true }), (branch, off) => {
        const { ohm, ohmPerAmp2, amps, forward } = branch
        const out = { amps: 0, siemens: 0 }
        const volts = dropOf(branch, amps) + off
        carryingDiode(forward * volts, forward * amps, ohm, ohmPerAmp2, branch, out)
        const slope = slopeAt(branch, amps)
        expect(isNear(1 / out.siemens, slope)).toBe(true)
        expect(Math.abs(out.amps * forward - (amps + off / slope))).toBeLessThan(1e-4 * (1 + Math.abs(off / slope)))
      }),
      { seed: 8 },
    )
  })

  it('is from far away the line through its knee at a tenth of an ampere, without its warming', () => {
    fc.assert(
      fc.property(aBranch, branch => {
        const { ohm, forward, slopeV, saturationA } = branch
        const out = { amps: 0, siemens: 0 }
        const kneeV = slopeV * Math.log1p(0.1 / saturationA)
        kneeBranch(forward * kneeV, ohm, branch, out)
        expect(out.amps * forward).toBeCloseTo(0.1, 9)
        const { amps } = out
        kneeBranch(forward * kneeV + 1, ohm, branch, out)
        expect(out.amps - amps).toBeCloseTo(out.siemens, 9)
        expect(isNear(1 / out.siemens, ohm + slopeV / 0.1)).toBe(true)
      }),
      { seed: 8 },
    )
  })
})
