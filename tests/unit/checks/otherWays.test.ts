import { describe, expect, it } from 'vitest'
import { CHECKS } from '../../../core/checks/index'
import { applyEdit } from '../../../core/edit/patch'
import type { Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { fixesOf } from '../../../core/verdict/fixes'
import { onBlock } from '../../data/basicPairs'
import { PAIRS } from '../../data/pairs'
import { battery, fuse, lead, load, radio, smallPlan } from '../../data/plans'

/** Ways in which a check fires beside the one of its pair, and what it would mend them by. */

type Loose = Record<string, unknown>

function told(plan: Plan, check: string) {
  const { verdict, study } = judge(plan)
  const [finding] = verdict.findings.filter(f => f.check === check)
  if (!finding) return null
  const fixes = fixesOf(finding, study, verdict)
  return { ...finding, fixes: fixes.map(f => f.label), patches: fixes.map(f => f.patch) }
}

/** What a check of its own proposes first, made in the plan. */
function proposed(plan: Plan, check: string): Plan {
  const { verdict, study } = judge(plan)
  const finding = verdict.findings.find(f => f.check === check)!
  const [first] = CHECKS.find(c => c.id === check)!.fixes!(finding, study)
  const edit = applyEdit(plan, first!.patch)
  if (!edit.ok) throw new Error(`the first proposal of ${check} cannot be made`)
  return edit.plan
}

const membersOf = (plan: Plan) => (plan.parts[0] as unknown as { members: { restedV: number }[] }).members

describe('packs in series', () => {
  const packs = (members: Loose[], more: Loose = {}) => smallPlan({ parts: [battery({ members, ...more }), radio()] })
  const half = (more: Loose) => ({ string: 1, seriesCells: 2, capacityAh: 50, ...more })

  it('of two chemistries are a danger that no setting mends', () => {
    const plan = packs([half({ name: 'A' }), half({ name: 'B', chemistry: 'agm' })])
    expect(told(plan, 'packs-series')).toMatchObject({
      severity: 'danger',
      title: 'Unlike chemistries in series',
      message: 'A (LiFePO4) and B (AGM lead-acid) stand in series.',
      fixes: [],
    })
  })
  it('that rest apart are charged each by itself, to what each of them stands at full', () => {
    // 3.28 V a cell is about half of it, 3.0 V nearly none: two cells each.
    const plan = packs([half({ restedV: 6.56 }), half({ restedV: 6 })])
    const finding = told(plan, 'packs-series')!
    expect(finding.title).toBe('Packs in series unequally charged')
    expect(finding.message).toContain('rest at 3.28 V a cell (pack 1), 3.00 V a cell (pack 2)')
    expect(finding.fixes).toEqual(['Charge each pack full by itself before joining them'])
  })
  it('keep each its own voltage where strings stand between each other in the list', () => {
    const whole = { string: 2, seriesCells: 4, capacityAh: 50, restedV: 13.1 }
    const plan = packs([half({ restedV: 6.56 }), whole, half({ restedV: 6 })], { capacityAh: 100 })
    const rested = membersOf(proposed(plan, 'packs-series')).map(m => m.restedV)
    // Two cells, four cells, two cells.
    expect(rested[0]).toBe(rested[2])
    expect(rested[1]).toBeCloseTo(2 * rested[0]!, 1)
  })
  it('of several years are told where two or more lie between them', () => {
    const plan = packs([half({ ageYears: 1 }), half({ ageYears: 4 })])
    expect(told(plan, 'packs-series')).toMatchObject({ numbers: { apartYears: 3 }, fixes: [] })
  })
})

describe('panels joined to one', () => {
  const one = { openCircuitV: 22, shortCircuitA: 5.6, maxPowerV: 18, maxPowerA: 5 }
  function withPanels(whole: Loose, members: Loose[]) {
    const plan = PAIRS['panel-members']!.fires
    return smallPlan({
      parts: plan.parts.map(p => (p.kind === 'panel' ? { ...p, ...whole, members } : p)) as unknown as Loose[],
      leads: plan.leads as unknown as Loose[],
    })
  }
  it('strings of unlike voltage are told with both', () => {
    const low = { ...one, openCircuitV: 18, maxPowerV: 15 }
    const plan = withPanels({ ...one, shortCircuitA: 11.2, maxPowerA: 10 }, [
      { ...one, string: 1 },
      { ...low, string: 2 },
    ])
    expect(told(plan, 'panel-members')).toMatchObject({
      numbers: { lowestV: 15, highestV: 18 },
      message: 'The strings of sun work best at 15.00 V and at 18.00 V: side by side neither does.',
      fixes: [],
    })
  })
  it('that add up to something else take their sum: volts in series, amps side by side', () => {
    const plan = withPanels({ ...one, openCircuitV: 40, maxPowerV: 33 }, [one, one])
    const finding = told(plan, 'panel-members')!
    expect(finding.message).toContain('add up to 44.00 V open and 5.6 A shorted, 180 W; the plan says 40.00 V, 5.6 A')
    expect(proposed(plan, 'panel-members').parts.find(p => p.kind === 'panel')).toMatchObject({
      openCircuitV: 44,
      shortCircuitA: 5.6,
      maxPowerV: 36,
      maxPowerA: 5,
    })
    const beside = withPanels(one, [
      { ...one, string: 1 },
      { ...one, string: 2 },
    ])
    expect(proposed(beside, 'panel-members').parts.find(p => p.kind === 'panel')).toMatchObject({
      openCircuitV: 22,
      shortCircuitA: 11.2,
      maxPowerV: 18,
      maxPowerA: 10,
    })
  })
})

describe('what hides or lies open', () => {
  it('an adapter with a diode in it wants a label', () => {
    const { parts, leads } = PAIRS['adapters-in-row']!.near
    const at = parts.findIndex(p => p.kind === 'adapter')
    const plan = smallPlan({
      parts: parts.map((p, i) => (i === at ? { ...p, dropper: { count: 1 } } : p)) as unknown as Loose[],
      leads: leads as unknown as Loose[],
    })
    const finding = told(plan, 'hidden-diode')!
    expect(finding.place).toBe(parts[at]!.id)
    expect(finding.fixes).toEqual(['Label it: holds a diode'])
  })
  it('a breaker of its own that is off leaves its load unfed, and is closed', () => {
    const plan = smallPlan({
      parts: [battery(), { id: 'cb', kind: 'breaker', ratedA: 30, closed: false, terminal: 'ring-m6' }, radio()],
      leads: [
        lead({ id: 'a', to: 'cb.a', ends: { from: { connector: 'ring-m6' }, to: { connector: 'ring-m6' } } }),
        lead({ id: 'b', from: 'cb.b', ends: { from: { connector: 'ring-m6' } }, inline: [] }),
      ],
    })
    const finding = told(plan, 'island')!
    expect(finding.message).toBe('No source reaches hf: a switch or breaker on its way is open.')
    expect(finding.fixes[0]).toBe('Close cb')
  })
  it('a radio that no lead lands on is given one from a free port, told by its name', () => {
    const { parts, leads } = onBlock()
    const plan = smallPlan({
      parts: [...parts, radio({ id: 'r2', name: 'Second radio' })] as unknown as Loose[],
      leads: leads as unknown as Loose[],
    })
    const finding = told(plan, 'island')!
    expect(finding.place).toBe('r2')
    expect(finding.fixes[0]).toMatch(/^A lead from blk, port 2 to Second radio/)
  })
})

describe('fuses behind more volts than they break', () => {
  it('are changed together where several stand', () => {
    const { parts, leads } = PAIRS['fuse-voltage']!.fires
    const plan = smallPlan({
      parts: parts as unknown as Loose[],
      leads: leads.map(l => ({
        ...l,
        inline: [...(l.inline ?? []), fuse(20, 0.4, { id: 'f9' })],
      })) as unknown as Loose[],
    })
    const finding = told(plan, 'fuse-voltage')!
    expect(finding.numbers.devices).toBe(2)
    expect(finding.fixes).toEqual(['Fuses in their places for 40.80 V'])
    expect(finding.patches[0]).toHaveLength(2)
  })
})

describe('a choke against a device that is known to be heard', () => {
  const { parts, leads } = PAIRS['converter-input']!.near
  const chokes = (lengths: readonly number[]) =>
    told(
      smallPlan({
        site: { bands: ['30 m'] },
        parts: parts.map(p => (p.id === 'bb' ? { ...p, noise: { bands: ['30 m'] } } : p)) as unknown as Loose[],
        leads: leads.map((l, i) => ({ ...l, lengthM: lengths[i], inline: [] })) as unknown as Loose[],
      }),
      'noise-known',
    )!.fixes[0]
  it('stands on its longest lead: that is the best antenna', () => {
    const [first, second] = leads.map(l => l.id)
    expect(chokes([1, 3])).toMatch(new RegExp(`^A common-mode choke on lead ${second},`))
    expect(chokes([3, 1])).toMatch(new RegExp(`^A common-mode choke on lead ${first},`))
  })
})

describe('lead-acid in the cold', () => {
  const cold = (low: number, more: Loose = {}) =>
    smallPlan({
      site: { ambientC: { low, typical: 10, high: 20 } },
      parts: [battery({ chemistry: 'agm', seriesCells: 6, ...more }), radio()],
    })
  it('that is used to the last freezes at −7 °C, half used at −25 °C', () => {
    expect(told(cold(-8, { usableFraction: 1 }), 'battery-freezes')!.numbers.freezesC).toBe(-7)
    expect(told(cold(-6, { usableFraction: 1 }), 'battery-freezes')).toBeNull()
    expect(told(cold(-26, { usableFraction: 0.5 }), 'battery-freezes')!.numbers.freezesC).toBe(-25)
    expect(told(cold(-24, { usableFraction: 0.5 }), 'battery-freezes')).toBeNull()
  })
  it('is stopped earlier, at the next share that does not freeze', () =>
    expect(told(cold(-30, { usableFraction: 0.5 }), 'battery-freezes')!.fixes).toEqual(['Stop at 60 % in the cold']))
})

describe('a bank that goes to sleep', () => {
  // Two stations in one plan, of which 20 m of 22 AWG bring 17 W at most to a load that takes 30 W at rest.
  const beside = (idleW: number) =>
    smallPlan({
      parts: [
        {
          id: 'usb',
          kind: 'usbSource',
          voltages: [{ volts: 12, amps: 3 }],
          energyWh: 74,
          autoOffA: 0.1,
          terminal: 'usb-c',
        },
        { id: 'trg', kind: 'trigger', requestV: 12, maxA: 3, in: 'usb-c', out: 'barrel-5521' },
        load({ id: 'far', draw: { model: 'constant-power', idleW, activeW: 32 } }),
        battery(),
        radio(),
      ],
      leads: [
        lead(),
        lead({ id: 'l2', from: 'usb', to: 'trg.in', lengthM: 0.5, ends: {}, inline: [] }),
        lead({ id: 'l3', from: 'trg.out', to: 'far', lengthM: 20, conductor: { awg: 22 }, ends: {}, inline: [] }),
      ],
    } as never)
  it('does for a load that takes too little, not for one that takes too much and drops out', () => {
    expect(told(beside(0.5), 'usb-sleep')).toMatchObject({ place: 'usb' })
    expect(told(beside(30), 'collapse')!.title).toMatch(/far.* cannot be carried, even idle/)
    expect(told(beside(30), 'usb-sleep')).toBeNull()
  })
})
