import { describe, expect, it } from 'vitest'
import { solveMatrix, solvedPoints } from '../../../core/circuit/matrix'
import { compile } from '../../../core/circuit/network'
import { partAmps } from '../../../core/circuit/point'
import { reduceNetwork } from '../../../core/circuit/reduce'
import { placedIn } from '../../../core/circuit/placed'
import { sinkAmps } from '../../../core/kinds/draw'
import { isLoad } from '../../../core/kinds/index'
import type { Plan } from '../../../core/plan/schema'
import { readPlan } from '../../../core/plan/faults'
import { madeUpPlan } from '../../bench/plans'
import { spicePlans } from '../../data/spice/plans'
import { battery, demoPlan, lead, load, radio, smallPlan } from '../../data/plans'

const plans: Record<string, Plan> = {
  'Tern Rock': demoPlan('tern-rock-evening'),
  '60 parts': madeUpPlan(60),
  ...Object.fromEntries(
    Object.entries(spicePlans()).map(([name, { plan }]) => {
      const read = readPlan(plan)
      if (!read.ok) throw new Error(name)
      return [name, read.plan]
    }),
  ),
}

describe('the reduced network', () => {
  it('keeps no node that needs no equation', () => {
    const network = compile(demoPlan('tern-rock-evening'))
    const reduced = reduceNetwork(network)
    // Two sources, four loads and the block's bar, where branches meet.
    expect(network.nodeCount).toBe(12)
    expect(reduced.nodeCount).toBe(7)
    expect(reduced.branchCount).toBe(5)
  })

  for (const [name, plan] of Object.entries(plans)) {
    it(`${name}: what flows into every node of the whole network flows out of it`, () => {
      const solved = solveMatrix(plan)
      const { network } = solved
      for (const point of solvedPoints(solved)) {
        const sum = new Float64Array(network.nodeCount)
        for (let b = 0; b < network.branchCount; b++) {
          sum[network.from[b]!]! -= point.amps[b]!
          sum[network.to[b]!]! += point.amps[b]!
        }
        for (const part of plan.parts.filter(isLoad))
          sum[network.nodeOf.get(part.id)!]! -= partAmps(network, point, part)
        for (const source of point.sources) sum[source.node]! += source.amps
        for (const taken of placedIn(network, point.condition.source).standing)
          sum[taken.node]! -= sinkAmps(taken, point.volts[taken.node]!)
        for (const t of point.transfers) sum[t.fromNode]! -= t.inputW / point.volts[t.fromNode]!
        for (const left of sum) expect(Math.abs(left)).toBeLessThan(1e-6)
      }
    })

    it(`${name}: every branch drops what its law says`, () => {
      const solved = solveMatrix(plan)
      const { network } = solved
      for (const point of solvedPoints(solved)) {
        for (let b = 0; b < network.branchCount; b++) {
          if (network.diode[b]! >= 0) continue
          const i = point.amps[b]!
          const v = point.volts[network.from[b]!]! - point.volts[network.to[b]!]!
          expect(Math.abs(v - i * (network.ohm[b]! + network.ohmPerAmp2[b]! * i * i))).toBeLessThan(1e-7)
        }
      }
    })
  }

  it('a chain of joints, a dead end and a ring of nothing but wire come out right', () => {
    const plan = smallPlan({
      parts: [battery(), radio(), load(), ...['j1', 'j2', 'j3', 'j4'].map(id => ({ id, kind: 'joint' }))],
      leads: [
        lead({ id: 'a', to: 'j1.a', ends: {} }),
        lead({ id: 'b', from: 'j1.b', to: 'j2.a', ends: {}, inline: [] }),
        lead({ id: 'c', from: 'j2.b', ends: {}, inline: [] }),
        lead({ id: 'd', from: 'j2.c', to: 'j3.a', ends: {}, inline: [] }),
        lead({ id: 'e', from: 'j2.d', to: 'j4.a', ends: {}, inline: [] }),
        lead({ id: 'f', from: 'j4.b', to: 'j2.e', ends: {}, inline: [] }),
      ],
    })
    const solved = solveMatrix(plan)
    const point = solvedPoints(solved).find(p => p.condition.id === 'low/all')!
    const volts = (t: string) => point.volts[solved.network.nodeOf.get(t)!]!
    const amps = (id: string) => point.amps[solved.network.branchOfLead.get(id)!]!
    expect(amps('a')).toBeCloseTo(10, 9)
    expect(amps('d')).toBeCloseTo(0, 9)
    expect(amps('e')).toBeCloseTo(0, 9)
    expect(volts('j3.a')).toBeCloseTo(volts('j2.a'), 9)
    expect(volts('j1.a') - volts('j2.a')).toBeCloseTo(volts('j2.b') - volts('hf'), 9)
  })
})
