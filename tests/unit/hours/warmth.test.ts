import { describe, expect, it } from 'vitest'
import { courseOf, packAnd, wide } from '../../data/events'
import { lead, load, smallPlan } from '../../data/plans'

/** A pack of 256 Wh, 2.56 kg, at −10 °C; a charger beside it from the start, and a load of 0.1 A. */
const short = { lengthM: 0.5, conductor: { awg: 8, insulationC: 105 } }
const tenth = load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 0.1, activeA: 0.1 } })
const profile = { lifepo4: { absorptionV: 14.4, floatV: 13.6 } }
function coldPlan(pack: object, maxA = 10) {
  const { parts, leads } = packAnd(tenth, { internalOhm: 0.01, maxChargeA: 20, ...pack })
  return smallPlan({
    site: { ambientC: { low: -10, typical: -10, high: 20 } },
    parts: [...parts, { id: 'chg', kind: 'charger', chemistries: profile, set: 'lifepo4', maxA }],
    leads: [...leads, lead({ id: 'l9', from: 'chg', to: 'bat', ...short })],
  })
}
const half = { stores: [{ part: 'bat', startCharge: 0.5 }], hours: 4 }
const always = [{ parts: ['chg'] }]
const charged = (plan: ReturnType<typeof coldPlan>, supplied: object[] = always) => {
  const { timeline, leaves } = courseOf(plan, { ...half, supplied }).run({ everyH: 1 / 60 })
  return { from: timeline.find(m => m.soc.bat! > 0.5005)?.h ?? null, leaves: leaves.bat!, timeline }
}

describe('a cold pack with a cut-off', () => {
  it('is not charged at all', () => {
    expect(charged(coldPlan({ lockOut: true })).from).toBeNull()
  })
  it('brought indoors, is charged once it is above freezing and not when it is put down', () => {
    const plan = coldPlan({ lockOut: true })
    const zones = [{ id: 'hut', ambientC: { low: 18, typical: 18, high: 18 } }]
    const inHut = { ...plan, site: { ...plan.site, zones } } as typeof plan
    const stores = [{ part: 'bat', startCharge: 0.5, places: [{ zone: 'hut', from: 1 }] }]
    const { timeline } = courseOf(inHut, { ...half, stores, supplied: always }).run({ everyH: 1 / 60 })
    // 28 °C of difference, 1.26 h: above 0 °C after 1.26 · ln(28/18) = 0.56 h; looked at each half hour.
    const from = timeline.find(m => m.soc.bat! > 0.5005)!.h
    expect(from).toBeGreaterThan(1.55)
    expect(from).toBeLessThan(2.1)
  })
})

describe('a cold pack with a heater', () => {
  it('of 20 W is charged after 42 minutes, as worked out by hand', () => {
    // 20 W against 2.56 kJ/K are 28.1 °C an hour, 1.257 h of lag: 15 °C (to +5) after −1.257·ln(1 − 15/35.4) h.
    expect(charged(coldPlan({ heaterW: 20 })).from).toBeCloseTo(0.694, 1)
  })
  it('of 4 W never gets there', () => {
    // 5.6 °C an hour times 1.257 h: 7 °C warmer at most.
    expect(charged(coldPlan({ heaterW: 4 })).from).toBeNull()
  })
  it('takes its warmth from the charger and not from its cells', () => {
    const { timeline } = charged(coldPlan({ heaterW: 20 }))
    const warming = timeline.filter(m => m.h > 0.1 && m.h < 0.6)
    for (const m of warming) {
      expect(m.soc.bat!).toBeCloseTo(0.5, 3)
      expect(m.suppliedW).toBeGreaterThan(21)
      expect(m.suppliedW).toBeLessThan(23)
    }
  })
  it('is off where nothing charges it: its charge is for the load', () => {
    const { leaves, from } = charged(coldPlan({ heaterW: 20 }), [])
    expect(from).toBeNull()
    expect(leaves).toBeCloseTo(0.5 - (4 * 0.1) / 20 / 0.75, 2)
  })
  it('stays warm while it is charged, and the energies of it all balance', () => {
    const { energy } = courseOf(coldPlan({ heaterW: 20 }), { ...half, supplied: always }).run()
    const given = energy.suppliedWh + energy.sunWh + energy.storesWh
    expect(Math.abs(given - energy.loadsWh - energy.lossWh) / given).toBeLessThan(1e-6)
  })
})
