import { gives, isLoad, kindOf } from '../kinds/index'
import { nameOf, partIdOf } from './find'
import type { Plan } from './schema'

/** What comes first in a plan that is not yet one: in words, and the part it is about where there is one. */
export interface FirstStep {
  words: string
  about: string | null
}

/** What is still missing before anything can be judged; null where the plan has a source, a load, and a way between. */
export function firstStep(plan: Plan): FirstStep | null {
  const sources = plan.parts.filter(p => gives(p) && !kindOf(p).needsController)
  const loads = plan.parts.filter(isLoad)
  if (!plan.parts.length)
    return { words: 'First say from what it is powered: a pack, a mains supply, a vehicle.', about: null }
  if (!sources.length) return { words: 'Nothing powers it yet: add a pack, a mains supply or a vehicle.', about: null }
  if (!loads.length)
    return { words: 'Nothing is powered yet: add a radio, or a block that radios hang on.', about: null }
  const joined = new Set(plan.leads.flatMap(l => [partIdOf(l.from), partIdOf(l.to)]))
  const loose = [...loads, ...sources].find(p => !joined.has(p.id))
  if (!loose) return null
  const words = isLoad(loose)
    ? `${nameOf(loose)} hangs on nothing: choose it and join it to a port.`
    : `${nameOf(loose)} feeds nothing: join a lead to it.`
  return { words, about: loose.id }
}
