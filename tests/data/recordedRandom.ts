import { conditionsOf } from '../../core/circuit/conditions'
import { solveMatrix } from '../../core/circuit/matrix'
import { namePoint } from '../../core/circuit/point'
import { proceduresOf } from '../../core/commission/procedures'
import { commissionSteps, takeDownSteps } from '../../core/commission/steps'
import { removeAll } from '../../core/edit/remove'
import { tryPatch } from '../../core/edit/patch'
import { spiceNetlist } from '../../core/formats/spice'
import { pathSvg } from '../../core/formats/svg'
import { formOf } from '../../core/kinds/formOf'
import { isLoad } from '../../core/kinds/index'
import { causesOf, WAYS } from '../../core/noise/cause'
import { suggestions } from '../../core/noise/cure'
import { layoutPath } from '../../core/picture/layout'
import { shownOf } from '../../core/picture/shown'
import { partName, placeName } from '../../core/plan/names'
import type { Plan } from '../../core/plan/schema'
import { chooseSchool, schoolsOf } from '../../core/schools/choose'
import { buildSheet } from '../../core/sheets/build'
import { shortStudy } from '../../core/short/study'
import { sizePlan, type SizeOptions } from '../../core/size/size'
import { fixesOf } from '../../core/verdict/fixes'
import { judge } from '../../core/verdict/verdict'
import { brokenPlan } from './brokenPlans'
import { randomPlan } from './randomPlans'
import { bySeed } from './sampled'

/**
 * Whole answers, as in `recorded.ts`, on stations that nobody would plan and on ordinary ones with a few things wrong:
 * they reach what no demo station does.
 */

/** The same question of the wild ones and of the ordinary ones. */
const ofBoth = (wild: number, ordinary: number, answer: (plan: Plan) => unknown) => () => ({
  wild: bySeed(randomPlan, wild, answer),
  ordinary: bySeed(brokenPlan, ordinary, answer),
})

function foundOn(plan: Plan) {
  const { findings, passed, arrivals } = judge(plan).verdict
  return { findings: findings.map(f => ({ ...f, why: undefined, key: undefined })), passed: passed.length, arrivals }
}

function fixesOn(plan: Plan) {
  const { verdict, study } = judge(plan)
  return verdict.findings.map(f => [
    f.title,
    ...fixesOf(f, study, verdict).map(({ label, cost, patch, after }) => ({
      label,
      cost,
      patch,
      worse: after.worse,
      arrivals: after.arrivals,
    })),
  ])
}

function pointsOf(plan: Plan) {
  const { network, points } = solveMatrix(plan)
  return points.map(p => namePoint(network, p))
}

function drawnOf(plan: Plan) {
  const { verdict, study } = judge(plan)
  const narrow = layoutPath(plan, verdict.arrivals, 360)
  return { narrow, svg: pathSvg(plan, verdict, shownOf(study, verdict)).split('\n') }
}

const sidesOf = (plan: Plan) =>
  schoolsOf(plan).map(({ choices, ...school }) => ({
    ...school,
    chosen: choices.map(c => chooseSchool(plan, school.id, c.id)),
  }))

/** Three sizes at home, one of them too short for much. */
const OWNED = [
  { conductor: { awg: 8, insulationC: 105 }, metres: 3 },
  { conductor: { awg: 12, insulationC: 105 }, metres: 12 },
  { conductor: { awg: 16, insulationC: 70 }, metres: 30 },
] as const

/** Sized for least weight, and once more: for another aim, to one load alone, from what is at home, limits let go. */
function sizedOf(plan: Plan) {
  const row = plan.parts.find(isLoad)?.id
  const others: SizeOptions[] = [
    { for: 'drop' },
    { for: 'cost', ...(row && { row }) },
    { for: 'weight', owned: [...OWNED] },
    { for: 'weight', relax: ['share', 'contacts'] },
  ]
  const asked: SizeOptions[] = [{ for: 'weight' }, others[plan.leads.length % others.length]!]
  return asked.map(options => {
    const { plan: _plan, ...result } = sizePlan(plan, options)
    return result
  })
}

/** Of the very many pairs of causes the likelier ones are enough. */
const LEAST_ODDS = 0.01

/** What may make noise, how likely, and what is done against each by each way. */
function noiseOf(plan: Plan) {
  const { devices, priors, reasons } = causesOf(plan, { bands: ['20 m', '40 m'] })
  const cures = devices.map(({ id: device }) =>
    WAYS.map(({ id: way }) => suggestions(plan, { device, way }, devices).map(c => [c.title, c.where, c.do])),
  )
  return { devices, reasons, likeliest: priors.filter(p => p.odds > LEAST_ODDS), cures }
}

const namesOf = (plan: Plan) => ({
  parts: plan.parts.map(part => ({ name: partName(plan, part.id), form: formOf(part) })),
  leads: plan.leads.map(lead => placeName(plan, lead.id)),
  without: plan.parts.map(({ id }) => tryPatch(plan, removeAll(plan, [id]))?.leads.map(l => l.id)),
})

const benchOf = (plan: Plan) => ({
  steps: commissionSteps(plan),
  takeDown: takeDownSteps(plan),
  procedures: proceduresOf(plan),
})

export const RECORDED_RANDOM: Record<string, () => Record<string, unknown>> = {
  'random-findings': ofBoth(120, 60, foundOn),
  'random-fixes': ofBoth(8, 24, fixesOn),
  'random-points': ofBoth(40, 10, pointsOf),
  'random-shorts': ofBoth(24, 12, shortStudy),
  'random-sized': ofBoth(1, 12, sizedOf),
  'random-sheets': ofBoth(24, 10, buildSheet),
  'random-drawn': ofBoth(24, 6, drawnOf),
  'random-netlists': ofBoth(24, 6, plan =>
    conditionsOf(plan)
      .slice(0, 3)
      .map(c => spiceNetlist(plan, c).split('\n')),
  ),
  'random-sides': ofBoth(24, 10, sidesOf),
  'random-noise': ofBoth(24, 6, noiseOf),
  'random-names': ofBoth(10, 4, namesOf),
  'random-bench': ofBoth(16, 6, benchOf),
}
