import { describe, expect, it } from 'vitest'
import { putBetween } from '../../../core/edit/between'
import { putItem } from '../../../core/edit/items'
import { tryPatch, type Patch } from '../../../core/edit/patch'
import { fedEnd } from '../../../core/graph/fed'
import { KINDS } from '../../../core/kinds/index'
import { partIdOf } from '../../../core/plan/find'
import type { Lead, Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { battery, DEMOS, demoPlan, fuse, lead, radio, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'
import { turned } from '../../data/turned'

/** What is put into a lead by hand goes in the right way round, from whichever end the lead is told. */

const bare = (more: Record<string, unknown>) => lead({ ends: {}, inline: [], ...more })
const back = (plan: Plan): Plan => turned(plan)!
const rowOf = (kind: string, label: RegExp) => KINDS.get(kind)!.catalogue.find(r => label.test(r.label))!.part as never

describe('the end at which a lead is fed', () => {
  const supply = { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 25, outputOhm: 0.01 }
  const panel = { id: 'sun', kind: 'panel', openCircuitV: 22, shortCircuitA: 5.6, maxPowerV: 18, maxPowerA: 5 }
  const ctl = rowOf('controller', /MPPT, 75 V/) as object
  const ports = ['p1', 'p2'].map(id => ({ id, connector: 'stack-45' }))
  const block = { id: 'blk', kind: 'block', feed: 'stack-45', ports }
  const plan = smallPlan({
    parts: [
      battery(),
      supply,
      panel,
      { ...ctl, id: 'ctl' },
      block,
      radio(),
      radio({ id: 'loose' }),
      radio({ id: 'r3' }),
    ],
    leads: [
      bare({ id: 'main', to: 'blk.feed' }),
      bare({ id: 'leg', from: 'blk.p1', to: 'hf' }),
      bare({ id: 'sunny', from: 'sun', to: 'ctl.panel' }),
      bare({ id: 'charge', from: 'ctl.battery', to: 'bat' }),
      bare({ id: 'mains', from: 'psu', to: 'blk.p2' }),
      bare({ id: 'dead', from: 'loose', to: 'r3' }),
    ],
  })
  const at = (id: string, told: Plan, isCharger = false) => {
    const lead = told.leads.find(l => l.id === id)!
    return lead[fedEnd(told, lead, isCharger)]
  }
  it.each([
    // The mains supply reaches the block too: the fuse belongs at the battery.
    ['main', 'bat'],
    ['leg', 'blk.p1'],
    // Nothing else gives there: the panel.
    ['sunny', 'sun'],
    ['charge', 'bat'],
    ['mains', 'blk.p2'],
    // Neither is: one of them, whichever comes first.
    ['dead', 'loose'],
  ])('%s: %s', (id, fed) => {
    expect(at(id, plan)).toBe(fed)
    expect(at(id, back(plan))).toBe(fed)
  })
  it.each([
    ['main', 'blk.feed'],
    ['mains', 'psu'],
    ['leg', 'blk.p1'],
  ])('for a charger %s: %s', (id, fed) => {
    expect(at(id, plan, true)).toBe(fed)
    expect(at(id, back(plan), true)).toBe(fed)
  })
})

describe('put in by hand', () => {
  const small = smallPlan({ parts: [battery(), radio()], leads: [lead({ inline: [] })] })
  const after = (plan: Plan, patch: Patch) => tryPatch(plan, patch)!
  const arrives = (plan: Plan) => judge(plan).verdict.arrivals.hf

  it.each([
    ['as told', small],
    ['from the radio', back(small)],
  ])('a regulator feeds the radio; the lead %s', (_, plan) => {
    const put = putBetween(plan, { leadId: 'l1' }, rowOf('converter', /buck-boost\) 13.8 V, 25 A/), 'reg')!
    const now = after(plan, put.patch)
    expect(arrives(now)!.low.value).toBeGreaterThan(13.5)
    // The lead that was there keeps its id, on the fed side, and the end it was told from.
    const [own] = now.leads
    expect([own!.from, own!.to].map(partIdOf).sort()).toEqual(['bat', 'reg'])
    expect(own!.from === 'bat').toBe(plan === small)
  })
  it.each([
    ['as told', small],
    ['from the radio', back(small)],
  ])('a diode passes what the radio takes, a fuse stands at the battery; the lead %s', (_, plan) => {
    const diode = putItem(plan, 'l1', { kind: 'dropper', count: 1, ratedA: 30, stripe: 'to' }, 0.3)
    const idle = arrives(after(plan, diode))!.high.value
    expect(idle).toBeGreaterThan(12)
    expect(idle).toBeLessThan(arrives(plan)!.high.value - 0.5)
    const fused = after(plan, putItem(plan, 'l1', { kind: 'fuse', type: 'blade', ratedA: 20, legs: 'positive' }, 0.12))
    expect(judge(fused).verdict.findings.filter(f => /^fuse-(missing|place)/.test(f.check))).toEqual([])
  })
  it('a controller faces the panel that was wired to the battery', () => {
    const sun = { id: 'sun', kind: 'panel', openCircuitV: 22, shortCircuitA: 5.6, maxPowerV: 18, maxPowerA: 5 }
    const wired = smallPlan({
      parts: [battery(), radio(), sun],
      leads: [lead(), bare({ id: 'p', from: 'sun', to: 'bat', inline: [fuse(15, 0.9)] })],
    })
    for (const plan of [wired, back(wired)]) {
      const now = after(plan, putBetween(plan, { leadId: 'p' }, rowOf('controller', /MPPT, 75 V/), 'ctl')!.patch)
      const joined = now.leads.map(l => [l.from, l.to].sort().join(' '))
      expect(joined).toContain('ctl.panel sun')
      expect(joined).toContain('bat ctl.battery')
    }
  })

  const ITEMS = [
    { kind: 'fuse', type: 'blade', ratedA: 20, legs: 'positive' },
    { kind: 'dropper', count: 1, ratedA: 3, stripe: 'to' },
  ] as const
  const plans = [...DEMOS.map(demoPlan), ...Array.from({ length: 8 }, (_, i) => randomPlan(i + 1))].flatMap(
    p => p ?? [],
  )
  const says = (plan: Plan, patch: Patch | null) => {
    const now = patch && tryPatch(plan, patch)
    return (
      now &&
      judge(now)
        .verdict.findings.map(f => `${f.check} ${f.place} ${f.severity}`)
        .sort()
    )
  }
  it('says the same from whichever end the lead is told', () => {
    const puts = (plan: Plan, { id }: Lead) => [
      ...ITEMS.map(item => putItem(plan, id, item, 0.12)),
      ...['converter', 'gate', 'controller'].map(kind => {
        const put = putBetween(plan, { leadId: id }, KINDS.get(kind)!.catalogue[0]!.part as never, 'x')
        return put && put.patch
      }),
    ]
    for (const plan of plans) {
      const other = turned(plan)
      if (!other) continue
      for (const lead of plan.leads.slice(0, 6)) {
        const [here, there] = [puts(plan, lead), puts(other, lead)]
        here.forEach((patch, i) => expect(says(other, there[i]!), `${plan.name} ${lead.id}`).toEqual(says(plan, patch)))
      }
    }
  })
})
