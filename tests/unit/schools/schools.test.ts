import { describe, expect, it } from 'vitest'
import { restedVolts } from '../../../core/battery/emf'
import { SCHOOLS, saysFor, type SchoolId } from '../../../core/catalog/schools'
import { applyEdit } from '../../../core/edit/patch'
import { partsOf } from '../../../core/kinds/index'
import type { Plan } from '../../../core/plan/schema'
import { chooseSchool, schoolsOf, sideTaken } from '../../../core/schools/choose'
import { schoolsThatMatter, sideOf } from '../../../core/schools/compare'
import { judge } from '../../../core/verdict/verdict'
import { randomPlan } from '../../data/randomPlans'
import { battery, DEMOS, demoPlan, fuse, lead, radio, smallPlan } from '../../data/plans'

function taken(plan: Plan, id: SchoolId, choice: string): Plan {
  const edit = applyEdit(plan, chooseSchool(plan, id, choice).patch)
  if (!edit.ok) throw new Error(`${id} ${choice}: ${JSON.stringify(edit.faults)}`)
  return edit.plan
}
const serious = (plan: Plan) =>
  judge(plan)
    .verdict.findings.filter(f => f.severity === 'danger' || f.severity === 'fail')
    .map(f => f.title)
const packOf = (plan: Plan) => partsOf(plan.parts, 'battery')[0]!

describe('schools', () => {
  it('every choice of every school can be taken on every demo, and taken back to the byte', () => {
    for (const demo of DEMOS) {
      const plan = demoPlan(demo)
      for (const s of SCHOOLS) {
        for (const c of s.choices) {
          const choice = chooseSchool(plan, s.id, c.id)
          const edit = applyEdit(plan, choice.patch)
          if (!edit.ok) throw new Error(`${demo} ${s.id} ${c.id}: ${JSON.stringify(edit.faults)}`)
          // What is built is read from the plan again; what cannot be is only said.
          if (choice.does) expect(`${demo} ${s.id} ${sideTaken(edit.plan, s.id)}`).toBe(`${demo} ${s.id} ${c.id}`)
          if (choice.cannot) expect(choice.cannot.length).toBeGreaterThan(10)
          const back = applyEdit(edit.plan, edit.undo)
          expect(back.ok && JSON.stringify(back.plan)).toBe(JSON.stringify(plan))
        }
      }
    }
  })

  it('on plans of any kind a side is built whole, or said not to be found', () => {
    // Among them a regulator that nothing fits, a load terminal that only some leads leave, a block for some loads.
    for (const seed of [3, 9, 14, 15, 26, 27, 33]) {
      const plan = randomPlan(seed)
      if (!plan) continue
      for (const s of SCHOOLS) {
        for (const c of s.choices) {
          const choice = chooseSchool(plan, s.id, c.id)
          const edit = applyEdit(plan, choice.patch)
          if (!edit.ok) throw new Error(`${seed} ${s.id} ${c.id}: ${JSON.stringify(edit.faults)}`)
          if (choice.does) expect(`${seed} ${s.id} ${sideTaken(edit.plan, s.id)}`).toBe(`${seed} ${s.id} ${c.id}`)
        }
      }
    }
  })

  it('each has an argument from every side, for lithium and for lead-acid', () => {
    for (const s of SCHOOLS) {
      expect(s.choices.length).toBeGreaterThanOrEqual(2)
      expect(s.choices.map(c => c.id)).toContain(s.unsaid)
      for (const c of s.choices)
        for (const chemistries of [[], ['lifepo4'], ['agm']]) expect(saysFor(c, chemistries).length).toBeGreaterThan(30)
    }
    const float = (plan: Plan) => schoolsOf(plan).find(s => s.id === 'standby')!.choices[1]!.says
    expect(float(demoPlan('tern-rock-light'))).not.toContain('Lead-acid')
    expect(float(demoPlan('narrowboat-heron'))).toContain('Lead-acid sulphates')
  })

  it('the side is read from how the plan is built, whatever it says', () => {
    const now = (plan: Plan) => Object.fromEntries(schoolsOf(plan).map(s => [s.id, s.now]))
    expect(now(demoPlan('tern-rock-light'))).toMatchObject({
      chemistry: 'lithium',
      bank: '12-parallel',
      portable: 'pack',
      leads: 'block',
      packs: 'one',
      feed: 'battery',
      hold: 'direct',
      loadsFrom: 'battery',
      controllers: 'one-large',
      fuseLegs: 'positive',
    })
    expect(now(demoPlan('narrowboat-heron'))).toMatchObject({
      chemistry: 'lead-acid',
      packs: 'parallel',
      vehicleCharge: 'dc-dc',
      leads: 'block',
    })
    const said = {
      ...demoPlan('tern-rock-light'),
      site: { ...demoPlan('tern-rock-light').site, schools: { hold: 'held' } },
    }
    expect(schoolsOf(said as Plan).find(s => s.id === 'hold')).toMatchObject({ now: 'direct', saysOther: 'held' })
  })

  it('held at 13.8 V puts a regulator before each radio; direct takes them out again', () => {
    const plan = demoPlan('tern-rock-light')
    const held = taken(plan, 'hold', 'held')
    expect(held.parts.filter(p => p.kind === 'converter')).toHaveLength(2)
    const [before, after] = [sideOf(plan), sideOf(held)]
    expect(before.arrivals.hf!.lowV).toBeLessThan(11.7)
    expect(after.arrivals.hf!.lowV).toBeGreaterThan(13)
    expect(after.lossW!).toBeGreaterThan(before.lossW!)
    expect(after.grams).toBeGreaterThan(before.grams)
    expect(after.noisy.length).toBe(before.noisy.length + 2)
    expect(after.mayFail.devices).toBe(before.mayFail.devices + 2)
    const direct = taken(held, 'hold', 'direct')
    expect(direct.parts.filter(p => p.kind === 'converter')).toHaveLength(0)
    expect(sideOf(direct).arrivals.hf!.lowV).toBeCloseTo(before.arrivals.hf!.lowV, 6)
  })

  it('charging apart keeps the charging voltage from the radios', () => {
    const apart = sideOf(taken(demoPlan('tern-rock-light'), 'charging', 'apart'))
    expect(apart.arrivals.lamps!.highV).toBeLessThan(13.6)
  })

  it('both legs fuses both legs at the sources, and one leg again', () => {
    const both = taken(smallPlan(), 'fuseLegs', 'both')
    expect(both.leads[0]!.inline![0]).toMatchObject({ legs: 'both' })
    expect(taken(both, 'fuseLegs', 'positive').leads[0]!.inline![0]).toMatchObject({ legs: 'positive' })
  })

  it("a second pack is joined by a lead and fuses like the battery's thickest lead", () => {
    const [main] = smallPlan().leads
    const thin = { ...main, id: 'thin', conductor: { awg: 18 }, inline: [] }
    const thick = { ...main, id: 'thick', conductor: { awg: 4 }, inline: [fuse(60, 0.1, { type: 'strip' })] }
    for (const leads of [
      [thin, thick],
      [thick, thin],
    ]) {
      const two = taken(smallPlan({ leads: leads as never }), 'packs', 'parallel')
      const between = two.leads.find(l => l.name === 'lead between the packs')!
      expect(between.conductor).toEqual({ awg: 4 })
      expect(between.inline).toMatchObject([
        { kind: 'fuse', type: 'strip', ratedA: 60 },
        { kind: 'fuse', type: 'strip', ratedA: 60 },
      ])
    }
  })
  it('two in parallel halves what each gives, and one again is the plan as it was', () => {
    const two = taken(smallPlan(), 'packs', 'parallel')
    expect(two.parts.filter(p => p.kind === 'battery')).toHaveLength(2)
    expect(sideOf(two).arrivals.hf!.lowV).toBeGreaterThan(sideOf(smallPlan()).arrivals.hf!.lowV)
    const one = taken(two, 'packs', 'one')
    expect([one.parts, one.leads]).toEqual([smallPlan().parts, smallPlan().leads])
  })

  it('one pack in place of two strings has half of everything, and twice the resistance', () => {
    const heron = demoPlan('narrowboat-heron')
    const [was, now] = [packOf(heron), packOf(taken(heron, 'packs', 'one'))]
    expect(now.members).toBeUndefined()
    expect(now.capacityAh).toBe(was.capacityAh / 2)
    expect(now.internalOhm).toBeCloseTo(was.internalOhm * 2, 6)
  })

  it('sized for what the battery can give makes the main lead carry it', () => {
    const plan = smallPlan({ parts: [battery({ continuousA: 70 }), radio()] })
    expect(taken(plan, 'conductorFor', 'source').leads[0]!.conductor.awg).toBe(8)
  })

  it("the owner's stop voltage is the end of the usable fraction to begin with", () => {
    expect(taken(smallPlan(), 'end', 'stop-voltage').parts[0]).toMatchObject({ stopV: 12.92 })
  })

  it('lead-acid for lithium holds as many usable watt-hours', () => {
    // 50 Ah LiFePO4, four cells: 0.8 × 50 Ah × 13.16 V = 526 Wh. AGM gives half of 12.3 V × Ah: 86 Ah.
    const agm = packOf(taken(demoPlan('tern-rock-light'), 'chemistry', 'lead-acid'))
    expect(agm).toMatchObject({ chemistry: 'agm', seriesCells: 6, capacityAh: 86 })
    // The nearest row, 100 Ah and 29 kg with 5 mΩ, made 0.856 as large.
    expect(agm.massG).toBeCloseTo(29000 * 0.856, -2)
    expect(agm.internalOhm).toBeCloseTo(0.005 / 0.856, 4)
    const again = packOf(taken(taken(demoPlan('tern-rock-light'), 'chemistry', 'lead-acid'), 'chemistry', 'lithium'))
    expect(again).toMatchObject({ chemistry: 'lifepo4', seriesCells: 4, capacityAh: 51 })
  })

  it('24 V has the same cells: twice the volts, half the amp-hours, four times the resistance, and a step-down', () => {
    const plan = demoPlan('tern-rock-light')
    const bank = taken(plan, 'bank', '24-step-down')
    const [was, now] = [packOf(plan), packOf(bank)]
    expect(restedVolts(now, 0.5)).toBeCloseTo(2 * restedVolts(was, 0.5), 6)
    expect(now.capacityAh).toBe(was.capacityAh / 2)
    expect(now.internalOhm).toBeCloseTo(4 * was.internalOhm, 6)
    expect(now.massG).toBe(was.massG)
    expect(bank.parts.filter(p => p.kind === 'converter')).toHaveLength(1)
    expect(sideOf(bank).arrivals.vhf!.lowV).toBeGreaterThan(13)
    const back = packOf(taken(bank, 'bank', '12-parallel'))
    expect(back.internalOhm).toBeCloseTo(was.internalOhm, 6)
    expect(taken(bank, 'bank', '12-parallel').parts.filter(p => p.kind === 'converter')).toHaveLength(0)
  })

  it('a lead for each goes from the post with the fuse its port had; a block again has a port for each', () => {
    const plan = demoPlan('clean-bench')
    const own = taken(plan, 'leads', 'own')
    expect(own.parts.some(p => p.kind === 'block')).toBe(false)
    expect(own.leads.map(l => [l.from, l.inline!.map(i => (i as { ratedA: number }).ratedA)])).toEqual([
      ['psu', [30]],
      ['psu', [10]],
    ])
    const block = taken(own, 'leads', 'block')
    expect(block.parts.filter(p => p.kind === 'block')).toHaveLength(1)
    expect(block.leads).toHaveLength(3)
    expect(serious(block)).toEqual([])
  })

  it('an inverter and a mains charger for a DC-DC charger, and back', () => {
    const heron = demoPlan('narrowboat-heron')
    const ac = taken(heron, 'vehicleCharge', 'inverter')
    const [charger] = partsOf(ac.parts, 'charger')
    expect(partsOf(ac.parts, 'converter')).toHaveLength(0)
    expect(
      partsOf(ac.parts, 'inverter').some(i => i.id === charger!.fedBy && i.acLoads![0]!.part === charger!.id),
    ).toBe(true)
    const dc = taken(ac, 'vehicleCharge', 'dc-dc')
    expect(partsOf(dc.parts, 'converter').filter(c => c.charges)).toHaveLength(1)
    expect(partsOf(dc.parts, 'charger')).toHaveLength(0)
  })

  it('no DC-DC charger for an inverter that feeds other things too', () => {
    const ac = taken(demoPlan('narrowboat-heron'), 'vehicleCharge', 'inverter')
    const [charger] = partsOf(ac.parts, 'charger')
    const drill = { name: 'Drill', watts: 300 }
    const parts = ac.parts.map(p =>
      p.kind === 'inverter' && p.id === charger!.fedBy ? { ...p, acLoads: [...p.acLoads!, drill] } : p,
    )
    expect(chooseSchool({ ...ac, parts }, 'vehicleCharge', 'dc-dc').cannot).toContain('feeds other things too')
  })

  it('through a gate stands between supply, battery and block, and comes out again', () => {
    const plan = demoPlan('tern-rock-light')
    const gated = taken(plan, 'feed', 'gate')
    const [gate] = partsOf(gated.parts, 'gate')
    expect(
      gated.leads
        .flatMap(l => [l.from, l.to])
        .filter(t => t.startsWith(`${gate!.id}.`))
        .sort(),
    ).toEqual(['battery', 'out', 'supply'].map(t => `${gate!.id}.${t}`))
    const out = taken(gated, 'feed', 'battery')
    expect(partsOf(out.parts, 'gate')).toHaveLength(0)
    expect(out.leads).toHaveLength(plan.leads.length)
    expect(sideOf(out).arrivals.hf!.lowV).toBeCloseTo(sideOf(plan).arrivals.hf!.lowV, 6)
  })

  it('two controllers for one halve its panel, and one again holds both', () => {
    const plan = demoPlan('tern-rock-light')
    const two = taken(plan, 'controllers', 'several-small')
    const panels = partsOf(two.parts, 'panel')
    expect(panels.map(p => p.openCircuitV)).toEqual([24, 24])
    const [whole] = partsOf(plan.parts, 'panel')
    // In series: half the volts each, and the amps of the one string.
    expect(panels[1]).toMatchObject({
      maxPowerV: whole!.maxPowerV / 2,
      shortCircuitA: whole!.shortCircuitA,
      maxPowerA: whole!.maxPowerA,
    })
    expect(partsOf(two.parts, 'controller')).toHaveLength(2)
    const one = taken(two, 'controllers', 'one-large')
    expect(partsOf(one.parts, 'panel')[0]).toMatchObject({
      openCircuitV: 24,
      shortCircuitA: 2 * panels[0]!.shortCircuitA,
    })
  })

  it('two controllers for one halve the amps of panels side by side', () => {
    const tern = demoPlan('tern-rock-light')
    const parts = tern.parts.map(p =>
      p.kind === 'panel' ? { ...p, members: p.members!.map((m, i) => ({ ...m, string: i + 1 })) } : p,
    )
    const whole = partsOf(parts, 'panel')[0]!
    for (const panel of partsOf(taken({ ...tern, parts }, 'controllers', 'several-small').parts, 'panel'))
      expect(panel).toMatchObject({
        openCircuitV: whole.openCircuitV,
        maxPowerV: whole.maxPowerV,
        shortCircuitA: whole.shortCircuitA / 2,
        maxPowerA: whole.maxPowerA / 2,
      })
  })

  it('a pack for a USB bank has about its watt-hours and no trigger; a bank takes what it can give alone', () => {
    const usb = smallPlan({
      parts: [
        {
          id: 'bank',
          kind: 'usbSource',
          voltages: [
            { volts: 5, amps: 3 },
            { volts: 12, amps: 3 },
          ],
          energyWh: 96,
          terminal: 'usb-c',
        },
        { id: 'trg', kind: 'trigger', requestV: 12, maxA: 3, in: 'usb-c', out: 'stack-30' },
        radio({ draw: { model: 'constant-current', idleA: 0.1, activeA: 1.5 } }),
      ],
      leads: [
        lead({ id: 'u', from: 'bank', to: 'trg.in', inline: [] }),
        lead({ id: 'o', from: 'trg.out', to: 'hf', inline: [] }),
      ],
    })
    const pack = taken(usb, 'portable', 'pack')
    expect(packOf(pack).capacityAh).toBe(8)
    expect(pack.parts.some(p => p.kind === 'trigger')).toBe(false)
    expect(pack.leads).toHaveLength(1)
    const heavy = chooseSchool(smallPlan(), 'portable', 'usb-bank')
    expect(heavy.cannot).toMatch(/The loads take \d+ W, and a USB bank gives 36 W/)
    const light = smallPlan({
      parts: [battery(), radio({ draw: { model: 'constant-current', idleA: 0.1, activeA: 1.5 } })],
    })
    const bank = taken(light, 'portable', 'usb-bank')
    expect(bank.parts.map(p => p.kind).sort()).toEqual(['radio', 'trigger', 'usbSource'])
  })

  it('those that come to the same here, or cannot be, are told apart from those that matter', () => {
    const of = (demo: (typeof DEMOS)[number]) =>
      Object.fromEntries(schoolsThatMatter(demoPlan(demo)).map(s => [s.id, s.noDifference]))
    const bench = of('clean-bench')
    expect(bench.leads).toBeNull()
    expect(bench.hold).toBeNull()
    expect(bench.chemistry).toBe('There is no battery of the other kind.')
    expect(bench.standby).toBe('Both sides come to the same here.')
    expect(bench.controllers).toBe('It takes one controller.')
    const tern = of('tern-rock-light')
    for (const id of ['hold', 'chemistry', 'bank', 'packs', 'feed', 'leads', 'ampacity']) expect(tern[id]).toBeNull()
  })
})
