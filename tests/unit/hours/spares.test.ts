import { describe, expect, it } from 'vitest'
import { readEvent } from '../../../core/hours/readEvent'
import { courseOf, eventOf, packAnd, wide } from '../../data/events'
import { load } from '../../data/plans'

const oneAmp = load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 1 } })
/** A pack of 20 Ah of which four fifths are used: 16 h. */
const plan = packAnd(oneAmp)
const endOf = (spares: object[], hours = 400) => courseOf(plan, { hours, spares }).run({ everyH: 0 })

describe('packs that lie ready', () => {
  it('are used one after the other', () => {
    const { ends, changedAtH } = endOf([{ part: 'bat', count: 2 }])
    expect(ends!.atH).toBeCloseTo(48, 1)
    expect(changedAtH.map(h => Math.round(h))).toEqual([16, 32])
  })

  it('one filled while the other is used, faster than it empties: for ever', () => {
    // Four fifths of a charge in 12.8 h, while the other lasts 16 h.
    const { ends, changedAtH } = endOf([{ part: 'bat', count: 1, refillH: 16 }])
    expect(ends).toBeNull()
    expect(changedAtH).toHaveLength(24)
  })

  it('one filled while the other is used, slower than it empties: each turn is shorter', () => {
    // 16 h of each turn fill 16/40 of a charge, so that the next turn lasts no more than 40 % less what is kept.
    // By hand: turns t0 = 16, t1 = 16 (full), then each pack gets t/40 above 0.2 and lasts 20·t/40 = t/2.
    const { ends, changedAtH } = endOf([{ part: 'bat', count: 1, refillH: 40 }])
    expect(changedAtH[1]! - changedAtH[0]!).toBeCloseTo(16, 1)
    expect(changedAtH[2]! - changedAtH[1]!).toBeCloseTo(8, 1)
    expect(changedAtH[3]! - changedAtH[2]!).toBeCloseTo(4, 1)
    // No pack is changed for less than a twentieth of a charge.
    expect(ends!.atH).toBeCloseTo(16 + 16 + 8 + 4 + 2, 0)
  })

  it('are filled only while there is something to fill them from', () => {
    // Empty after 16 h, at midnight; a charger in the evening alone does not come before the second pack is used up.
    const evening = endOf([{ part: 'bat', count: 1, refillH: 4, from: '18:00', to: '22:00' }], 40)
    const night = endOf([{ part: 'bat', count: 1, refillH: 4, from: '01:00', to: '05:00' }], 40)
    expect(evening.ends!.atH).toBeCloseTo(32, 1)
    expect(night.ends).toBeNull()
  })

  it('of a handheld: three packs of two hours and a charger of three hours cover a day of eight', () => {
    const handheld = packAnd(
      load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 0.8, activeA: 0.8 } }),
      { capacityAh: 2 },
    )
    const lasts = (count: number, refillH?: number) =>
      courseOf(handheld, { hours: 8, spares: [{ part: 'bat', count, refillH }] }).run({ everyH: 0 }).ends?.atH ?? 8
    expect(lasts(1)).toBeCloseTo(4, 1)
    expect(lasts(2)).toBeCloseTo(6, 1)
    expect(lasts(2, 3)).toBe(8)
  })

  it('of a part that holds nothing, or none of them, are refused in words', () => {
    const event = { ...eventOf(plan), spares: [{ part: 'x', count: 1 }] }
    expect(readEvent(event, plan)).toMatchObject({
      ok: false,
      faults: [{ path: '/spares/0/part', wrong: expect.stringContaining('x is not a battery') }],
    })
    const none = { ...eventOf(plan), spares: [{ part: 'bat', count: 0 }] }
    expect(readEvent(none, plan)).toMatchObject({ ok: false, faults: [{ path: '/spares/0/count' }] })
  })
})
