import { expect, it } from 'vitest'
import { tryPatch } from '../../../core/edit/patch'
import { moveToTerminal } from '../../../core/fixes/parts'
import { battery, lead, radio, smallPlan } from '../../data/plans'

it('a lead goes to another terminal of its part that gives the current, with the end made to fit it', () => {
  const outlets = [
    { id: 'small', connector: 'barrel-5521', ratedA: 3 },
    { id: 'large', connector: 'stack-45', ratedA: 40 },
  ]
  const { terminal: _one, ...pack } = battery({ outlets })
  const jacked = smallPlan({ parts: [pack, radio()], leads: [lead({ from: 'bat.small', ends: {} })] })
  const [own] = jacked.leads
  const [moved] = tryPatch(jacked, moveToTerminal(jacked, own!, 'from', 10)!.patch)!.leads
  expect([moved!.from, moved!.ends!.from!.connector]).toEqual(['bat.large', 'stack-45'])
  expect(moveToTerminal(jacked, own!, 'from', 41)).toBeNull()
})
