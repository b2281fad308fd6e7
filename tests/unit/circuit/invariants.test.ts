import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { solveCorners, solveMatrix, solvedPoints, arrivalSpan } from '../../../core/circuit/matrix'
import { compile } from '../../../core/circuit/network'
import { namePoint, partAmps } from '../../../core/circuit/point'
import { staircase } from '../../../core/circuit/staircase'
import { thickerSizes } from '../../../core/conductor/ladder'
import { isLoad } from '../../../core/kinds/index'
import type { Plan } from '../../../core/plan/schema'
import { battery, smallPlan } from '../../data/plans'

/** Made-up stations: a pack or a supply, a block, loads of every kind, sometimes a second pack, a ring, a diode. */
const aPlan = fc
  .record({
    loads: fc.array(
      fc.record({
        model: fc.constantFrom('constant-current', 'constant-power', 'resistive'),
        idle: fc.integer({ min: 0, max: 1000 }).map(n => n / 1000),
        active: fc.double({ min: 1, max: 8, noNaN: true }),
        lengthM: fc.double({ min: 0.2, max: 6, noNaN: true }),
        awg: fc.constantFrom(8, 10, 12, 14, 16),
        diode: fc.boolean(),
      }),
      { minLength: 1, maxLength: 6 },
    ),
    supply: fc.boolean(),
    second: fc.boolean(),
    ring: fc.boolean(),
    internalOhm: fc.double({ min: 0.002, max: 0.05, noNaN: true }),
  })
  .map(({ loads, supply, second, ring, internalOhm }): Plan => {
    const parts: object[] = [
      supply
        ? { id: 'bat', kind: 'supply', setV: 13.8, continuousA: 40, outputOhm: internalOhm }
        : battery({ internalOhm }),
      {
        id: 'blk',
        kind: 'block',
        ports: loads.map((_, i) => ({ id: `p${i}`, fuse: { type: 'blade', ratedA: 10 + i } })),
      },
    ]
    const leads: object[] = [
      {
        id: 'main',
        from: 'bat',
        to: 'blk.feed',
        lengthM: 1,
        conductor: { awg: 6, insulationC: 105 },
        inline: [{ id: 'f', kind: 'fuse', ratedA: 40, atM: 0.1 }],
      },
    ]
    loads.forEach((l, i) => {
      const draw =
        l.model === 'constant-current'
          ? { model: l.model, idleA: l.idle, activeA: l.active }
          : { model: l.model, idleW: 5 * l.idle, activeW: 8 * l.active }
      parts.push({ id: `l${i}`, kind: 'load', supply: { minV: 10, nominalV: 12, maxV: 15 }, draw })
      leads.push({
        id: `w${i}`,
        from: `blk.p${i}`,
        to: `l${i}`,
        lengthM: l.lengthM,
        conductor: { awg: l.awg, insulationC: 105 },
        ...(l.diode && { inline: [{ id: 'd', kind: 'dropper', ratedA: 10, stripe: 'to' }] }),
      })
    })
    if (second) {
      parts.push(battery({ id: 'b2', internalOhm: 0.02 }))
      leads.push({ id: 'second', from: 'b2', to: 'blk.feed', lengthM: 2, conductor: { awg: 8 } })
    }
    if (ring && loads.length > 1) leads.push({ id: 'ring', from: 'l0', to: 'l1', lengthM: 3, conductor: { awg: 16 } })
    return smallPlan({ parts: parts as Record<string, unknown>[], leads: leads as Record<string, unknown>[] })
  })

describe('invariants', () => {
  it('what the sources give is what loads and losses take, to 1e-6', () => {
    fc.assert(
      fc.property(aPlan, plan => {
        const solved = solveMatrix(plan)
        for (const point of solvedPoints(solved)) {
          const { network } = solved
          let given = 0
          let taken = 0
          for (const part of plan.parts) {
            if (!isLoad(part)) continue
            taken += point.volts[network.nodeOf.get(part.id)!]! * partAmps(network, point, part)
          }
          for (const { node, amps } of point.sources) given += point.volts[node]! * amps
          for (let b = 0; b < network.branchCount; b++)
            taken += point.amps[b]! * (point.volts[network.from[b]!]! - point.volts[network.to[b]!]!)
          expect(Math.abs(given - taken)).toBeLessThan(1e-6 * Math.max(1, given))
        }
      }),
      { numRuns: 60 },
    )
  })

  it('more copper never lowers an arriving voltage where one source feeds a tree', () => {
    fc.assert(
      fc.property(aPlan, fc.nat(), (plan, pick) => {
        // A resistive load takes more from a higher voltage, and so may lower its neighbours'.
        if (!compile(plan).isForest || plan.parts.some(p => p.kind === 'load' && p.draw.model === 'resistive')) return
        const lead = plan.leads[pick % plan.leads.length]!
        const thicker = {
          ...plan,
          leads: plan.leads.map(l => (l === lead ? { ...l, conductor: thickerSizes(l.conductor)[0]! } : l)),
        }
        const [before, after] = [solveMatrix(plan), solveMatrix(thicker)]
        for (const part of plan.parts.filter(p => p.kind === 'load')) {
          const [was, is] = [arrivalSpan(before, part.id), arrivalSpan(after, part.id)]
          if (was && is) expect(is.low.value).toBeGreaterThan(was.low.value - 1e-8)
        }
      }),
      { numRuns: 60 },
    )
  })

  it('the corners are the extremes of the whole matrix', () => {
    fc.assert(
      fc.property(aPlan, plan => {
        const [corners, all] = [solveCorners(plan), solveMatrix(plan)]
        if (all.points.some(p => p.status === 'collapses')) return
        for (const part of plan.parts) {
          const [few, every] = [arrivalSpan(corners, part.id), arrivalSpan(all, part.id)]
          if (!few || !every) continue
          expect(few.low.value).toBeCloseTo(every.low.value, 6)
          expect(few.high.value).toBeCloseTo(every.high.value, 6)
        }
      }),
      { numRuns: 60 },
    )
  })

  it("a condition's point does not depend on what was solved before it", () => {
    fc.assert(
      fc.property(aPlan, plan => {
        const forward = solveMatrix(plan)
        for (const point of forward.points.slice(-3)) {
          const alone = solveMatrix(plan, [point.condition])
          expect(alone.points[0]!.status).toBe(point.status)
          if (point.status === 'ok') alone.points[0]!.volts.forEach((v, i) => expect(v).toBeCloseTo(point.volts[i]!, 6))
        }
      }),
      { numRuns: 40 },
    )
  })

  it('the staircase goes down from the source to exactly what arrives', () => {
    fc.assert(
      fc.property(aPlan, plan => {
        const solved = solveMatrix(plan)
        for (const point of solvedPoints(solved)) {
          const named = namePoint(solved.network, point)
          for (const part of plan.parts.filter(p => p.kind === 'load')) {
            const stairs = staircase(solved.network, point, part.id)
            expect(stairs).not.toBeNull()
            expect(stairs!.steps.at(-1)!.volts).toBeCloseTo(named.nodes[part.id]!.volts!, 5)
          }
        }
      }),
      { numRuns: 30 },
    )
  })
})
