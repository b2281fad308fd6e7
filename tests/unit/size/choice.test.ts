import { describe, expect, it } from 'vitest'
import { conductorName } from '../../../core/conductor/resistance'
import type { Plan } from '../../../core/plan/schema'
import { withContacts } from '../../../core/size/contacts'
import { sizePlan, type SizeOptions } from '../../../core/size/size'
import { battery, fuse, lead, radio, smallPlan } from '../../data/plans'

/** Which conductor is chosen where several pass, and what is said where none does. */

function chosen(plan: Plan, options: SizeOptions) {
  const { plan: sized, obstacles } = sizePlan(plan, options)
  if (!sized) return obstacles
  return Object.fromEntries(sized.leads.map(l => [l.id, conductorName(l.conductor)]))
}

const owned = (...awg: number[]) => awg.map(a => ({ conductor: { awg: a, insulationC: 105 }, lengthM: 50 }))
const bare = (more: Record<string, unknown>) => lead({ ends: {}, inline: [], ...more })

describe("a lead on no load's way", () => {
  const supply = { id: 'ac', kind: 'charger', maxA: 5, chemistries: { lifepo4: { absorptionV: 14.2, floatV: 13.5 } } }
  const plan = smallPlan({
    parts: [battery(), radio(), { ...supply, set: 'lifepo4' }],
    leads: [bare({ inline: [fuse(20)] }), bare({ id: 'l2', from: 'ac', to: 'bat', inline: [fuse(10, 0.9)] })],
  })
  it('is the least that carries it, whichever comes first on the shelf', () => {
    for (const stock of [owned(6, 10, 14), owned(14, 10, 6)])
      expect(chosen(plan, { for: 'weight', owned: stock })).toMatchObject({ l2: '14 AWG' })
  })
  it('is the thickest for least drop', () => {
    for (const stock of [owned(6, 10, 14), owned(14, 10, 6)])
      expect(chosen(plan, { for: 'drop', owned: stock })).toMatchObject({ l2: '6 AWG' })
  })
})

describe('a contact that takes its conductor', () => {
  /** A port of a stack-15, and behind it a conductor that it does not take. */
  const plan = smallPlan({
    parts: [
      battery(),
      { id: 'blk', kind: 'block', ratedA: 60, feed: 'ring-m6', ports: [{ id: 'p1', connector: 'stack-15' }] },
      radio(),
    ],
    leads: [
      bare({ to: 'blk.feed' }),
      bare({ id: 'l2', from: 'blk.p1', conductor: { awg: 12 }, ends: { from: { connector: 'stack-15' } } }),
    ],
  })
  it.each([
    [14, 'stack-30'],
    [30, 'stack-30'],
    [30.1, 'stack-45'],
    [46, 'heavy-50'],
    // None carries so much: it stays as it is, and is told.
    [60, 'stack-15'],
  ])('and carries %d A is the least that does, on both sides', (amps, family) => {
    const { leads, parts } = withContacts(plan, () => amps)
    const [port] = (parts[1] as unknown as { ports: { connector: string }[] }).ports
    expect([leads[1]!.ends?.from?.connector, port!.connector]).toEqual([family, family])
  })
})

describe('a load that no conductor brings enough', () => {
  const needy = (id: string) => radio({ id, supply: { minV: 12.1, maxV: 16 } })
  const behind = (...lengthsM: number[]) =>
    smallPlan({
      site: { dropShare: 1 },
      parts: [battery(), { id: 'j', kind: 'joint' }, ...lengthsM.map((_, i) => needy(`r${i}`))],
      leads: [
        bare({ id: 'm', to: 'j.a', inline: [fuse(30)] }),
        ...lengthsM.map((lengthM, i) => bare({ id: `l${i}`, from: `j.${'bcd'[i]}`, to: `r${i}`, lengthM })),
      ],
    })
  it('is told with what it lacks, and none of those beside it that get enough', () => {
    expect(chosen(behind(0.5, 20, 30), { for: 'weight', owned: owned(10, 8) })).toEqual([
      expect.stringMatching(/^no conductor that fits brings enough to r1: \d\.\d\d V short with the thickest$/),
      expect.stringMatching(/^no conductor that fits brings enough to r2: \d\.\d\d V short with the thickest$/),
    ])
  })
  it('is not told where nothing fits a lead on its way: that is', () => {
    expect(chosen(behind(0.5, 20), { for: 'weight', owned: owned(22) })).toEqual([
      expect.stringMatching(/^no conductor on the shelf fits m: /),
    ])
  })
})

describe('a conductor of the shelf', () => {
  const conductorOf = (lead: Record<string, unknown>, stock: Record<string, unknown>) => {
    const plan = smallPlan({ leads: [bare({ conductor: { awg: 12 }, ...lead, inline: [fuse(20)] })] })
    const sized = sizePlan(plan, { for: 'weight', owned: [{ conductor: stock, metres: 50 }] } as SizeOptions).plan!
    return sized.leads[0]!.conductor
  }
  it('has the insulation it says, else what the lead says of its own', () => {
    const hot = { conductor: { awg: 12, insulationC: 105 } }
    expect(conductorOf(hot, { awg: 10 })).toEqual({ awg: 10, insulationC: 105 })
    expect(conductorOf(hot, { awg: 10, insulationC: 90 })).toEqual({ awg: 10, insulationC: 90 })
    expect(conductorOf({}, { awg: 10 })).toEqual({ awg: 10 })
  })
})

describe('what a conductor lacks', () => {
  it('is told upward: never nothing', () => {
    const far = (minV: number) =>
      smallPlan({
        site: { dropShare: 1 },
        parts: [battery(), radio({ supply: { minV, maxV: 16 } })],
        leads: [bare({ inline: [fuse(20)] })],
      })
    const shortOf = (minV: number) => {
      // For least drop the fuse stays as it is.
      const found = chosen(far(minV), { for: 'drop', owned: owned(10) })
      return Array.isArray(found) ? Number(/: ([\d.]+) V short/.exec(found[0]!)![1]) : null
    }
    let [fits, fails] = [11, 13]
    for (let i = 0; i < 20; i++) {
      const middle = (fits + fails) / 2
      if (shortOf(middle) === null) fits = middle
      else fails = middle
    }
    expect(shortOf(fails)).toBe(0.01)
    expect(shortOf(fails + 0.011)).toBe(0.02)
  })
})

describe('of more fuses than are tried one with another', () => {
  it('each stands apart from the one before it, and its wire is as thin as that allows', () => {
    const loads = [6, 1, 1, 0.5, 0.5]
    const draw = (activeA: number) => ({ draw: { model: 'constant-current', idleA: 0, activeA } })
    const plan = smallPlan({
      site: { dropShare: 1 },
      parts: [battery(), { id: 'j', kind: 'joint' }, ...loads.map((a, i) => radio({ id: `r${i}`, ...draw(a) }))],
      leads: [
        bare({ id: 'm', to: 'j.a', conductor: { awg: 8, insulationC: 105 }, inline: [fuse(30)] }),
        ...loads.map((_, i) => bare({ id: `l${i}`, from: `j.${'bcdef'[i]}`, to: `r${i}`, inline: [fuse(10, 0.05)] })),
      ],
    })
    const { plan: sized } = sizePlan(plan, { for: 'weight' })
    const ratings = sized!.leads.map(l => (l.inline![0] as { ratedA: number }).ratedA)
    // 1.25 × 6 A are 7.5; √5 times that are 16.8: the next is 20.
    expect(ratings).toEqual([20, 7.5, 7.5, 7.5, 7.5, 7.5])
    expect(sized!.leads.map(l => conductorName(l.conductor))).toEqual(['16 AWG', ...loads.map(() => '24 AWG')])
  })
})
