import { describe, expect, it } from 'vitest'
import { applyEdit } from '../../../core/edit/patch'
import { setField } from '../../../core/edit/set'
import type { Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { PAIRS } from '../../data/pairs'

/** A limit that is met exactly passes, unless the check says otherwise; a hair beyond fires, with both figures. */

interface Limit {
  check: string
  /** Part or lead that says the limit, and where. */
  of: string
  field: string
  /** The finding's figure that is held against it. */
  figure: string
  /** The limit's own name among the finding's figures. */
  limit: string
  /** +1: a greater figure breaks it. −1: a smaller one. */
  worse: 1 | -1
  /** Where the limit itself breaks it already. */
  firesAtLimit?: boolean
}

const LIMITS: Limit[] = [
  { check: 'battery-peak', of: 'bat', field: 'peakA', figure: 'amps', limit: 'peakA', worse: 1 },
  { check: 'battery-continuous', of: 'bat', field: 'continuousA', figure: 'amps', limit: 'continuousA', worse: 1 },
  { check: 'supply-overload', of: 'bat', field: 'continuousA', figure: 'amps', limit: 'continuousA', worse: 1 },
  { check: 'block-rating', of: 'blk', field: 'ratedA', figure: 'amps', limit: 'ratedA', worse: 1 },
  { check: 'port-rating', of: 'blk', field: 'ports.0.ratedA', figure: 'amps', limit: 'ratedA', worse: 1 },
  { check: 'arrival-under', of: 'hf', field: 'supply.minV', figure: 'arrivesV', limit: 'minV', worse: -1 },
  { check: 'arrival-over', of: 'hf', field: 'supply.maxV', figure: 'arrivesV', limit: 'maxV', worse: 1 },
  { check: 'panel-current', of: 'ctl', field: 'maxPanelA', figure: 'shortA', limit: 'maxPanelA', worse: 1 },
  {
    check: 'panel-cold-voltage',
    of: 'ctl',
    field: 'maxPanelV',
    figure: 'openV',
    limit: 'maxPanelV',
    worse: 1,
    firesAtLimit: true,
  },
  { check: 'charge-current', of: 'bat', field: 'maxChargeA', figure: 'chargeA', limit: 'maxChargeA', worse: 1 },
  { check: 'load-terminal', of: 'ctl', field: 'maxLoadA', figure: 'amps', limit: 'maxLoadA', worse: 1 },
  { check: 'generator-load', of: 'gen', field: 'ratedW', figure: 'wantedW', limit: 'ratedW', worse: 1 },
  { check: 'inverter-load', of: 'inv', field: 'surgeW', figure: 'startW', limit: 'surgeW', worse: 1 },
]

const HAIR = 1e-3

function findingAt(plan: Plan, { check, of, field }: Limit, value: number) {
  const edited = applyEdit(plan, setField(plan, of, field, value))
  if (!edited.ok) throw new Error(JSON.stringify(edited.faults))
  return judge(edited.plan).verdict.findings.find(f => f.check === check)
}

describe('a limit', () => {
  it.each(LIMITS)('of $check is $field of $of: exactly met, a hair beyond, a hair within', row => {
    const { check, figure, limit, worse, firesAtLimit } = row
    const plan = PAIRS[check]!.fires
    const first = judge(plan).verdict.findings.find(f => f.check === check)!
    const at = first.numbers[figure]!
    expect(findingAt(plan, row, at + worse * HAIR), 'within').toBeUndefined()
    // Rounded to the millionth that favours it: the last bits of a solved figure do not count as more than the limit.
    const met = worse > 0 ? Math.ceil(at * 1e6 - 1e-3) / 1e6 : Math.floor(at * 1e6 + 1e-3) / 1e6
    expect(findingAt(plan, row, met) !== undefined, 'exactly met').toBe(Boolean(firesAtLimit))
    const beyond = findingAt(plan, row, at - worse * HAIR)
    expect(beyond?.numbers[figure], 'beyond').toBeCloseTo(at, 6)
    expect(beyond?.numbers[limit]).toBeCloseTo(at - worse * HAIR, 9)
  })
})
