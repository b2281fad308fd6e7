import { describe, expect, it } from 'vitest'
import type { Plan } from '../../../core/plan/schema'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { FIELD_PAIRS } from '../../data/fieldPairs'
import { withPart } from '../../data/plans'

/** Either side of what a check looks at, and what is right on it. */

function told(plan: Plan, check: string) {
  const { verdict, study } = judge(plan)
  const finding = verdict.findings.find(f => f.check === check)
  return finding ? { ...finding, fixes: fixesOf(finding, study, verdict).map(f => f.label) } : null
}

describe('an alarm', () => {
  const alarm = (set: object, hf: object = {}) =>
    told(
      withPart(
        withPart(FIELD_PAIRS['monitor-threshold']!.near, 'mon', { underV: undefined, overV: undefined, ...set }),
        'hf',
        {
          supply: { minV: 11, nominalV: 13.8, maxV: 15.9 },
          ...hf,
        },
      ),
      'monitor-threshold',
    )
  it('at just what its radio needs or stands is in time', () => {
    expect(alarm({ underV: 11 })).toBeNull()
    expect(alarm({ overV: 15.9 })).toBeNull()
  })
  it('a tenth of a volt beyond is too late', () => {
    expect(alarm({ underV: 10.9 })!.title).toBe('mon warns too late for hf')
    expect(alarm({ overV: 16 })!.title).toBe('mon warns too late for hf')
  })
  // Full, 13.6 V rested, is the most that stands there: nothing charges this pack.
  it('that speaks where nothing is wrong is told, not one that is right', () => {
    expect(alarm({ overV: 13.5 })!.title).toBe('mon warns where nothing is wrong')
    expect(alarm({ overV: 13.5 }, { supply: { minV: 11, nominalV: 12, maxV: 13.55 } })).toBeNull()
    expect(alarm({ overV: 13.7 })).toBeNull()
    expect(alarm({ underV: 13.7 })!.title).toBe('mon warns all the time')
  })
})

describe('a shunt', () => {
  const shunt = (shuntA: number, activeA: number) =>
    told(
      withPart(withPart(FIELD_PAIRS['monitor-shunt']!.near, 'mon', { shuntA }), 'hf', {
        draw: { model: 'constant-current', idleA: 1, activeA },
      }),
      'monitor-shunt',
    )
  it('for just what flows is enough', () => {
    // The meter itself takes a hundredth of an ampere, and flows through it too.
    expect(shunt(10.02, 10)).toBeNull()
    expect(shunt(10, 10)!.title).toBe('Just over 10 A through a shunt for 10 A')
    expect(shunt(9.9, 10)).not.toBeNull()
  })
  it('is offered in the least size that carries it', () => {
    expect(shunt(5, 19.98)!.fixes).toContain('A shunt for 20 A')
    expect(shunt(5, 20)!.fixes).toContain('A shunt for 50 A')
  })
})

describe('a cut-off', () => {
  const cutOff = (lowVoltageCutV: number, battery: Record<string, unknown> = {}) =>
    told(
      withPart(withPart(FIELD_PAIRS['load-cut-off']!.near, 'ctl', { lowVoltageCutV }), 'bat', battery),
      'load-cut-off',
    )
  // Four cells are empty at 11.2 V.
  it('at what an empty pack rests at guards it; under that it guards nothing', () => {
    expect(cutOff(11.2)).toBeNull()
    expect(cutOff(11.19)).toMatchObject({ severity: 'caution', numbers: { emptyV: 11.2 } })
  })
  it('too high or too low is set a fifth of a volt under what stands there', () => {
    const high = cutOff(13)!
    const wanted = `Cut off under ${(Math.floor(10 * (high.numbers.atV! - 0.2)) / 10).toFixed(2)} V`
    expect(high.fixes).toEqual([wanted])
    expect(cutOff(10)!.fixes).toEqual([wanted])
  })
  it('is set to nothing where that would be under empty', () => {
    // Eight tenths of an ohm in the pack: thirty watts take it to 10.6 V.
    const { numbers, fixes } = cutOff(13, { internalOhm: 0.8 })!
    expect(numbers.atV).toBeLessThan(11.2)
    expect(fixes).toEqual([])
  })
})

describe('a start on an inverter', () => {
  const start = (surgeW: number, pack: Record<string, unknown>) => {
    const acLoads = [{ name: 'Compressor', watts: 200, surgeW }]
    const plan = withPart(FIELD_PAIRS['inverter-surge']!.fires, 'inv', { acLoads, surgeW: 3000 })
    return told(withPart(plan, 'bat', pack), 'inverter-surge')
  }
  it('is told from the very amps that the pack gives', () => {
    const amps = start(1500, { peakA: 100 })!.numbers.amps!
    // At an efficiency of 0.88 and no less than the 10.5 V it works from.
    expect(amps).toBeGreaterThan(1500 / 0.88 / 12.9)
    expect(amps).toBeLessThan(1500 / 0.88 / 10.5)
    expect(start(1500, { peakA: amps * 1.0001 })).toBeNull()
    expect(start(1500, { peakA: amps * 0.9999 })!.message).toContain('just over ')
  })
  it('that the wires cannot carry, or that takes its volts, is told as that', () => {
    expect(start(2000, { peakA: 900, internalOhm: 0.03 })!.message).toContain('cannot be carried')
    expect(start(2000, { peakA: 900, internalOhm: 0.01 })!.message).toContain('its input falls to')
  })
})
