import { describe, expect, it } from 'vitest'
import { compile } from '../../../core/circuit/network'
import { solveMatrix } from '../../../core/circuit/matrix'
import { battery, lead, radio, smallPlan } from '../../data/plans'

const plain = (id: string, from: string, to: string) => lead({ id, from, to, inline: [] })
const parts = [battery(), { id: 'j', kind: 'joint', contactOhm: 0 }, radio()]
const way = [plain('l1', 'bat', 'j.a'), plain('l2', 'j.b', 'hf')]

describe('a network of trees with one source each', () => {
  it('is one where a lead lies beside a joint of no resistance: nothing flows in it', () => {
    expect(compile(smallPlan({ parts, leads: way })).isForest).toBe(true)
    expect(compile(smallPlan({ parts, leads: [...way, plain('l3', 'j.a', 'j.b')] })).isForest).toBe(true)
  })
  it('is none with a ring in it, or with a second source', () => {
    expect(compile(smallPlan({ parts, leads: [...way, plain('l3', 'j.b', 'hf')] })).isForest).toBe(false)
    const second = [...parts, battery({ id: 'bat2' })]
    expect(compile(smallPlan({ parts: second, leads: [...way, plain('l3', 'bat2', 'j.b')] })).isForest).toBe(false)
  })
})

describe('droppers of two sizes in one lead', () => {
  it('drop together what each drops by itself', () => {
    const dropper = (id: string, ratedA: number) => ({ id, kind: 'dropper', ratedA, atM: 0.3, stripe: 'to' })
    const arrives = (...inline: object[]) => {
      const draw = { model: 'constant-current', idleA: 5, activeA: 5 }
      const leads = [lead({ id: 'l1', from: 'bat', to: 'hf', inline })]
      const { points, network } = solveMatrix(smallPlan({ parts: [battery(), radio({ draw })], leads }))
      return points[0]!.volts[network.nodeOf.get('hf')!]!
    }
    const [small, large] = [dropper('d1', 6), dropper('d2', 60)]
    const without = arrives()
    const apart = without - arrives(small) + (without - arrives(large))
    expect(apart).toBeGreaterThan(1)
    expect(without - arrives(small, large)).toBeCloseTo(apart, 5)
  })
})

describe('the diodes inside an adapter', () => {
  it('drop one after the other, as so many of a dropper in a lead do', () => {
    const draw = { model: 'constant-current', idleA: 5, activeA: 5 }
    const adapter = (more: object) => ({ id: 'ad', kind: 'adapter', a: 'stack-45', b: 'stack-45', ohm: 0, ...more })
    const arrives = (more: object) => {
      const plan = smallPlan({
        parts: [battery(), adapter(more), radio({ draw })],
        leads: [lead({ to: 'ad.a' }), lead({ id: 'l2', from: 'ad.b', ends: {}, inline: [], lengthM: 0.1 })],
      })
      const { points, network } = solveMatrix(plan)
      return points[0]!.volts[network.nodeOf.get('hf')!]!
    }
    const drop = (count: number) => arrives({}) - arrives({ dropper: { count, ratedA: 6 } })
    expect(drop(1)).toBeGreaterThan(0.5)
    expect(drop(3)).toBeCloseTo(3 * drop(1), 6)
  })
})

describe('two batteries without resistance, joined by a thin lead', () => {
  it('drive through it what its own law gives, warming counted, though neither voltage moves', () => {
    const held = { internalOhm: 0, charged: 'elsewhere' }
    const plan = smallPlan({
      parts: [battery(held), battery({ ...held, id: 'agm', chemistry: 'agm', seriesCells: 6 }), radio()],
      leads: [
        lead({ id: 'joins', to: 'agm', conductor: { awg: 16 }, inline: [], ends: {} }),
        lead({ conductor: { awg: 8 }, inline: [], ends: {} }),
      ],
    })
    const { points, network } = solveMatrix(plan)
    const branch = network.branchOfLead.get('joins')!
    for (const { volts, amps } of points) {
      const acrossV = volts[network.nodeOf.get('bat')!]! - volts[network.nodeOf.get('agm')!]!
      const lawA = rootBetween(0, 100, i => i * (network.ohm[branch]! + i * i * network.ohmPerAmp2[branch]!) - acrossV)
      expect(amps[branch]).toBeCloseTo(lawA, 6)
      // Without its warming it would be several amps more.
      expect(acrossV / network.ohm[branch]! - lawA).toBeGreaterThan(2)
    }
  })
})

/** Where a rising function is nothing, by halves. */
function rootBetween(low: number, high: number, f: (x: number) => number): number {
  for (let k = 0; k < 60; k++) {
    const middle = (low + high) / 2
    if (f(middle) > 0) high = middle
    else low = middle
  }
  return low
}
