import { describe, expect, it } from 'vitest'
import { conditionsOf, loadsOf } from '../../../core/circuit/conditions'
import { solveMatrix } from '../../../core/circuit/matrix'
import { staircase, wireDropTo } from '../../../core/circuit/staircase'
import type { Plan } from '../../../core/plan/schema'
import { brokenPlan } from '../../data/brokenPlans'
import { battery, DEMOS, demoPlan, fuse, lead, load, pointOf, radio, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'
import { some } from '../../data/someOf'

const stairsOf = (plan: Plan, loadId: string) => {
  const condition = conditionsOf(plan).find(c => c.id.endsWith('/all'))!
  const { network, points } = solveMatrix(plan, [condition])
  return staircase(network, points[0]!, loadId)!
}
const supply = (more = {}) => ({ id: 'psu', kind: 'supply', setV: 13.8, continuousA: 30, terminal: 'ring-m6', ...more })

const SEEDS = Array.from({ length: 20 }, (_, i) => i + 201)

describe('the staircase of voltages', () => {
  it('is not there where there is no operating point', () => {
    const draw = { model: 'constant-power', idleW: 0, activeW: 90_000 }
    const { network, points } = solveMatrix(smallPlan({ parts: [battery(), radio({ draw })], leads: [lead()] }))
    const told = points.map(p => [p.status, staircase(network, p, 'hf') !== null].join())
    expect(new Set(told)).toEqual(new Set(['ok,true', 'collapses,false']))
  })
  it('falls from the source to what arrives, and its steps are all there is between them', () => {
    const { emfV, steps } = stairsOf(smallPlan(), 'hf')
    const condition = conditionsOf(smallPlan()).find(c => c.id.endsWith('/all'))!
    const arrives = pointOf(smallPlan(), condition.id).nodes.hf!.volts!
    expect(steps.at(-1)!.volts).toBeCloseTo(emfV - steps.reduce((v, s) => v + s.dropV, 0), 9)
    expect(stairsOf(smallPlan(), 'hf').steps.every(s => s.dropV >= 0)).toBe(true)
    expect(steps.at(-1)!.volts).toBeCloseTo(arrives, 9)
  })
  it('is all there is between the source and any load of any plan', () => {
    let looked = 0
    for (const plan of [...DEMOS.map(name => demoPlan(name)), ...some(randomPlan, SEEDS), ...some(brokenPlan, SEEDS)]) {
      const { network, points } = solveMatrix(plan)
      for (const point of points.filter(p => p.status === 'ok'))
        for (const { id } of loadsOf(plan)) {
          const way = staircase(network, point, id)
          if (!way) continue
          looked++
          const arrives = point.volts[network.nodeOf.get(id)!]!
          const dropV = way.steps.reduce((sum, s) => sum + s.dropV, 0)
          expect(way.emfV - dropV, `${plan.name} ${id} ${point.condition.id}`).toBeCloseTo(arrives, 6)
        }
    }
    expect(looked).toBeGreaterThan(1000)
  })
  it('has a step in the chassis where the current goes back through it', () => {
    const back = lead({ return: 'chassis', chassisOhm: 0.005, inline: [] })
    const chassis = stairsOf(smallPlan({ leads: [back] }), 'hf').steps.find(s => s.label === 'chassis')!
    expect(chassis.dropV).toBeCloseTo(10 * 0.005, 9)
  })
  it('has no step inside a source without resistance, and one of current times resistance inside another', () => {
    const held = smallPlan({ parts: [supply(), radio()], leads: [lead({ from: 'psu' })] })
    expect(stairsOf(held, 'hf').steps.map(s => s.kind)).not.toContain('source')
    const soft = smallPlan({ parts: [supply({ outputOhm: 0.02 }), radio()], leads: [lead({ from: 'psu' })] })
    const inside = stairsOf(soft, 'hf').steps.find(s => s.kind === 'source')!
    expect(inside.dropV).toBeCloseTo(10 * 0.02, 9)
  })
  it('parts the drop of a lead with two droppers by their diodes', () => {
    const dropper = (id: string, count: number, atM: number) => ({
      id,
      kind: 'dropper',
      count,
      ratedA: 20,
      stripe: 'to',
      atM,
    })
    const plan = smallPlan({
      parts: [battery(), radio()],
      leads: [lead({ inline: [fuse(20), dropper('d1', 1, 0.4), dropper('d2', 3, 0.6)] })],
    })
    const drops = stairsOf(plan, 'hf')
      .steps.filter(s => s.kind === 'diode')
      .map(s => s.dropV)
    expect(drops).toHaveLength(2)
    expect(drops[1]! / drops[0]!).toBeCloseTo(3, 9)
    expect(drops[0]!).toBeGreaterThan(0.4)
  })
  it('gives each of two droppers of unlike size what it drops by itself at the same current', () => {
    const dropper = (id: string, ratedA: number) => ({ id, kind: 'dropper', ratedA, stripe: 'to', atM: 0.4 })
    const draw = { model: 'constant-current', idleA: 5, activeA: 5 }
    const dropsOf = (...inline: object[]) =>
      stairsOf(smallPlan({ parts: [battery(), radio({ draw })], leads: [lead({ inline })] }), 'hf')
        .steps.filter(s => s.kind === 'diode')
        .map(s => s.dropV)
    const [small, large] = [dropper('d1', 6), dropper('d2', 60)]
    const apart = [...dropsOf(small), ...dropsOf(large)]
    // Ten times the junctions: n·Vt·ln 10 less, and a tenth of the silicon's resistance.
    expect(apart[0]! - apart[1]!).toBeGreaterThan(0.09)
    const together = dropsOf(small, large)
    expect(together[0]).toBeCloseTo(apart[0]!, 5)
    expect(together[1]).toBeCloseTo(apart[1]!, 5)
  })
})

describe('the way to a load', () => {
  it('names the fuse of a port by the port', () => {
    const port = { id: 'p1', connector: 'stack-45', fuse: { type: 'blade', ratedA: 20 } }
    const rail = { id: 'blk', kind: 'block', feed: 'ring-m6', ratedA: 60, ports: [port] }
    const plan = smallPlan({
      parts: [battery(), rail, radio()],
      leads: [
        lead({ id: 'l1', to: 'blk.feed', inline: [], ends: {} }),
        lead({ id: 'l2', from: 'blk.p1', inline: [], ends: {} }),
      ],
    })
    expect(stairsOf(plan, 'hf').steps.map(s => s.label)).toContain('fuse 20 A, port p1')
  })
  it('begins at a source that gives, past one that gives nothing', () => {
    // The bank holds 12 V and gives nothing while the supply holds 13.8 V; the way from it goes by the bank's post.
    const bank = { id: 'bank', kind: 'usbSource', voltages: [{ volts: 12, amps: 3 }] }
    const plan = smallPlan({
      parts: [supply(), bank, radio()],
      leads: [
        lead({ id: 'l1', from: 'psu', to: 'bank', inline: [], ends: {} }),
        lead({ id: 'l2', from: 'bank', to: 'hf', inline: [], ends: {} }),
      ],
    })
    expect(stairsOf(plan, 'hf')).toMatchObject({ sourceId: 'psu', leads: ['l1', 'l2'] })
    const condition = conditionsOf(plan).find(c => c.id.endsWith('/all'))!
    const { network, points } = solveMatrix(plan, [condition])
    const { steps } = staircase(network, points[0]!, 'hf')!
    const wireV = steps.filter(s => s.kind === 'wire').reduce((sum, s) => sum + s.dropV, 0)
    expect(wireDropTo(network, points[0]!, 'hf')).toBeCloseTo(wireV, 9)
    expect(wireV).toBeGreaterThan(0.05)
    expect(wireDropTo(network, { ...points[0]!, status: 'collapses' }, 'hf')).toBe(0)
    expect(wireDropTo(network, points[0]!, 'nowhere')).toBe(0)
  })
})

describe('the way to a load where nothing flows', () => {
  const off = { model: 'constant-current', idleA: 0, activeA: 5 }
  const feed = lead({ id: 'feed', inline: [], ends: {} })
  const on = lead({ id: 'on', from: 'hf', to: 'end', inline: [], ends: {} })
  const onward = lead({ id: 'onward', from: 'end', to: 'last', inline: [], ends: {} })
  it.each([
    [[feed, on, onward]],
    [[on, onward, feed]],
    [[onward, on, feed]],
    [[{ ...on, from: 'end', to: 'hf' }, { ...onward, from: 'last', to: 'end' }, feed]],
  ])('goes by its own lead, and not by those to loads beyond it', leads => {
    const ends = ['end', 'last'].map(id => load({ id, draw: off, terminal: 'stack-45' }))
    const plan = smallPlan({ parts: [battery(), radio({ draw: off }), ...ends], leads })
    const condition = conditionsOf(plan).find(c => c.id === 'nominal/idle')!
    const { network, points } = solveMatrix(plan, [condition])
    expect(staircase(network, points[0]!, 'hf')).toMatchObject({ sourceId: 'bat', leads: ['feed'] })
    expect(staircase(network, points[0]!, 'last')).toMatchObject({ leads: ['feed', 'on', 'onward'] })
  })
})

describe('loads that no source reaches', () => {
  it.each([
    ['a current', { model: 'constant-current', idleA: 1, activeA: 5 }],
    ['a power', { model: 'constant-power', idleW: 10, activeW: 50 }],
    ['by a resistance', { model: 'resistive', idleOhm: 10, activeOhm: 5 }],
  ])('that take %s have no voltage and take nothing', (_what, draw) => {
    const lone = load({ id: 'lone', draw, terminal: 'stack-45' })
    const end = load({ id: 'end', terminal: 'stack-45' })
    const plan = smallPlan({
      parts: [battery(), radio(), lone, end],
      leads: [lead(), lead({ id: 'l2', from: 'lone', to: 'end', inline: [], ends: {} })],
    })
    const point = pointOf(plan, 'low/all')
    expect(point.status).toBe('ok')
    expect(point.nodes.lone!.volts).toBe(0)
    expect(point.leads.l2!.amps).toBe(0)
    expect(point.leads.l1!.amps).toBeCloseTo(10, 6)
  })
})
