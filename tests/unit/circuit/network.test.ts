import { describe, expect, it } from 'vitest'
import { compile } from '../../../core/circuit/network'
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
