import { describe, expect, it } from 'vitest'
import type { Moment } from '../../../core/circuit/laden'
import { compile } from '../../../core/circuit/network'
import { placedTogether, type Standing } from '../../../core/circuit/placed'
import { Solver } from '../../../core/circuit/solve'
import { battery, lead, radio, smallPlan } from '../../data/plans'

/** What stands in a network at a moment: sources and sinks at terminals of their own. */
const plan = smallPlan({ parts: [battery(), radio()], leads: [lead({ inline: [], ends: {} })] })
const network = compile(plan)

function momentOf({ sources, sinks, transfers = [] }: Omit<Standing, 'transfers'> & Partial<Standing>, on = network) {
  const placed = placedTogether(on, { sources, transfers, sinks })
  const nothing = new Map([['hf', { at: 'hf', law: 'current' as const, value: 0 }]])
  const state = { id: 'now', source: 'nominal', loadState: 'idle', active: new Map(), engineOff: false } as const
  const moment: Moment = { ...state, placed, sinks: nothing }
  return new Solver(on).solve(moment)
}
const ideal = { partId: 'bat', at: 'bat', emfV: 13, ohm: 0 }

describe('a source that holds its terminal', () => {
  it.each([
    ['a current', { law: 'current' as const, value: 2 }, 2],
    ['a power', { law: 'power' as const, value: 26 }, 2],
    ['a resistance', { law: 'ohm' as const, value: 6.5 }, 2],
  ])('gives what stands on the same terminal by %s', (_what, sink, amps) => {
    const one = momentOf({ sources: [ideal], sinks: [{ partId: 'x', at: 'bat', ...sink }] })
    expect(one.sources[0]!.amps).toBeCloseTo(amps, 9)
    // And two of them, and one at the other end of the wire.
    const two = [sink, sink].map((s, i) => ({ partId: `x${i}`, at: 'bat', ...s }))
    expect(momentOf({ sources: [ideal], sinks: two }).sources[0]!.amps).toBeCloseTo(2 * amps, 9)
    const away = momentOf({ sources: [ideal], sinks: [...two, { partId: 'y', at: 'hf', law: 'current', value: 1 }] })
    expect(away.sources[0]!.amps).toBeCloseTo(2 * amps + 1, 9)
  })
  it('gives the less what another on the same terminal gives, and nothing to one that stands elsewhere', () => {
    // The other has 14 V behind 2 Ω: 0.5 A.
    const beside = { partId: 'b', at: 'bat', emfV: 14, ohm: 2 }
    const sinks = [{ partId: 'x', at: 'bat', law: 'current' as const, value: 2 }]
    const both = momentOf({ sources: [ideal, beside], sinks })
    expect(both.sources.map(s => s.amps)).toEqual([expect.closeTo(1.5, 9), expect.closeTo(0.5, 9)])
    const elsewhere = momentOf({ sources: [ideal, { ...beside, at: 'hf', emfV: 13 }], sinks })
    expect(elsewhere.sources.map(s => s.amps)).toEqual([expect.closeTo(2, 9), expect.closeTo(0, 9)])
  })
})

describe('a converter whose own terminals are held by what stands there', () => {
  const between = compile(
    smallPlan({
      parts: [
        battery(),
        { id: 'bb', kind: 'converter', topology: 'boost', input: { minV: 9, maxV: 20 }, outV: 15, maxOutA: 25 },
        radio(),
      ],
      leads: [
        lead({ id: 'in', to: 'bb.in', inline: [], ends: {} }),
        lead({ id: 'out', from: 'bb.out', inline: [], ends: {} }),
      ],
    }),
  )
  const law = { relation: 'at-least-input', takes: 'power', setV: 15, dropV: 0.5, idleW: 2, efficiency: 0.9 } as const
  const transfers = [{ partId: 'bb', from: 'bb.in', to: 'bb.out', mostA: 25, ...law }]
  const at = (terminal: string, emfV: number) => ({ partId: `own ${terminal}`, at: terminal, emfV, ohm: 0 })
  const taken = { partId: 'x', at: 'hf', law: 'current' as const, value: 10 }
  const solved = (...sources: Standing['sources']) => {
    const point = momentOf({ sources, transfers, sinks: [taken] }, between)
    const amps = Object.fromEntries(point.sources.map(s => [s.partId, s.amps]))
    const voltsAt = (terminal: string) => point.volts[between.nodeOf.get(terminal)!]!
    return { amps, outV: voltsAt('bb.out'), inV: voltsAt('bb.in'), given: point.transfers[0]! }
  }
  it('takes out of the source at its input what it gives over its efficiency', () => {
    const { amps, outV } = solved(at('bb.in', 13))
    expect(outV).toBeCloseTo(15, 5)
    expect(amps['own bb.in']).toBeCloseTo((150 / 0.9 + 2) / 13, 4)
  })
  it.each([
    ['nothing into a terminal that stands higher', 16, 0],
    ['all that it can into one that stands lower', 14, 25],
  ])('gives %s', (_what, heldV, outA) => {
    const { amps, outV, inV, given } = solved(at('bat', 13), at('bb.out', heldV))
    expect(outV).toBe(heldV)
    expect(given.outA).toBeCloseTo(outA, 6)
    expect(amps['own bb.out']).toBeCloseTo(10 - outA, 6)
    expect(amps['own bat']).toBeCloseTo(((heldV * outA) / 0.9 + 2) / inV, 5)
  })
})
