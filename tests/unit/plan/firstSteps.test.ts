import { describe, expect, it } from 'vitest'
import { firstStep } from '../../../core/plan/firstSteps'
import type { Plan } from '../../../core/plan/schema'
import { DEMOS, demoPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const only = (...kinds: string[]): Plan => ({
  ...tern,
  parts: tern.parts.filter(p => kinds.includes(p.kind)),
  leads: [],
})

describe('what comes first', () => {
  it('is a source, then a load, then the way between them, and then nothing', () => {
    expect(firstStep(only())!.words).toMatch(/^First say from what/)
    expect(firstStep(only('radio', 'panel'))!.words).toMatch(/^Nothing powers it/)
    expect(firstStep(only('battery', 'block'))!.words).toMatch(/^Nothing is powered/)
    expect(firstStep(only('battery', 'radio'))).toMatchObject({
      about: 'hf',
      words: expect.stringMatching(/hangs on/) as string,
    })
    for (const demo of DEMOS) expect(firstStep(demoPlan(demo))).toBeNull()
  })
})
