import { solveCorners, type SolvedPlan } from '../circuit/matrix'
import { conductorGramsPerM, conductorName } from '../conductor/resistance'
import { thickerSizes } from '../conductor/ladder'
import { setLength } from '../edit/items'
import { tryPatch, type Patch } from '../edit/patch'
import { setField } from '../edit/set'
import { leadById } from '../plan/find'
import type { Conductor, Lead, Plan } from '../plan/schema'
import type { Proposal } from './proposal'
import { figure, fixed, rounded } from '../units/number'

/** Metal that another conductor in a lead weighs more, g, both legs. */
export function gramsMore(lead: Lead, conductor: Conductor): number {
  const legs = lead.return === 'chassis' ? 1 : 2
  return legs * lead.lengthM * (conductorGramsPerM(conductor) - conductorGramsPerM(lead.conductor))
}

const grams = (g: number) => `${g < 0 ? '−' : '+'}${fixed(Math.abs(g), 0)} g copper`

export const conductorPatch = (plan: Plan, leadId: string, conductor: Conductor): Patch =>
  setField(plan, leadId, 'conductor', conductor)

export function swapConductor(plan: Plan, lead: Lead, conductor: Conductor): Proposal {
  return {
    label: `${conductorName(conductor)} in ${lead.name ?? `lead ${lead.id}`}`,
    patch: conductorPatch(plan, lead.id, conductor),
    cost: grams(gramsMore(lead, conductor)),
  }
}

/** Solves a plan after a patch; null where the patch does not fit. */
export function solvedAfter(plan: Plan, patch: Patch): SolvedPlan | null {
  const tried = tryPatch(plan, patch)
  return tried && solveCorners(tried)
}

/** The next thicker size in one lead that passes a test; else null. */
export function thickenUntil(plan: Plan, leadId: string, passes: (solved: SolvedPlan) => boolean): Proposal | null {
  const lead = leadById(plan, leadId)!
  for (const conductor of thickerSizes(lead.conductor)) {
    const proposal = swapConductor(plan, lead, conductor)
    const solved = solvedAfter(plan, proposal.patch)
    if (solved && passes(solved)) return proposal
  }
  return null
}

/** The next thicker size whose own figure passes, with nothing solved: for ampacity and fuses. */
export function thickenTo(plan: Plan, lead: Lead, passes: (conductor: Conductor) => boolean): Proposal | null {
  const conductor = thickerSizes(lead.conductor).find(passes)
  return conductor ? swapConductor(plan, lead, conductor) : null
}

/** Thicker conductors in several leads of a path at once, one size each in turn, thinnest first, until it passes. */
export function thickenPath(plan: Plan, leadIds: string[], passes: (solved: SolvedPlan) => boolean): Proposal | null {
  const steps = new Map(leadIds.map(id => [id, 0]))
  for (let round = 0; round < 24; round++) {
    const id = leadIds[round % leadIds.length]!
    steps.set(id, steps.get(id)! + 1)
    const chosen = leadIds.flatMap(leadId => {
      const lead = leadById(plan, leadId)!
      const conductor = thickerSizes(lead.conductor)[steps.get(leadId)! - 1]
      return conductor ? [{ lead, conductor }] : []
    })
    const patch = chosen.flatMap(({ lead, conductor }) => conductorPatch(plan, lead.id, conductor))
    const solved = solvedAfter(plan, patch)
    if (!solved || !passes(solved)) continue
    return {
      label: chosen.map(({ lead, conductor }) => `${conductorName(conductor)} in ${lead.name ?? lead.id}`).join(', '),
      patch,
      cost: grams(chosen.reduce((g, { lead, conductor }) => g + gramsMore(lead, conductor), 0)),
    }
  }
  return null
}

/**
 * Shortest cut off one lead, in steps of 0.1 m, that passes; null where it would have to be under a third of its
 * length.
 */
export function shortenUntil(
  plan: Plan,
  leadId: string,
  what: string,
  passes: (solved: SolvedPlan) => boolean,
): Proposal | null {
  const lead = leadById(plan, leadId)!
  const lengthAfter = (cuts: number) => rounded(lead.lengthM - cuts / 10, 3)
  const works = (cuts: number) => {
    const solved = solvedAfter(plan, setLength(plan, lead, lengthAfter(cuts)))
    return solved !== null && passes(solved)
  }
  let high = Math.floor((lead.lengthM * 10 * 2) / 3)
  if (high < 1 || !works(high)) return null
  let low = 0
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (works(middle)) high = middle
    else low = middle
  }
  return {
    label: `Move ${what} ${figure(high / 10, 1)} m closer`,
    patch: setLength(plan, lead, lengthAfter(high)),
  }
}
