import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { leadDiameterMm, windingFor } from '../../../core/noise/choke/winding'
import { RINGS } from '../../../core/catalog/noise'
import { complex, magnitude } from '../../../core/noise/choke/complex'
import {
  coreImpedance,
  filterWarning,
  impedance,
  inductance,
  insertionLossDb,
  lcFilter,
  permeability,
  saturates,
  strayFarad,
  turnsThatFit,
  windingsFor,
  worstLossDb,
  type Choke,
} from '../../../core/noise/choke/choke'

const ring: Choke = {
  initialPermeability: 800,
  relaxationHz: 8e6,
  odMm: 61,
  idMm: 35.5,
  heightMm: 12.7,
  cores: 1,
  turns: 1,
}

describe('a ferrite choke', () => {
  it('has the inductance of the closed form', () => {
    // μ0·800·(0.0127 / 2π)·ln(61 / 35.5) = 1.0998 µH a turn squared.
    expect(inductance(ring)).toBeCloseTo(((4e-7 * Math.PI * 800 * 0.0127) / (2 * Math.PI)) * Math.log(61 / 35.5), 15)
    expect(inductance(ring) * 1e6).toBeCloseTo(1.1, 2)
  })
  it('turns are squared and cores add: four turns on four cores are 64, sixteen on one are 256', () => {
    expect(inductance({ ...ring, cores: 4, turns: 4 }) / inductance(ring)).toBeCloseTo(64, 9)
    expect(inductance({ ...ring, turns: 16 }) / inductance(ring)).toBeCloseTo(256, 9)
  })
  it('at its relaxation is half real, half loss', () => {
    const mu = permeability(ring, 8e6)
    expect(mu.real).toBeCloseTo(400, 9)
    expect(mu.imaginary).toBeCloseTo(400, 9)
    const z = coreImpedance(ring, 8e6)
    expect(z.re).toBeCloseTo(z.im, 9)
    expect(z.im).toBeCloseTo((2 * Math.PI * 8e6 * inductance(ring)) / 2, 9)
  })
  it('far above it is a resistance that rises no more', () => {
    const [a, b] = [coreImpedance(ring, 200e6), coreImpedance(ring, 400e6)]
    expect(a.re / magnitude(a)).toBeGreaterThan(0.99)
    expect(b.re / a.re).toBeCloseTo(1, 2)
  })
  it('a few pF across the winding end its rise', () => {
    const choke = { ...ring, turns: 12 }
    expect(magnitude(impedance(choke, 100e6))).toBeLessThan(magnitude(coreImpedance(choke, 100e6)) / 5)
    expect(magnitude(impedance(choke, 0.3e6))).toBeCloseTo(magnitude(coreImpedance(choke, 0.3e6)), -2)
  })
  it('loses what it stands against the loop: 900 Ω in 100 Ω is 20 dB', () =>
    expect(insertionLossDb(complex(900), complex(100))).toBeCloseTo(20, 9))
  it('loses least at the worst phase of its loop: as a search over all phases finds', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 3000, noNaN: true }),
        fc.double({ min: -3000, max: 3000, noNaN: true }),
        fc.double({ min: 10, max: 500, noNaN: true }),
        (re, im, loopOhm) => {
          const phases = Array.from({ length: 181 }, (_, i) => ((i - 90) * Math.PI) / 180)
          const least = Math.min(
            ...phases.map(p => insertionLossDb(complex(re, im), complex(loopOhm * Math.cos(p), loopOhm * Math.sin(p)))),
          )
          expect(worstLossDb(complex(re, im), loopOhm)).toBeCloseTo(least, 9)
        },
      ),
    )
  })
  it('has so many pF a core and turn gap across it, and a clip-on works with a part of its permeability', () => {
    expect(strayFarad({ ...ring, cores: 4, turns: 4 })).toBeCloseTo(1.5e-12 * 4 * 3, 18)
    expect(strayFarad({ ...ring, turns: 1 })).toBeCloseTo(0.5e-12, 18)
    const clip = RINGS.find(r => r.id === 'clip-13')!
    expect(clip.worksShare).toBeGreaterThanOrEqual(1 / 3)
    expect(clip.worksShare).toBeLessThanOrEqual(1 / 2)
    const whole = { ...ring, odMm: clip.odMm, idMm: clip.idMm, heightMm: clip.heightMm }
    expect(inductance({ ...whole, worksShare: clip.worksShare })).toBeCloseTo(0.4 * inductance(whole), 18)
    expect(magnitude(coreImpedance({ ...whole, worksShare: 0.4 }, 14e6))).toBeCloseTo(
      0.4 * magnitude(coreImpedance(whole, 14e6)),
      9,
    )
  })
  it('turns fit in one layer round the bore', () => {
    // A 23 mm hole takes eight turns of a 6 mm cable: circles of 6 on one of 17 mm across.
    expect(turnsThatFit(23, 6)).toBe(8)
    expect(turnsThatFit(13, 6)).toBe(3)
    expect(turnsThatFit(13, 12)).toBe(1)
    expect(turnsThatFit(13, 14)).toBe(0)
  })
  it('a pair together cancels its DC; one conductor alone saturates', () => {
    const choke = { ...ring, turns: 4 }
    expect(saturates(choke, 20, 'pair')).toMatchObject({ fluxT: 0, saturated: false })
    expect(saturates(choke, 20, 'one').saturated).toBe(true)
    // B = μ0·μi·N·I / (π·ID) at the inner edge.
    expect(saturates(choke, 1, 'one').fluxT).toBeCloseTo((4e-7 * Math.PI * 800 * 4) / (Math.PI * 0.0355), 9)
  })
  it('for 20 dB on a band does it over the whole band, and fits the cable', () => {
    fc.assert(
      fc.property(
        fc.constantFrom([1.8e6, 2e6], [3.5e6, 3.8e6], [7e6, 7.2e6], [14e6, 14.35e6], [28e6, 29.7e6]),
        fc.integer({ min: 3, max: 10 }),
        ([low, high], cableMm) => {
          const found = windingsFor({ lowHz: low!, highHz: high! }, 20, cableMm)
          expect(found.length).toBeGreaterThan(0)
          for (const w of found) expect(w.lossDb).toBeGreaterThanOrEqual(20)
        },
      ),
    )
  })
})

describe('a differential filter', () => {
  const filter = { henry: 10e-6, farad: 100e-6, sourceOhm: 0.02, loadOhm: 2 }
  it('resonates where LC says, and falls 40 dB a decade above', () => {
    expect(lcFilter(filter, 1e3).resonanceHz).toBeCloseTo(1 / (2 * Math.PI * Math.sqrt(1e-9)), 6)
    expect(lcFilter(filter, 1e6).lossDb - lcFilter(filter, 1e5).lossDb).toBeCloseTo(40, 0)
  })
  it('undamped before a converter of much power is warned of, with the damping that cures it', () => {
    const warning = filterWarning({ ...filter, farad: 10e-6 }, 12, 200)
    expect(warning).toContain('oscillate')
    const damped = { ...filter, farad: 10e-6, dampingOhm: 1, dampingFarad: 47e-6 }
    expect(filterWarning(damped, 12, 20)).toBeNull()
  })
})

describe('a choke in a lead', () => {
  it('takes four turns of a thin lead on a small ring, and what a thick one fits on a large one', () => {
    // By hand: 1.5 mm² is 1.56 mm of strands in 0.8 mm of insulation, 3.16 mm; two of them want a hole of 5.7 mm.
    expect(leadDiameterMm({ conductor: { mm2: 1.5 } })).toBeCloseTo(
      1.8 * (1.13 * 2 * Math.sqrt(1.5 / Math.PI) + 1.6),
      6,
    )
    expect(windingFor({ conductor: { mm2: 1.5 } })).toMatchObject({ turns: 4, cores: 4 })
    const thick = windingFor({ conductor: { awg: 2 } })!
    expect(thick.ring).toContain('102')
    const cableMm = leadDiameterMm({ conductor: { awg: 2 } })
    expect(cableMm).toBeGreaterThan(15)
    expect(thick.turns).toBeLessThanOrEqual(turnsThatFit(66, cableMm))
    // 95 mm²: 27 mm of cable go once or twice, and more cores make up for it as far as anybody threads them.
    const heavy = windingFor({ conductor: { mm2: 95 } })!
    expect(heavy.cores).toBeGreaterThan(4)
    expect(heavy.cores).toBeLessThanOrEqual(8)
  })
})
