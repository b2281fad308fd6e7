import { readPlan } from '../../core/plan/faults'
import type { Plan } from '../../core/plan/schema'

/** Stations in one plan that do not touch: what is true of each by itself is true of it there. */

/** Fields whose words are no ids of parts or leads, whatever they say. */
const NO_IDS = ['name', 'kind', 'note', 'zone']

/** A value with every id of a part or lead in it, and the terminals of those, begun with a prefix. */
function renamed(value: unknown, ids: ReadonlySet<string>, prefix: string, key = ''): unknown {
  if (Array.isArray(value)) return value.map(v => renamed(v, ids, prefix, key))
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, renamed(v, ids, prefix, k)]))
  const isId = typeof value === 'string' && !NO_IDS.includes(key) && ids.has(value.split('.')[0]!)
  return isId ? prefix + value : value
}

/** The id of a part or terminal of the n-th of them. */
export const inStation = (n: number, id: string) => `s${n}-${id}`

/** One plan of all of them, on the site of the first; their named states and other ways are left out. */
export function sideBySide(plans: readonly Plan[]): Plan {
  const all = plans.map(({ parts, leads }, n) => {
    const ids = new Set([...parts, ...leads].map(({ id }) => id))
    return renamed({ parts, leads }, ids, inStation(n, '')) as Pick<Plan, 'parts' | 'leads'>
  })
  const { loadStates: _, variants: __, ...first } = plans[0]!
  const read = readPlan({ ...first, parts: all.flatMap(p => p.parts), leads: all.flatMap(p => p.leads) })
  if (!read.ok) throw new Error(JSON.stringify(read.faults))
  return read.plan
}
