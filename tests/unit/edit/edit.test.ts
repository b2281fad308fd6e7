import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdit, difference, type Patch } from '../../../core/edit/patch'
import { readPlan, writePlan } from '../../../core/plan/faults'
import { KINDS } from '../../../core/kinds/index'
import { addLeadBetween, addPartAt, usualConductor } from '../../../core/edit/add'
import { freePorts, freeTerminals } from '../../../core/graph/free'
import { putBetween } from '../../../core/edit/between'
import { remove } from '../../../core/edit/remove'
import { setField } from '../../../core/edit/set'
import { catalogueOf, startingSources, startPlan } from '../../../core/plan/starter'
import { judge } from '../../../core/verdict/verdict'
import { demoPlan, smallPlan } from '../../data/plans'

describe('edits as patches', () => {
  const plan = demoPlan('tern-rock-evening')
  const anEdit = fc.oneof(
    fc
      .record({ i: fc.nat(5), v: fc.double({ min: 0.1, max: 30, noNaN: true }) })
      .map(({ i, v }): Patch => [{ op: 'replace', path: `/leads/${i}/lengthM`, value: v }]),
    fc.constantFrom(...plan.parts.map(p => p.id), ...plan.leads.map(l => l.id)).map(id => remove(plan, id)),
    fc
      .constantFrom(...catalogueOf('load'))
      .map(
        row =>
          addPartAt(plan, row.part as never, { stem: 'new', terminal: 'blk.p5', lengthM: 2, conductor: { awg: 12 } })
            .patch,
      ),
    fc
      .record({ i: fc.nat(5), awg: fc.constantFrom(4, 8, 14) })
      .map(({ i, awg }): Patch => [{ op: 'replace', path: `/leads/${i}/conductor`, value: { awg } }]),
    fc.constant<Patch>([{ op: 'remove', path: '/loadStates' }]),
    fc.constant<Patch>([
      { op: 'remove', path: '/leads/0/inline' },
      { op: 'add', path: '/leads/0/note', value: 'bare' },
    ]),
  )

  it('an edit undone restores the plan to the byte', () => {
    fc.assert(
      fc.property(fc.array(anEdit, { minLength: 1, maxLength: 6 }), edits => {
        const before = writePlan(plan)
        const undos: Patch[] = []
        let now = plan
        for (const patch of edits) {
          const result = applyEdit(now, patch)
          if (!result.ok) continue
          undos.push(result.undo)
          now = result.plan
        }
        for (const undo of undos.reverse()) {
          const result = applyEdit(now, undo)
          if (!result.ok) throw new Error(JSON.stringify(result.faults))
          now = result.plan
        }
        expect(writePlan(now)).toBe(before)
        expect(writePlan(plan)).toBe(before)
      }),
      { numRuns: 150 },
    )
  })

  it('refuses an edit that breaks the plan, and leaves the plan alone', () => {
    const small = smallPlan()
    const result = applyEdit(small, [{ op: 'replace', path: '/leads/0/lengthM', value: -2 }])
    expect(result).toMatchObject({ ok: false, faults: [{ path: '/leads/0/lengthM', wrong: 'lead l1: lengthM is −2' }] })
    expect(small.leads[0]!.lengthM).toBe(1)
  })

  it('refuses a patch that does not fit', () => {
    const result = applyEdit(smallPlan(), [{ op: 'remove', path: '/leads/7' }])
    expect(result.ok).toBe(false)
  })

  it('leads from one plan to another', () => {
    const [a, b] = [demoPlan('clean-bench'), demoPlan('tern-rock-evening')]
    const result = applyEdit(a, difference(a, b))
    expect(result.ok && writePlan(result.plan)).toBe(writePlan(b))
  })
})

describe('operations', () => {
  const plan = demoPlan('tern-rock-evening')
  it('adds a load on a free port with a lead and a fuse that fits it', () => {
    expect(freePorts(plan)).toEqual(['blk.p5'])
    const { patch, id } = addPartAt(plan, catalogueOf('load').find(r => r.id === 'hf-20')!.part as never, {
      stem: 'hf',
      terminal: 'blk.p5',
      lengthM: 1.5,
      conductor: usualConductor(plan),
    })
    const result = applyEdit(plan, patch)
    if (!result.ok) throw new Error(JSON.stringify(result.faults))
    expect(id).toBe('hf2')
    expect(result.plan.leads.at(-1)).toMatchObject({
      from: 'blk.p5',
      to: 'hf2',
      ends: { from: { connector: 'stack-30' }, to: { connector: 'stack-30' } },
    })
    const block = result.plan.parts.find(p => p.kind === 'block')!
    expect(block.ports[4]!.fuse!.ratedA).toBe(5)
    expect(judge(result.plan).verdict.arrivals.hf2!.low.value).toBeGreaterThan(11)
  })

  it('removes a part with its leads, its followers and its load states', () => {
    const result = applyEdit(plan, remove(plan, 'hf'))
    if (!result.ok) throw new Error(JSON.stringify(result.faults))
    expect(result.plan.leads.map(l => l.id)).not.toContain('l2')
    expect(JSON.stringify(result.plan.loadStates)).not.toContain('"hf"')
  })

  it('joins two terminals, and offers studs and unused ports only', () => {
    expect(freeTerminals(plan)).toEqual(['bat', 'mains', 'blk.p5'])
    const result = applyEdit(plan, addLeadBetween(plan, 'mains', 'blk.p5', { lengthM: 2, conductor: { awg: 10 } }))
    expect(result.ok && result.plan.leads.at(-1)).toMatchObject({
      id: 'l',
      ends: { from: { connector: 'ring-m6' }, to: { connector: 'stack-30' } },
    })
  })

  it('sets and takes out a field', () => {
    const set = applyEdit(plan, setField(plan, 'bat', 'usableFraction', 0.9))
    expect(set.ok && set.plan.parts[0]).toMatchObject({ usableFraction: 0.9 })
    const out = set.ok && applyEdit(set.plan, setField(set.plan, 'bat', 'usableFraction', undefined))
    expect(out && out.ok && writePlan(out.plan)).toBe(writePlan(plan))
  })
})

describe('a part put into the middle of a lead', () => {
  it('parts it in two of the same conductor, with what was in it where it was', () => {
    const plan = demoPlan('tern-rock-evening')
    for (const row of [...KINDS.values()].filter(k => k.between).flatMap(k => k.catalogue)) {
      const made = putBetween(plan, { leadId: 'l1' }, row.part as never, 'new')!
      const edit = applyEdit(plan, made.patch)
      if (!edit.ok) throw new Error(`${row.id}: ${JSON.stringify(edit.faults)}`)
      const [first, second] = [edit.plan.leads.find(l => l.id === 'l1')!, edit.plan.leads.at(-1)!]
      expect(first.from).toBe('bat')
      expect(second.to).toBe('blk.feed')
      expect(first.lengthM + second.lengthM).toBeCloseTo(1.2, 9)
      expect([...(first.inline ?? []), ...(second.inline ?? [])].map(i => i.kind)).toEqual(['fuse'])
      expect(
        judge(edit.plan).verdict.findings.filter(f => f.check === 'connector-mating' && f.also?.includes(second.id)),
      ).toEqual([])
      const back = applyEdit(edit.plan, edit.undo)
      expect(back.ok && writePlan(back.plan)).toBe(writePlan(plan))
    }
  })
  it('is refused for a part with no way through', () =>
    expect(putBetween(demoPlan('clean-bench'), { leadId: 'l1' }, { kind: 'monitor' } as never, 'm')).toBeNull())
})

describe('a plan from four questions', () => {
  it('is a plan that can be read, for every source and load of the catalogue', () => {
    for (const source of startingSources()) {
      for (const load of catalogueOf('load')) {
        for (const awg of [6, 10, 16] as const) {
          const made = startPlan({
            name: 'n',
            loads: [load.id, 'vhf-50', 'vhf-50'],
            source: source.id,
            lengthM: 2,
            conductor: { awg },
          })
          const read = readPlan(made)
          expect(read.ok || read.faults).toBe(true)
          if (!read.ok) continue
          const { findings } = judge(read.plan).verdict
          // It may starve or need thicker wire, but its joints fit and its fuses protect.
          expect(
            findings.filter(f =>
              [
                'connector-mating',
                'fuse-missing',
                'fuse-place',
                'fuse-over-conductor',
                'island',
                'connector-crowded',
              ].includes(f.check),
            ),
          ).toEqual([])
        }
      }
    }
  })
  it('is none for an answer that is not in the catalogue', () => {
    expect(startPlan({ name: 'n', loads: ['x'], source: 'lifepo4-50', lengthM: 2, conductor: { awg: 10 } })).toBeNull()
    expect(startPlan({ name: 'n', loads: [], source: 'lifepo4-50', lengthM: 2, conductor: { awg: 10 } })).toBeNull()
  })
})
