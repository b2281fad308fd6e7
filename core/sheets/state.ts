import { isSerious } from '../checks/check'
import { assumedLimits } from '../kinds/batteryLimits'
import { leadName, nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { judge } from '../verdict/verdict'
import { figureName } from '../kinds/formOf'

/** What a sheet on paper has to say of itself: of which plan it is, and how far that can be trusted. */

/** Which state of a plan a sheet is of; null where nobody says. */
export interface Stamp {
  revision: number | null
  /** As it is printed: the core has no clock. */
  date: string | null
}

export const NO_STAMP: Stamp = { revision: null, date: null }

/** "revision 3 · 27 Nov 2026", or what of it is known. */
export const stampWords = ({ revision, date }: Stamp): string =>
  [revision === null ? null : `revision ${revision}`, date].filter(w => w !== null).join(' · ')

/** Dangers and failures: none of it is to be built before they are gone. */
export const notReady = (plan: Plan): string[] =>
  judge(plan)
    .verdict.findings.filter(isSerious)
    .map(f => f.title)

/** Figures that nobody stated and the verdict rests on all the same, and guesses. */
export function assumedFigures(plan: Plan): string[] {
  const limits = plan.parts.flatMap(part => assumedLimits(part).map(assumed => `${nameOf(part)}: ${assumed}`))
  const bare = plan.leads.filter(l => l.conductor.insulationC === undefined).map(leadName)
  const guesses = plan.parts.flatMap(part =>
    Object.entries(part.figures ?? {}).flatMap(([path, { from }]) =>
      from === 'guess' ? [`${nameOf(part)}: ${figureName(part, path)} is a guess`] : [],
    ),
  )
  return [
    ...limits,
    ...(bare.length ? [`insulation not said, taken as 70 °C PVC: ${bare.join(', ')}`] : []),
    ...guesses,
  ]
}
