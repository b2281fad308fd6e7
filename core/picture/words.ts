import { conductorName } from '../conductor/resistance'
import { kindOf, type Part } from '../kinds/index'
import { partName } from '../plan/names'
import type { Lead, Plan } from '../plan/schema'
import { showLength, type Units } from '../units/quantity'
import { figure, fixed } from '../units/number'

/** Short lines about parts and leads, as the path shows them. */

/** Cut to what fits, with the rest left to the form and the tooltip. */
export const shortened = (text: string, most: number) =>
  text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text

/** What a box says of a source or of what fills a battery: two short lines. */
export const boxLines = (plan: Plan, part: Part): string[] => kindOf(part).says.box(part, id => partName(plan, id))

/** What stands under the name of a bar or a load: what it does to the voltage, what it takes. */
export const ownLine = (part: Part): string => kindOf(part).says.line(part)

export const leadWords = (lead: Lead, units: Units) => ({
  conductor: conductorName(lead.conductor),
  length: showLength(Math.round(lead.lengthM * 100) / 100, units),
})

/** "21 A · 0.82 V" */
export function flowWords(amps: number, dropV: number): string {
  return `${figure(amps, amps < 10 ? 2 : 1)} A · ${fixed(dropV, 2)} V`
}
