import { describe, expect, it } from 'vitest'
import { CHECKS } from '../../../core/checks/index'
import { applyEdit } from '../../../core/edit/patch'
import { swapPart } from '../../../core/edit/swap'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { randomPlan } from '../../data/randomPlans'
import { brokenPlan } from '../../data/brokenPlans'
import { FUSES_PLANS } from '../../data/hard/fuses'
import { PAIRS } from '../../data/pairs'
import {
  battery,
  block,
  demoPlan,
  DEMOS,
  fuse,
  lead,
  load,
  radio,
  smallPlan,
  withLead,
  withPart,
} from '../../data/plans'
import type { Plan } from '../../../core/plan/schema'
import { madeUpPlan } from '../../bench/plans'

const fixesFor = (plan: Plan, check: string) => {
  const { verdict, study } = judge(plan)
  const finding = verdict.findings.find(f => f.check === check)!
  return { finding, fixes: fixesOf(finding, study, verdict) }
}

describe('the demo stations', () => {
  it('Tern Rock shows its flaws, worst first', () => {
    const { verdict } = judge(demoPlan('tern-rock-evening'))
    expect(verdict.findings.map(f => [f.severity, f.check, f.place])).toEqual([
      ['danger', 'fuse-place', 'l1'],
      ['fail', 'arrival-under', 'hf'],
      ['caution', 'arrival-over', 'lamps'],
    ])
    expect(verdict.passed).toHaveLength(CHECKS.length - 3)
  })
  it('Clean bench has no finding at all', () => expect(judge(demoPlan('clean-bench')).verdict.findings).toEqual([]))
  it.each([
    [
      'tern-rock-light',
      [
        'fuse-place l1',
        'panel-cold-voltage ctl',
        'arrival-under hf',
        'arrival-over lamps',
        'noise-known ctl',
        'noise-lines ctl',
      ],
    ],
    [
      'narrowboat-heron',
      [
        'ventilation house',
        'charge-chemistry dcdc',
        'arrival-under mobile',
        'accessory-transmitter l2',
        'vehicle-engine-off dcdc',
        'noise-known inv',
        'common-ground dcdc',
      ],
    ],
    ['moor-walk-kit', ['usb-voltage trig', 'arrival-under log', 'arrival-over cw', 'harness-unfused y']],
  ] as const)('%s shows every flaw it was made with', (name, flaws) => {
    expect(judge(demoPlan(name)).verdict.findings.map(f => `${f.check} ${f.place}`)).toEqual(
      expect.arrayContaining([...flaws]),
    )
  })
  it.each(DEMOS)('%s is mended by taking the first fix of each finding', name => {
    let plan = demoPlan(name)
    for (let round = 0; round < 20; round++) {
      const { verdict, study } = judge(plan)
      if (!verdict.findings.length) break
      const [fix] = fixesOf(verdict.findings[0]!, study, verdict)
      const edit = applyEdit(plan, fix!.patch)
      if (!edit.ok) throw new Error(JSON.stringify(edit.faults))
      plan = edit.plan
    }
    expect(judge(plan).verdict.findings).toEqual([])
  })
})

describe('fixes', () => {
  it('say what the plan would then show, and that is what it shows', () => {
    const plan = demoPlan('tern-rock-evening')
    const { verdict, study } = judge(plan)
    for (const finding of verdict.findings) {
      const fixes = fixesOf(finding, study, verdict)
      expect(fixes.length).toBeGreaterThan(0)
      for (const fix of fixes) {
        const edit = applyEdit(plan, fix.patch)
        if (!edit.ok) throw new Error(JSON.stringify(edit.faults))
        const after = judge(edit.plan).verdict
        expect(after.findings.map(f => `${f.check} ${f.place}`)).toEqual(fix.after.findings)
        expect(after.findings.some(f => f.check === finding.check && f.place === finding.place)).toBe(false)
        for (const [id, span] of Object.entries(fix.after.arrivals))
          expect(after.arrivals[id]!.low.value).toBeCloseTo(span!.lowV, 9)
      }
    }
  })

  it('a starving radio gets thicker wire, a shorter lead, and less power', () => {
    const { fixes } = fixesFor(demoPlan('tern-rock-evening'), 'arrival-under')
    expect(fixes.map(f => f.label)).toEqual([
      '10 AWG in HF lead',
      'Move HF radio 1.4 m closer',
      'Turn HF radio down to 50 W, with a 20 A fuse',
      // A regulator of 13.8 V draws more as the pack empties: more than the block and both its fuses carry.
      'Step-up-and-down (buck-boost) 13.8 V, 25 A, before HF radio, ' +
        'with a distribution block rated 60 A in its place, ' +
        '60 A fuse in place of 50 A and 40 A fuse in place of 30 A',
    ])
    expect(fixes[0]!.cost).toBe('+126 g copper')
  })

  it('a slower fuse before a block is no larger than its contacts stand, and says one rating', () => {
    const bench = demoPlan('clean-bench')
    const car = applyEdit(bench, swapPart(bench, 'psu', 'vehicle-12')!)
    expect(car.ok).toBe(true)
    if (!car.ok) return
    expect(fixesFor(car.plan, 'fuse-selectivity').fixes.map(f => f.label)).toEqual([
      'A slower bolt-down strip fuse upstream, 50 A',
      'A slower high-current strip fuse upstream, 50 A',
    ])
  })

  it('what is changed twice on the way is said once, as it ends', () => {
    const plan = FUSES_PLANS.find(p => p.name === 'long thin lead with computer hides starving radio')!.plan()
    const labels = judge(plan).verdict.findings.flatMap(f => fixesFor(plan, f.check).fixes.map(fix => fix.label))
    const twice = labels.filter(l => /AWG in (lead \w+).*AWG in \1/.test(l))
    expect(twice).toEqual([])
    expect(labels.join('; ')).toMatch(/8 AWG in lead p, with/)
  })

  it('one that makes another thing worse says so, and stands last', () => {
    // Only a conductor too thick for the stacking contacts would do.
    const plan = withLead(withPart(smallPlan(), 'hf', { supply: { minV: 12.5, nominalV: 13.8, maxV: 15.9 } }), 'l1', {
      lengthM: 6,
    })
    const { fixes } = fixesFor(plan, 'arrival-under')
    const thick = fixes.find(f => f.label.includes('AWG'))!
    expect(thick.after.worse.map(w => w.check)).toContain('connector-conductor')
    expect(fixes.indexOf(thick)).toBe(fixes.length - 1)
  })

  it.each([
    ['fuse-missing', smallPlan({ leads: [lead({ inline: [] })] }), /15 A blade fuse/],
    ['fuse-place', smallPlan({ leads: [lead({ inline: [fuse(20, 0.6)] })] }), /0.12 m from bat/],
    [
      'fuse-over-conductor',
      smallPlan({ leads: [lead({ inline: [fuse(80, 0.1, { type: 'strip' })] })] }),
      /50 A fuse in place of 80 A/,
    ],
    [
      'fuse-nuisance',
      smallPlan({ parts: [battery(), radio({ draw: { model: 'constant-current', idleA: 1, activeA: 18 } })] }),
      /25 A fuse in place of 20 A/,
    ],
    [
      'ampacity',
      smallPlan({
        parts: [battery(), radio({ draw: { model: 'constant-current', idleA: 1, activeA: 19.5 } })],
        leads: [lead({ conductor: { awg: 18, insulationC: 105 }, lengthM: 0.3 })],
      }),
      /16 AWG/,
    ],
    [
      'arrival-over',
      smallPlan({ parts: [battery(), radio({ supply: { minV: 11, nominalV: 13, maxV: 13.3 } })] }),
      /diode/,
    ],
    [
      'battery-continuous',
      smallPlan({ parts: [battery({ capacityAh: 10, continuousA: 8, peakA: 40 }), radio()] }),
      /LiFePO4/,
    ],
    ['connector-mating', smallPlan({ parts: [battery(), radio({ terminal: 'inlet-4' })] }), /radio power inlet/],
    [
      'connector-crowded',
      smallPlan({
        parts: [battery(), block([15, 15, 15]), radio(), load({ terminal: 'stack-45' })],
        leads: [
          lead({ id: 'm', to: 'blk.feed', ends: {} }),
          lead({ from: 'blk.p1', inline: [], ends: {} }),
          lead({ id: 'l2', from: 'blk.p1', to: 'pc', inline: [], ends: {} }),
        ],
      }),
      /free port p2/,
    ],
    [
      'dropper-rating',
      smallPlan({
        leads: [lead({ inline: [fuse(20), { id: 'd', kind: 'dropper', ratedA: 3, stripe: 'to', atM: 0.8 }] })],
      }),
      /20 A diode/,
    ],
    [
      'dropper-direction',
      smallPlan({
        parts: [battery(), radio({ kind: 'load', draw: { model: 'resistive', idleW: 1, activeW: 9 } })],
        leads: [lead({ inline: [fuse(20), { id: 'd', kind: 'dropper', ratedA: 3, stripe: 'from', atM: 0.8 }] })],
      }),
      /Turn the diode round/,
    ],
    [
      'copper-clad',
      smallPlan({ leads: [lead({ conductor: { awg: 10, material: 'cca' } })] }),
      /Copper of the same size/,
    ],
    [
      'island',
      smallPlan({ leads: [lead({ inline: [fuse(20), { id: 's', kind: 'switch', closed: false, atM: 0.5 }] })] }),
      /Close the switch/,
    ],
  ])('%s is solved by an offered fix', (check, plan, label) => {
    const { fixes } = fixesFor(plan, check)
    const fix = fixes.find(f => label.test(f.label))
    expect(fix, fixes.map(f => f.label).join(' | ')).toBeDefined()
  })

  it('an adjustable supply is set higher', () => {
    const supply = {
      id: 'bat',
      kind: 'supply',
      setV: 13,
      adjustable: { minV: 11, maxV: 15 },
      continuousA: 20,
      outputOhm: 0.01,
      terminal: 'ring-m6',
    }
    const plan = smallPlan({ parts: [supply, radio({ supply: { minV: 13.3, nominalV: 13.8, maxV: 15.9 } })] })
    expect(fixesFor(plan, 'arrival-under').fixes.map(f => f.label)).toContain('Set bat to 13.6 V')
  })
})

describe('what is told of 250 parts', () => {
  const asBuilt = madeUpPlan(250)
  const on = (more: object): Plan => ({
    ...asBuilt,
    parts: asBuilt.parts.map(p => (p.id === 'bat' ? { ...p, ...more } : p)),
  })
  it.each([
    ['as they are', asBuilt, 'fuse-interrupting'],
    ['on 48 V', on({ seriesCells: 16 }), 'fuse-voltage'],
    ['on a pack too soft for its computers', on({ internalOhm: 0.02 }), 'collapse'],
  ])('%s: every finding and every fix is read in one sitting, however many places it has', (_, plan, check) => {
    const { verdict, study } = judge(plan)
    expect(verdict.findings.map(f => f.check)).toContain(check)
    for (const { message } of verdict.findings) expect(message.length, message).toBeLessThan(450)
    // Of each check the first is mended: the others are like it.
    const one = new Map([...verdict.findings].reverse().map(f => [f.check, f]))
    for (const finding of one.values())
      for (const fix of fixesOf(finding, study, verdict)) expect(fix.label.length, fix.label).toBeLessThan(250)
  })
})

describe('what is told can be told apart', () => {
  it('two parts called alike are named with their ids, in findings and in fixes', () => {
    const far = (id: string, to: string) => lead({ id, to, lengthM: 18, conductor: { awg: 14 } })
    const plan = smallPlan({
      parts: [
        battery(),
        radio({ id: 'one', name: 'HF radio', powerW: 100 }),
        radio({ id: 'two', name: 'HF radio', powerW: 100 }),
      ],
      leads: [far('l1', 'one'), far('l2', 'two')],
    })
    const { finding, fixes } = fixesFor(plan, 'arrival-under')
    expect(finding.title).toMatch(/HF radio \((one|two)\) starves/)
    expect(fixes.map(f => f.label).filter(label => label.startsWith('Turn '))).toEqual([
      expect.stringMatching(/^Turn HF radio \((one|two)\) down/),
    ])
  })

  it('no two fixes of a finding change the same', () => {
    // Of the 23rd three ways came to the same 60 W on its inverter.
    for (const seed of [3, 7, 22, 23, 31]) {
      const { verdict, study } = judge(brokenPlan(seed)!)
      for (const finding of verdict.findings) {
        const patches = fixesOf(finding, study, verdict).map(f => JSON.stringify(f.patch))
        expect(new Set(patches).size, finding.title).toBe(patches.length)
      }
    }
  })
})

describe('words for places', () => {
  it('no finding and no fix names a terminal by its id', () => {
    const plans = [
      ...DEMOS.map(name => demoPlan(name)),
      ...Object.values(PAIRS).map(({ fires }) => fires),
      ...Array.from({ length: 20 }, (_, i) => randomPlan(i + 1)),
    ]
    const named: string[] = []
    for (const plan of plans) {
      if (!plan) continue
      const { verdict, study } = judge(plan)
      const ids = plan.leads.flatMap(l => [l.from, l.to]).filter(terminal => terminal.includes('.'))
      const texts = verdict.findings.flatMap(f => [f.title, f.message, ...fixesOf(f, study, verdict).map(x => x.label)])
      named.push(...texts.filter(text => ids.some(terminal => text.includes(terminal))))
    }
    expect(named).toEqual([])
  })
})
