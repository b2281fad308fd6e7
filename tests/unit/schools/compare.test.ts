import { describe, expect, it } from 'vitest'
import { applyEdit } from '../../../core/edit/patch'
import type { Plan } from '../../../core/plan/schema'
import { sideTaken } from '../../../core/schools/choose'
import { compareSides, sideOf } from '../../../core/schools/compare'
import { judge } from '../../../core/verdict/verdict'
import { battery, demoPlan, fuse, lead, radio, smallPlan } from '../../data/plans'

const serious = (plan: Plan) =>
  judge(plan)
    .verdict.findings.filter(f => f.severity === 'danger' || f.severity === 'fail')
    .map(f => f.title)

describe('two sides compared', () => {
  it.each([
    ['clean-bench', 'hold', 'held'],
    ['clean-bench', 'leads', 'own'],
    ['clean-bench', 'fuseLegs', 'both'],
    ['tern-rock-light', 'packs', 'parallel'],
    ['tern-rock-light', 'bank', '24-step-down'],
    ['tern-rock-light', 'hold', 'held'],
    ['tern-rock-light', 'ampacity', 'enclosed'],
    ['moor-walk-kit', 'portable', 'usb-bank'],
    ['narrowboat-heron', 'chemistry', 'lithium'],
    ['narrowboat-heron', 'vehicleCharge', 'inverter'],
  ] as const)(
    '%s, %s %s: mended and sized, no danger and no failure is left, and what is shown is what is taken',
    (demo, id, choice) => {
      const plan = demoPlan(demo)
      const compared = compareSides(plan, id, choice)
      expect(compared.cannot).toBeNull()
      const edit = applyEdit(plan, compared.patch!)
      if (!edit.ok) throw new Error(JSON.stringify(edit.faults))
      expect(serious(edit.plan)).toEqual([])
      expect(sideTaken(edit.plan, id)).toBe(choice)
      expect(sideOf(edit.plan)).toEqual(compared.other)
      expect(compared.now.findings.filter(f => f.severity === 'danger' || f.severity === 'fail')).toEqual([])
    },
  )

  it('one that cannot be built says why, and is not offered', () => {
    expect(compareSides(demoPlan('clean-bench'), 'feed', 'gate')).toMatchObject({
      other: null,
      patch: null,
      cannot: 'It takes a mains supply that stands on the battery.',
    })
    expect(compareSides(demoPlan('tern-rock-light'), 'loadsFrom', 'load-terminal').cannot).toMatch(
      /The loads take 36 A .* gives 15 A/,
    )
  })

  it('says what a transmitter gives at its lowest voltage: the square of what it lacks', () => {
    const sag = (fullPowerAboveV: number) =>
      sideOf(
        smallPlan({
          parts: [battery(), radio({ powerW: 100, fullPowerAboveV })],
          leads: [lead({ inline: [fuse(20)] })],
        }),
      )
    const lowV = sag(13).arrivals.hf!.lowV
    const [full, less] = [sag(11).transmits[0]!, sag(13.5).transmits[0]!]
    expect(full).toMatchObject({ watts: 100 })
    expect(full.dB).toBeCloseTo(0, 9)
    expect(less.watts).toBeCloseTo(100 * (lowV / 13.5) ** 2, 6)
    expect(less.dB).toBeCloseTo(20 * Math.log10(lowV / 13.5), 6)
  })
})
