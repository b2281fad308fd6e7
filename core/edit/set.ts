import { kindOf } from '../kinds/index'
import { pathOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import type { Patch } from './patch'

type Json = Record<string, unknown>

/** JSON Pointer of a dotted path under a pointer: `/parts/0` and `supply.minV` → `/parts/0/supply/minV`. */
const pointer = (root: string, keys: readonly string[]) =>
  [root, ...keys.map(k => k.replaceAll('~', '~0').replaceAll('/', '~1'))].join('/')

const hasKey = (value: unknown, key: string) =>
  typeof value === 'object' && value !== null && (value as Json)[key] !== undefined

/**
 * Sets a value at a dotted path of an object that stands at a pointer. What is missing on the way is made; undefined
 * takes the field out.
 * A `-` at the end appends to a list.
 */
function setAt(root: string, owner: unknown, path: string, value: unknown): Patch {
  const keys = path.split('.')
  let at = owner
  for (let i = 0; i < keys.length - 1; i++) {
    const key = keys[i]!
    if (hasKey(at, key)) {
      at = (at as Json)[key]
      continue
    }
    if (value === undefined) return []
    const made = keys.slice(i + 1).reduceRight<unknown>((inner, k) => (k === '-' ? [inner] : { [k]: inner }), value)
    return [{ op: 'add', path: pointer(root, keys.slice(0, i + 1)), value: made }]
  }
  const last = keys.at(-1)!
  const here = pointer(root, keys)
  if (value === undefined) return hasKey(at, last) ? [{ op: 'remove', path: here }] : []
  return [{ op: hasKey(at, last) ? 'replace' : 'add', path: here, value }]
}

/** A field of a part or a lead, as `supply.minV`, `ports.0.fuse.ratedA`, `ends.to.connector`. */
export function setField(plan: Plan, id: string, path: string, value: unknown): Patch {
  return setAt(pathOf(plan, id), itemAt(plan, id), path, value)
}

/** Several fields of one part or lead, which do not lie within each other. */
export function setFields(plan: Plan, id: string, fields: Readonly<Record<string, unknown>>): Patch {
  return Object.entries(fields).flatMap(([path, value]) => setField(plan, id, path, value))
}

/** A field as a hand sets it, with what its kind says goes along. */
export function setByHand(plan: Plan, id: string, path: string, value: unknown): Patch {
  const part = plan.parts.find(p => p.id === id)
  const along = part ? (kindOf(part).goesAlong?.(part, path, value) ?? {}) : {}
  // What goes along may be the whole that the field lies in, made anew with it.
  const isWithin = Object.keys(along).some(whole => path.startsWith(`${whole}.`))
  return setFields(plan, id, isWithin ? along : { ...along, [path]: value })
}

/** A field of the site, as `ground` or `schools.hold`. */
export const setSite = (plan: Plan, path: string, value: unknown): Patch => setPlan(plan, `site.${path}`, value)

/** A field of the plan itself, as `name` or `hookUp`. */
export const setPlan = (plan: Plan, path: string, value: unknown): Patch => setAt('', plan, path, value)

/** A whole part in the place of one with its id. */
export const replacePart = (plan: Plan, id: string, part: object): Patch => [
  { op: 'replace', path: pathOf(plan, id), value: part },
]

/** A value at the end of a list of a part or lead; the list is made where there is none. */
export const appendTo = (plan: Plan, id: string, list: string, value: unknown): Patch =>
  setField(plan, id, `${list}.-`, value)

function itemAt(plan: Plan, id: string) {
  return plan.parts.find(p => p.id === id) ?? plan.leads.find(l => l.id === id)
}
