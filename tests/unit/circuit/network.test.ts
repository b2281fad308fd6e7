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
