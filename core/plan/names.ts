import { kindOf } from '../kinds/index'
import { leadById, leadName, nameOf, partById, partIdOf } from './find'
import type { Plan } from './schema'

/** What terminals and parts are called where somebody chooses among them. */

/** A part's name; with its id where another one is called alike. */
export function partName(plan: Plan, id: string): string {
  const part = partById(plan, id)
  if (!part) return id
  const isShared = plan.parts.some(p => p.id !== id && nameOf(p) === nameOf(part))
  return isShared ? `${nameOf(part)} (${id})` : nameOf(part)
}

/** Numbered names of ports and outlets, as `p2`. */
const NUMBERED = /^[a-z]?(\d+)$/i

/** "House pack, outlet 2", "Fused block, feed", "HF radio". */
export function terminalName(plan: Plan, terminal: string): string {
  const partId = partIdOf(terminal)
  const part = partById(plan, partId)
  const name = partName(plan, partId)
  const port = terminal.slice(partId.length + 1)
  if (!part || !port) return name
  const listed = kindOf(part).ports
  if (!listed || listed.reserved.includes(port)) return `${name}, ${port}`
  const one = listed.field.replace(/s$/, '')
  return `${name}, ${one} ${NUMBERED.exec(port)?.[1] ?? port}`
}

/** What a place of a plan is called, a lead or a terminal: "main lead", "Fused block, port 1". */
export function placeName(plan: Plan, place: string): string {
  const lead = leadById(plan, place)
  return lead ? leadName(lead) : terminalName(plan, place)
}
