import { describe, expect, it } from 'vitest'
import { applyEdit } from '../../../core/edit/patch'
import type { Plan } from '../../../core/plan/schema'
import { SEVERITIES } from '../../../core/checks/check'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { CHARGING_PLANS } from '../../data/hard/charging'
import { FUSES_PLANS } from '../../data/hard/fuses'
import { LEADS_PLANS } from '../../data/hard/leads'
import { SOURCES_PLANS } from '../../data/hard/sources'
import { SUN_PLANS } from '../../data/hard/sun'
import { VEHICLES_PLANS } from '../../data/hard/vehicles'
import { PAIRS } from '../../data/pairs'
import { DEMOS, demoPlan } from '../../data/plans'

/** The first fix of the first finding that has any, taken over and over, as F does. */

const MOST_STEPS = 30

const counts = (plan: Plan) => {
  const { findings } = judge(plan).verdict
  return SEVERITIES.map(s => findings.filter(f => f.severity === s).length)
}

/** What is left when no finding has a fix any more, and what each step left. */
function followed(start: Plan): { left: string[]; steps: number[][] } {
  let plan = start
  const steps = [counts(plan)]
  for (let n = 0; n < MOST_STEPS; n++) {
    const { verdict, study } = judge(plan)
    const fix = verdict.findings
      .filter(f => f.severity !== 'note')
      .map(f => fixesOf(f, study, verdict)[0])
      .find(f => f !== undefined)
    const edit = fix && applyEdit(plan, fix.patch)
    if (!edit?.ok) break
    plan = edit.plan
    steps.push(counts(plan))
  }
  const { findings } = judge(plan).verdict
  const serious = findings.filter(f => f.severity === 'danger' || f.severity === 'fail')
  return { left: serious.map(f => `${f.check} ${f.place}`), steps }
}

const HARD = [CHARGING_PLANS, FUSES_PLANS, LEADS_PLANS, SOURCES_PLANS, SUN_PLANS, VEHICLES_PLANS].flat()

/** What no change that Wireman knows mends: there is nowhere to feed it from, or it wants other cells or a pack. */
const BEYOND: Record<string, string[]> = {
  'pair island': ['island pc'],
  'dry pack thin unfused': ['arrival-under hf'],
  'folding panel straight on radio': ['panel-direct sun', 'arrival-over hf', 'collapse hf'],
}

const PLANS: [string, Plan][] = [
  ...DEMOS.map((name): [string, Plan] => [name, demoPlan(name)]),
  ...Object.entries(PAIRS).map(([id, { fires }]): [string, Plan] => [`pair ${id}`, fires]),
  ...HARD.map(({ name, plan }): [string, Plan] => [name, plan()]),
]

describe('taking first fixes one after the other', () => {
  it.each(PLANS)('of %s ends, leaves less of the worst at every step, and no danger and no failure', (name, plan) => {
    const { left, steps } = followed(plan)
    expect(left).toEqual(BEYOND[name] ?? [])
    steps.slice(1).forEach((now, i) => {
      const at = now.findIndex((n, k) => n !== steps[i]![k])
      expect(now[at]!).toBeLessThan(steps[i]![at]!)
    })
    expect(steps.length).toBeLessThan(MOST_STEPS)
  })
})
