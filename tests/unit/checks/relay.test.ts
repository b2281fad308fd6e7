import { describe, expect, it } from 'vitest'
import { readPlan } from '../../../core/plan/faults'
import { judge } from '../../../core/verdict/verdict'
import { battery, fuse, lead, load, pointOf, radio, smallPlan } from '../../data/plans'

type Loose = Record<string, unknown>
const ringed = { from: { connector: 'ring-m8' }, to: { connector: 'ring-m6' } }
const car = (more: Loose = {}) => ({
  id: 'car',
  kind: 'vehicle',
  engineOnV: 14.4,
  engineOffV: 12.6,
  alternatorSpareA: 100,
  internalOhm: 0.005,
  terminal: 'ring-m8',
  ...more,
})
const engineLead = (relay: Loose, more: Loose = {}) =>
  lead({
    id: 'e',
    from: 'car',
    to: 'bat',
    lengthM: 2,
    conductor: { awg: 2, insulationC: 105 },
    ends: ringed,
    inline: [fuse(150, 0.1, { type: 'strip-high' }), { id: 'k', kind: 'switch', ratedA: 120, atM: 0.3, ...relay }],
    ...more,
  })
const byEngine = { by: 'engine' }
const plan = (relay: Loose, more: Loose[] = []) =>
  smallPlan({
    parts: [battery({ capacityAh: 100, maxChargeA: 30, internalOhm: 0.004 }), radio(), car(), ...more],
    leads: [lead(), engineLead(relay), ...(more.length ? [lead({ id: 'x', from: 'car', to: 'pc' })] : [])],
  })
const checks = (p: ReturnType<typeof plan>) => judge(p).verdict.findings.map(f => `${f.severity} ${f.check} ${f.place}`)

describe('a relay that the engine closes', () => {
  it('lets the alternator pour all it has into a low lithium bank, which is a danger', () => {
    const charge = judge(plan(byEngine)).verdict.findings.find(f => f.check === 'charge-current')
    expect(charge).toMatchObject({ severity: 'danger', place: 'bat', condition: expect.stringContaining('bulk') })
    // 14.4 V against 12.92 V over both resistances and the leads would be more than the alternator has: it gives 100 A
    // and the starter battery none, since the wire stands under it only as far as its own 12.6 V allow.
    expect(charge!.numbers.chargeA).toBeGreaterThan(95)
    expect(charge!.numbers.chargeA).toBeLessThan(101)
  })
  it('keeps the two apart with the engine off: nothing flows, nothing is fed backwards', () => {
    expect(pointOf(plan(byEngine), 'full/idle').leads.e!.amps).toBeCloseTo(0, 9)
    expect(pointOf(plan(byEngine), 'full/idle').nodes.bat!.volts).toBeCloseTo(13.6 - 0.01 * 0.4, 2)
    expect(checks(plan(byEngine)).join()).not.toContain('sources-joined')
    expect(checks(plan(byEngine)).join()).not.toContain('vehicle-engine-off')
  })
  it('a plain switch counts as closed: the pack feeds the engine all night', () => {
    expect(checks(plan({})).join()).toContain('caution sources-joined car')
    expect(Math.abs(pointOf(plan({}), 'full/idle').leads.e!.amps!)).toBeGreaterThan(10)
  })
  it('with a load on its own side it is judged as closed, on the careful side', () =>
    expect(Math.abs(pointOf(plan(byEngine, [load()]), 'full/idle').leads.e!.amps!)).toBeGreaterThan(10))
  it('feeds what hangs on the vehicle alone while the engine runs, and nothing after', () => {
    const alone = smallPlan({ parts: [radio(), car()], leads: [engineLead(byEngine, { to: 'hf' })] })
    expect(pointOf(alone, 'engine-on/idle').nodes.hf!.volts).toBeCloseTo(14.4, 1)
    expect(pointOf(alone, 'engine-off/idle').nodes.hf!.volts).toBe(0)
    const switched = smallPlan({ parts: [radio(), car()], leads: [engineLead({}, { to: 'hf' })] })
    expect(pointOf(switched, 'engine-off/idle').nodes.hf!.volts).toBeCloseTo(12.6, 1)
  })
  it('is rated like any switch', () =>
    expect(checks(plan({ ...byEngine, ratedA: 60 }))).toContain('danger item-rating e'))
  it('is refused in a lead that is no lead of a vehicle', () => {
    const small = smallPlan()
    const read = readPlan({
      ...small,
      leads: [lead({ inline: [{ id: 'k', kind: 'switch', by: 'engine' }] })],
    })
    expect(read).toMatchObject({
      ok: false,
      faults: [{ path: '/leads/0/inline/0/by', wrong: expect.stringContaining('no vehicle is at either end') }],
    })
  })
})
