import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { solveMatrix } from '../../../core/circuit/matrix'
import { smallPlan } from '../../data/plans'

/**
 * Sources at their limits around one joint, each over a lead of its own, against a search by halves that knows nothing
 * of Newton or pieces: what all give falls as the joint's voltage rises, so there is one voltage at which it is what
 * the loads take.
 */

interface Law {
  emfV: number
  ohm: number
  leastA: number
  mostA: number
}
interface Given {
  part: Record<string, unknown>
  /** Its laws while a battery is charged from low, and at the end of that. */
  bulk: Law[]
  charging: Law[]
}

const volts = fc.double({ min: 12, max: 16, noNaN: true })
const ohms = fc.double({ min: 0.002, max: 0.08, noNaN: true })
const amps = fc.integer({ min: 1, max: 60 })
const FREE = { leastA: -Infinity, mostA: Infinity }
const both = (laws: Law[]) => ({ bulk: laws, charging: laws })

const aBattery = fc.record({ ah: fc.integer({ min: 5, max: 200 }), ohm: ohms }).map(({ ah, ohm }): Given => ({
  part: { kind: 'battery', chemistry: 'lifepo4', seriesCells: 4, capacityAh: ah, internalOhm: ohm },
  bulk: [{ emfV: 12.92, ohm, ...FREE }],
  charging: [{ emfV: 13.6, ohm, leastA: -0.03 * ah, mostA: Infinity }],
}))
const aSupply = fc.record({ setV: volts, ohm: ohms, mostA: amps }).map(({ setV, ohm, mostA }): Given => ({
  part: { kind: 'supply', setV, continuousA: mostA, outputOhm: ohm },
  ...both([{ emfV: setV, ohm, leastA: 0, mostA }]),
}))
const aCharger = fc.record({ absorptionV: volts, mostA: amps }).map(({ absorptionV, mostA }): Given => ({
  part: { kind: 'charger', maxA: mostA, set: 'lifepo4', chemistries: { lifepo4: { absorptionV } } },
  ...both([{ emfV: absorptionV, ohm: 1e-7, leastA: 0, mostA }]),
}))
const aVehicle = fc
  .record({
    above: fc.double({ min: 0.1, max: 3, noNaN: true }),
    off: fc.double({ min: 11.5, max: 13, noNaN: true }),
    ohm: ohms,
    spare: amps,
  })
  .map(({ above, off, ohm, spare }): Given => ({
    part: { kind: 'vehicle', engineOnV: off + above, engineOffV: off, internalOhm: ohm, alternatorSpareA: spare },
    ...both([
      { emfV: off + above, ohm, leastA: 0, mostA: spare },
      { emfV: off, ohm, leastA: 0, mostA: Infinity },
    ]),
  }))
const others = fc.array(fc.oneof(aBattery, aSupply, aCharger, aVehicle), { minLength: 1, maxLength: 4 })

/** The middle of where a falling function changes its sign. */
function root(falling: (x: number) => number, low: number, high: number): number {
  let [a, b] = [low, high]
  // Sixty-four halvings of 400 V are less than a double can tell apart.
  for (let k = 0; k < 64; k++) {
    const middle = (a + b) / 2
    if (falling(middle) > 0) a = middle
    else b = middle
  }
  return (a + b) / 2
}
const given = ({ emfV, ohm, leastA, mostA }: Law, v: number) => Math.min(mostA, Math.max(leastA, (emfV - v) / ohm))

describe('sources with limits', () => {
  it('share by voltage and resistance as a search by halves finds it', () => {
    const R = 0.0123
    fc.assert(
      fc.property(aBattery, others, fc.integer({ min: 0, max: 80 }), (first, rest, wholeA) => {
        // Where limits add up to just what is taken, any voltage between would do: no load is so round.
        const loadA = wholeA + 0.0371
        const sources = [first, ...rest]
        const wire = { conductor: { mm2: 10 }, ends: {}, inline: [{ id: 's', kind: 'switch', ohm: R }], lengthM: 1e-9 }
        const plan = smallPlan({
          parts: [
            ...sources.map((s, i) => ({ id: `s${i}`, ...s.part })),
            { id: 'j', kind: 'joint', contactOhm: 0 },
            {
              id: 'hf',
              kind: 'radio',
              supply: { minV: 10, nominalV: 13, maxV: 16 },
              draw: { model: 'constant-current', idleA: loadA, activeA: loadA },
            },
          ],
          leads: [
            ...sources.map((_, i) => ({ id: `w${i}`, from: `s${i}`, to: `j.${'abcdef'[i]}`, ...wire })),
            { id: 'l', from: 'j.z', to: 'hf', ...wire },
          ],
        })
        const { network, points } = solveMatrix(plan)
        for (const point of points) {
          const state = point.condition.source
          if (state !== 'bulk' && state !== 'charging') continue
          const inward = (s: Given, jointV: number) => {
            const total = (v: number) => s[state].reduce((sum, law) => sum + given(law, v), 0)
            // The source's own node stands above the joint by what the lead drops.
            const v = root(x => total(x) - (x - jointV) / R, jointV - 200, jointV + 200)
            return (v - jointV) / R
          }
          const jointV = root(v => sources.reduce((sum, s) => sum + inward(s, v), 0) - loadA, -100, 100)
          expect(point.status).toBe('ok')
          expect(point.volts[network.nodeOf.get('j.z')!]! - jointV).toBeCloseTo(0, 4)
        }
      }),
      { numRuns: 150 },
    )
  })
})
