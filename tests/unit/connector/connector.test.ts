import { describe, expect, it } from 'vitest'
import { CONNECTORS } from '../../../core/catalog/connectors'
import { agedLimitA, contactRise } from '../../../core/connector/heat'
import { awgArea, fitsContact } from '../../../core/connector/fits'
import { contactOhmAged, contactOhmNow, mate, matingLoopOhm } from '../../../core/connector/mate'

const mates = (a: string, b: string) => mate({ connector: a }, { connector: b }).mates

describe('mating', () => {
  it('every family mates with itself, but a stripped end', () => {
    for (const { id } of CONNECTORS) expect(mates(id, id), id).toBe(id !== 'bare')
  })
  it('is the same both ways round', () => {
    for (const a of CONNECTORS)
      for (const b of CONNECTORS) expect(mates(a.id, b.id), `${a.id} ${b.id}`).toBe(mates(b.id, a.id))
  })
  it('stacking contacts mate across ratings, the smaller deciding', () =>
    expect(mate({ connector: 'stack-45' }, { connector: 'stack-15' })).toEqual({ mates: true, ratedA: 15 }))
  it.each([
    ['barrel-5521', 'barrel-5525'],
    ['stack-45', 'heavy-50'],
    ['ring-m6', 'ring-m8'],
    ['inlet-4', 'inlet-6'],
    ['accessory-12v', 'barrel-5521'],
  ])('%s does not go onto %s', (a, b) => expect(mates(a, b)).toBe(false))
  it.each([
    ['bare', 'screw'],
    ['fork', 'screw'],
    ['banana-4', 'post-4mm'],
    ['bare', 'post-4mm'],
  ])('%s goes onto %s', (a, b) => expect(mates(a, b)).toBe(true))
  it('two of the same sex do not mate', () => {
    expect(mate({ connector: 'pack-t', sex: 'plug' }, { connector: 'pack-t', sex: 'plug' }).mates).toBe(false)
    expect(mate({ connector: 'pack-t', sex: 'plug' }, { connector: 'pack-t', sex: 'socket' }).mates).toBe(true)
  })
})

describe('why two ends do not mate', () => {
  const why = (a: string, b: string) => {
    const mating = mate({ connector: a }, { connector: b })
    return mating.mates ? null : mating.why
  }
  it('two rings differ in size; a ring and another family in family', () => {
    expect(why('ring-m6', 'ring-m8')).toMatch(/differ in size/)
    expect(why('ring-m6', 'inlet-4')).toMatch(/different families/)
    expect(why('inlet-4', 'ring-m6')).toMatch(/different families/)
  })
})

describe('the conductor in a contact', () => {
  // The 45 A stacking contact takes 14 to 10 AWG, 2.081 to 5.261 mm²; a tenth more or less is let in.
  it.each([
    [1.8, false],
    [1.9, true],
    [2.5, true],
    [5.7, true],
    [6, false],
  ])('%f mm² goes into a 45 A stacking contact: %s', (mm2, fits) => expect(fitsContact('stack-45', mm2)).toBe(fits))
  it('anything goes under what says no sizes', () => expect(fitsContact('bare', 95)).toBe(true))
  it('the area of a gauge is that of its wire', () => expect(awgArea(10)).toBeCloseTo(5.261, 3))
})

describe('a contact of which somebody says how it is', () => {
  it('is as it was measured, else as new, aged or oxidised', () => {
    expect(contactOhmNow({ connector: 'stack-30' })).toBe(0.0006)
    expect(contactOhmNow({ connector: 'stack-30', contact: 'aged' })).toBe(0.003)
    expect(contactOhmNow({ connector: 'stack-30', contact: 'oxidised' })).toBe(0.003)
    expect(contactOhmNow({ connector: 'stack-30', contact: 'aged', contactOhm: 0.001 })).toBe(0.001)
  })
  it('has aged to its class, or is worse already', () => {
    expect(contactOhmAged({ connector: 'stack-30' })).toBe(0.003)
    expect(contactOhmAged({ connector: 'stack-30', contactOhm: 0.001 })).toBe(0.003)
    expect(contactOhmAged({ connector: 'stack-30', contactOhm: 0.02 })).toBe(0.02)
  })
})

describe('resistance and heat', () => {
  it('counts both poles once', () => {
    expect(matingLoopOhm({ connector: 'stack-45' })).toBeCloseTo(0.0012, 9)
    expect(matingLoopOhm({ connector: 'inlet-4', contact: 'aged' })).toBeCloseTo(0.012, 9)
    expect(matingLoopOhm(undefined)).toBe(0)
  })
  it('30 °C at the rated current, new; more with the ratio of resistances, aged', () => {
    expect(contactRise('stack-45', 45, 45, 0.0006)).toBeCloseTo(30, 9)
    expect(contactRise('stack-45', 45, 45, 0.003)).toBeCloseTo(150, 9)
    expect(contactRise('inlet-4', 23, 21, 0.006)).toBeCloseTo(30 * (21 / 23) ** 2 * 4, 9)
    expect(contactRise('ring-m6', null, 500, 0.001)).toBe(0)
  })
  it('finds the current at which an aged contact softens its housing', () => {
    const limit = agedLimitA('stack-30', 30, 40)
    expect(40 + contactRise('stack-30', 30, limit, 0.003)).toBeCloseTo(145, 9)
  })
})
