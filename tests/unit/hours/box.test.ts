import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { goIn, inRows, type Sides } from '../../../core/hours/box'
import { EventCourse } from '../../../core/hours/course'
import { setsFor } from '../../../core/hours/sets'
import { kindOf } from '../../../core/kinds/index'
import { eventOf, packAnd, wide } from '../../data/events'
import { load } from '../../data/plans'

const side = fc.integer({ min: 20, max: 400 })
const sides = fc.tuple(side, side, side) as fc.Arbitrary<Sides>

describe('packs in a box', () => {
  it('lie in rows, as one counts them', () => {
    expect(inRows([150, 100, 65], [310, 210, 70])).toBe(4)
    // Stood up they go in, lying they do not.
    expect(inRows([65, 150, 100], [110, 70, 160])).toBe(1)
    expect(inRows([150, 100, 65], [149, 149, 149])).toBe(0)
  })
  it('never hold more than the volume does, however they are turned, and turning the box changes nothing', () => {
    fc.assert(
      fc.property(sides, sides, (pack, box) => {
        const volume = (s: Sides) => s[0] * s[1] * s[2]
        const n = inRows(pack, box)
        expect(n * volume(pack)).toBeLessThanOrEqual(volume(box) * (1 + 1e-9))
        expect(inRows([pack[2], pack[0], pack[1]], [box[1], box[0], box[2]])).toBe(n)
      }),
    )
  })
  it('of which nobody says the sides are judged by volume', () => {
    expect(goIn(2, null, 6.3, [200, 200, 200])).toBe(true)
    expect(goIn(2, null, 6.5, [200, 200, 200])).toBe(false)
  })
})

describe('a set for a box', () => {
  const oneAmp = load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 1 } })
  const plan = packAnd(oneAmp, { sizeMm: [180, 80, 170], massG: 2600 })
  const event = eventOf(plan, { hours: 12 })
  const wish = { least: 'massG', odds: 1, runs: 1, seed: 1 } as const

  it('goes into it, and lasts', () => {
    const { sets } = setsFor(plan, event, { ...wish, boxMm: [200, 90, 180] })!
    expect(sets.length).toBeGreaterThan(0)
    for (const set of sets) {
      const { part } = new EventCourse(plan, event).stores[0]!
      const { sizeMm } = kindOf(part).sized!(part, set.each / 20)
      expect(inRows(sizeMm as unknown as Sides, [200, 90, 180])).toBeGreaterThanOrEqual(set.packs)
    }
  })
  it('is none where a box holds no pack that is large enough, though its volume would', () => {
    // 15 Ah are needed; a box of two litres, but flat.
    expect(setsFor(plan, event, { ...wish, boxMm: [400, 250, 20] })!.sets).toEqual([])
  })
})
