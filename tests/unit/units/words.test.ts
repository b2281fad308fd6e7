import { describe, expect, it } from 'vitest'
import { anA, listed, lowered, someOf, tallied } from '../../../core/units/words'

const letters = (n: number) => 'abcdefghijklmnop'.slice(0, n).split('')

describe('names in a sentence', () => {
  it('are listed with "and" before the last', () => {
    expect([0, 1, 2, 3].map(n => listed(letters(n)))).toEqual(['', 'a', 'a and b', 'a, b and c'])
  })

  it('are all told up to five, and counted after four from six on', () => {
    expect([1, 5, 6, 16].map(n => someOf(letters(n)))).toEqual([
      'a',
      'a, b, c, d and e',
      'a, b, c, d and 2 more',
      'a, b, c, d and 12 more',
    ])
  })

  it('are counted where they are alike, in the order in which they first came', () => {
    expect(tallied(['b', 'a', 'b', 'b', 'c', 'c'])).toBe('3 × b, a, 2 × c')
    expect(tallied([])).toBe('')
  })
})

describe('a small letter within a sentence', () => {
  it.each([
    ['Two-pole block, 50 A', 'two-pole block, 50 A'],
    ['A switch in main lead', 'a switch in main lead'],
    ['Copper', 'copper'],
    ['LiFePO4 4 cells', 'LiFePO4 4 cells'],
    ['AGM 12 V', 'AGM 12 V'],
    ['T-contact', 'T-contact'],
    ['8 AWG', '8 AWG'],
  ])('begins %s as %s', (text, small) => expect(lowered(text)).toBe(small))
})

describe('a or an', () => {
  it.each([
    ['outlet', 'an outlet'],
    ['pack', 'a pack'],
    ['80 A fuse', 'an 80 A fuse'],
    ['8.5 A fuse', 'an 8.5 A fuse'],
    ['11 A fuse', 'an 11 A fuse'],
    ['18 AWG wire', 'an 18 AWG wire'],
    ['110 A fuse', 'a 110 A fuse'],
    ['180 W panel', 'a 180 W panel'],
    ['1.8 A load', 'a 1.8 A load'],
    ['USB source', 'a USB source'],
    ['inverter', 'an inverter'],
  ])('%s: as it is spoken', (thing, said) => {
    expect(anA(thing)).toBe(said)
  })
})
