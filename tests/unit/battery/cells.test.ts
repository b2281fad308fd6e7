import { describe, expect, it } from 'vitest'
import { acceptedAmps, cellsOf, coldShare, countedAmps } from '../../../core/battery/cells'
import { chargeWhere } from '../../../core/battery/charge'
import { isCharging, restedVolts, type SourceState } from '../../../core/battery/emf'
import { packClass } from '../../../core/battery/packs'
import { CHEMISTRIES } from '../../../core/catalog/chemistries'

const lifepo4 = { chemistry: 'lifepo4', seriesCells: 4, capacityAh: 50 }
const agm = { chemistry: 'agm', seriesCells: 6, capacityAh: 100 }

describe('capacity in the cold', () => {
  it.each([
    ['lifepo4', 20, 1],
    ['lifepo4', 5, 0.915],
    ['lifepo4', -30, 0.6],
    ['agm', -10, 0.65],
    ['agm', 40, 1.05],
  ])('%s at %d °C: %d of it', (chemistry, celsius, share) =>
    expect(coldShare(chemistry, celsius)).toBeCloseTo(share, 9),
  )
  it('never grows as it gets colder, in any chemistry', () => {
    for (const { id } of CHEMISTRIES)
      for (let c = -30; c < 45; c += 5) expect(coldShare(id, c)).toBeLessThanOrEqual(coldShare(id, c + 5))
  })
})

describe('amps counted for amps given', () => {
  it('of lead: what it is up to its 20 h current, more above by its exponent', () => {
    expect(countedAmps(agm, 5)).toBe(5)
    expect(countedAmps(agm, 4)).toBe(4)
    // 20 A are four times the printed 5 A: 20 · 4^0.12 = 23.62 A.
    expect(countedAmps(agm, 20)).toBeCloseTo(23.62, 2)
    // Flooded, 1.2: 20 · 4^0.2 = 26.39 A.
    expect(countedAmps({ ...agm, chemistry: 'flooded' }, 20)).toBeCloseTo(26.39, 2)
  })
  it('of lithium: what it is', () => expect(countedAmps(lifepo4, 45)).toBe(45))
})

describe('what a battery takes at a charge', () => {
  it('is its limit up to where its class tapers, its tail just before full, nothing when full', () => {
    expect(acceptedAmps(lifepo4, 20, 0.5)).toBe(20)
    expect(acceptedAmps(lifepo4, 20, 0.95)).toBe(20)
    // Halfway from 95 % to full: halfway from 20 A to 3 % of 50 Ah, 1.5 A.
    expect(acceptedAmps(lifepo4, 20, 0.975)).toBeCloseTo(10.75, 9)
    expect(acceptedAmps(lifepo4, 20, 0.9999999)).toBeCloseTo(1.5, 3)
    expect(acceptedAmps(lifepo4, 20, 1)).toBe(0)
    // Lead tapers from 80 %: halfway from 25 A to 3 A.
    expect(acceptedAmps(agm, 25, 0.9)).toBeCloseTo(14, 9)
  })
  it('is never more than its limit, though its tail were', () => expect(acceptedAmps(agm, 1, 0.99)).toBe(1))
  it('is nothing where the cells are not charged in place', () =>
    expect(acceptedAmps({ chemistry: 'alkaline', seriesCells: 8, capacityAh: 2 }, 5, 0.2)).toBe(0))
})

describe('a class of cells', () => {
  it('gives back less than goes in, and lithium more of it than lead', () => {
    for (const { id } of CHEMISTRIES) expect(cellsOf(id).coulombEfficiency, id).toBeLessThan(1)
    for (const lead of ['agm', 'gel', 'flooded'])
      for (const lithium of ['lifepo4', 'lipo', 'nmc'])
        expect(cellsOf(lithium).coulombEfficiency).toBeGreaterThan(cellsOf(lead).coulombEfficiency)
  })
  it('weighs by its class: 12.8 V × 50 Ah of LiFePO4 some 6.4 kg, the same in AGM three times as much', () => {
    const kilos = (id: string) => (12.8 * 50) / packClass(id).whPerKg
    expect(kilos('lifepo4')).toBeCloseTo(6.4, 9)
    expect(kilos('agm') / kilos('lifepo4')).toBeGreaterThan(2.5)
  })
  it('has room, price and years in every chemistry, and where none is said', () => {
    for (const id of [...CHEMISTRIES.map(c => c.id), undefined, 'salt water']) {
      const { cellV, whPerKg, whPerLitre, costPerWh, years } = packClass(id)
      for (const figure of [cellV, whPerKg, whPerLitre, costPerWh, years]) expect(figure, id).toBeGreaterThan(0)
      expect(whPerLitre / whPerKg, `${id}: kilograms a litre`).toBeGreaterThan(1.2)
      expect(whPerLitre / whPerKg, `${id}: kilograms a litre`).toBeLessThan(3.2)
    }
  })
})

describe('states', () => {
  it.each<[SourceState, boolean]>([
    ['charging', true],
    ['bulk', true],
    ['full', false],
    ['nominal', false],
    ['low', false],
    ['engine-on', false],
  ])('%s charges: %s', (state, charges) => expect(isCharging(state)).toBe(charges))
})

describe('charge by rested volts', () => {
  it('is where the curve passes them, and the lowest where it is flat', () => {
    for (const charge of [0.1, 0.35, 0.8])
      expect(chargeWhere(soc => restedVolts(agm, soc), restedVolts(agm, charge))).toBeCloseTo(charge, 6)
    expect(chargeWhere(soc => Math.min(12, 11 + 2 * soc), 12)).toBeCloseTo(0.5, 6)
  })
})
