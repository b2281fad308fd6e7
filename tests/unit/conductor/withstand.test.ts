import { describe, expect, it } from 'vitest'
import { survives, withstandI2t } from '../../../core/conductor/withstand'

describe('a conductor in a short (IEC 60949)', () => {
  it.each([
    [70, undefined, 115],
    [90, undefined, 143],
    [105, undefined, 143],
    [undefined, undefined, 115],
    [105, 'cca', 94],
  ] as const)('with %s °C insulation (%s) has k = %f', (insulationC, material, k) => {
    expect(withstandI2t({ mm2: 2.5, ...(insulationC && { insulationC }), ...(material && { material }) })).toBeCloseTo(
      (k * 2.5) ** 2,
      6,
    )
  })
  it('survives 1 kA in 2.5 mm² PVC for 82 ms, not for 83', () => {
    // (115 · 2.5)² = 82 656 A²s.
    expect(survives({ mm2: 2.5, insulationC: 70 }, 'open', 0.0826, { amps: 1000, ambientC: 30 })).toBe(true)
    expect(survives({ mm2: 2.5, insulationC: 70 }, 'open', 0.083, { amps: 1000, ambientC: 30 })).toBe(false)
  })
  it('for ever carries its ampacity and no more', () => {
    expect(survives({ awg: 12, insulationC: 105 }, 'open', Infinity, { amps: 45, ambientC: 30 })).toBe(true)
    expect(survives({ awg: 12, insulationC: 105 }, 'open', Infinity, { amps: 46, ambientC: 30 })).toBe(false)
  })
  it('warms by its own time constant over 5 s: a little over its ampacity it lives for minutes, far over not', () => {
    expect(survives({ awg: 12, insulationC: 105 }, 'open', 600, { amps: 54, ambientC: 30 })).toBe(true)
    expect(survives({ awg: 12, insulationC: 105 }, 'open', 60, { amps: 120, ambientC: 30 })).toBe(false)
  })
})
