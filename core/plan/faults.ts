import type { z } from 'zod'
import { KINDS, partSchema } from '../kinds/index'
import { anA } from '../units/words'
import { FORMAT, leadSchema, MOST_LEADS, MOST_PARTS, planSchema, VERSION, type Plan } from './schema'
import { named, shown, type Fault } from './fault'
import { sound, referenceFaults } from './references'

export { named, shown, type Fault } from './fault'

export type PlanResult = { ok: true; plan: Plan } | { ok: false; faults: Fault[] }

/** Reads a plan from text. Never throws: every fault is listed. */
export function readPlanText(text: string): PlanResult {
  let value: unknown
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch (error) {
    return refuse([
      {
        path: '',
        wrong: `the file is not JSON: ${jsonFault(text, error as Error)}`,
        right: 'a wireman-plan file, as Wireman exports it',
      },
    ])
  }
  return readPlan(value)
}

/** Reads a plan from a parsed value; fields come out in the schema's order, so that equal plans are equal bytes. */
export function readPlan(value: unknown): PlanResult {
  const heading = headingFault(value)
  if (heading) return refuse([heading])
  const parsed = planSchema.safeParse(value)
  if (!parsed.success)
    return refuse([
      ...parsed.error.issues.flatMap(issue => schemaFaults(issue, value)),
      ...referenceFaults(sound(value)),
    ])
  return referred(parsed.data)
}

/** Plans as they were read: what stands in one need not be read again. */
const asRead = new WeakSet<Plan>()

function referred(plan: Plan): PlanResult {
  const faults = referenceFaults({ ...plan, broken: new Set() })
  if (faults.length) return refuse(faults)
  asRead.add(plan)
  return { ok: true, plan }
}

/**
 * Reads a plan that a change has made of another one: the parts and leads that are the other's very own are not read
 * again, unless something beside them has changed too.
 */
export function readChanged(value: unknown, before: Plan): PlanResult {
  const plan = value as Plan
  const isBeside = (field: string) => field !== 'parts' && field !== 'leads'
  const isSame = (field: string) => plan[field as keyof Plan] === before[field as keyof Plan]
  const fields = Object.keys({ ...before, ...plan }).filter(isBeside)
  if (!asRead.has(before) || !fields.every(isSame)) return readPlan(value)
  const parts = anew(partSchema, plan.parts, before.parts)
  const leads = anew(leadSchema, plan.leads, before.leads)
  if (!parts || !leads || parts.length > MOST_PARTS || leads.length > MOST_LEADS) return readPlan(value)
  return referred({ ...plan, parts, leads } as Plan)
}

/** A list in which only what is new was read; null where something of that is wrong. */
function anew<T>(schema: z.ZodType, list: readonly T[], before: readonly T[]): T[] | null {
  const read = list.map((entry, i) => (entry === before[i] ? { data: entry } : schema.safeParse(entry)))
  return read.every(r => r.data !== undefined) ? read.map(r => r.data as T) : null
}

/** The plan as it is written to a file. */
export function writePlan(plan: Plan): string {
  return JSON.stringify(planSchema.parse(plan), null, 2) + '\n'
}

const refuse = (faults: Fault[]): PlanResult => ({ ok: false, faults })

export function jsonFault(text: string, error: Error): string {
  if (!text.trim()) return 'it is empty'
  const position = /position (\d+)/.exec(error.message)
  if (!position)
    return /end of JSON/.test(error.message) ? 'it stops in the middle, something is missing at its end' : error.message
  const line = text.slice(0, Number(position[1])).split('\n').length
  return `line ${line} cannot be read (${error.message.replace(/ in JSON at position.*/, '')})`
}

function headingFault(value: unknown): Fault | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    return {
      path: '',
      wrong: `the file holds ${named(value)}`,
      right: 'an object with format, version, name, parts and leads',
    }
  }
  const { format, version } = value as Record<string, unknown>
  if (format !== FORMAT) return { path: '/format', wrong: `format is ${shown(format)}`, right: `"${FORMAT}"` }
  if (typeof version === 'number' && version > VERSION) {
    return {
      path: '/version',
      wrong: `version ${version} is newer than this program reads`,
      right: `version ${VERSION}, or a newer Wireman`,
    }
  }
  return null
}

export const pointer = (path: readonly PropertyKey[]) =>
  path.map(p => `/${String(p).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('')

const valueAt = (value: unknown, path: readonly PropertyKey[]): unknown =>
  path.reduce<unknown>((v, key) => (v as Record<PropertyKey, unknown> | undefined)?.[key], value)

/** "lead l3" or "battery bat" for a path inside a part or a lead. */
function owner(value: unknown, path: readonly PropertyKey[]): string {
  const [list, index] = path
  if ((list !== 'parts' && list !== 'leads') || index === undefined) return ''
  const item = valueAt(value, [list, index]) as { id?: unknown; kind?: unknown } | undefined
  const id = typeof item?.id === 'string' ? item.id : `number ${Number(index) + 1}`
  return list === 'leads' ? `lead ${id}: ` : `${typeof item?.kind === 'string' ? item.kind : 'part'} ${id}: `
}

/** What keeps a value from a schema, in words: where, what is wrong, what would be right. */
export function schemaFaults(issue: z.core.$ZodIssue, value: unknown): Fault[] {
  const field = String(issue.path[issue.path.length - 1] ?? 'the plan')
  const at = valueAt(value, issue.path)
  const who = owner(value, issue.path)
  const fault = (wrong: string, right: string, path = issue.path): Fault[] => [
    { path: pointer(path), wrong: who + wrong, right },
  ]
  switch (issue.code) {
    case 'unrecognized_keys':
      return issue.keys.flatMap(key =>
        fault(`the field ${key} is not known here`, 'a field of the format, or put it into note', [...issue.path, key]),
      )
    case 'invalid_type':
      return at === undefined
        ? fault(`${field} is missing`, expected(issue.expected))
        : fault(`${field} is ${shown(at)}`, expected(issue.expected))
    case 'invalid_value':
      return fault(`${field} is ${shown(at)}`, `one of ${issue.values.map(v => String(v)).join(', ')}`)
    case 'too_small':
      return fault(
        `${field} is ${sizeShown(at)}`,
        `${bound(issue.origin, issue.minimum, issue.inclusive === false ? 'above' : 'at least')}`,
      )
    case 'too_big':
      return fault(
        `${field} is ${sizeShown(at)}`,
        `${bound(issue.origin, issue.maximum, issue.inclusive === false ? 'below' : 'at most')}`,
      )
    case 'invalid_format':
      return fault(`${field} is ${shown(at)}`, field === 'name' || field === 'note' ? READABLE : ID_WORDS)
    case 'invalid_union':
      return unionFaults(issue, value, { who, field, at })
    default:
      return fault(`${field} is ${shown(at)}`, issue.message)
  }
}

function unionFaults(
  issue: z.core.$ZodIssueInvalidUnion,
  value: unknown,
  { who, field, at }: { who: string; field: string; at: unknown },
): Fault[] {
  if (issue.discriminator === 'kind' && issue.path[0] === 'parts' && issue.path.length === 3) {
    return [
      {
        path: pointer(issue.path),
        wrong: `${who}kind is ${shown(at)}, which this version does not know`,
        right: `one of ${[...KINDS.keys()].join(', ')}`,
      },
    ]
  }
  const closest = issue.errors.filter(e => e.length).sort((a, b) => b[0]!.path.length - a[0]!.path.length)[0]
  if (closest && closest[0]!.path.length > 0) {
    return closest.flatMap(inner =>
      schemaFaults({ ...inner, path: [...issue.path, ...inner.path] } as z.core.$ZodIssue, value),
    )
  }
  const RIGHT: Record<string, string> = {
    model: 'one of constant-current, constant-power, resistive',
    kind: 'one of fuse, breaker, switch, dropper, meter, choke',
    awg: 'a gauge number from 40 to 1, or "1/0" to "4/0"',
  }
  return [
    {
      path: pointer(issue.path),
      wrong: `${who}${field} is ${shown(at)}`,
      right: RIGHT[field] ?? 'one of the shapes the format names',
    },
  ]
}

const READABLE = 'words that can be read'
const ID_WORDS = 'letters, digits, - and _, at most 40'

const expected = (type: string) =>
  ({
    number: 'a number',
    int: 'a whole number',
    string: 'text in quotes',
    array: 'a list',
    object: 'an object',
    boolean: 'true or false',
  })[type] ?? anA(type)

function sizeShown(at: unknown): string {
  if (Array.isArray(at)) return `a list of ${at.length}`
  return typeof at === 'string' ? `${at.length} characters long` : shown(at).replace(/^-/, '−')
}

function bound(origin: string, limit: unknown, how: string): string {
  if (origin === 'string') return `${how} ${String(limit)} characters`
  if (origin === 'array') return `${how} ${String(limit)} entries`
  return `${how} ${String(limit)}`
}
