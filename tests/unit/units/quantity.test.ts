import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readConductor } from '../../../core/units/conductor'
import { METRIC, readQuantity, readRadioFrequency, showQuantity, type Units } from '../../../core/units/quantity'
import { readTemperature, showTemperature } from '../../../core/units/temperature'

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

  it.each([
    ['1,000 W', 'power', [1000, 1]],
    ['2,500 mAh', 'charge', [2.5, 0.0025]],
    ['-1,234 V', 'voltage', [-1234, -1.234]],
    ['1,500', 'power', [1500, 1.5]],
  ])('%s may be meant in two ways and is asked about', (text, quantity, asks) => {
    const read = readQuantity(text, quantity)
    expect(read).toMatchObject({ ok: false, asks })
    expect(!read.ok && read.wrong).toContain('Write it without a comma')
  })

  it.each([
    ['5 MW', 'power', 5e6],
    ['5 mW', 'power', 0.005],
    ['1.2 kW', 'power', 1200],
    ['1.2 KW', 'power', 1200],
    ['3 MΩ', 'resistance', 3e6],
    ['3 mΩ', 'resistance', 0.003],
    ['3 Mohm', 'resistance', 3e6],
    ['470 µA', 'current', 470e-6],
    ['470 uA', 'current', 470e-6],
    ['14.2 MHz', 'frequency', 14.2e6],
    ['1,234,567 Hz', 'frequency', 1234567],
    ['1 000 W', 'power', 1000],
    ['1\u202f000 W', 'power', 1000],
    ["1'000 W", 'power', 1000],
    ['1.000,5 W', 'power', 1000.5],
    ['1,000.5 W', 'power', 1000.5],
    ['0,012 Ω', 'resistance', 0.012],
    ['12,50 V', 'voltage', 12.5],
    ['1e-3 Ω', 'resistance', 0.001],
    ['-4 V', 'voltage', -4],
    ['−4 V', 'voltage', -4],
    ['.5 m', 'length', 0.5],
    ['2 lb 4 oz', 'mass', 2 * 453.592 + 4 * 28.3495],
    ['2 pounds 3 ounces', 'mass', 992.2325],
    ['1 kilogram', 'mass', 1000],
    ['2 yd', 'length', 1.8288],
    ['10 milliohm', 'resistance', 0.01],
  ])('%s is %s %f: prefixes by their case, thousands by their signs', (text, quantity, value) =>
    expect(readQuantity(text, quantity)).toEqual({ ok: true, value }),
  )

  it.each([
    ['13.8 VDC', 'voltage', 13.8],
    ['13.8 V DC', 'voltage', 13.8],
    ['DC 24 V', 'voltage', 24],
    ['21 A max.', 'current', 21],
    ['≈ 2 A', 'current', 2],
    ['about 1.5 m', 'length', 1.5],
    ['ca. 40 W', 'power', 40],
    ['100 W PEP', 'power', 100],
    ['12 V (typical)', 'voltage', 12],
  ])('%s: what a manual prints beside a %s is passed over', (text, quantity, value) =>
    expect(readQuantity(text, quantity)).toEqual({ ok: true, value }),
  )

  it.each([
    ['12 V (15 V max.)', 'voltage'],
    ['3 A, max 5 A', 'current'],
    ['DC', 'voltage'],
    ['max', 'current'],
    ['5 V 3 V', 'voltage'],
    ['5 V 300 mV', 'voltage'],
    ['3 ft 4 ft', 'length'],
    ['6 in 4 ft', 'length'],
    ['14 mHz', 'frequency'],
    ['5 nA', 'current'],
    ['1,00,000 W', 'power'],
    ['1 2 W', 'power'],
    ['12 A', 'voltage'],
    ['5 W 3', 'power'],
    ['ten', 'count'],
    ['3', 'no such quantity'],
  ])('%s is no %s', (text, quantity) => expect(readQuantity(text, quantity).ok).toBe(false))

  it('what is shown reads back to exactly the same number, in either unit of length', () => {
    const quantities = ['length', 'voltage', 'current', 'power', 'resistance', 'charge', 'fraction', 'mass', 'energy']
    const any = fc.double({ min: 1e-3, max: 1e5, noNaN: true }).map(v => Number(v.toPrecision(7)))
    fc.assert(
      fc.property(fc.constantFrom(...quantities, 'frequency'), any, fc.boolean(), (quantity, value, feet) => {
        const units = feet && quantity === 'length' ? FEET : METRIC
        expect(readQuantity(showQuantity(value, quantity, units), quantity, units)).toEqual({ ok: true, value })
      }),
      { seed: 8, numRuns: 2000 },
    )
  })

  it.each([
    [1.2192, 'length', '4 ft'],
    [0, 'current', '0 A'],
    [0.06, 'current', '60 mA'],
    [0.0125, 'resistance', '12.5 mΩ'],
    [2, 'resistance', '2 Ω'],
    [120000, 'frequency', '120 kHz'],
    [50, 'frequency', '50 Hz'],
    [0.8, 'fraction', '80 %'],
    [7, 'count', '7'],
  ])('%f %s is shown as %s', (value, quantity, text) => expect(showQuantity(value, quantity, FEET)).toBe(text))

  it('what is shown in metric reads back to about the same number', () => {
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
    ['10 gauge', { awg: 10 }],
    ['10 ga', { awg: 10 }],
    ['12/2', { awg: 12 }],
    ['#14/2 AWG', { awg: 14 }],
    ['2 × 6 mm²', { mm2: 6 }],
    ['2x2.5', { mm2: 2.5 }],
    ['2x4', { mm2: 4 }],
    ['2x10 AWG', { awg: 10 }],
    ['1.5', { mm2: 1.5 }],
  ])('%s', (text, value) => expect(readConductor(text)).toEqual({ ok: true, value }))
  it("a bare size is in the user's own measure", () =>
    expect(readConductor('6', FEET)).toEqual({ ok: true, value: { mm2: 6 } }))
  it.each(['', '0', '41', 'thick', '5/0', '-3 mm2', '0 mm2', '2/2', '3x2.5', '12/3'])('%j is refused', text =>
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

describe('a radio frequency', () => {
  it.each([
    ['14.2', 14.2e6],
    ['7.1 ', 7.1e6],
    ['14.2 MHz', 14.2e6],
    ['14200 kHz', 14.2e6],
    ['7100000 Hz', 7.1e6],
  ])('%s: a bare figure is in MHz', (text, hz) => expect(readRadioFrequency(text)).toEqual({ ok: true, value: hz }))
})
