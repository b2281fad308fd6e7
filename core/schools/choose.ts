import { SCHOOLS, saysFor, type SchoolId } from '../catalog/schools'
import { applyEdit, difference, tryPatch, type Patch } from '../edit/patch'
import { setSite } from '../edit/set'
import { partsOf } from '../kinds/index'
import { schoolOf, type Plan } from '../plan/schema'
import { bank, charging, chemistrySchool, end, packs } from './batteries'
import { controllers, vehicleCharge } from './chargers'
import { feed, hold, leads, loadsFrom } from './feeding'
import { conductorFor, fuseLegs, fusePlacing } from './fusing'
import { termination } from './making'
import { portable } from './portable'
import type { SchoolRule } from './rule'

/** A school with no rule is one that a plan only says: its checks follow it. */
const RULES: Partial<Record<SchoolId, SchoolRule>> = {
  fuseLegs,
  fusePlacing,
  conductorFor,
  hold,
  loadsFrom,
  feed,
  leads,
  end,
  charging,
  packs,
  chemistry: chemistrySchool,
  bank,
  portable,
  vehicleCharge,
  controllers,
  termination,
}

/** A choice of a school as a patch: the plan says it, and where it is a thing to build, the plan is built so. */
export interface Choice {
  patch: Patch
  /** What is built, in words; empty where nothing has to be. */
  does: string
  /** Why it cannot be built here; the patch then only says it. */
  cannot: string | null
}

const NOT_FOUND = 'Not found how to build that out of what is here.'
const OWN_FIELDS = new Set<string>(['ampacity', 'fuseDistance'])

const say = (plan: Plan, id: SchoolId, choice: string): Patch =>
  setSite(plan, OWN_FIELDS.has(id) ? id : `schools.${id}`, choice)

/** Takes a side. */
export function chooseSchool(plan: Plan, id: SchoolId, choice: string): Choice {
  const said = say(plan, id, choice)
  const rule = RULES[id]
  const asSaid = tryPatch(plan, said) ?? plan
  const built = rule?.build?.(asSaid, choice) ?? asSaid
  if ('why' in built) return { patch: said, does: '', cannot: built.why }
  const patch = difference(plan, built)
  const edit = applyEdit(plan, patch)
  if (!edit.ok) return { patch: said, does: '', cannot: edit.faults[0]!.wrong }
  const isBuilt = JSON.stringify(edit.plan) !== JSON.stringify(asSaid)
  const reads = rule?.shown?.(edit.plan)
  // Built only in part, it is still on the side that it was on.
  if (reads && !reads.includes(choice)) return { patch: said, does: '', cannot: NOT_FOUND }
  return { patch, does: isBuilt ? (rule?.does ?? '') : '', cannot: null }
}

/** Which side a plan is on: as it is built, and where that does not tell, as it says. */
export function sideTaken(plan: Plan, id: SchoolId): string {
  const said = schoolOf(plan, id)
  const shown = RULES[id]?.shown?.(plan) ?? [said]
  return shown.includes(said) ? said : shown[0]!
}

/** A school as it stands in a plan. */
export interface SchoolHere {
  id: SchoolId
  question: string
  choices: readonly { id: string; label: string; says: string }[]
  now: string
  /** What the plan says, where it is built otherwise. */
  saysOther: string | null
}

/** Every school with the side that a plan is on, and each side's argument for the batteries it has. */
export function schoolsOf(plan: Plan): SchoolHere[] {
  const chemistries = partsOf(plan.parts, 'battery').map(b => b.chemistry)
  return SCHOOLS.map(s => {
    const now = sideTaken(plan, s.id)
    const said = OWN_FIELDS.has(s.id)
      ? undefined
      : plan.site?.schools?.[s.id as keyof NonNullable<Plan['site']>['schools']]
    return {
      id: s.id,
      question: s.question,
      choices: s.choices.map(c => ({ id: c.id, label: c.label, says: saysFor(c, chemistries) })),
      now,
      saysOther: said !== undefined && said !== now ? said : null,
    }
  })
}
