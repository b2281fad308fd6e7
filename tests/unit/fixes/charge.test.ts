import { describe, expect, it } from 'vitest'
import { addController, addDcCharger } from '../../../core/fixes/charge'
import { tryPatch } from '../../../core/edit/patch'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import type { PartOf } from '../../../core/kinds/index'
import type { Lead, Plan } from '../../../core/plan/schema'
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
  it('a lead drawn from the battery takes the same', () => {
    expect(control(bank(), 30, { ...way('bat'), to: 'sun' } as Lead)).toBe(control(bank(), 30))
    expect(charge(bank(), 20, { ...way('bat'), to: 'eng' } as Lead)).toBe(charge(bank(), 20))
  })
  it('nothing is put into a lead of something else, or that returns through a chassis', () => {
    const other = way('bat')
    const plan = within([bank(), sun(30), car, { id: 'j', kind: 'joint' }], { ...other, to: 'j.a' } as Lead)
    expect(addController(plan, other, sun(30), bank())).toBeNull()
    expect(addDcCharger(plan, other, { source: car, battery: bank(), mostA: 20 })).toBeNull()
    expect(control(bank(), 30, way('sun', { return: 'chassis' }))).toBeNull()
    expect(charge(bank(), 20, way('eng', { return: 'chassis' }))).toBeNull()
  })
})

describe('several sources that together give too much', () => {
  const chargers = (amps: readonly number[], mostA: number) =>
    smallPlan({
      parts: [
        battery({ maxChargeA: mostA, internalOhm: 0.02 }),
        ...amps.map((maxA, i) => ({
          id: `c${i}`,
          kind: 'charger',
          maxA,
          chemistries: { lifepo4: { absorptionV: 14.4, floatV: 13.6 } },
          set: 'lifepo4',
          lockOut: true,
        })),
      ],
      leads: amps.map((_, i) => ({
        id: `l${i}`,
        from: `c${i}`,
        to: 'bat',
        lengthM: 1,
        conductor: { awg: 10, insulationC: 105 },
        inline: [{ id: 'f', kind: 'fuse', type: 'blade', ratedA: 30, atM: 0.9, legs: 'positive' }],
      })),
    })
  const limited = (name: string, a: number) => `Limit ${name} to ${a} A, or put one of that size in its place`
  const fixesFor = (amps: readonly number[], mostA: number) => {
    const { verdict, study } = judge(chargers(amps, mostA))
    const finding = verdict.findings.find(f => f.check === 'charge-current')
    return finding ? fixesOf(finding, study, verdict).map(f => f.label) : null
  }
  // Ten amps are taken; of three of 5 A none can go alone, and of 4 A and twice 3 A all is used.
  it('of which none alone is the cause are held to their shares, all in one', () =>
    expect(fixesFor([5, 5, 5], 10)).toEqual([[limited('c0', 4), limited('c1', 3), limited('c2', 3)].join('; ')]))
  it('of which one alone is the cause are left, but for that one', () =>
    expect(fixesFor([10, 5], 10)).toEqual([limited('c0', 5)]))
  // Six too many: the one of 20 A keeps 14 (10 is what is sold), the one of 8 A would keep 2.
  it('of which more than one could give way alone, the one that keeps most of its own comes first', () =>
    expect(fixesFor([8, 20], 22)!.slice(0, 2)).toEqual([limited('c1', 10), limited('c0', 2)]))
  // By turns, who has least of its wish first: ½ ½ ½ → 1 of the 20, 1 of the 3, 2 of the 20, 1 of the 2, 2 of the 3.
  it('of very unequal size each keep something', () =>
    expect(fixesFor([2, 20, 3], 5)).toEqual([[limited('c0', 1), limited('c1', 2), limited('c2', 2)].join('; ')]))
  it('of which one would take over when the others are held are held with it', () => {
    const plan = chargers([15, 20, 8], 25)
    // A supply of 13.8 V gives nothing while the chargers hold 14.4 V, and all it has once they give their all.
    const supply = { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 20, outputOhm: 0.01 } as Plan['parts'][number]
    const joined = { ...plan, parts: [...plan.parts, supply], leads: [...plan.leads, { ...plan.leads[0]!, id: 's' }] }
    joined.leads[3]!.from = 'psu'
    const { verdict, study } = judge(joined)
    const [fix] = fixesOf(
      verdict.findings.find(f => f.check === 'charge-current')!,
      study,
      verdict,
    )
    expect(fix!.label).toMatch(/c0 to \d+ A.*c1 to \d+ A.*c2 to \d+ A.*psu: DC-DC charger/)
    const after = tryPatch(joined, fix!.patch)!
    const given = (p: Plan['parts'][number]) =>
      (p.kind === 'charger' && p.maxA) || (p.kind === 'converter' && p.maxOutA)
    const total = after.parts.reduce((sum, p) => sum + (given(p) || 0), 0)
    expect(total).toBeLessThanOrEqual(25)
    expect(judge(after).verdict.findings.map(f => f.check)).not.toContain('charge-current')
  })
  it('for which there is no device so small are left to their owner', () => expect(fixesFor([5, 5], 0.9)).toEqual([]))
  it('that fit together need none', () => expect(fixesFor([5, 5], 10)).toBeNull())
})
