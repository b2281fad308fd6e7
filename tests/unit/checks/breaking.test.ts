import { amps } from '../../../core/units/show'
import { describe, expect, it } from 'vitest'
import type { Plan } from '../../../core/plan/schema'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { battery, block, fuse, lead, radio, smallPlan } from '../../data/plans'

type Loose = Record<string, unknown>

/** A bank of 2 mΩ, a fuse at its post, a block with two blade ports, two radios: some 3 kA at the ports. */
const station = (main: Loose, bank: Loose = {}) =>
  smallPlan({
    parts: [
      battery({ internalOhm: 0.002, capacityAh: 200, continuousA: 200, peakA: 400, ...bank }),
      block([20, 20]),
      radio(),
      radio({ id: 'vhf' }),
    ],
    leads: [
      lead({
        id: 'm',
        to: 'blk.feed',
        lengthM: 0.5,
        conductor: { awg: 4, insulationC: 105 },
        ends: { from: { connector: 'ring-m6' }, to: { connector: 'ring-m6' } },
        inline: [main],
      }),
      ...['hf', 'vhf'].map((to, i) =>
        lead({
          id: `l${i + 1}`,
          from: `blk.p${i + 1}`,
          to,
          inline: [],
          ends: { from: { connector: 'stack-45' }, to: { connector: 'stack-45' } },
        }),
      ),
    ],
  })
const cartridge = fuse(60, 0.1, { type: 'cartridge' })
const strip = fuse(60, 0.1, { type: 'strip-high' })
const breaking = (plan: Plan) => judge(plan).verdict.findings.filter(f => f.check === 'fuse-interrupting')

describe('what fuses and breakers can break', () => {
  it('blades of one block that are let down by one bank are one finding, with its places', () => {
    expect(breaking(station(strip))).toMatchObject([
      { severity: 'danger', place: 'blk.p1', also: ['blk.p2'], numbers: { interruptA: 1000, devices: 2 } },
    ])
  })
  it('a fast cartridge at the post may carry it for the blades behind: a caution', () =>
    expect(breaking(station(cartridge))).toMatchObject([{ severity: 'caution', place: 'blk.p1', also: ['blk.p2'] }]))
  it('and that is offered: no strip is put into a blade port', () => {
    const { verdict, study } = judge(station(strip))
    const fixes = fixesOf(breaking(station(strip))[0]!, study, verdict)
    expect(fixes.map(f => f.label)).toEqual(['Fast cartridge fuses at the source, which carry the interruption'])
  })
  it('a cartridge on one of two ways guards nothing', () => {
    const plan = station(cartridge)
    const second = {
      ...plan,
      parts: [...plan.parts, { ...plan.parts[0]!, id: 'b2' }],
      leads: [...plan.leads, { ...plan.leads[0]!, id: 'm2', from: 'b2', inline: [strip] }],
    } as Plan
    expect(breaking(second).map(f => f.severity)).toContain('danger')
  })
  const breaker = (more: Loose) =>
    smallPlan({
      parts: [battery({ internalOhm: 0.005 }), radio()],
      leads: [lead({ inline: [{ id: 'k', kind: 'breaker', ratedA: 20, atM: 0.1, ...more }] })],
    })
  it('a breaker breaks what it says itself', () => {
    expect(breaking(breaker({}))).toMatchObject([{ severity: 'danger', numbers: { interruptA: 1000 } }])
    expect(breaking(breaker({ breakingA: 3000 }))).toEqual([])
    expect(breaking(breaker({ breakingA: 500 }))).toMatchObject([{ numbers: { interruptA: 500 } }])
  })
  it.each([
    [4, 0.005, 3000],
    [8, 0.003, 5000],
    [8, 0.001, 10000],
  ])('behind %i cells of %f Ω one is offered that breaks %i A', (seriesCells, internalOhm, breakingA) => {
    const plan = breaker({ ratedV: 80, breakingA: 1000 })
    const parts = [{ ...plan.parts[0]!, seriesCells, internalOhm }, plan.parts[1]!]
    const strong = { ...plan, parts, leads: [{ ...plan.leads[0]!, lengthM: 0.2, conductor: { awg: 2 } }] } as Plan
    const { verdict, study } = judge(strong)
    const [found] = breaking(strong)
    expect(fixesOf(found!, study, verdict).map(f => f.label)).toContain(
      `20 A breaker that breaks ${amps(breakingA)} in its place`,
    )
  })
  it('a breaker for 16 V breaks nothing on a bank of 24 V', () => {
    const at24 = (more: Loose) => {
      const plan = breaker({ breakingA: 3000, ...more })
      return { ...plan, parts: [{ ...plan.parts[0]!, seriesCells: 8 }, plan.parts[1]!] } as Plan
    }
    const voltage = (plan: Plan) => judge(plan).verdict.findings.filter(f => f.check === 'fuse-voltage')
    expect(voltage(at24({ ratedV: 16 }))).toMatchObject([{ severity: 'danger', numbers: { ratedV: 16 } }])
    expect(breaking(at24({ ratedV: 16 }))).toMatchObject([{ numbers: { interruptA: 0 } }])
    expect(voltage(at24({ ratedV: 80 }))).toEqual([])
  })
  // 10 kA at 14 V, 5 kA at 32 V, 2 kA at 58 V.
  it.each([
    [4, 0.0016, []],
    [8, 0.0042, []],
    [8, 0.0022, ['danger']],
    [15, 0.0245, []],
    [15, 0.0144, ['danger']],
  ])('a post-mount block on %i cells of %f Ω: by the voltage', (seriesCells, internalOhm, severities) => {
    const plan = station(fuse(60, 0, { type: 'post-block' }), { seriesCells, internalOhm })
    expect(
      breaking({ ...plan, parts: plan.parts.slice(0, 2), leads: plan.leads.slice(0, 1) })
        .filter(f => f.place === 'm')
        .map(f => f.severity),
    ).toEqual(severities)
  })
})

describe('the small-conductor rule', () => {
  const over = (site: Loose, ratedA: number, conductor: Loose = { awg: 14, insulationC: 105 }) =>
    judge(smallPlan({ site, leads: [lead({ conductor, inline: [fuse(ratedA)] })] })).verdict.findings.filter(
      f => f.check === 'fuse-over-conductor',
    )
  it('holds the fuse of 14 AWG to 15 A under building practice, whatever it carries', () => {
    expect(over({ ampacity: 'enclosed' }, 15)).toEqual([])
    expect(over({ ampacity: 'enclosed' }, 20)).toMatchObject([
      { severity: 'danger', numbers: { ampacityA: 15 }, message: expect.stringContaining('small-conductor rule') },
    ])
  })
  it('is not one of the open-air school', () => expect(over({ ampacity: 'open' }, 25)).toEqual([]))
  it('holds metric sizes to the thinner AWG: 2.5 mm² as 14, 6 mm² as 10', () => {
    expect(over({ ampacity: 'enclosed' }, 20, { mm2: 2.5, insulationC: 105 })).toMatchObject([
      { numbers: { ampacityA: 15 } },
    ])
    expect(over({ ampacity: 'enclosed' }, 30, { mm2: 6, insulationC: 105 })).toEqual([])
    expect(over({ ampacity: 'enclosed' }, 35, { mm2: 6, insulationC: 105 })).toMatchObject([
      { numbers: { ampacityA: 30 } },
    ])
    expect(over({ ampacity: 'enclosed' }, 40, { awg: 8, insulationC: 105 })).toEqual([])
  })
})
