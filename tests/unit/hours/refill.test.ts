import { describe, expect, it } from 'vitest'
import { fillingsOf, restingOf, startersOf } from '../../../core/hours/refill'
import type { Plan } from '../../../core/plan/schema'
import { eventOf, packAnd, wide } from '../../data/events'
import { demoPlan, lead, load, smallPlan } from '../../data/plans'

const idle = load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 2 } })
const charger = (maxA: number) => ({
  id: 'chg',
  kind: 'charger',
  name: 'Mains charger',
  maxA,
  stages: 3,
  chemistries: { lifepo4: { absorptionV: 14.4, floatV: 13.6 }, agm: { absorptionV: 14.6, floatV: 13.6 } },
  set: 'lifepo4',
})

/** A pack of 20 Ah, one load and a charger on it. */
function charged(maxA: number, pack: Record<string, unknown> = {}): Plan {
  const plan = packAnd(idle, { maxChargeA: 40, ...pack })
  const made = smallPlan({
    parts: [...plan.parts, charger(maxA)],
    leads: [
      ...plan.leads,
      lead({ id: 'l2', from: 'chg', to: 'bat', lengthM: 1, conductor: { awg: 8, insulationC: 105 } }),
    ],
  })
  return made
}
const fillings = (plan: Plan) => fillingsOf(plan, eventOf(plan))

describe('time to full', () => {
  it('of 20 Ah from a fifth, at 5 A: some 16 Ah at 99 %, and its tail', () => {
    const [filling] = fillings(charged(5))
    expect(filling).toMatchObject({ on: ['chg'], by: 'mains', name: 'Mains charger' })
    // (0.985 − 0.2) · 20 / 0.99 / 5 = 3.17 h, from 95 % on less and less: up to a third of an hour more.
    expect(filling!.fullH).toBeGreaterThan(3.15)
    expect(filling!.fullH).toBeLessThan(3.55)
    expect(filling!.firstA).toBeCloseTo(5, 1)
  })
  it('is longer where a load takes its part of it', () => {
    const [{ fullH, listeningFullH }] = fillings(charged(5)) as unknown as [{ fullH: number; listeningFullH: number }]
    // 4 A in place of 5 A.
    expect(listeningFullH / fullH).toBeGreaterThan(1.15)
    expect(listeningFullH / fullH).toBeLessThan(1.3)
  })
  it('is none where the load takes all: a maintainer is no charger', () => {
    const [filling] = fillings(charged(0.8))
    expect(filling!.fullH).toBeGreaterThan(19)
    expect(filling!.listeningFullH).toBeNull()
  })
  it('of one so small that ten days do not fill it', () => {
    expect(fillings(charged(0.05))[0]!.fullH).toBeNull()
  })
  it('of lead-acid is longer for the same amps: less of what goes in comes out, and it tapers early', () => {
    const half = { usableFraction: 0.8, maxChargeA: 5 }
    const [lithium] = fillings(charged(5, half))
    const agm = charged(5, { ...half, chemistry: 'agm', seriesCells: 6 })
    const parts = agm.parts.map(p => (p.id === 'chg' ? { ...p, set: 'agm' } : p)) as Plan['parts']
    expect(fillings({ ...agm, parts })[0]!.fullH).toBeGreaterThan(1.1 * lithium!.fullH!)
  })
  it('by the sun, month by month: soonest in June', () => {
    const tern = demoPlan('tern-rock-light')
    const event = eventOf(tern, { place: { latDeg: 54, lonDeg: -4 }, weather: { cloud: 0.6 } })
    const [march, june, december] = fillingsOf(tern, event, [3, 6, 12]).filter(f => f.by === 'sun')
    expect(june!.fullH).toBeLessThan(march!.fullH!)
    expect(march!.fullH).toBeLessThan(december!.fullH!)
  })
  it('by the sun through a PWM controller: no more amps than the panels give shorted, however much it may pass', () => {
    const tern = demoPlan('tern-rock-light')
    const parts = tern.parts.map(p => (p.kind === 'controller' ? { ...p, type: 'pwm', maxChargeA: 60 } : p))
    const plan = { ...tern, parts } as Plan
    const shortedA = plan.parts.reduce((sum, p) => sum + (p.kind === 'panel' ? p.shortCircuitA : 0), 0)
    const event = eventOf(plan, { place: { latDeg: 54, lonDeg: -4 }, weather: { cloud: 0 } })
    const [june, december] = fillingsOf(plan, event, [6, 12]).filter(f => f.by === 'sun')
    expect(june!.firstA).toBeGreaterThan(0.7 * shortedA)
    // In full sun as many amps as shorted; a clear June noon on a plane that does not follow is less.
    expect(june!.firstA).toBeLessThan(0.97 * shortedA)
    expect(december!.firstA).toBeLessThan(0.8 * june!.firstA)
  })
  it('by what runs on the engine only with the engine', () => {
    const heron = demoPlan('narrowboat-heron')
    const ways = fillingsOf(heron, eventOf(heron))
    expect(ways.some(w => w.by === 'engine')).toBe(true)
    for (const w of ways) expect(w.firstA).toBeGreaterThan(0)
  })
})

describe('at rest', () => {
  it('a load left idle uses a pack up: 16 Ah at one amp', () => {
    const [{ idleH, halfGoneDays }] = restingOf(charged(5), eventOf(charged(5))) as unknown as [
      { idleH: number; halfGoneDays: number },
    ]
    expect(idleH).toBeCloseTo(16, 0)
    // Two percent a month: half of it in 34 months.
    expect(halfGoneDays / 30).toBeCloseTo(34.3, 0)
  })
  it('a starter battery: 30 of 60 Ah at 0.5 A are 2.5 days', () => {
    const plan = smallPlan({
      parts: [
        { id: 'car', kind: 'vehicle', engineOnV: 14.2, engineOffV: 12.6, internalOhm: 0.01 },
        load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 0.5, activeA: 5 } }),
      ],
      leads: [lead({ id: 'l1', from: 'car', to: 'x', lengthM: 1, conductor: { awg: 8, insulationC: 105 } })],
    })
    expect(startersOf(plan)).toEqual([
      { part: 'car', amps: expect.closeTo(0.5, 6), days: expect.closeTo(2.5, 6), assumed: true },
    ])
    const said = { ...plan, parts: plan.parts.map(p => (p.id === 'car' ? { ...p, starterAh: 120 } : p)) } as Plan
    expect(startersOf(said)[0]).toMatchObject({ days: expect.closeTo(5, 6), assumed: false })
  })
  it('what goes with the ignition takes nothing of it', () => {
    const plan = smallPlan({
      parts: [
        { id: 'car', kind: 'vehicle', engineOnV: 14.2, engineOffV: 12.6, internalOhm: 0.01 },
        {
          ...load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 0.5, activeA: 5 } }),
          control: 'ignition',
        },
      ],
      leads: [lead({ id: 'l1', from: 'car', to: 'x', lengthM: 1, conductor: { awg: 8, insulationC: 105 } })],
    })
    expect(startersOf(plan)[0]).toMatchObject({ days: null })
  })
})
