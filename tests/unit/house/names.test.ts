import { describe, expect, it } from 'vitest'
import { spiceNetlist } from '../../../core/formats/spice'
import { conditionsOf } from '../../../core/circuit/conditions'
import { causesOf } from '../../../core/noise/cause'
import { readPlan } from '../../../core/plan/faults'
import { buildSheet } from '../../../core/sheets/build'
import { believeSymptom } from '../../../core/symptoms/believe'
import { judge } from '../../../core/verdict/verdict'
import { fixesOf } from '../../../core/verdict/fixes'
import { demoPlan } from '../../data/plans'

/** Names that every object of the language has: none of them means anything in a plan. */
const SPECIAL = ['constructor', 'toString', 'valueOf', 'hasOwnProperty', 'isPrototypeOf', 'toLocaleString']

/** A plan with every part called otherwise. */
function renamed(name: 'tern-rock-light' | 'narrowboat-heron') {
  const plan = demoPlan(name)
  const names = new Map(plan.parts.map((p, i) => [p.id, i < SPECIAL.length ? SPECIAL[i]! : `part-${i}`]))
  const text = JSON.stringify(plan).replace(/"([a-z0-9-]+)((?:\.[^"]*)?)"/g, (whole, id: string, rest: string) =>
    names.has(id) && !/^(kind|type)$/.test(id) ? `"${names.get(id)!}${rest}"` : whole,
  )
  const read = readPlan(JSON.parse(text))
  if (!read.ok) throw new Error(JSON.stringify(read.faults))
  return { plan, other: read.plan }
}

describe.each(['tern-rock-light', 'narrowboat-heron'] as const)('%s with names of the language', name => {
  const { plan, other } = renamed(name)
  it('is judged as before', () => {
    const [was, is] = [judge(plan), judge(other)]
    expect(is.verdict.findings.map(f => f.check)).toEqual(was.verdict.findings.map(f => f.check))
    const fixes = (of: typeof was) => of.verdict.findings.map(f => fixesOf(f, of.study, of.verdict).length)
    expect(fixes(is)).toEqual(fixes(was))
    expect(buildSheet(other).cutList.length).toBe(buildSheet(plan).cutList.length)
    expect(spiceNetlist(other, conditionsOf(other)[0]!).length).toBeGreaterThan(100)
  })
  it('is reasoned about as before', () => {
    const odds = (of: typeof plan) => causesOf(of, { bands: ['20 m'] }).priors.map(p => p.odds.toFixed(9))
    expect(odds(other)).toEqual(odds(plan))
    const causes = (of: typeof plan) =>
      believeSymptom(of, { symptom: 'cuts-out-on-transmit' }).causes.map(c => [c.of, c.probability.toFixed(9)])
    expect(causes(other)).toEqual(causes(plan))
  })
})
