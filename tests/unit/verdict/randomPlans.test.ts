import { describe, expect, it } from 'vitest'
import { CHECKS } from '../../../core/checks/index'
import { applyEdit, type Patch } from '../../../core/edit/patch'
import { KINDS } from '../../../core/kinds/index'
import type { Plan } from '../../../core/plan/schema'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge, subjectOf } from '../../../core/verdict/verdict'
import { randomPlan } from '../../data/randomPlans'
import { isWhole } from '../../data/sampled'

const KIND_NAMES = [...KINDS.keys()]
const PLANS = isWhole ? 480 : 160
/** One plan in so many has every fix of its findings made as well: they solve it again and again. */
const FIXED = 10
/** Plans a test: a failure names the seeds it lies in. */
const EACH = PLANS / 4

/** The next plans that can be read, each with one part of a kind by turns. */
function* plans(from: number, count: number): Generator<{ seed: number; plan: Plan }> {
  for (let seed = from, n = 0; n < count; seed++) {
    const plan = randomPlan(seed, KIND_NAMES[seed % KIND_NAMES.length])
    if (!plan) continue
    n++
    yield { seed, plan }
  }
}

const byId = new Map(CHECKS.map(c => [c.id, c]))

function nonsense({ seed, plan }: { seed: number; plan: Plan }, withFixes: boolean): string[] {
  const { verdict, study } = judge(plan)
  const notMade = verdict.findings.filter(f => f.title.startsWith('Not checked')).map(f => f.message)
  const unread = JSON.stringify(verdict).match(/.{0,60}(NaN|undefined|Infinity|null V).{0,30}/)?.[0]
  const fixes = withFixes ? verdict.findings.flatMap(f => byId.get(f.check)!.fixes?.(f, study) ?? []) : []
  const misfits = fixes.filter(f => !applyEdit(plan, f.patch).ok).map(f => f.label)
  return [...notMade, ...(unread ? [unread] : []), ...misfits].map(what => `seed ${seed}: ${what}`)
}

/** The faults of a plan that burn or do not work, as what they are about. */
const serious = (plan: Plan) =>
  judge(plan)
    .verdict.findings.filter(f => f.severity === 'danger' || f.severity === 'fail')
    .map(f => subjectOf(f.check, f))

/** Fields that a patch sets twice: what it says of them is not what comes. */
function setTwice(patch: Patch): string[] {
  const fields = patch.filter(op => op.op !== 'remove' && !/\/(-|\d+)$/.test(op.path)).map(op => op.path)
  return fields.filter((path, i) => fields.indexOf(path) !== i)
}

/** What is wrong with the fixes that a plan is offered, taken one by one. */
function badFixes({ seed, plan }: { seed: number; plan: Plan }): string[] {
  const { verdict, study } = judge(plan)
  const before = new Set(serious(plan))
  return verdict.findings.flatMap(finding =>
    fixesOf(finding, study, verdict).flatMap(fix => {
      const edit = applyEdit(plan, fix.patch)
      if (!edit.ok) return [`seed ${seed}: ${fix.label} does not fit`]
      const now = judge(edit.plan).verdict.findings
      const own = now.find(f => subjectOf(f.check, f) === subjectOf(finding.check, finding))
      const brought = serious(edit.plan).filter(s => !before.has(s))
      const undone = applyEdit(edit.plan, edit.undo)
      return [
        own?.severity === finding.severity && `leaves ${finding.title}`,
        setTwice(fix.patch).length > 0 && `sets twice ${setTwice(fix.patch).join(', ')}`,
        brought.length > 0 && `brings ${brought.join(', ')}`,
        !(undone.ok && JSON.stringify(undone.plan) === JSON.stringify(plan)) && 'is not undone to the byte',
      ].flatMap(wrong => (wrong ? [`seed ${seed}: ${fix.label} ${wrong}`] : []))
    }),
  )
}

describe('any plan that can be read', () => {
  for (let first = 0; first < 4; first++) {
    it(`has every check made, every figure a number, every fix one that can be taken (${first + 1} of 4)`, () => {
      const found = [...plans(1 + first * 1000, EACH)].flatMap((p, i) => nonsense(p, i % FIXED === 0))
      expect(found).toEqual([])
    })
  }

  it('is offered only fixes that mend their finding, bring no danger or failure, and are undone to the byte', () => {
    expect([...plans(5000, isWhole ? 12 : 6)].flatMap(badFixes)).toEqual([])
  })

  it('has every kind of part in it somewhere', () => {
    const seen = new Set([...plans(1, 120)].flatMap(p => p.plan.parts.map(part => part.kind as string)))
    expect([...seen].sort()).toEqual([...KIND_NAMES].sort())
  })
})
