import { describe, expect, it } from 'vitest'
import { conditionsOf, loadsOf, sinkIn, type Condition } from '../../../core/circuit/conditions'
import { compile, type Network } from '../../../core/circuit/network'
import { placedIn } from '../../../core/circuit/placed'
import { Solver } from '../../../core/circuit/solve'
import type { Plan } from '../../../core/plan/schema'
import { battery, lead, load, pointOf, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

/** How much could be carried where a condition has no operating point. */

const plain = (more: Record<string, unknown>) => lead({ ends: {}, inline: [], lengthM: 0.001, ...more })
const supply = { minV: 5, maxV: 40 }

/** The condition with every constant-power load at a part of its draw. */
function atShare(plan: Plan, network: Network, condition: Condition, share: number) {
  const sinks = new Map(
    loadsOf(plan).flatMap(part => {
      const sink = sinkIn(part, condition)
      return sink?.law === 'power' ? [[part.id, { ...sink, value: sink.value * share }] as const] : []
    }),
  )
  return { ...condition, placed: placedIn(network, condition.source), sinks }
}

/** The largest of fifty shares that has an operating point, each tried from far away. */
function largestThatStands(plan: Plan, network: Network, condition: Condition): number {
  const stands = (share: number) =>
    new Solver(network).solve(atShare(plan, network, condition, share), { below: 0 }).status === 'ok'
  const shares = Array.from({ length: 49 }, (_, k) => (k + 1) / 50)
  return Math.max(0, ...shares.filter(stands))
}

describe('how much could be carried', () => {
  it('is told where it was asked for and there is no point, and nowhere else', () => {
    // 13 V behind 2 Ω give 21 W at most.
    const plan = smallPlan({
      parts: [battery({ internalOhm: 2 }), load({ draw: { model: 'constant-power', idleW: 5, activeW: 30 } })],
      leads: [plain({ to: 'pc' })],
    })
    const solver = new Solver(compile(plan))
    const solve = (id: string, below: number) =>
      solver.solve(
        conditionsOf(plan).find(c => c.id === id)!,
        { below },
      )
    expect(solve('nominal/all', 1).most!.share).toBeCloseTo(13.16 ** 2 / 8 / 30, 2)
    expect(solve('nominal/all', 0)).toMatchObject({ status: 'collapses' })
    expect('most' in solve('nominal/all', 0)).toBe(false)
    expect('most' in solve('nominal/idle', 1)).toBe(false)
  })
  it.each([
    ['one converter', 1],
    ['two, one behind the other', 2],
  ])('behind %s is E²/4R, less what is lost in them', (_name, count) => {
    const converters = Array.from({ length: count }, (_, k) => ({
      id: `cv${k}`,
      kind: 'converter',
      topology: 'buck-boost',
      input: { minV: 3, maxV: 40 },
      outV: 24,
      maxOutA: 40,
      efficiency: 0.9,
    }))
    const draw = { model: 'constant-power', idleW: 0, activeW: 200 }
    const way = ['bat', ...converters.map(c => c.id), 'hf']
    const leads = way.slice(1).map((id, k) => {
      const from = k === 0 ? 'bat' : `${way[k]}.out`
      return plain({ id: `l${k}`, from, to: id === 'hf' ? id : `${id}.in` })
    })
    const plan = smallPlan({
      parts: [battery({ internalOhm: 0.5 }), ...converters, load({ id: 'hf', supply, draw })],
      leads,
    })
    const { most, status } = pointOf(plan, 'nominal/all')
    expect(status).toBe('collapses')
    const emfV = pointOf(plan, 'nominal/idle').nodes.bat!.volts!
    expect(most!.share * 200).toBeCloseTo((emfV ** 2 / (4 * 0.5)) * 0.9 ** count, 0)
  })

  it.each([
    // Found by trying 400 shares each, by a script of its own.
    [1278, 'nominal/only:rad4', 0.74, 'all loads'],
    [1780, 'nominal/all', 0.1125, 'constant-power loads'],
    [1887, 'nominal/all', 0.285, 'constant-power loads'],
    [1780, 'nominal/only:loa5', undefined, undefined],
  ])('is told with a gate that another source feeds back: station %i, %s', (seed, id, share, of) => {
    const plan = randomPlan(seed)!
    const { most } = new Solver(compile(plan)).solve(conditionsOf(plan).find(c => c.id === id)!)
    expect(most?.of).toBe(of)
    if (share === undefined) return
    expect(most!.share).toBeGreaterThanOrEqual(share)
    expect(most!.share).toBeLessThan(share + 0.0025)
  })

  it('is what a search of fifty shares finds, each from far away, in stations at random', () => {
    let tried = 0
    for (let seed = 0; seed < 150; seed++) {
      const plan = randomPlan(seed)
      if (!plan) continue
      const network = compile(plan)
      const solver = new Solver(network)
      for (const condition of conditionsOf(plan)) {
        const { most } = solver.solve(condition)
        if (most?.of !== 'constant-power loads') continue
        const found = largestThatStands(plan, network, condition)
        const told = `${seed} ${condition.id}`
        expect(most.share, told).toBeGreaterThan(found - 0.001)
        expect(most.share, told).toBeLessThan(found + 0.021)
        tried++
      }
    }
    expect(tried).toBeGreaterThan(50)
  })
})
