import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { shortStudy, type Short } from '../../../core/short/study'
import type { Plan } from '../../../core/plan/schema'
import { madeUpPlan } from '../../bench/plans'
import { battery, block, demoPlan, fuse, lead, load, radio, smallPlan } from '../../data/plans'

const at = (plan: Plan, terminal: string): Short =>
  shortStudy(plan).shorts.find(s => s.kind === 'terminal' && s.at === terminal)!
const bare = (more: Record<string, unknown> = {}) => lead({ ends: {}, inline: [], ...more })

describe('a dead short', () => {
  it('draws EMF over the loop: by hand', () => {
    // LiFePO4 4S full 13.6 V, 10 mΩ; 1 m of 10 AWG at 20 °C is 2 × 3.3427 mΩ, stranded; 20 A blade 3.75 mΩ.
    const short = at(smallPlan({ leads: [bare({ inline: [fuse(20)] })] }), 'hf')
    const ohm = 0.01 + (2 * 1.02 * 0.017241) / 5.2612 + 0.075 / 20
    expect(short.prospectiveA).toBeCloseTo(13.6 / ohm, 0)
    expect(short.opens.map(o => o.ratedA)).toEqual([20])
    // Far beyond 6 ×: I²t of the last row, (120 A)² · 0.1 s.
    expect(short.clearedAfterS! * short.prospectiveA ** 2).toBeCloseTo(1440, 0)
    expect(short).toMatchObject({ clears: true, survives: true, selective: null, known: true })
  })
  it("at the battery's own post nothing opens", () =>
    expect(at(smallPlan(), 'bat')).toMatchObject({ clears: false, opens: [], clearedAfterS: null }))
  it('with no fuse burns the wire', () =>
    expect(at(smallPlan({ leads: [bare()] }), 'hf')).toMatchObject({ clears: false, survives: false }))
  it('a BMS is noted, and not counted on', () => {
    const short = at(smallPlan({ parts: [battery({ bms: { peakA: 60 } }), radio()], leads: [bare()] }), 'hf')
    expect(short.bms).toEqual([{ battery: 'bat', tripA: 60 }])
    expect(short.clears).toBe(false)
  })
  it('a resistance that is not said makes the current a least one', () =>
    expect(at(smallPlan({ parts: [battery({ internalOhm: 0 }), radio()] }), 'hf').known).toBe(false))
  it('a supply gives its limit, which the wire carries', () => {
    const short = at(
      smallPlan({
        parts: [{ id: 'psu', kind: 'supply', setV: 13.8, continuousA: 20, peakA: 22, terminal: 'ring-m6' }, radio()],
        leads: [lead({ from: 'psu', inline: [] })],
      }),
      'hf',
    )
    expect(short.prospectiveA).toBeCloseTo(22, 1)
    expect(short).toMatchObject({ clears: true, survives: true, from: [{ source: 'psu', limited: true }] })
  })
  it('over much wire a supply comes to its voltage before its limit', () => {
    const plan = smallPlan({
      parts: [{ id: 'psu', kind: 'supply', setV: 13.8, continuousA: 20, peakA: 22, terminal: 'ring-m6' }, radio()],
      leads: [bare({ from: 'psu', conductor: { awg: 22 }, lengthM: 30 })],
    })
    expect(at(plan, 'hf').prospectiveA).toBeCloseTo(13.8 / ((60 * 1.02 * 0.017241) / 0.32557), 1)
  })
  it('two sources add up, and both have to be cut off', () => {
    const two = smallPlan({
      parts: [battery(), battery({ id: 'b2' }), radio()],
      leads: [lead(), lead({ id: 'l2', from: 'b2' })],
    })
    const short = at(two, 'hf')
    expect(short.from.map(f => f.source)).toEqual(['bat', 'b2'])
    expect(short.opens).toHaveLength(2)
    expect(short.clears).toBe(true)
    expect(short.prospectiveA).toBeCloseTo(2 * at(smallPlan(), 'hf').prospectiveA, 0)
  })
  it('a small fuse behind a large slow one opens alone; behind one like itself it may not', () => {
    const plan = (upstream: Record<string, unknown>, others = [radio({ id: 'vhf' })]) =>
      smallPlan({
        parts: [battery(), block([10, 10]), radio(), ...others],
        leads: [
          bare({ id: 'm', to: 'blk.feed', inline: [upstream] }),
          bare({ from: 'blk.p1' }),
          ...others.map(() => bare({ id: 'l2', from: 'blk.p2', to: 'vhf' })),
        ],
      })
    expect(at(plan(fuse(60, 0.1, { type: 'strip' })), 'hf')).toMatchObject({ selective: true, opensWith: [] })
    expect(at(plan(fuse(10)), 'hf')).toMatchObject({ selective: false, opensWith: [{ place: 'm', ratedA: 10 }] })
    // With nothing else on the block it is the same which of the two opens.
    expect(at(plan(fuse(10), []), 'hf')).toMatchObject({ selective: true, opensWith: [] })
  })
  it("behind a converter is the converter's limit", () => {
    const plan = smallPlan({
      parts: [
        battery(),
        { id: 'bb', kind: 'converter', topology: 'buck', input: { minV: 9, maxV: 20 }, outV: 12, maxOutA: 7 },
        radio(),
      ],
      leads: [bare({ id: 'a', to: 'bb.in' }), bare({ id: 'b', from: 'bb.out' })],
    })
    expect(at(plan, 'hf')).toMatchObject({
      prospectiveA: expect.closeTo(7, 1),
      from: [{ source: 'bb', limited: true }],
    })
  })
  it('says what each fuse may have to break, at its worst side', () => {
    const [device] = shortStudy(smallPlan({ leads: [bare({ inline: [fuse(20, 0.5)] })] })).devices
    const halfway = 0.01 + (1.02 * 0.017241) / 5.2612 + 0.075 / 20
    expect(device).toMatchObject({
      place: 'l1',
      item: 'f1',
      interruptA: 1000,
      guarded: false,
      behindA: expect.closeTo(13.6 / halfway, 0),
    })
  })
  it("of every terminal and every lead's far end, and never more than the one nearer the source", () => {
    for (const plan of [demoPlan('tern-rock-light'), demoPlan('narrowboat-heron'), madeUpPlan(60)]) {
      const { shorts } = shortStudy(plan)
      expect(
        shorts
          .filter(s => s.kind === 'lead-end')
          .map(s => s.lead)
          .sort(),
      ).toEqual(plan.leads.map(l => l.id).sort())
      for (const s of shorts) {
        expect(Number.isFinite(s.prospectiveA)).toBe(true)
        expect(s.from.reduce((sum, f) => sum + f.amps, 0)).toBeCloseTo(s.prospectiveA, -0.5)
      }
    }
  })
  it('of a longer lead is smaller, and takes longer to clear', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 8, noNaN: true }),
        fc.double({ min: 0.1, max: 4, noNaN: true }),
        fc.constantFrom(8, 10, 12, 14),
        (lengthM, more, awg) => {
          const of = (length: number) =>
            at(smallPlan({ leads: [bare({ lengthM: length, conductor: { awg }, inline: [fuse(15)] })] }), 'hf')
          const [near, far] = [of(lengthM), of(lengthM + more)]
          expect(far.prospectiveA).toBeLessThan(near.prospectiveA)
          expect(far.clearedAfterS!).toBeGreaterThanOrEqual(near.clearedAfterS!)
        },
      ),
      { numRuns: 40 },
    )
  })
})

describe('many packs on one bar', () => {
  it.each([2, 14])('%i of them, each behind its fuse, are all cut off from a short there', count => {
    const packs = Array.from({ length: count }, (_, i) => battery({ id: `b${i}`, capacityAh: 5 }))
    const leads = packs.map(({ id }) => bare({ id: `l${id}`, from: id, to: 'blk.feed', inline: [fuse(20)] }))
    const bar = smallPlan({ parts: [...packs, block([10])], leads })
    const short = at(bar, 'blk.feed')
    expect([short.clears, short.opens.length, short.from.length]).toEqual([true, count, count])
  })
})

describe('what stays live', () => {
  const withBreaker = (parts: object[], leads: object[]) =>
    shortStudy(smallPlan({ parts: parts as never, leads: leads as never })).isolation
  it('with one source, everything behind an open breaker is dead', () => {
    const [isolated] = withBreaker(
      [battery(), radio()],
      [lead({ inline: [{ id: 'k', kind: 'breaker', ratedA: 30, atM: 0.1 }] })],
    )
    expect(isolated).toMatchObject({ place: 'l1', item: 'k', dead: ['hf'], live: ['bat'], bothSidesLive: false })
  })
  it('between two batteries both sides stay live', () => {
    const [isolated] = withBreaker(
      [battery(), battery({ id: 'b2' }), radio()],
      [lead(), lead({ id: 't', to: 'b2', ends: {}, inline: [{ id: 'k', kind: 'breaker', ratedA: 30, atM: 0.1 }] })],
    )
    expect(isolated).toMatchObject({ bothSidesLive: true, dead: [] })
  })
  it("a breaker as a part cuts off what it feeds, a converter's output too", () => {
    const [isolated] = withBreaker(
      [
        battery(),
        { id: 'brk', kind: 'breaker', ratedA: 50, terminal: 'ring-m6' },
        { id: 'bb', kind: 'converter', topology: 'buck', input: { minV: 9, maxV: 20 }, outV: 12, maxOutA: 7 },
        radio(),
        load(),
      ],
      [
        bare({ id: 'a', to: 'brk.a' }),
        bare({ id: 'b', from: 'brk.b', to: 'bb.in' }),
        bare({ id: 'c', from: 'bb.out' }),
      ],
    )
    expect(isolated).toMatchObject({ place: 'brk', item: null, dead: ['brk.b', 'bb.in', 'bb.out', 'hf'] })
  })
})
