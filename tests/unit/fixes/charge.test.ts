import { describe, expect, it } from 'vitest'
import { tryPatch } from '../../../core/edit/patch'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { PAIRS } from '../../data/pairs'

/** What a fix puts between a source and the battery that it charges without a word. */
const mended = (check: string) => {
  const plan = PAIRS[check]!.fires
  const { verdict, study } = judge(plan)
  const finding = verdict.findings.find(f => f.check === check)!
  const [fix] = fixesOf(finding, study, verdict)
  return { fix: fix!, plan: tryPatch(plan, fix!.patch)! }
}

describe('a charge through the device it wants', () => {
  it('a bare panel gets a controller set to the battery, that stands its coldest voltage', () => {
    const { fix, plan } = mended('panel-direct')
    expect(fix.label).toBe('Charge controller, MPPT, 75 V 15 A, before bat')
    const added = plan.parts.at(-1)!
    expect(added).toMatchObject({ kind: 'controller', set: 'lifepo4', lockOut: true })
    expect(plan.leads.find(l => l.from === 'sun')!.to).toBe(`${added.id}.panel`)
    expect(plan.leads.find(l => l.from === `${added.id}.battery`)!.to).toBe('bat')
    expect(judge(plan).verdict.findings.map(f => f.check)).not.toContain('panel-direct')
  })
  it('an alternator gets the largest DC-DC charger that it has the amps for, started by the ignition', () => {
    const { fix, plan } = mended('alternator-overdrawn')
    expect(fix.label).toBe('DC-DC charger, vehicle to battery, 20 A, before bat')
    expect(plan.parts.at(-1)).toMatchObject({ kind: 'converter', ignition: true, charges: { set: 'lifepo4' } })
    const after = judge(plan).verdict.findings.map(f => f.check)
    expect(after).not.toContain('alternator-overdrawn')
    expect(after).not.toContain('charge-current')
  })
})
