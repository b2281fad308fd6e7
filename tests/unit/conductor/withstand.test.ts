import { describe, expect, it } from 'vitest'
import { adiabaticK, survives, withstandI2t } from '../../../core/conductor/withstand'

describe('a conductor in a short (IEC 60949)', () => {
  // k = 226·√(ln((234.5 + θf) / (234.5 + θi))), copper-clad aluminium as aluminium: 148 and 228.
  it.each([
    [70, undefined, 115],
    [90, undefined, 143.1],
    [105, undefined, 134.8],
    [200, undefined, 0],
    [undefined, undefined, 115],
    [90, 'cca', 94.5],
  ] as const)('as hot as its %s °C insulation (%s) may be has k = %f', (insulationC, material, k) => {
    const conductor = { mm2: 2.5, ...(insulationC && { insulationC }), ...(material && { material }) }
    expect(adiabaticK(conductor, 300)).toBeCloseTo(k, 1)
    expect(withstandI2t(conductor, 300)).toBeCloseTo((adiabaticK(conductor, 300) * 2.5) ** 2, 6)
  })
  it.each([
    [70, 30, 226 * Math.sqrt(Math.log(394.5 / 264.5))],
    [200, 40, 226 * Math.sqrt(Math.log(434.5 / 274.5))],
  ])('of %s °C insulation takes more from %s °C, before the short', (insulationC, workingC, k) => {
    expect(adiabaticK({ mm2: 1, insulationC }, workingC)).toBeCloseTo(k, 9)
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
