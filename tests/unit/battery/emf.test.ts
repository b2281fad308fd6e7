import { describe, expect, it } from 'vitest'
import { CHEMISTRIES, chemistry } from '../../../core/catalog/chemistries'
import { absorptionVolts, batteryEmf, endOfUse, restedVolts } from '../../../core/battery/emf'

const lifepo4 = { chemistry: 'lifepo4', seriesCells: 4, capacityAh: 50 }
const agm = { chemistry: 'agm', seriesCells: 6, capacityAh: 100 }

describe('rested voltage', () => {
  it.each([
    [0, 2.8],
    [0.2, 3.23],
    [0.5, 3.29],
    [1, 3.4],
    [0.15, 3.205],
  ])('LiFePO4 at %f is %f V a cell', (soc, volts) => expect(restedVolts(lifepo4, soc)).toBeCloseTo(4 * volts, 9))
  it.each([
    [0, 11.6],
    [0.5, 12.3],
    [1, 12.85],
    [0.125, 11.8],
  ])('AGM at %f is %f V', (soc, volts) => expect(restedVolts(agm, soc)).toBeCloseTo(volts, 9))
  it('holds at the ends', () => {
    expect(restedVolts(agm, -1)).toBeCloseTo(11.6)
    expect(restedVolts(agm, 2)).toBeCloseTo(12.85)
  })
  it("takes the owner's own curve first", () =>
    expect(
      restedVolts(
        {
          ...agm,
          curve: [
            { soc: 1, volts: 12.8 },
            { soc: 0, volts: 11.8 },
          ],
        },
        0.5,
      ),
    ).toBeCloseTo(12.3))
  it('rises with charge in every chemistry', () => {
    for (const { id } of CHEMISTRIES) {
      for (let soc = 0; soc < 1; soc += 0.05)
        expect(restedVolts({ chemistry: id, seriesCells: 1, capacityAh: 1 }, soc + 0.05)).toBeGreaterThan(
          restedVolts({ chemistry: id, seriesCells: 1, capacityAh: 1 }, soc),
        )
    }
  })
})

describe('source states', () => {
  it('full, half and end of use', () => {
    expect(batteryEmf(lifepo4, 'full')).toBeCloseTo(13.6)
    expect(batteryEmf(lifepo4, 'nominal')).toBeCloseTo(13.16)
    expect(batteryEmf(lifepo4, 'low')).toBeCloseTo(12.92)
    expect(batteryEmf(agm, 'low')).toBeCloseTo(12.3)
  })
  it("the owner's fraction or stop voltage decides the end", () => {
    expect(endOfUse({ ...lifepo4, usableFraction: 0.9 })).toBeCloseTo(0.1)
    expect(batteryEmf({ ...lifepo4, usableFraction: 0.9 }, 'low')).toBeCloseTo(12.72)
    expect(batteryEmf({ ...lifepo4, stopV: 12.5 }, 'low')).toBe(12.5)
  })
  it(
    "is held at the middle of its chemistry's absorption range, or at its own figure; not at all when charged " +
      'elsewhere',
    () => {
      expect(absorptionVolts(lifepo4)).toBeCloseTo(14.3)
      expect(absorptionVolts({ ...agm, absorptionV: 14.4 })).toBe(14.4)
      expect(absorptionVolts({ ...lifepo4, charged: 'elsewhere' })).toBeNull()
      expect(absorptionVolts({ chemistry: 'alkaline', seriesCells: 8, capacityAh: 2 })).toBeNull()
      expect(absorptionVolts({ chemistry: 'nmc', seriesCells: 3, capacityAh: 5 })).toBeCloseTo(12.6)
    },
  )
  it('every chemistry that vents or burns has its line of caution', () => {
    for (const id of ['flooded', 'lifepo4', 'lipo', 'nmc']) expect(chemistry(id).caution).not.toBe('')
  })
})
