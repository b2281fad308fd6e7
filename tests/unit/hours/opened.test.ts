import { describe, expect, it } from 'vitest'
import { courseOf, wide } from '../../data/events'
import { battery, lead, load, radio, smallPlan } from '../../data/plans'

type Loose = Record<string, unknown>

const short = { lengthM: 0.5, conductor: { awg: 8, insulationC: 105 } }
const takes = (idleA: number, activeA = idleA) => ({ model: 'constant-current', idleA, activeA })
const profile = { lifepo4: { absorptionV: 14.4, floatV: 13.6 } }

/** A pack of 20 Ah; 1 A straight on it, 2 A of a lamp on the load terminal of a controller. */
const lampOn = (controller: Loose, more: { parts?: Loose[]; leads?: Loose[] } = {}) =>
  smallPlan({
    parts: [
      battery({ id: 'bat', capacityAh: 20, internalOhm: 0.01, continuousA: 100, peakA: 100 }),
      {
        id: 'ctl',
        kind: 'controller',
        type: 'mppt',
        maxPanelV: 60,
        maxChargeA: 20,
        selfA: 0,
        chemistries: profile,
        ...controller,
      },
      load({ id: 'straight', supply: wide, draw: takes(1) }),
      load({ id: 'lamp', supply: wide, draw: takes(2) }),
      ...(more.parts ?? []),
    ],
    leads: [
      lead({ id: 'l1', from: 'bat', to: 'ctl.battery', ...short }),
      lead({ id: 'l2', from: 'bat', to: 'straight', ...short }),
      lead({ id: 'l3', from: 'ctl.load', to: 'lamp', ...short }),
      ...(more.leads ?? []),
    ],
  })

describe('a load terminal that opens', () => {
  it('by its timer: what hangs on it takes nothing from then on', () => {
    const { leaves, failures, timeline } = courseOf(lampOn({ loadTimerH: 3 }), { hours: 10 }).run()
    // 3 h of 3 A and 7 h of 1 A out of 20 Ah.
    expect(leaves.bat).toBeCloseTo(1 - 16 / 20, 3)
    expect(failures).toEqual([{ atH: 3, untilH: 10, cause: 'load timer', place: 'ctl' }])
    expect(timeline.at(-1)!.volts.lamp).toBe(0)
  })

  it('under its voltage: the rest of the charge is for what hangs elsewhere', () => {
    // 12.92 V is left at a fifth of the charge; 10 mΩ of the pack and some of the lead take 3 A down by 0.05 V.
    const { failures, leaves, assumed } = (() => {
      const course = courseOf(lampOn({ lowVoltageCutV: 12.92 }), { hours: 8 })
      return { ...course.run(), assumed: course.assumed }
    })()
    const cut = failures.find(f => f.cause === 'load terminal opens')!
    expect(cut.untilH).toBe(8)
    expect(leaves.bat).toBeCloseTo(1 - (3 * cut.atH + (8 - cut.atH)) / 20, 3)
    expect(assumed.join()).toContain('closes again at 14.67 V')
  })

  it('closes again where the charger has brought the voltage up, and not before', () => {
    const charger = { id: 'chg', kind: 'charger', chemistries: profile, set: 'lifepo4', maxA: 5 }
    const plan = lampOn(
      { lowVoltageCutV: 12.92, lowVoltageReturnV: 13.4 },
      { parts: [charger], leads: [lead({ id: 'l4', from: 'chg', to: 'bat', ...short })] },
    )
    const course = courseOf(plan, { hours: 24, supplied: [{ parts: ['chg'], from: 8 }] })
    const { failures, timeline } = course.run({ everyH: 1 / 60 })
    const cut = failures.find(f => f.cause === 'load terminal opens')!
    expect(cut.atH).toBeLessThan(8)
    const before = timeline.filter(m => m.h >= cut.atH + 0.02 && m.h < cut.untilH - 0.02)
    expect(Math.max(...before.map(m => m.loadsW))).toBeLessThan(1 * 14)
    // The pack takes 4 A over its 10 mΩ, the lead to the controller nothing: its cells stand at 13.36 V, 0.9 of charge.
    expect(timeline.find(m => m.h >= cut.untilH)!.soc.bat!).toBeCloseTo(0.9, 2)
  })

  it('a converter behind it stops too, and what also hangs on the pack goes on', () => {
    const plan = lampOn(
      { loadTimerH: 1 },
      {
        parts: [
          {
            id: 'con',
            kind: 'converter',
            topology: 'buck',
            input: { minV: 8, maxV: 30 },
            outV: 5,
            maxOutA: 5,
            efficiency: 0.9,
            idleW: 6,
          },
          load({ id: 'usb', supply: { minV: 4.5, nominalV: 5, maxV: 5.5 }, draw: takes(1) }),
        ],
        leads: [
          lead({ id: 'l5', from: 'ctl.load', to: 'con.in', ...short }),
          lead({ id: 'l6', from: 'con.out', to: 'usb', ...short }),
          lead({ id: 'l7', from: 'bat', to: 'lamp', ...short }),
        ],
      },
    )
    const { timeline, leaves } = courseOf(plan, { hours: 4 }).run()
    const last = timeline.at(-1)!
    expect([last.volts.usb, last.volts.lamp! > 12]).toEqual([0, true])
    // The first hour: 3 A, and 5 V · 1 A over 0.9 with 6 W of its own, at about 13.3 V; three of 3 A.
    expect(leaves.bat).toBeCloseTo(1 - (12 + (5 / 0.9 + 6) / 13.35) / 20, 2)
  })

  it('a terminal that its own load pulls down comes to an end, however it chatters', () => {
    const plan = lampOn({ lowVoltageCutV: 13.2, lowVoltageReturnV: 13.21 })
    const far = { ...plan, leads: plan.leads.map(l => (l.id === 'l1' ? { ...l, lengthM: 6 } : l)) }
    const { leaves } = courseOf(far, { hours: 12 }).run()
    // Between 1 A and 3 A all the time.
    expect(leaves.bat).toBeGreaterThan(1 - 36 / 20 < 0 ? 0 : 0)
    expect(leaves.bat).toBeLessThan(1 - 12 / 20)
  })

  it('is felt by a radio that follows nobody else, keyed or not', () => {
    const plan = lampOn(
      { loadTimerH: 2 },
      {
        parts: [radio({ id: 'hf', supply: wide, draw: takes(1, 10) })],
        leads: [lead({ id: 'l8', from: 'ctl.load', to: 'hf', ...short })],
      },
    )
    const activities = [{ part: 'hf', mode: 'digital', share: 0.5, ratio: 1 }]
    const { leaves } = courseOf(plan, { hours: 3, activities }).run()
    // Two hours of 3 A and half of the time 10 A, else 1 A; one of 1 A.
    expect(leaves.bat).toBeCloseTo(1 - (2 * (3 + 5.5) + 1) / 20, 2)
  })
})
