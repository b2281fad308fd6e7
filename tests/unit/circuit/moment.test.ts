import { describe, expect, it } from 'vitest'
import type { Moment } from '../../../core/circuit/laden'
import { compile } from '../../../core/circuit/network'
import { placedTogether, type Standing } from '../../../core/circuit/placed'
import { Solver } from '../../../core/circuit/solve'
import { battery, lead, radio, smallPlan } from '../../data/plans'

/** What stands in a network at a moment: sources and sinks at terminals of their own. */
const plan = smallPlan({ parts: [battery(), radio()], leads: [lead({ inline: [], ends: {} })] })
const network = compile(plan)

function momentOf({ sources, sinks }: Pick<Standing, 'sources' | 'sinks'>) {
  const placed = placedTogether(network, { sources, transfers: [], sinks })
  const nothing = new Map([['hf', { at: 'hf', law: 'current' as const, value: 0 }]])
  const state = { id: 'now', source: 'nominal', loadState: 'idle', active: new Map(), engineOff: false } as const
  const moment: Moment = { ...state, placed, sinks: nothing }
  return new Solver(network).solve(moment)
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
