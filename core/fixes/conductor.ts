import { solveCorners, type SolvedPlan } from '../circuit/matrix'
import { conductorGramsPerM, conductorName } from '../conductor/resistance'
import { thickerSizes } from '../conductor/ladder'
import { setLength } from '../edit/items'
import { tryPatch, type Patch } from '../edit/patch'
import { setField } from '../edit/set'
import { leadById, leadName, legsOf } from '../plan/find'
import type { Conductor, Lead, Plan } from '../plan/schema'
import type { Proposal } from './proposal'
import { figure, fixed, rounded } from '../units/number'
import { someOf } from '../units/words'

/** Metal that another conductor in a lead weighs more, g, both legs. */
export function gramsMore(lead: Lead, conductor: Conductor): number {
  return legsOf(lead) * lead.lengthM * (conductorGramsPerM(conductor) - conductorGramsPerM(lead.conductor))
}

const grams = (g: number) => `${g < 0 ? '−' : '+'}${fixed(Math.abs(g), 0)} g copper`

export const conductorPatch = (plan: Plan, leadId: string, conductor: Conductor): Patch =>
  setField(plan, leadId, 'conductor', conductor)

export function swapConductor(plan: Plan, lead: Lead, conductor: Conductor): Proposal {
  return {
    label: `${conductorName(conductor)} in ${leadName(lead)}`,
    patch: conductorPatch(plan, lead.id, conductor),
    cost: grams(gramsMore(lead, conductor)),
  }
}

/** Solves a plan after a patch; null where the patch does not fit. */
export function solvedAfter(plan: Plan, patch: Patch): SolvedPlan | null {
  const tried = tryPatch(plan, patch)
  return tried && solveCorners(tried)
}

/**
 * The least of 1 … most steps that works, where more of them never works less; null where even the most does not.
 */
export function leastThatWorks(most: number, works: (steps: number) => boolean): number | null {
  if (most < 1 || !works(most)) return null
  let tooFew = 0
  let enough = most
  while (enough - tooFew > 1) {
    const middle = (tooFew + enough) >> 1
    if (works(middle)) enough = middle
    else tooFew = middle
  }
  return enough
}

/** The next thicker size in one lead that passes a test; else null. */
export function thickenUntil(plan: Plan, leadId: string, passes: (solved: SolvedPlan) => boolean): Proposal | null {
  const lead = leadById(plan, leadId)!
  const proposals = thickerSizes(lead.conductor).map(conductor => swapConductor(plan, lead, conductor))
  const sizes = leastThatWorks(proposals.length, size => {
    const solved = solvedAfter(plan, proposals[size - 1]!.patch)
    return solved !== null && passes(solved)
  })
  return sizes === null ? null : proposals[sizes - 1]!
}

/** The next thicker size whose own figure passes, with nothing solved: for ampacity and fuses. */
export function thickenTo(plan: Plan, lead: Lead, passes: (conductor: Conductor) => boolean): Proposal | null {
  const conductor = thickerSizes(lead.conductor).find(passes)
  return conductor ? swapConductor(plan, lead, conductor) : null
}

/** Rounds after which a wire is no longer made thicker. */
const MOST_ROUNDS = 24

/** Thicker conductors in several leads of a path at once, one size each in turn, thinnest first, until it passes. */
export function thickenPath(plan: Plan, leadIds: string[], passes: (solved: SolvedPlan) => boolean): Proposal | null {
  const after = (rounds: number) =>
    leadIds.flatMap((leadId, i) => {
      const lead = leadById(plan, leadId)!
      const steps = Math.ceil((rounds - i) / leadIds.length)
      return steps > 0 ? [{ lead, conductor: thickerSizes(lead.conductor)[steps - 1]! }] : []
    })
  const patchOf = (chosen: ReturnType<typeof after>) =>
    chosen.flatMap(({ lead, conductor }) => conductorPatch(plan, lead.id, conductor))
  const ladders = leadIds.map(id => thickerSizes(leadById(plan, id)!.conductor).length)
  const most = Math.min(MOST_ROUNDS, leadIds.length * Math.min(...ladders))
  const rounds = leastThatWorks(most, n => {
    const solved = solvedAfter(plan, patchOf(after(n)))
    return solved !== null && passes(solved)
  })
  if (rounds === null) return null
  const chosen = after(rounds)
  return {
    label: someOf(chosen.map(({ lead, conductor }) => `${conductorName(conductor)} in ${leadName(lead)}`)),
    patch: patchOf(chosen),
    cost: grams(chosen.reduce((g, { lead, conductor }) => g + gramsMore(lead, conductor), 0)),
  }
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
  const cuts = leastThatWorks(Math.floor((lead.lengthM * 10 * 2) / 3), works)
  if (cuts === null) return null
  return {
    label: `Move ${what} ${figure(cuts / 10, 1)} m closer`,
    patch: setLength(plan, lead, lengthAfter(cuts)),
  }
}
