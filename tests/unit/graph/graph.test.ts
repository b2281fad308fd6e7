import { describe, expect, it } from 'vitest'
import * as device from '../../../core/graph/device'
import { fedIn } from '../../../core/graph/fed'
import { aroundBy, devicesOf, graphOf, onward } from '../../../core/graph/graph'
import type { Lead } from '../../../core/plan/schema'
import { battery, demoPlan, fuse, lead, load, radio, smallPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const breaker = (more = {}) => ({ id: 'cb', kind: 'breaker', ratedA: 20, atM: 0.2, legs: 'positive', ...more })
const leadWith = (...inline: object[]) => smallPlan({ leads: [lead({ lengthM: 2, inline })] }).leads[0] as Lead

describe('devices in a lead', () => {
  it('are its fuses and breakers from its from end on, but none of the negative leg', () => {
    const l = leadWith(
      breaker({ atM: 1.5 }),
      fuse(10, 0.1, { legs: 'both' }),
      fuse(5, 0.3, { id: 'f2', legs: 'negative' }),
      { id: 's', kind: 'switch', ratedA: 20, atM: 0.5 },
    )
    expect(device.devicesIn(l)).toEqual([
      { place: 'l1', item: 'f1', kind: 'fuse', type: 'blade', ratedA: 10, atM: 0.1, legs: 'both' },
      { place: 'l1', item: 'cb', kind: 'breaker', type: 'thermal', ratedA: 20, atM: 1.5, legs: 'positive' },
    ])
    expect(device.hasDevice(l)).toBe(true)
    expect(device.hasDevice(leadWith({ id: 's', kind: 'switch', ratedA: 20, atM: 0.5 }))).toBe(false)
    expect(device.devicesIn(leadWith())).toEqual([])
  })
  it('that say what they can break keep it; a fuse has what its class has', () => {
    const [own] = device.devicesIn(leadWith(breaker({ ratedV: 60, breakingA: 3000 })))
    expect(own).toMatchObject({ ratedV: 60, breakingA: 3000 })
    expect(device.plainDevice(own!)).toEqual({
      place: 'l1',
      item: 'cb',
      kind: 'breaker',
      type: 'thermal',
      ratedA: 20,
      ratedV: 60,
      breakingA: 3000,
    })
    const [plain] = device.devicesIn(leadWith(fuse(10)))
    expect(Object.keys(device.plainDevice(plain!)).sort()).toEqual(['item', 'kind', 'place', 'ratedA', 'type'])
  })
  it.each([
    [{ type: 'blade' }, 14, 1000],
    [{ type: 'blade' }, 33, 0],
    [{ type: 'thermal', ratedV: 60, breakingA: 3000 }, 48, 3000],
    [{ type: 'thermal', ratedV: 60, breakingA: 3000 }, 61, 0],
    [{ type: 'thermal', breakingA: 2500 }, 14, 2500],
    [{ type: 'thermal', breakingA: 2500 }, 40, 0],
    [{ type: 'post-block', ratedV: 14 }, 14, 10000],
    [{ type: 'thermal', ratedV: 80 }, 48, 1000],
  ])('%j breaks, at %d V, %d A', (said, volts, amps) =>
    expect(device.deviceBreaksA({ place: 'l', item: 'x', kind: 'fuse', ratedA: 10, ...said }, volts)).toBe(amps),
  )
  it.each([
    [{ type: 'blade' }, 32],
    [{ type: 'thermal', ratedV: 60 }, 60],
    [{ type: 'post-block' }, 58],
  ])('%j is rated for %d V', (said, volts) =>
    expect(device.deviceVolts({ place: 'l', item: null, kind: 'fuse', ratedA: 10, ...said })).toBe(volts),
  )
})

describe('a lead', () => {
  it('is closed unless a switch or a breaker in it stands open', () => {
    const open = (kind: string) => leadWith({ id: 's', kind, ratedA: 20, atM: 0.5, closed: false })
    expect(['switch', 'breaker'].map(kind => device.isClosed(open(kind)))).toEqual([false, false])
    expect(device.isClosed(leadWith({ id: 's', kind: 'switch', ratedA: 20, atM: 0.5 }))).toBe(true)
    expect(device.isClosed(leadWith(fuse(10)))).toBe(true)
  })
  it('goes through a relay where an engine closes its switch', () => {
    const by = (who: object) => ({ ...leadWith(), inline: [{ id: 's', kind: 'switch', ...who }] }) as Lead
    expect([device.isThroughRelay(by({ by: 'engine' })), device.isThroughRelay(by({}))]).toEqual([true, false])
  })
})

describe('the graph of a plan', () => {
  const graph = graphOf(tern)
  it('is made once, and has every part, lead and landing', () => {
    expect(graphOf(tern)).toBe(graph)
    expect([...graph.parts.keys()]).toEqual(tern.parts.map(p => p.id))
    expect([...graph.leads.keys()]).toEqual(tern.leads.map(l => l.id))
    expect([...graph.landings].sort()).toEqual(tern.leads.flatMap(l => [l.from, l.to]).sort())
    for (const l of tern.leads) {
      for (const end of [l.from, l.to]) expect(graph.leadsAt(end)).toContain(l)
      for (const end of [l.from, l.to]) expect(graph.leadsOf(end.split('.')[0]!)).toContain(l)
      for (const end of [l.from, l.to]) expect(graph.terminals.has(end)).toBe(true)
    }
    expect(graph.leadsAt('nowhere')).toEqual([])
  })
  it('lists a lead once at a part, though both its ends were there', () =>
    expect(new Set(graph.leadsOf('blk')).size).toBe(graph.leadsOf('blk').length))
  it('knows the fuse of each port as a device, with those in leads after it', () => {
    const keys = devicesOf(tern).map(device.deviceKey)
    expect(keys.slice(0, 5)).toEqual(['blk.p1 ', 'blk.p2 ', 'blk.p3 ', 'blk.p4 ', 'blk.p5 '])
    expect(keys.length).toBe(5 + tern.leads.flatMap(device.devicesIn).length)
  })
  it('goes on inside a part to where no device is between, and not past a port fuse', () => {
    expect(onward(graph, 'blk.feed')).toEqual(['blk.feed'])
    const joint = smallPlan({
      parts: [battery(), { id: 'j', kind: 'joint' }, radio()],
      leads: [lead({ id: 'a', to: 'j.a', ends: {} }), lead({ id: 'b', from: 'j.b', ends: {} })],
    })
    expect(onward(graphOf(joint), 'j.a').sort()).toEqual(['j.a', 'j.b'])
  })
  it('says what is around a terminal by the group it is in; nothing for one that is in none', () => {
    const around = aroundBy(graph, t => ({ 'blk.feed': 1, bat: 1, hf: 2 })[t])
    expect(
      around('bat')
        .map(a => a.terminal)
        .sort(),
    ).toEqual(['bat', 'blk.feed'])
    expect(around('hf').map(a => a.part.id)).toEqual(['hf'])
    expect(around('vhf')).toEqual([])
  })
})

describe('loads that are fed', () => {
  const all = ['hf', 'lamps', 'log', 'vhf']
  const fed = (broken?: Parameters<typeof fedIn>[1]) => [...fedIn(tern, broken)].sort()
  it('are all of a whole station; without its block none; without a port, lead or fuse all but that one', () => {
    expect(fed()).toEqual(all)
    expect(fed({ parts: new Set(['blk']) })).toEqual([])
    expect(fed({ devices: new Set(['blk.p1 ']) })).toEqual(['lamps', 'log', 'vhf'])
    const vhf = tern.leads.find(l => l.to === 'vhf')!.id
    expect(fed({ leads: new Set([vhf]) })).toEqual(['hf', 'lamps', 'log'])
  })
  it('are fed on by what is left of the sources, over the posts of a dead one', () => {
    expect(fed({ parts: new Set(['bat']) })).toEqual(all)
    expect(fed({ parts: new Set(['bat', 'mains', 'sun']) })).toEqual([])
  })
  it('are none where nothing gives', () => {
    const idle = smallPlan({ parts: [radio(), load()], leads: [lead({ from: 'hf', to: 'pc', inline: [], ends: {} })] })
    expect([...fedIn(idle)]).toEqual([])
  })
})
