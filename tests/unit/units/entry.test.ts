import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  METRIC,
  readConductor,
  readQuantity,
  readTemperature,
  showQuantity,
  showTemperature,
  type Units,
} from '../../../core/units/entry'

const FEET: Units = { length: 'ft', conductor: 'mm2', temperature: 'F' }

describe('numbers as people write them', () => {
  it.each([
    ['4 ft', 'length', 1.2192],
    ['4 ft 6 in', 'length', 1.3716],
    ['4\'6"', 'length', 1.3716],
    ['1.2 m', 'length', 1.2],
    ['1,2m', 'length', 1.2],
    ['120 cm', 'length', 1.2],
    ['2', 'length', 2],
    ['13.8 V', 'voltage', 13.8],
    ['21A', 'current', 21],
    ['60 mA', 'current', 0.06],
    ['12 mΩ', 'resistance', 0.012],
    ['12 mohm', 'resistance', 0.012],
    ['0.012', 'resistance', 0.012],
    ['80 %', 'fraction', 0.8],
    ['0.8', 'fraction', 0.8],
    ['1.5 kg', 'mass', 1500],
    ['2200 mAh', 'charge', 2.2],
  ])('%s is %s %f', (text, quantity, value) => expect(readQuantity(text, quantity)).toEqual({ ok: true, value }))

  it("a bare length is in the user's own unit", () =>
    expect(readQuantity('10', 'length', FEET)).toEqual({ ok: true, value: 3.048 }))

  it.each(['', 'abc', '1.2.3 m', '3 parsec', '4 ft 6', 'm', '1 2 m'])('%j is refused with an example', text => {
    const read = readQuantity(text, 'length')
    expect(read.ok).toBe(false)
    expect(!read.ok && read.wrong).toContain('4 ft 6 in')
  })

  it('what is shown reads back to the same number', () => {
    const quantities = ['length', 'voltage', 'current', 'power', 'resistance', 'charge', 'fraction', 'mass'] as const
    fc.assert(
      fc.property(fc.constantFrom(...quantities), fc.integer({ min: 1, max: 90000 }), (quantity, n) => {
        const value = n / 1000
        const read = readQuantity(showQuantity(value, quantity), quantity)
        expect(read.ok && read.value).toBeCloseTo(value, quantity === 'mass' ? 0 : 2)
      }),
    )
  })
})

describe('conductors', () => {
  it.each([
    ['10 AWG', { awg: 10 }],
    ['#12', { awg: 12 }],
    ['awg 8', { awg: 8 }],
    ['2/0', { awg: '2/0' }],
    ['2/0 AWG', { awg: '2/0' }],
    ['6 mm2', { mm2: 6 }],
    ['2,5 mm²', { mm2: 2.5 }],
    ['14', { awg: 14 }],
  ])('%s', (text, value) => expect(readConductor(text)).toEqual({ ok: true, value }))
  it("a bare size is in the user's own measure", () =>
    expect(readConductor('6', FEET)).toEqual({ ok: true, value: { mm2: 6 } }))
  it.each(['', '0', '41', 'thick', '5/0', '-3 mm2', '0 mm2'])('%j is refused', text =>
    expect(readConductor(text).ok).toBe(false),
  )
})

describe('temperatures', () => {
  it.each([
    ['55 F', 12.7778],
    ['-4', -4],
    ['−4 °C', -4],
    ['32F', 0],
  ])('%s', (text, value) => expect(readTemperature(text)).toEqual({ ok: true, value }))
  it("a bare one is in the user's own unit", () => expect(readTemperature('32', FEET)).toEqual({ ok: true, value: 0 }))
  it('words are refused', () => expect(readTemperature('warm').ok).toBe(false))
  it('are shown in it', () => {
    expect(showTemperature(20, FEET)).toBe('68 °F')
    expect(showTemperature(-4, METRIC)).toBe('-4 °C')
  })
})
