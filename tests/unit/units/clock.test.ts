import { describe, expect, it } from 'vitest'
import { readClock, showClock } from '../../../core/units/clock'

describe('a clock', () => {
  it.each([
    ['1:30:05', 5405],
    ['7:30', 450],
    ['90', 90],
    [' 0:00 ', 0],
    ['1:99', null],
    ['-5', null],
    ['', null],
    ['1:2:3:4', null],
    ['an hour', null],
  ])('reads %s', (text, seconds) => expect(readClock(text)).toBe(seconds))
  it('shows what it reads', () => {
    for (const s of [0, 7, 60, 3599, 3600, 86399, 90061]) expect(readClock(showClock(s))).toBe(s)
  })
})
