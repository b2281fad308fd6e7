import { describe, expect, it } from 'vitest'
import type { Patch } from '../../../core/edit/patch'
import { completedFixes, firstFixThat } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { demoPlan, DEMOS } from '../../data/plans'

describe('the first fix that changes nothing else', () => {
  const leavesConductors = (patch: Patch) => patch.every(op => !op.path.includes('/conductor'))

  it('is the first of all that do, with what comes along with it', () => {
    let [allowed, barred] = [0, 0]
    for (const name of DEMOS) {
      const { study, verdict } = judge(demoPlan(name))
      for (const finding of verdict.findings) {
        const all = completedFixes(finding, study, verdict)
        const expected = all.find(f => leavesConductors(f.proposal.patch)) ?? null
        const found = firstFixThat(finding, study, verdict, leavesConductors)
        expect(found?.proposal).toEqual(expected?.proposal)
        if (expected) allowed++
        if (all.length && expected !== all[0]) barred++
      }
    }
    expect(allowed).toBeGreaterThan(3)
    expect(barred).toBeGreaterThan(0)
  })
  it('is none where nothing may be changed, and no proposal is solved for that', () => {
    const { study, verdict } = judge(demoPlan('tern-rock-light'))
    const asked: Patch[] = []
    const refuses = (patch: Patch) => !asked.push(patch)
    for (const finding of verdict.findings) expect(firstFixThat(finding, study, verdict, refuses)).toBeNull()
    // Each is asked about once: what is solved is asked about again, with what comes along.
    expect(asked.length).toBe(new Set(asked).size)
    expect(asked.length).toBeGreaterThan(3)
  })
})
