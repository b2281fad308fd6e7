import jsonpatch from 'fast-json-patch'
import { describe, expect, it } from 'vitest'
import { applyEdit, tryPatch, type Patch } from '../../../core/edit/patch'
import { readPlan } from '../../../core/plan/faults'
import type { Plan } from '../../../core/plan/schema'
import { demoPlan } from '../../data/plans'

/** What a patch leaves alone is shared between two plans; so nothing may be written to the old one. */

function frozen<T>(value: T): T {
  if (typeof value === 'object' && value !== null) Object.values(Object.freeze(value)).forEach(frozen)
  return value
}

const lamp = {
  id: 'lamp2',
  kind: 'load',
  supply: { minV: 10, maxV: 15 },
  draw: { model: 'constant-power', idleW: 0, activeW: 5 },
}

describe('a patch', () => {
  const patches: Record<string, Patch> = {
    'within one lead': [{ op: 'replace', path: '/leads/1/conductor/awg', value: 4 }],
    'within two parts': [
      { op: 'add', path: '/parts/0/note', value: 'old' },
      { op: 'add', path: '/parts/2/name', value: 'New name' },
    ],
    'of a new part, and then within it': [
      { op: 'add', path: '/parts/-', value: lamp },
      { op: 'add', path: `/parts/${demoPlan('tern-rock-light').parts.length}/note`, value: 'in the tower' },
    ],
    'that takes a lead out and changes what has moved up': [
      { op: 'remove', path: '/leads/0' },
      { op: 'replace', path: '/leads/0/lengthM', value: 9 },
    ],
    'of a part as a whole': [{ op: 'replace', path: '/parts/0', value: demoPlan('tern-rock-light').parts[0] }],
    'that moves a value from one place to another': [
      { op: 'copy', from: '/parts/0/name', path: '/parts/1/note' },
      { op: 'move', from: '/parts/1/note', path: '/parts/2/note' },
    ],
    'that moves a value out of a part it does not write to': [
      { op: 'move', from: '/parts/0/name', path: '/parts/1/note' },
    ],
    'of the site': [{ op: 'replace', path: '/site/ambientC/high', value: 33 }],
    'of the name': [{ op: 'replace', path: '/name', value: 'Other' }],
  }
  it.each(Object.entries(patches))('%s writes nothing to the plan it is made on', (_, patch) => {
    const plan = frozen(demoPlan('tern-rock-light'))
    const expected: Plan = jsonpatch.applyPatch(structuredClone(plan), structuredClone(patch)).newDocument
    expect(tryPatch(plan, frozen(structuredClone(patch)))).toEqual(expected)
    const edit = applyEdit(plan, patch)
    if (edit.ok) expect(edit.plan).toEqual(expected)
    expect(plan).toEqual(demoPlan('tern-rock-light'))
  })
  it('shares what it leaves alone', () => {
    const plan = demoPlan('tern-rock-light')
    const after = tryPatch(plan, patches['within one lead']!)!
    expect(after.leads[1]).not.toBe(plan.leads[1])
    expect(after.leads[0]).toBe(plan.leads[0])
    expect(after.parts[3]).toBe(plan.parts[3])
  })
  it('applied to a plan as it was read leads to the same as reading all of it anew', () => {
    const plan = demoPlan('tern-rock-light')
    for (const [what, patch] of Object.entries(patches)) {
      const whole = readPlan(jsonpatch.applyPatch(structuredClone(plan), structuredClone(patch)).newDocument)
      const edit = applyEdit(plan, patch)
      expect(edit.ok ? JSON.stringify(edit.plan) : edit.faults, what).toEqual(
        whole.ok ? JSON.stringify(whole.plan) : whole.faults,
      )
    }
  })
  it.each([
    ['/leads/1/lengthM', -2],
    ['/parts/0/kind', 'teapot'],
    ['/leads/0/colour', 'red'],
    ['/leads/0/to', 'nowhere'],
    ['/parts/1/id', demoPlan('tern-rock-light').parts[0]!.id],
  ])('that makes %s %j wrong is refused in the same words as a whole plan', (path, value) => {
    const plan = demoPlan('tern-rock-light')
    const patch: Patch = [{ op: 'add', path, value }]
    const whole = readPlan(jsonpatch.applyPatch(structuredClone(plan), structuredClone(patch)).newDocument)
    const edit = applyEdit(plan, patch)
    expect(edit.ok).toBe(false)
    expect(edit).toEqual(whole)
  })
  it('keeps what was read, and reads what was not', () => {
    const plan = demoPlan('tern-rock-light')
    const edit = applyEdit(plan, patches['within one lead']!)
    expect(edit.ok && edit.plan.parts[2]).toBe(plan.parts[2])
    const unread = { ...plan, leads: plan.leads.map(l => ({ ...l, colour: 'red' })) } as unknown as Plan
    expect(applyEdit(unread, [{ op: 'add', path: '/parts/0/note', value: 'x' }]).ok).toBe(false)
  })
  it('that does not fit is refused, and nothing is written', () => {
    const plan = frozen(demoPlan('tern-rock-light'))
    expect(tryPatch(plan, [{ op: 'replace', path: '/parts/99/name', value: 'x' }])).toBeNull()
    expect(applyEdit(plan, [{ op: 'remove', path: '/leads/77' }]).ok).toBe(false)
    expect(plan).toEqual(demoPlan('tern-rock-light'))
  })
})
