import { describe, expect, it } from 'vitest'
import { conditionsOf } from '../../../core/circuit/conditions'
import { arrivalSpan, largestAmps, solveCorners, solveMatrix } from '../../../core/circuit/matrix'
import { battery, lead, load, radio, smallPlan } from '../../data/plans'

const psu = { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 40, outputOhm: 0.02, terminal: 'ring-m6' }
/** A radio and a second load, each on its own lead from the source. */
const twoLoads = (source: { id: string }, radioMore = {}, loadMore = {}) =>
  smallPlan({
    parts: [source, radio(radioMore), load(loadMore)],
    leads: [lead({ from: source.id }), lead({ id: 'l2', from: source.id, to: 'pc', inline: [] })],
  })

describe('of all conditions', () => {
  const draw = { model: 'constant-current', idleA: 5, activeA: 5 }
  it('that give a terminal the same lowest voltage the later is told', () => {
    const solved = solveMatrix(smallPlan({ parts: [psu, radio({ draw })], leads: [lead({ from: 'psu' })] }))
    expect(solved.points.map(p => p.condition.id)).toEqual(['nominal/idle', 'nominal/all', 'nominal/only:hf'])
    expect(arrivalSpan(solved, 'hf')).toMatchObject({
      low: { condition: 'nominal/only:hf' },
      high: { condition: 'nominal/idle' },
    })
  })
  it('the one is told in which a lead carries most, and the later of two alike', () => {
    const power = { model: 'constant-power', idleW: 5, activeW: 100 }
    const solved = solveMatrix(twoLoads(psu, { draw: power }))
    const largestIn = (leadId: string) => largestAmps(solved, solved.network.branchOfLead.get(leadId))
    // With the other load drawing as well there is less voltage and more current; the state after it is the other's.
    expect(solved.points.map(p => p.condition.id)).toEqual([
      'nominal/idle',
      'nominal/all',
      'nominal/only:hf',
      'nominal/only:pc',
    ])
    expect(largestIn('l1')).toEqual({
      value: Math.max(...solved.points.map(p => p.amps[solved.network.branchOfLead.get('l1')!]!)),
      condition: 'nominal/all',
    })
    const alike = solveMatrix(twoLoads(psu, { draw }))
    expect(largestAmps(alike, alike.network.branchOfLead.get('l1')).condition).toBe('nominal/only:pc')
  })
})

describe('the corners stand for the whole matrix', () => {
  const told = (radioMore: object) => {
    const plan = twoLoads(psu, radioMore)
    return [solveCorners(plan).points.length, conditionsOf(plan).length]
  }
  const current = (idleA: number, activeA: number) => ({ model: 'constant-current', idleA, activeA })
  it('where every load takes more when active', () => expect(told({ draw: current(1, 10) })).toEqual([2, 4]))
  it.each([
    ['takes by its resistance', { draw: { model: 'resistive', idleOhm: 10, activeOhm: 5 } }],
    ['takes more from a higher voltage', { draw: { model: 'resistive', idleOhm: 5, activeOhm: 10 } }],
    ['takes less when active', { draw: current(10, 1) }],
  ])('not where one %s', (_what, more) => expect(told(more)).toEqual([4, 4]))
  it('not where one has a level beyond what it is set to', () => {
    const levels = [
      { powerW: 100, activeA: 20 },
      { powerW: 10, activeA: 5 },
    ]
    expect(told({ draw: current(1, 20), powerW: 10, levels })).toEqual([4, 4])
    expect(told({ draw: current(1, 20), powerW: 100, levels })).toEqual([2, 4])
    expect(told({ draw: current(7, 20), powerW: 100, levels })).toEqual([4, 4])
  })
  it('not where two sources share a wire', () => {
    const plan = smallPlan({
      parts: [battery(), battery({ id: 'second' }), radio(), load()],
      leads: [lead(), lead({ id: 'l2', to: 'pc' }), lead({ id: 'l3', from: 'second', to: 'hf' })],
    })
    expect(solveCorners(plan).points).toHaveLength(conditionsOf(plan).length)
  })
})
