import { describe, expect, it } from 'vitest'
import { addController, addDcCharger } from '../../../core/fixes/charge'
import { tryPatch } from '../../../core/edit/patch'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import type { PartOf } from '../../../core/kinds/index'
import type { Lead } from '../../../core/plan/schema'
import { battery, smallPlan } from '../../data/plans'
import { PAIRS } from '../../data/pairs'

/** What a fix puts between a source and the battery that it charges without a word. */
const mended = (check: string) => {
  const plan = PAIRS[check]!.fires
  const { verdict, study } = judge(plan)
  const finding = verdict.findings.find(f => f.check === check)!
  const [fix] = fixesOf(finding, study, verdict)
  return { fix: fix!, plan: tryPatch(plan, fix!.patch)! }
}

describe('a charge through the device it wants', () => {
  it('a bare panel gets a controller set to the battery, that stands its coldest voltage', () => {
    const { fix, plan } = mended('panel-direct')
    expect(fix.label).toBe('Charge controller, MPPT, 75 V 15 A, before bat, with a fuse at its post')
    const added = plan.parts.at(-1)!
    expect(added).toMatchObject({ kind: 'controller', set: 'lifepo4', lockOut: true })
    expect(plan.leads.find(l => l.from === 'sun')!.to).toBe(`${added.id}.panel`)
    expect(plan.leads.find(l => l.from === `${added.id}.battery`)!.to).toBe('bat')
    const after = judge(plan).verdict.findings.map(f => f.check)
    expect(after).not.toContain('panel-direct')
    expect(after).not.toContain('fuse-missing')
  })
  it('an alternator gets the largest DC-DC charger that it has the amps for, started by the ignition', () => {
    const { fix, plan } = mended('alternator-overdrawn')
    expect(fix.label).toBe('DC-DC charger, vehicle to battery, 20 A, before bat, with a fuse at its post')
    expect(plan.parts.at(-1)).toMatchObject({ kind: 'converter', ignition: true, charges: { set: 'lifepo4' } })
    const after = judge(plan).verdict.findings.map(f => f.check)
    expect(after).not.toContain('alternator-overdrawn')
    expect(after).not.toContain('charge-current')
  })
})

describe('which device goes between', () => {
  const bank = (more = {}) => battery(more) as PartOf<'battery'>
  const sun = (openCircuitV: number) =>
    ({ id: 'sun', kind: 'panel', openCircuitV, shortCircuitA: 6, maxPowerV: 18, maxPowerA: 5 }) as PartOf<'panel'>
  const car = { id: 'eng', kind: 'vehicle', engineOnV: 14, engineOffV: 12.5, internalOhm: 0.01 } as PartOf<'vehicle'>
  const way = (from: string, more = {}) =>
    ({ id: 'w', from, to: 'bat', lengthM: 2, conductor: { awg: 10 }, ...more }) as Lead
  const within = (parts: object[], lead: Lead, low = 0) =>
    smallPlan({
      site: { ambientC: { low, typical: 20, high: 30 } },
      parts: parts as Record<string, unknown>[],
      leads: [lead as unknown as Record<string, unknown>],
    })
  const control = (pack: PartOf<'battery'>, openCircuitV: number, lead = way('sun'), low = 0) =>
    addController(within([pack, sun(openCircuitV)], lead, low), lead, sun(openCircuitV), pack)?.label ?? null
  const charge = (pack: PartOf<'battery'>, mostA: number, lead = way('eng')) =>
    addDcCharger(within([pack, car], lead), lead, { source: car, battery: pack, mostA })?.label ?? null

  it('a controller stands the panel on the coldest morning, and not just at 25 °C', () => {
    expect(control(bank(), 60)).toContain('75 V')
    expect(control(bank(), 74)).toContain('100 V')
    // 66 V is 75.1 V at −21 °C.
    expect(control(bank(), 66, way('sun'), 20)).toContain('75 V')
    expect(control(bank(), 66, way('sun'), -21)).toContain('100 V')
    expect(control(bank(), 120)).toBeNull()
  })
  it('nothing is put on a battery of another system voltage or chemistry than it has a setting for', () => {
    for (const made of [control, charge] as const) {
      expect(made(bank({ seriesCells: 8 }), 30)).toBeNull()
      expect(made(bank({ seriesCells: 2 }), 30)).toBeNull()
      expect(made(bank({ chemistry: 'nmc', seriesCells: 3 }), 30)).toBeNull()
      expect(made(bank({ chemistry: 'alkaline', seriesCells: 8 }), 30)).toBeNull()
      expect(made(bank(), 30)).not.toBeNull()
    }
  })
  it('a DC-DC charger gives no more than may be taken, and just that much is let', () => {
    expect(charge(bank(), 20)).toContain('20 A')
    expect(charge(bank(), 19.9)).toContain('15 A')
    expect(charge(bank(), 4.9)).toBeNull()
  })
  it('nothing is put into a lead drawn the other way round, or that returns through a chassis', () => {
    expect(control(bank(), 30, { ...way('bat'), to: 'sun' } as Lead)).toBeNull()
    expect(charge(bank(), 20, { ...way('bat'), to: 'eng' } as Lead)).toBeNull()
    expect(control(bank(), 30, way('sun', { return: 'chassis' }))).toBeNull()
    expect(charge(bank(), 20, way('eng', { return: 'chassis' }))).toBeNull()
  })
})
