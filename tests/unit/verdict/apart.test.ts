import { describe, expect, it } from 'vitest'
import { readPlan } from '../../../core/plan/faults'
import type { Plan } from '../../../core/plan/schema'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { BASIC_PAIRS } from '../../data/basicPairs'
import { brokenPlan } from '../../data/brokenPlans'
import { FIELD_PAIRS } from '../../data/fieldPairs'
import { PAIRS } from '../../data/pairs'
import { battery, DEMOS, demoPlan, fuse, lead, radio } from '../../data/plans'

/** Two stations that nothing joins, in one plan: each is told and mended as if it stood alone. */

const other = {
  parts: [battery({ id: 'z-bat', lockOut: true }), radio({ id: 'z-hf' })],
  leads: [lead({ id: 'z-l', from: 'z-bat', to: 'z-hf', inline: [fuse(20)] })],
}
function withOther(plan: Plan): Plan {
  const read = readPlan({ ...plan, parts: [...plan.parts, ...other.parts], leads: [...plan.leads, ...other.leads] })
  if (!read.ok) throw new Error(JSON.stringify(read.faults))
  return read.plan
}
function told(plan: Plan) {
  const { verdict, study } = judge(plan)
  const its = verdict.findings.filter(f => !f.place.startsWith('z-'))
  return its.map(f => [f.check, f.place, f.severity, fixesOf(f, study, verdict)] as const)
}
/** Of the conditions the other's battery brings its own: a sentence may name another of two that are as bad. */
const asText = (findings: ReturnType<typeof told>) =>
  findings
    .map(([check, place, severity, fixes]) => `${check} ${place} ${severity}: ${fixes.map(f => f.label).join('; ')}`)
    .sort()

const plans: (readonly [string, Plan])[] = [
  ...Object.entries({ ...BASIC_PAIRS, ...PAIRS, ...FIELD_PAIRS }).map(([name, { fires }]) => [name, fires] as const),
  ...DEMOS.map(name => [name, demoPlan(name)] as const),
  ...Array.from({ length: 12 }, (_, i) => brokenPlan(i + 30)).flatMap((plan, i) =>
    plan ? [[`broken ${i + 30}`, plan] as const] : [],
  ),
]
/** Asked of the whole station: one answer for both. */
const OF_ALL = new Set(['both-legs-asked'])

describe('a station beside another', () => {
  it('is told as it is alone, and mended by the same', () => {
    for (const [name, plan] of plans)
      if (!OF_ALL.has(name)) expect(asText(told(withOther(plan))), name).toEqual(asText(told(plan)))
  })
  it('leaves the other as it is when it is mended', () => {
    for (const [name, plan] of plans) {
      if (OF_ALL.has(name)) continue
      const both = withOther(plan)
      const its = new Set(
        ['parts', 'leads'].flatMap(list => {
          const things = both[list as 'parts' | 'leads']
          return things.flatMap((t, i) => (t.id.startsWith('z-') ? [`/${list}/${i}`] : []))
        }),
      )
      const touched = told(both).flatMap(([check, , , fixes]) =>
        fixes
          .flatMap(f => f.patch.map(op => op.path).filter(path => its.has(path.split('/').slice(0, 3).join('/'))))
          .map(path => `${check} ${path}`),
      )
      expect(touched, name).toEqual([])
    }
  })
})
