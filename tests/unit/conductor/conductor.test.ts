import { describe, expect, it } from 'vitest'
import { AMPACITY } from '../../../core/catalog/conductors'
import { ampacityA, conductorTemperature, largestFuseA, tableAmps } from '../../../core/conductor/ampacity'
import { thickerSizes } from '../../../core/conductor/ladder'
import {
  awgDiameterMm,
  awgNumber,
  conductorGramsPerM,
  conductorMm2,
  conductorName,
  conductorOhmPerM,
  resistanceFactorAt,
} from '../../../core/conductor/resistance'

describe('resistance', () => {
  // ASTM B258 areas, mm².
  it.each([
    [4, 21.15],
    [8, 8.366],
    [10, 5.261],
    [12, 3.309],
    [16, 1.309],
    [0, 53.48],
    [-3, 107.2],
  ])('%i AWG has %f mm²', (awg, mm2) => {
    expect(conductorMm2({ awg })).toBeCloseTo(mm2, awg < 5 ? 1 : 2)
  })
  it('36 AWG is 0.127 mm thick', () => expect(awgDiameterMm(36)).toBeCloseTo(0.127, 9))
  it('12 AWG, stranded, is 5.31 mΩ/m', () => expect(conductorOhmPerM({ awg: 12 })).toBeCloseTo(0.00531, 5))
  it.each([
    [0.75, 26],
    [2.5, 7.98],
    [6, 3.3],
    [95, 0.206],
  ])('%f mm² is %f Ω/km (IEC 60228)', (mm2, ohmPerKm) =>
    expect(conductorOhmPerM({ mm2 })).toBeCloseTo(ohmPerKm / 1000, 9),
  )
  it('reads sizes between the rows off the line between them', () => {
    const between = conductorOhmPerM({ mm2: 3 })
    expect(between).toBeLessThan(conductorOhmPerM({ mm2: 2.5 }))
    expect(between).toBeGreaterThan(conductorOhmPerM({ mm2: 4 }))
  })
  it('copper-clad aluminium is 1.6 times copper, and lighter', () => {
    expect(conductorOhmPerM({ awg: 10, material: 'cca' }) / conductorOhmPerM({ awg: 10 })).toBeCloseTo(1.6, 9)
    expect(conductorGramsPerM({ awg: 10, material: 'cca' })).toBeLessThan(conductorGramsPerM({ awg: 10 }))
  })
  it('rises 0.393 % a degree', () => expect(resistanceFactorAt(70)).toBeCloseTo(1.1965, 9))
  it('knows 2/0 by number and by name', () => {
    expect(awgNumber('2/0')).toBe(-1)
    expect(conductorName({ awg: '2/0' })).toBe('2/0 AWG')
    expect(conductorName({ awg: -1 })).toBe('2/0 AWG')
    expect(conductorName({ mm2: 2.5, material: 'cca' })).toBe('2.5 mm² CCA')
  })
})

describe('ampacity', () => {
  for (const school of ['open', 'enclosed'] as const) {
    it.each(AMPACITY[school].awg.map(([awg, amps]) => [awg, amps] as const))(
      `${school}: %i AWG carries %i A at 30 °C`,
      (awg, amps) => {
        const insulationC = AMPACITY[school].conductorC
        expect(ampacityA({ awg, insulationC }, school, 30)).toBeCloseTo(amps, 9)
        expect(conductorTemperature({ awg }, school, { amps, ambientC: 30 })).toBeCloseTo(insulationC, 9)
      },
    )
  }
  it.each(AMPACITY.open.mm2.map(([mm2, amps]) => [mm2, amps] as const))('open: %f mm² carries %i A', (mm2, amps) =>
    expect(ampacityA({ mm2, insulationC: 105 }, 'open', 30)).toBeCloseTo(amps, 9),
  )
  it('is derated for a hot ambient by √((Tins − Ta)/(Tins − 30))', () => {
    expect(ampacityA({ awg: 12, insulationC: 105 }, 'open', 50)).toBeCloseTo(45 * Math.sqrt(55 / 75), 9)
    expect(ampacityA({ awg: 12, insulationC: 75 }, 'enclosed', 50)).toBeCloseTo(25 * Math.sqrt(25 / 45), 9)
  })
  it('is nothing where the ambient alone is too hot', () =>
    expect(ampacityA({ awg: 12, insulationC: 60 }, 'open', 60)).toBe(0))
  it('is less for insulation that stands less than the table takes', () =>
    expect(ampacityA({ awg: 12, insulationC: 60 }, 'open', 30)).toBeCloseTo(45 * Math.sqrt(30 / 75), 9))
  it('is no more for insulation that stands more than the school allows', () =>
    expect(ampacityA({ awg: 12, insulationC: 105 }, 'enclosed', 30)).toBe(25))
  it.each([
    [2, 1],
    [3, 0.7],
    [4, 0.6],
    [6, 0.6],
    [7, 0.5],
    [24, 0.5],
  ])('%i conductors together carry %f', (n, factor) => {
    expect(tableAmps({ awg: 10 }, 'open', n).amps).toBeCloseTo(60 * factor, 9)
  })
  it.each([
    [3, 1],
    [4, 0.8],
    [7, 0.7],
    [10, 0.5],
    [24, 0.45],
  ])('%i enclosed conductors together carry %f', (n, factor) => {
    expect(tableAmps({ awg: 10 }, 'enclosed', n).amps).toBeCloseTo(35 * factor, 9)
  })
  it('is that of 70 °C PVC where nobody says the insulation', () =>
    expect(ampacityA({ awg: 12 }, 'open', 30)).toBeCloseTo(45 * Math.sqrt(40 / 75), 9))
  it('says when a size lies outside its table', () => {
    expect(tableAmps({ awg: 24 }, 'open').inTable).toBe(false)
    expect(tableAmps({ awg: 13 }, 'open').inTable).toBe(true)
    expect(tableAmps({ mm2: 6 }, 'enclosed').amps).toBeGreaterThan(35)
    expect(tableAmps({ mm2: 6 }, 'enclosed').amps).toBeLessThan(50)
  })
})

describe('copper-clad aluminium', () => {
  // The same heat with 1.6 times the resistance: a current less by the root of it, 45 A / √1.6.
  it('carries less by the root of its resistance', () =>
    expect(ampacityA({ awg: 12, insulationC: 105, material: 'cca' }, 'open', 30)).toBeCloseTo(35.576, 3))
  // 12 AWG is 3.309 mm²: of copper 29.6 g/m, of the clad 41 % of that.
  it('weighs 41 % of copper', () => {
    expect(conductorGramsPerM({ awg: 12 })).toBeCloseTo(29.6, 1)
    expect(conductorGramsPerM({ awg: 12, material: 'cca' })).toBeCloseTo(12.15, 1)
  })
})

describe('the largest fuse of a conductor', () => {
  const pvc75 = { insulationC: 75 }
  it.each([
    [18, 7],
    [16, 10],
    [14, 15],
    [12, 20],
    [10, 30],
    // From 8 AWG on its ampacity is the limit.
    [8, 50],
    [6, 65],
  ])('enclosed: %i AWG takes %i A, whatever it carries', (awg, ratedA) => {
    expect(largestFuseA({ awg, ...pvc75 }, 'enclosed', 30)).toBeCloseTo(ratedA, 9)
  })
  it.each([
    [1, 7],
    [1.5, 10],
    [2.5, 15],
    [4, 20],
    [6, 30],
  ])('enclosed: %f mm² is held to the thinner size beside it, %i A', (mm2, ratedA) => {
    expect(largestFuseA({ mm2, ...pvc75 }, 'enclosed', 30)).toBe(ratedA)
  })
  it('is the ampacity where that is less, and in open practice', () => {
    expect(largestFuseA({ awg: 12, ...pvc75 }, 'enclosed', 65)).toBeCloseTo(25 * Math.sqrt(10 / 45), 9)
    expect(largestFuseA({ awg: 12, insulationC: 105 }, 'open', 30)).toBeCloseTo(45, 9)
    expect(largestFuseA({ awg: 12, insulationC: 105 }, 'open', 30, 4)).toBeCloseTo(27, 9)
  })
})

it('thicker sizes rise and keep the measure', () => {
  expect(thickerSizes({ awg: 2, insulationC: 90 }).map(conductorName)).toEqual([
    '1 AWG',
    '1/0 AWG',
    '2/0 AWG',
    '3/0 AWG',
    '4/0 AWG',
  ])
  expect(thickerSizes({ mm2: 50 })).toEqual([{ mm2: 70 }, { mm2: 95 }])
})
