import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { AWG_LADDER, MM2_LADDER } from '../../../core/catalog/conductors'
import { thickerSizes, thinnerSizes } from '../../../core/conductor/ladder'
import { conductorMm2 } from '../../../core/conductor/resistance'

const size = fc.oneof(
  fc.constantFrom(...MM2_LADDER).map(mm2 => ({ mm2, insulationC: 90 })),
  fc.constantFrom(...AWG_LADDER.filter(awg => awg >= 0)).map(awg => ({ awg, insulationC: 90 })),
)

describe('sizes that one can buy', () => {
  it('stay in their own measure, keep the insulation, and go away from the size one step at a time', () => {
    fc.assert(
      fc.property(size, own => {
        const area = conductorMm2(own)
        const thicker = thickerSizes(own).map(conductorMm2)
        const thinner = thinnerSizes(own).map(conductorMm2)
        expect(thicker).toEqual([...thicker].sort((a, b) => a - b))
        expect(thinner).toEqual([...thinner].sort((a, b) => b - a))
        expect(thicker.every(a => a > area) && thinner.every(a => a < area)).toBe(true)
        const all = [...thicker, area, ...thinner].length
        expect(all).toBe('mm2' in own ? MM2_LADDER.length : AWG_LADDER.length)
        for (const other of [...thickerSizes(own), ...thinnerSizes(own)])
          expect([...Object.keys(other)].sort()).toEqual(Object.keys(own).sort())
      }),
    )
  })
})
