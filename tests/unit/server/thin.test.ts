import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { goneFrom, type DatedState } from '../../../server/db/thin'

const NOW = new Date('2026-06-30T12:00:00Z')
const HOUR_MS = 3_600_000
const state = (number: number, hoursAgo: number, name = ''): DatedState => ({
  number,
  savedAt: new Date(NOW.getTime() - hoursAgo * HOUR_MS),
  name,
})
/** Saved one after the other, as states are. */
const history = fc
  .array(fc.record({ hours: fc.double({ min: 0, max: 2000, noNaN: true }), named: fc.boolean() }), {
    minLength: 1,
    maxLength: 60,
  })
  .map(all =>
    [...all].sort((a, b) => b.hours - a.hours).map(({ hours, named }, i) => state(i + 1, hours, named ? 'kept' : '')),
  )

describe('a history grows old', () => {
  it('by hand', () => {
    // Of 31 days ago three in one day; of two days ago two in one hour; of today two.
    const all = [
      state(1, 745),
      state(2, 744.9),
      state(3, 744.5),
      state(4, 48.4),
      state(5, 48.2),
      state(6, 1),
      state(7, 0),
    ]
    expect(goneFrom(all, 7, NOW)).toEqual([2, 4])
  })
  it('all of a day, every name, the first and the current one stay', () => {
    fc.assert(
      fc.property(history, all => {
        const gone = new Set(goneFrom(all, all.length, NOW))
        for (const { number, savedAt, name } of all) {
          const isYoung = NOW.getTime() - savedAt.getTime() <= 24 * HOUR_MS
          if (isYoung || name || number === 1 || number === all.length) expect(gone.has(number)).toBe(false)
        }
      }),
    )
  })
  it('no hour of a month, and no day, is left without a state that it had', () => {
    fc.assert(
      fc.property(history, all => {
        const gone = new Set(goneFrom(all, all.length, NOW))
        const days = (states: readonly DatedState[]) => new Set(states.map(s => s.savedAt.toISOString().slice(0, 10)))
        expect(days(all.filter(s => !gone.has(s.number)))).toEqual(days(all))
        const young = all.filter(s => NOW.getTime() - s.savedAt.getTime() <= 30 * 24 * HOUR_MS)
        const hours = (states: readonly DatedState[]) => new Set(states.map(s => s.savedAt.toISOString().slice(0, 13)))
        expect(hours(young.filter(s => !gone.has(s.number)))).toEqual(hours(young))
      }),
    )
  })
  it('and thinned again, nothing more goes', () => {
    fc.assert(
      fc.property(history, all => {
        const gone = new Set(goneFrom(all, all.length, NOW))
        const left = all.filter(s => !gone.has(s.number))
        expect(goneFrom(left, all.length, NOW)).toEqual([])
      }),
    )
  })
})
