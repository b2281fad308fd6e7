import { describe, expect, it } from 'vitest'
import { conditionsOf } from '../../../core/circuit/conditions'
import { solveCorners } from '../../../core/circuit/matrix'
import { compile } from '../../../core/circuit/network'
import { Solver } from '../../../core/circuit/solve'
import { addRegulator } from '../../../core/fixes/converter'
import { applyEdit } from '../../../core/edit/patch'
import { beginPlan } from '../../../core/plan/beginning'
import { readPlan } from '../../../core/plan/faults'
import type { Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { ruinedPlan } from '../../bench/broken'
import { brokenPlan } from '../../data/brokenPlans'
import { randomPlan } from '../../data/randomPlans'

/** A condition is a condition, whatever was solved before it: what stands is found from near and from far. */

const read = (plan: unknown): Plan => {
  const result = readPlan(plan)
  if (!result.ok) throw new Error(JSON.stringify(result.faults))
  return result.plan
}

describe('a point found from beside it', () => {
  // Each of these was once said to collapse when it was solved first.
  it.each([
    ['ruined', 4, 'charging/only:load3-5'],
    ['ruined', 55, 'nominal/only:load0-7'],
    ['ruined', 118, 'full/only:load1-5'],
    ['ruined', 312, 'low/only:load1-3'],
    ['ruined', 333, 'full/only:load2-8'],
    ['random', 315, 'nominal/only:loa2'],
    ['random', 357, 'nominal/only:loa3'],
    ['random', 375, 'nominal/only:rad2'],
  ] as const)('is found from far away as well: %s plan %i, %s', (make, seed, id) => {
    const plan = (make === 'ruined' ? ruinedPlan : randomPlan)(seed)!
    const all = conditionsOf(plan)
    const condition = all.find(c => c.id === id)!
    const network = compile(plan)
    const alone = new Solver(network).solve(condition)
    expect(alone.status).toBe('ok')
    for (const before of all.slice(0, 6)) {
      const solver = new Solver(network)
      solver.solve(before)
      const after = solver.solve(condition)
      expect(after.status, before.id).toBe('ok')
      after.volts.forEach((v, i) => expect(Math.abs(v - alone.volts[i]!), before.id).toBeLessThan(1e-5))
    }
  })
})

describe('a supply, a dropper diode and a fridge of 45 W', () => {
  const plan = read({
    format: 'wireman-plan',
    version: 1,
    name: 'x',
    parts: [
      { id: 'sup', kind: 'supply', setV: 13.8, continuousA: 23, outputOhm: 0.01, terminal: 'screw' },
      {
        id: 'fridge',
        kind: 'load',
        supply: { minV: 10.4, maxV: 17 },
        draw: { model: 'constant-power', idleW: 1, activeW: 45 },
        terminal: 'screw',
      },
    ],
    leads: [
      {
        id: 'l',
        from: 'sup',
        to: 'fridge',
        lengthM: 2,
        conductor: { mm2: 2.5 },
        inline: [{ id: 'd', kind: 'dropper', ratedA: 20, atM: 0.2 }],
      },
    ],
  })
  it('stand, solved first, where the law of the diode and the wire put them', () => {
    const all = conditionsOf(plan).find(c => c.loadState === 'all')!
    const network = compile(plan)
    const point = new Solver(network).solve(all, { below: 0 })
    expect(point.status).toBe('ok')
    const volts = point.volts[network.nodeOf.get('fridge')!]!
    const amps = 45 / volts
    // By hand: 2 × 2 m of 7.98 Ω/km, 10 mΩ in the supply; a silicon diode of that size drops 0.7 to 1.2 V at 3.5 A.
    const wire = 2 * 2 * 0.00798 * amps + 0.01 * amps
    expect(13.8 - wire - volts).toBeGreaterThan(0.7)
    expect(13.8 - wire - volts).toBeLessThan(1.25)
  })
})

describe('no collapse is told that is none', () => {
  it('of a regulator behind a flooded battery that a vehicle fills', () => {
    const begun = beginPlan({
      name: 'x',
      source: 'flooded-110',
      loads: ['hf-100'],
      vehicle: 'vehicle-socket',
      lengthM: 2,
      conductor: { awg: 12 },
    })
    const plan = read(begun)
    const lead = plan.leads.find(l => l.id === 'l1')!
    const load = plan.parts.find(p => p.id === lead.to.split('.')[0])!
    const proposal = addRegulator(plan, { lead, end: 'to', load, activeA: 21, passes: () => true })!
    const edit = applyEdit(plan, proposal.patch)
    if (!edit.ok) throw new Error(JSON.stringify(edit.faults))
    expect(solveCorners(edit.plan).points.filter(p => p.status !== 'ok')).toEqual([])
    expect(judge(edit.plan).verdict.findings.map(f => f.check)).not.toContain('arrival-under')
  })

  it('where a charger takes more than its own wire carries: the empty battery alone still carries the loads', () => {
    const points = solveCorners(brokenPlan(74)!).points
    const status = (id: string) => points.find(p => p.condition.id === id)?.status
    expect(status('bulk/idle')).toBe('collapses')
    expect(status('low/idle')).toBe('ok')
  })

  it('in 60 plans broken everywhere, each condition tried again by itself', () => {
    let tried = 0
    for (let seed = 150; seed < 180; seed++)
      for (const plan of [brokenPlan(seed), ruinedPlan(seed)]) {
        if (!plan) continue
        const { network, points } = solveCorners(plan)
        for (const point of points.filter(p => p.status !== 'ok').slice(0, 8)) {
          tried++
          const alone = new Solver(network).solve(point.condition)
          const stands = alone.status === 'ok' && !alone.sources.some(s => s.limit === 'overdrawn')
          expect(stands, `${seed} ${point.condition.id}`).toBe(false)
        }
      }
    expect(tried).toBeGreaterThan(200)
  })
})
