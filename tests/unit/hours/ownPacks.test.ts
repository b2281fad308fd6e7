import { describe, expect, it } from 'vitest'
import { courseWords } from '../../../core/hours/tell'
import { courseOf, packAnd } from '../../data/events'
import { radio, smallPlan } from '../../data/plans'

/** 5 W, 0.1 A listening and 1.1 A transmitting at 12 V; inside 3 Ah of 7.4 V, on which it does 2.5 W at most. */
const own = { capacityAh: 3, nominalV: 7.4, powerW: 2.5 }
const qrp = (internalBattery: object) =>
  radio({
    id: 'qrp',
    supply: { minV: 11.5, nominalV: 12, maxV: 15 },
    draw: { model: 'constant-current', idleA: 0.1, activeA: 1.1 },
    powerW: 5,
    levels: undefined,
    internalBattery,
  })
const talk = { activities: [{ part: 'qrp', mode: 'digital', share: 0.5, ratio: 1 }] }
/** Of its own pack: 1.2 W listening, half of the time 6 W more. */
const ownHours = (3 * 7.4) / (1.2 + 0.5 * 6)

describe('a radio with a pack inside', () => {
  it('wired to nothing lives on it, with the power that has', () => {
    const course = courseOf(smallPlan({ parts: [qrp(own)], leads: [] }), { hours: 12, ...talk })
    const { ends, onOwnPack } = course.run()
    expect(ends).toMatchObject({ cause: 'starves', place: 'qrp' })
    expect(ends!.atH).toBeCloseTo(ownHours, 1)
    expect(onOwnPack).toEqual([{ place: 'qrp', fromH: 0, untilH: expect.closeTo(ownHours, 1) as number }])
  })

  it('goes on it when the pack outside is too low, and no sooner', () => {
    // 20 Ah at 0.6 A on average reach the voltage that it needs (11.5 V) just before they are empty, after 33 h.
    const course = courseOf(packAnd(qrp(own)), { hours: 60, ...talk })
    const { failures, onOwnPack } = course.run()
    const starved = failures.find(f => f.cause === 'starves')!
    expect(onOwnPack[0]!.fromH).toBeGreaterThan(32)
    expect(onOwnPack[0]!.fromH).toBeLessThan(33.5)
    expect(starved.atH - onOwnPack[0]!.fromH).toBeCloseTo(ownHours, 1)
    expect(courseWords(course.plan, course.event, course.run(), null)).toMatch(/on its own pack from Sun 16:|17:/)
  })

  it('is filled where the voltage is high enough, and takes that from the pack outside', () => {
    // Full at the start, it takes nothing.
    const fills = { ...own, fullInH: 3, chargesAboveV: 12 }
    const without = courseOf(packAnd(qrp(own)), { hours: 10, ...talk }).run()
    const filled = courseOf(packAnd(qrp(fills)), { hours: 10, ...talk }).run()
    expect(filled.leaves.bat).toBeCloseTo(without.leaves.bat!, 6)
  })

  it('fills again what it gave, at what its charger wastes', () => {
    // The pack outside is put in after four hours on the own one: 3.5 h of fill at most.
    const fills = { ...own, fullInH: 5, chargesAboveV: 12 }
    const event = { hours: 20, ...talk, stores: [{ part: 'bat', startCharge: 0 }], swaps: [{ part: 'bat', at: 4 }] }
    const { leaves, onOwnPack, ends } = courseOf(packAnd(qrp(fills)), event).run()
    expect(ends).toMatchObject({ atH: 0, cause: 'used up' })
    expect(onOwnPack).toEqual([{ place: 'qrp', fromH: 0, untilH: 4 }])
    const gaveWh = 4 * (1.2 + 0.5 * 6)
    // 16 h of 0.6 A, and what the own pack gave over 0.85 at 12 V.
    expect(leaves.bat).toBeCloseTo(1 - (16 * 0.6 + gaveWh / 0.85 / 12) / 20, 2)
  })

  it('that may not be charged while it is used is not', () => {
    const fills = { ...own, fullInH: 5, chargesAboveV: 12, chargedInUse: false }
    const stores = [{ part: 'bat', startCharge: 0 }]
    const event = { hours: 20, ...talk, stores, swaps: [{ part: 'bat', at: 4 }] }
    expect(courseOf(packAnd(qrp(fills)), event).run().leaves.bat).toBeCloseTo(1 - (16 * 0.6) / 20, 2)
  })

  it('of which nobody knows the volts is not counted, and that is said', () => {
    const course = courseOf(smallPlan({ parts: [qrp({ capacityAh: 3 })], leads: [] }), { hours: 4, ...talk })
    expect(course.run().ends).toMatchObject({ atH: 0, cause: 'starves' })
    expect(course.assumed.join()).toContain('its own pack is not counted, its volts are not said')
  })
})
