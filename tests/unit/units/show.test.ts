import { describe, expect, it } from 'vitest'
import { figure, fixed, readNumber, significant } from '../../../core/units/number'
import {
  amps,
  ampSquaredSeconds,
  celsius,
  metres,
  percent,
  seconds,
  decibels,
  doseBrief,
  hertz,
  shortAmps,
  shortAmpsBrief,
  volts,
  watts,
} from '../../../core/units/show'
import { capital, counted, listed } from '../../../core/units/words'

describe('figures in sentences', () => {
  it.each([
    [volts(11.416), '11.42 V'],
    [volts(11.4), '11.40 V'],
    [volts(100), '100.0 V'],
    [volts(-0.5), '−0.50 V'],
    [amps(0.254), '0.25 A'],
    [amps(9.9), '9.9 A'],
    [amps(9.96), '10 A'],
    [amps(21.04), '21 A'],
    [amps(149.6), '150 A'],
    [metres(1.204), '1.2 m'],
    [celsius(-4.4), '−4 °C'],
    [celsius(300), '300 °C'],
    [celsius(2083), 'over 300 °C'],
    [watts(99.6), '100 W'],
    [watts(1.25, 1), '1.3 W'],
    [percent(0.123, 1), '12.3 %'],
    [ampSquaredSeconds(88512), '88\u202f500 A²s'],
    [ampSquaredSeconds(1401.4), '1400 A²s'],
    [shortAmps(1296.3), '1300 A'],
    [shortAmpsBrief(640.4), '640 A'],
    [shortAmpsBrief(999), '999 A'],
    [shortAmpsBrief(1234), '1.23 kA'],
    [shortAmpsBrief(12345), '12.3 kA'],
    [doseBrief(640.4), '640'],
    [doseBrief(88540), '88.5 k'],
    [doseBrief(1.234e6), '1.23 M'],
    [decibels(-12.4), '−12 dB'],
    [decibels(-0.4), '0 dB'],
    [hertz(60), '60 Hz'],
    [hertz(7512), '7.51 kHz'],
    [hertz(14.2e6), '14.2 MHz'],
    [seconds(12.34), '12 s'],
    [seconds(0.75), '750 ms'],
    [seconds(1), '1 s'],
    [seconds(null), 'never'],
  ])('%s', (shown, text) => expect(shown).toBe(text))

  it('thousands are set apart from five figures on, by a space that no one reads as a decimal sign', () => {
    expect(fixed(1234.5, 1)).toBe('1234.5')
    expect(figure(123456.78, 1)).toBe('123\u202f456.8')
    expect(significant(0.0123456, 3)).toBe('0.0123')
    expect(readNumber(figure(123456.78, 2))).toEqual({ ok: true, value: 123456.78 })
  })
  it('nothing is never minus nothing', () => {
    expect(fixed(-0.001, 1)).toBe('0.0')
    expect(figure(-0, 0)).toBe('0')
  })
  it('what is no number says so', () => {
    for (const text of ['', '-', '1.2.3', '1,00,000', 'abc', '1 23', '1,2,3', '1.234,567,8'])
      expect(readNumber(text)).toEqual({ ok: false })
  })
})

describe('words', () => {
  it('are put together as sentences want them', () => {
    expect(capital('main lead')).toBe('Main lead')
    expect([counted(1, 'lead'), counted(3, 'lead'), counted(2, 'box', 'boxes')]).toEqual([
      '1 lead',
      '3 leads',
      '2 boxes',
    ])
    expect([listed([]), listed(['a']), listed(['a', 'b']), listed(['a', 'b', 'c'])]).toEqual([
      '',
      'a',
      'a and b',
      'a, b and c',
    ])
  })
})
