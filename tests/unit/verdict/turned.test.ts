import { describe, expect, it } from 'vitest'
import { commissionSteps } from '../../../core/commission/steps'
import { singleFailures } from '../../../core/commission/spares'
import { hangsOn, takersFor } from '../../../core/edit/takeOut'
import { freePorts, freeTerminals } from '../../../core/graph/free'
import { EventCourse } from '../../../core/hours/course'
import { causesOf, WAYS } from '../../../core/noise/cause'
import { suggestions } from '../../../core/noise/cure'
import { layoutPath } from '../../../core/picture/layout'
import type { Plan } from '../../../core/plan/schema'
import { chooseSchool, schoolsOf } from '../../../core/schools/choose'
import { buildSheet } from '../../../core/sheets/build'
import { sizePlan } from '../../../core/size/size'
import { judge } from '../../../core/verdict/verdict'
import { fixesOf } from '../../../core/verdict/fixes'
import { BASIC_PAIRS } from '../../data/basicPairs'
import { brokenPlan } from '../../data/brokenPlans'
import { FIELD_PAIRS } from '../../data/fieldPairs'
import { PAIRS } from '../../data/pairs'
import { DEMOS, demoPlan } from '../../data/plans'
import { randomEvent } from '../../data/randomEvents'
import { randomPlan } from '../../data/randomPlans'
import { isWhole, sampled } from '../../data/sampled'
import { some } from '../../data/someOf'
import { turned } from '../../data/turned'

/** Figures to four places: resistances are added up in another order. */
const rounded = (_key: string, v: unknown) => (typeof v === 'number' ? Number(v.toPrecision(4)) : v)
const asText = (value: unknown) => JSON.stringify(value, rounded)
const asTexts = (values: readonly unknown[]) => values.map(asText).sort()

/** What an engine says of a plan that does not name the ends of a lead by from and to. */
const SAYS: Record<string, (plan: Plan) => readonly unknown[]> = {
  'what is found': plan =>
    judge(plan).verdict.findings.map(f => [f.check, f.place, f.severity, f.condition, f.title, f.message, f.numbers]),
  'what arrives': plan => Object.entries(judge(plan).verdict.arrivals),
  'both sides of every school': plan =>
    schoolsOf(plan).flatMap(s => [
      s,
      ...s.choices.map(c => {
        const { does, cannot } = chooseSchool(plan, s.id, c.id)
        return [s.id, c.id, does, cannot]
      }),
    ]),
  'how an event goes': plan => {
    const event = randomEvent(3, plan)
    return event ? [new EventCourse(plan, event).run({ everyH: 6 })] : []
  },
  'what may make noise and what is done about it': plan => {
    const { devices } = causesOf(plan, { bands: ['20 m'] })
    const cures = devices.flatMap(({ id: device }) =>
      WAYS.map(({ id: way }) => suggestions(plan, { device, way }, devices).map(c => [device, way, c.title, c.do])),
    )
    return [devices, cures]
  },
  'where parts stand in the picture': plan => {
    const { rows, boxes } = layoutPath(plan, judge(plan).verdict.arrivals, 1000)
    return [rows, boxes.map(({ id, x, y }) => [id, x, y])]
  },
  'what hangs on what': plan => plan.parts.map(p => [p.id, hangsOn(plan, p.id), takersFor(plan, p.id).sort()]),
  'what is free': plan => [freeTerminals(plan), freePorts(plan)],
  'what one failure takes off': singleFailures,
  'the order of building': plan => commissionSteps(plan).map(step => [step.phase, step.lead, step.part]),
  'in which order it is connected, live ends last': plan =>
    buildSheet(plan).hookUp.connect.map(s => s.does.replace(/ \(.*/, '')),
  'what is needed': plan => buildSheet(plan).shopping,
}

const TWENTY_FOUR = Array.from({ length: 24 }, (_, i) => i + 1)

const plans: Plan[] = [
  ...DEMOS.map(name => demoPlan(name)),
  ...sampled(some(brokenPlan, TWENTY_FOUR)),
  ...sampled(some(randomPlan, TWENTY_FOUR)),
  ...sampled(Object.values(PAIRS), 12).map(({ fires }) => fires),
]

describe('a lead told from its other end changes nothing', () => {
  it.each(Object.entries(SAYS))('%s', (_what, says) => {
    for (const plan of plans) {
      const other = turned(plan)
      if (other) expect(asTexts(says(other)), plan.name).toEqual(asTexts(says(plan)))
    }
  })

  it('what mends each finding', () => {
    const mends = (plan: Plan) => {
      const { verdict, study } = judge(plan)
      return asTexts(
        verdict.findings.flatMap(f =>
          fixesOf(f, study, verdict).map(({ label, cost, after }) => [f.key, label, cost, [...after.findings].sort()]),
        ),
      )
    }
    for (const [check, { fires }] of sampled(Object.entries({ ...BASIC_PAIRS, ...PAIRS, ...FIELD_PAIRS }))) {
      const other = turned(fires)
      if (other) expect(mends(other), check).toEqual(mends(fires))
    }
  })

  it('what sizing changes', () => {
    for (const plan of plans.slice(0, isWhole ? 12 : 6)) {
      const changes = (of: Plan) => asTexts(sizePlan(of, { for: 'weight' }).changes.map(c => c.words))
      expect(changes(turned(plan)!), plan.name).toEqual(changes(plan))
    }
  })
})
