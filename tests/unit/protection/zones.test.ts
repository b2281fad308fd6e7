import { describe, expect, it } from 'vitest'
import { devicesInto, overfused, protectionOf, unprotectedRuns } from '../../../core/protection/zones'
import { battery, demoPlan, fuse, lead, load, radio, smallPlan } from '../../data/plans'
import { turned } from '../../data/turned'

describe('zones between fuses', () => {
  it('every fuse parts two zones; ports and inline ones alike', () => {
    const plan = demoPlan('tern-rock-evening')
    const protection = protectionOf(plan)
    expect(protection.devices.map(d => `${d.place} ${d.ratedA}`)).toEqual([
      'blk.p1 30',
      'blk.p2 15',
      'blk.p3 5',
      'blk.p4 3',
      'blk.p5 10',
      'l1 50',
      'l6 50',
    ])
    expect(protection.zoneOf.get('hf')).not.toBe(protection.zoneOf.get('vhf'))
    expect(protection.stretches.reduce((sum, s) => sum + s.lengthM, 0)).toBeCloseTo(
      plan.leads.reduce((sum, l) => sum + l.lengthM, 0),
      9,
    )
  })
  it.each([
    [0.17, []],
    [0.19, ['f60 over l1']],
  ])('between two fuses %s m apart the smaller is the tap’s, whichever way the lead is told', (apartM, over) => {
    const inline = [fuse(60, 0.02, { id: 'f60' }), fuse(15, 0.02 + apartM, { id: 'f15' })]
    const told = smallPlan({ leads: [lead({ lengthM: 1, conductor: { awg: 16, insulationC: 105 }, inline })] })
    for (const plan of [told, turned(told)!]) {
      const found = overfused(plan, protectionOf(plan))
      // The first 2 cm are before every fuse; the last stretch is the smaller one's.
      expect(found.map(o => `${o.device.item} over ${o.stretch.lead.id}`)).toEqual(over)
    }
  })
  it('measures the run before the first fuse from each source', () => {
    const plan = demoPlan('tern-rock-evening')
    const runs = unprotectedRuns(plan, protectionOf(plan))
    expect(runs.map(r => [r.source.id, r.lead.id, Number(r.lengthM.toFixed(3))])).toEqual([
      ['bat', 'l1', 0.62],
      ['bat', 'l6', 0.12],
      ['mains', 'l6', 2.38],
    ])
  })
  it('follows the run over a joint to the next fuse, and to a load with none', () => {
    const plan = smallPlan({
      parts: [battery(), { id: 'j', kind: 'joint', connector: 'ring-m6' }, radio(), load()],
      leads: [
        lead({ id: 'a', to: 'j.a', lengthM: 0.1, ends: {}, inline: [] }),
        lead({ id: 'b', from: 'j.b', lengthM: 1, ends: {}, inline: [fuse(20, 0.05)] }),
        lead({ id: 'c', from: 'j.c', to: 'pc', lengthM: 0.02, ends: {}, inline: [] }),
      ],
    })
    const [run] = unprotectedRuns(plan, protectionOf(plan))
    expect(run!.leads.map(l => l.id)).toEqual(['a', 'b', 'c'])
    expect(run!.lengthM).toBeCloseTo(0.15, 9)
    expect(run!.reachesLoad).toBe(true)
  })
  it('in a ring, a conductor is let down if any way to it is', () => {
    const ring = (second: number) =>
      smallPlan({
        parts: [battery(), { id: 'j', kind: 'joint', connector: 'ring-m6' }, radio()],
        leads: [
          lead({ id: 'a', to: 'j.a', ends: {}, conductor: { awg: 6, insulationC: 105 } }),
          lead({
            id: 'b',
            to: 'j.b',
            ends: {},
            conductor: { awg: 6, insulationC: 105 },
            inline: [fuse(second, 0.1, { type: 'strip' })],
          }),
          lead({ id: 'c', from: 'j.c', ends: {}, inline: [], conductor: { awg: 12, insulationC: 105 } }),
        ],
      })
    const found = (second: number) =>
      overfused(ring(second), protectionOf(ring(second))).map(o => `${o.device.place} over ${o.stretch.lead.id}`)
    expect(found(40)).toEqual([])
    expect(found(60)).toEqual(['b over c'])
  })

  it('a gate passes a short on to what lies behind it, and nothing back to its supply', () => {
    const gated = (thin: 's' | 'o') => {
      const wire = (id: string) => ({ awg: id === thin ? 18 : 8, insulationC: 105 })
      return smallPlan({
        parts: [
          battery(),
          { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 10 },
          { id: 'g', kind: 'gate' },
          radio(),
        ],
        leads: [
          lead({ id: 's', from: 'psu', to: 'g.supply', ends: {}, inline: [], conductor: wire('s') }),
          lead({ id: 'b', to: 'g.battery', ends: {}, inline: [fuse(30)], conductor: wire('b') }),
          lead({ id: 'o', from: 'g.out', ends: {}, inline: [], conductor: wire('o') }),
        ],
      })
    }
    const found = (thin: 's' | 'o') =>
      overfused(gated(thin), protectionOf(gated(thin))).map(o => `${o.device.place} over ${o.stretch.lead.id}`)
    expect(found('s')).toEqual([])
    expect(found('o')).toEqual(['b over o'])
    const plan = gated('s')
    const runs = unprotectedRuns(plan, protectionOf(plan))
    expect(runs.find(r => r.source.id === 'psu')!.leads.map(l => l.id)).toEqual(['s', 'o'])
  })

  it('a converter feeds no short from its input: the fuse before it lets no conductor behind it down', () => {
    const plan = smallPlan({
      parts: [
        battery(),
        { id: 'dc', kind: 'converter', topology: 'boost', input: { minV: 9, maxV: 16 }, outV: 13.8, maxOutA: 20 },
        radio(),
      ],
      leads: [
        lead({ id: 'i', to: 'dc.in', ends: {}, inline: [fuse(30)], conductor: { awg: 8, insulationC: 105 } }),
        lead({ id: 'o', from: 'dc.out', ends: {}, inline: [], conductor: { awg: 18, insulationC: 105 } }),
      ],
    })
    const protection = protectionOf(plan)
    expect(overfused(plan, protection)).toEqual([])
    expect(devicesInto(protection, protection.zoneOf.get('dc.out')!)).toEqual([])
    expect(devicesInto(protection, protection.zoneOf.get('dc.in')!).map(d => d.place)).toEqual(['i'])
  })
  it.each([
    [18, 8],
    [8, 18],
  ])('a fuse over conductors at both its sides is told with the thinner of them: %d and %d AWG', (near, far) => {
    const plan = smallPlan({
      parts: [
        battery(),
        battery({ id: 'second' }),
        {
          id: 'blk',
          kind: 'block',
          ratedA: 60,
          feed: 'ring-m6',
          ports: [{ id: 'p1', fuse: { type: 'strip', ratedA: 150 } }],
        },
      ],
      leads: [
        lead({ id: 'near', to: 'blk.feed', ends: {}, inline: [], conductor: { awg: near, insulationC: 105 } }),
        lead({
          id: 'far',
          from: 'blk.p1',
          to: 'second',
          ends: {},
          inline: [],
          conductor: { awg: far, insulationC: 105 },
        }),
      ],
    })
    const found = overfused(plan, protectionOf(plan)).map(o => `${o.device.place} over ${o.stretch.lead.id}`)
    expect(found).toEqual([`blk.p1 over ${near === 18 ? 'near' : 'far'}`])
  })
})
