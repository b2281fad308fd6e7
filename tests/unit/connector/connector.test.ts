import { describe, expect, it } from 'vitest'
import { CONNECTORS } from '../../../core/catalog/connectors'
import { agedLimitA, contactRise } from '../../../core/connector/heat'
import { mate, matingLoopOhm } from '../../../core/connector/mate'

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
