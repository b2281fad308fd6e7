import { describe, expect, it } from 'vitest'
import { conditionsOf } from '../../../core/circuit/conditions'
import { solveCorners } from '../../../core/circuit/matrix'
import type { Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { charger } from '../../data/hard/hard'
import { battery, lead, radio, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'
import { sampled } from '../../data/sampled'
import { inStation, sideBySide } from '../../data/sideBySide'

type Volts = ReadonlyMap<string, number>

/** Volts at each terminal by condition, where there is a point. */
function voltsIn(plan: Plan): ReadonlyMap<string, Volts> {
  const { points, network } = solveCorners(plan)
  const ok = points.filter(p => p.status === 'ok' && !p.condition.off)
  const at = (volts: Float64Array) => new Map([...network.nodeOf].map(([t, node]) => [t, volts[node]!]))
  return new Map(ok.map(p => [p.condition.id, at(p.volts)]))
}

const statesOf = (plan: Plan) => [...new Set(conditionsOf(plan).map(c => c.source))].join()

const supply = (id: string, setV: number, mostA: number) => ({
  id,
  kind: 'supply',
  setV,
  continuousA: mostA,
  peakA: mostA,
  outputOhm: 0.005,
  terminal: 'ring-m6',
})
const onTwo = (mostA: number, activeA: number) =>
  smallPlan({
    parts: [
      supply('a', 13.9, mostA),
      supply('b', 13.7, mostA),
      radio({ draw: { model: 'constant-current', idleA: 1, activeA } }),
    ] as never,
    leads: [lead({ from: 'a', to: 'b', ends: {} }), lead({ id: 'l2', from: 'b', ends: {} })],
  })

describe('stations that do not touch, in one plan', () => {
  it('each of seventy packs gets of its charger, which gives all it can, what one by itself gets', () => {
    const one = smallPlan({
      parts: [battery(), charger({ set: 'lifepo4' }), radio()] as never,
      leads: [lead(), lead({ id: 'l2', from: 'chg', to: 'bat', ends: {} })],
    })
    const alone = voltsIn(one).get('charging/all')!.get('bat')!
    const together = voltsIn(sideBySide(Array.from({ length: 70 }, () => one))).get('charging/all')!
    for (let n = 0; n < 70; n++) expect(together.get(inStation(n, 'bat'))).toBeCloseTo(alone, 6)
  })

  // By hand: of 15 A the one gives its 10, the other 5. Of 8 A asked of one for 5, or of two for 3 each, no one can.
  const overdrawn = { 'one supply': [5, 8, 1], 'two supplies': [3, 8, 2] } as const
  it.each(Object.entries(overdrawn))(
    'two supplies share what the one cannot give while %s elsewhere cannot',
    (_, [mostA, asksA, count]) => {
      const other = onTwo(mostA, asksA)
      const elsewhere =
        count === 2 ? other : smallPlan({ parts: [other.parts[1], other.parts[2]] as never, leads: [other.leads[1]!] })
      const plan = sideBySide([onTwo(10, 15), elsewhere])
      const sources = solveCorners(plan).points.find(p => p.condition.id === 'nominal/all')!.sources
      const ofFirst = sources.filter(s => s.partId.startsWith(inStation(0, '')))
      expect(ofFirst.map(s => [s.limit, s.amps.toFixed(3)])).toEqual([
        ['gives-most', '10.000'],
        [undefined, '5.000'],
      ])
      const overloaded = judge(plan).verdict.findings.filter(f => f.check === 'supply-overload')
      expect(overloaded.map(f => f.place.startsWith(inStation(1, '')))).toEqual(overloaded.map(() => true))
      expect(overloaded.length).toBeGreaterThan(0)
    },
  )

  it('has for each the volts that it has by itself, at random', () => {
    const plans = Array.from({ length: 400 }, (_, seed) => randomPlan(seed)).filter(p => p !== null)
    const apart: string[] = []
    let compared = 0
    for (const [n, first] of sampled([...plans.entries()], 2)) {
      const second = { ...plans[(7 * n + 3) % plans.length]!, site: first.site }
      // Whether the sun shines is told by what is charged in the whole plan.
      if (statesOf(first) !== statesOf(second)) continue
      const [ofFirst, ofSecond, ofBoth] = [first, second, sideBySide([first, second])].map(voltsIn)
      for (const condition of ofFirst!.keys()) {
        if (!/\/(idle|all)$/.test(condition) || !ofSecond!.has(condition)) continue
        compared++
        const together = ofBoth!.get(condition)
        const alone = [ofFirst!, ofSecond!].flatMap((of, k) =>
          [...of.get(condition)!].map(([terminal, volts]) => [inStation(k, terminal), volts] as const),
        )
        const isSame = together && alone.every(([terminal, volts]) => Math.abs(together.get(terminal)! - volts) < 1e-5)
        if (!isSame) apart.push(`${first.name} ${n} ${condition}`)
      }
    }
    expect(apart).toEqual([])
    expect(compared).toBeGreaterThan(60)
  })
})
