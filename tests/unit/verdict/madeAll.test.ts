import { describe, expect, it } from 'vitest'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { brokenPlan } from '../../data/brokenPlans'
import { battery, fuse, lead, load, radio, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

describe('every check', () => {
  it('is made on plans broken and random, those of which only some conditions collapse among them', () => {
    const plans = Array.from({ length: 25 }, (_, i) => [brokenPlan(i + 1), randomPlan(i + 1)]).flat()
    const verdicts = plans.flatMap(plan => (plan ? [judge(plan)] : []))
    expect(verdicts.flatMap(v => v.verdict.findings.filter(f => f.message.startsWith('A fault in Wireman')))).toEqual(
      [],
    )
    // How much can be carried is looked for in the corners alone.
    const partly = verdicts.filter(({ study }) => {
      const failed = study.solved.points.filter(p => p.status === 'collapses' || p.condition.off)
      return failed.some(p => p.most) && failed.some(p => !p.most)
    })
    expect(partly.length).toBeGreaterThan(2)
  })
})

describe('of two fuses alike', () => {
  it('the one upstream is made slower, not one that stands elsewhere', () => {
    const leg = (id: string, to: string, more: object) => lead({ id, to, ends: {}, ...more })
    const plan = smallPlan({
      parts: [battery(), radio({ id: 'r0' }), { id: 'j', kind: 'joint' }, radio(), load()],
      leads: [
        leg('l0', 'r0', { inline: [fuse(20)] }),
        leg('l1', 'j.a', { inline: [fuse(20)] }),
        leg('l2', 'hf', { from: 'j.b', inline: [fuse(15)] }),
        leg('l3', 'pc', { from: 'j.c', inline: [fuse(5)] }),
      ],
    })
    const { verdict, study } = judge(plan)
    const finding = verdict.findings.find(f => f.check === 'fuse-selectivity')!
    expect(finding.also).toEqual(['l1'])
    const fixes = fixesOf(finding, study, verdict)
    expect(fixes.length).toBeGreaterThan(0)
    expect(fixes.flatMap(f => f.patch.map(op => op.path)).filter(path => path.startsWith('/leads/0'))).toEqual([])
  })
})
