import { describe, expect, it } from 'vitest'
import { applyEdit } from '../../../core/edit/patch'
import type { Plan } from '../../../core/plan/schema'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { battery, fuse, lead, load, radio, smallPlan } from '../../data/plans'

/** A radio and a computer on one battery, joined by a data lead or not; the radio's own lead as given. */
function station(change: { lead?: Record<string, unknown>; radio?: Record<string, unknown> } = {}): Plan {
  const parts = [
    battery(),
    { id: 'bus', kind: 'joint', style: 'busbar', connector: 'ring-m8' },
    radio(change.radio),
    load({ name: 'Logging computer' }),
  ]
  const leads = [
    lead({ id: 'main', to: 'bus.a', inline: [fuse(30)] }),
    lead({ id: 'l1', from: 'bus.b', inline: [fuse(20)], ...change.lead }),
    lead({ id: 'l2', from: 'bus.c', to: 'pc', inline: [fuse(5)] }),
  ]
  return smallPlan({ parts, leads })
}
const found = (plan: Plan) => judge(plan).verdict.findings.filter(f => f.check === 'shield-return')
const negative = { inline: [fuse(20, 0.1, { legs: 'both' })] }
const oxidised = {
  ends: { from: { connector: 'ring-m8', contact: 'oxidised' }, to: { connector: 'stack-45' } },
}

describe("a radio's return by a shield", () => {
  it.each([
    ['no way home but the lead', {}, negative, 0],
    ['a data lead to the computer on the same wire', { dataTo: 'pc' }, negative, 1],
    ['a data lead, and a lead whose negative does not open', { dataTo: 'pc' }, {}, 0],
    ['a data lead, and an oxidised contact', { dataTo: 'pc' }, oxidised, 1],
    ['an oxidised contact alone', {}, oxidised, 0],
    ['a bonded case, and an oxidised contact', { grounded: true }, oxidised, 1],
  ])('%s', (_, own, wire, count) => {
    expect(found(station({ radio: own, lead: wire })).length).toBe(count)
  })

  it('is told by the way it goes, and its mend is the fuse in the positive, or a new contact', () => {
    const plan = station({ radio: { dataTo: 'pc' }, lead: oxidised })
    const [finding] = found(plan)
    expect(finding!.message).toContain('If the oxidised contact at bus in the negative of lead l1 opens')
    expect(finding!.message).toContain('the data lead to Logging computer')
    const { study, verdict } = judge(plan)
    const [fix] = fixesOf(finding!, study, verdict)
    expect(fix!.label).toBe('A new contact at bus')
    const edit = applyEdit(plan, fix!.patch)
    expect(edit.ok && found(edit.plan)).toEqual([])
  })

  it('a data lead to what is not there is refused, and goes with what it leads to', () => {
    expect(() => station({ radio: { dataTo: 'nowhere' } })).toThrow(/dataTo/)
  })
})
