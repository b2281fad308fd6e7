import jsonpatch, { type Operation } from 'fast-json-patch'
import { readChanged, type Fault } from '../plan/faults'
import type { Plan } from '../plan/schema'

/** A change to a plan: JSON Patch, RFC 6902. Only this room writes its pointers. */
export type Patch = Operation[]

/** An edit made: the new plan, and the patch that takes it back. */
export type EditResult = { ok: true; plan: Plan; undo: Patch } | { ok: false; faults: Fault[] }

/**
 * Applies an RFC 6902 patch. The old plan is left as it was; a patch that does not fit, or leads to a bad plan, is
 * refused in words.
 * The result is in the schema's field order, so undoing restores a plan that was so ordered to the byte.
 */
export function applyEdit(plan: Plan, patch: Patch): EditResult {
  let patched: unknown
  try {
    patched = jsonpatch.applyPatch(ownCopy(plan, patch) as unknown, ownValue(patch), true, true, true).newDocument
  } catch (error) {
    const { name, index } = error as { name?: string; index?: number }
    const step = patch[index ?? 0]
    return {
      ok: false,
      faults: [
        {
          path: step?.path ?? '',
          wrong: `the change does not fit the plan (${name ?? 'bad patch'})`,
          right: 'a path that exists in this plan',
        },
      ],
    }
  }
  const read = readChanged(patched, plan)
  return read.ok ? { ok: true, plan: read.plan, undo: difference(read.plan, plan) } : read
}

/** A value of its own as JSON has it: a field that is undefined is not there. */
const asJson = <T extends object>(value: T) => JSON.parse(JSON.stringify(value)) as T

/** The patch that leads from one JSON value to another; it fits only where what it takes away stands as it was. */
export function changeOf<T extends object>(from: T, to: T): Patch {
  return jsonpatch.compare(asJson(from), asJson(to), true)
}

/** A JSON value after a patch, the old one left as it was; null where the patch does not fit. */
export function changed<T extends object>(value: T, patch: Patch): T | null {
  try {
    return jsonpatch.applyPatch(asJson(value), ownValue(patch), true, true, true).newDocument
  } catch {
    return null
  }
}

/**
 * The plan after a patch, unread: for trying many changes of one's own making. What is shown in the end goes through
 * applyEdit.
 * Null where the patch does not fit.
 */
export function tryPatch(plan: Plan, patch: Patch): Plan | null {
  try {
    return jsonpatch.applyPatch(ownCopy(plan, patch), ownValue(patch), false, true).newDocument
  } catch {
    return null
  }
}

/** A JSON value of its own: what copies more than JSON takes ten times as long. */
function ownValue<T>(value: T): T {
  if (Array.isArray(value)) return value.map(ownValue) as T
  if (typeof value !== 'object' || value === null) return value
  const copy = { ...value }
  for (const key of Object.keys(copy) as (keyof T)[]) copy[key] = ownValue(copy[key])
  return copy
}

/** Within one part or lead, or a new one at the end: nothing else moves by it. */
const WITHIN = /^\/(parts|leads)\/(?:(\d+)\/|-$)/

/** A copy that a patch may write to: what it leaves alone is shared with the plan, since nobody writes to a plan. */
function ownCopy(plan: Plan, patch: Patch): Plan {
  // What is moved is written to where it comes from as well.
  const within = patch.map(op => ('from' in op ? null : WITHIN.exec(op.path)))
  if (!within.every(found => found !== null)) return ownValue(plan)
  const copy = { parts: [...plan.parts], leads: [...plan.leads] }
  for (const [, list, index] of within) {
    const own = copy[list as 'parts' | 'leads']
    const written = index === undefined ? undefined : own[Number(index)]
    if (written) own[Number(index)] = ownValue(written)
  }
  return { ...plan, ...copy }
}

/** The patch that leads from one plan to another. */
export function difference(from: Plan, to: Plan): Patch {
  return jsonpatch.compare(from, to)
}

/** Several edits, each made on the plan as the ones before leave it, as one patch. */
export function inTurn(plan: Plan, ...edits: ((plan: Plan) => Patch)[]): Patch {
  let now: Plan = plan
  return edits.flatMap(edit => {
    const patch = edit(now)
    now = tryPatch(now, patch) ?? now
    return patch
  })
}

/** Patches of several things that do not touch each other, as one. */
export const together = (...patches: Patch[]): Patch => patches.flat()
