import { describe, expect, it } from 'vitest'
import { listed, someOf, tallied } from '../../../core/units/words'

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
