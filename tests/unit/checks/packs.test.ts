import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/verdict/verdict'
import { battery, lead, radio, smallPlan } from '../../data/plans'

type Member = Record<string, unknown>
const found = (members: Member[], more: Member = {}) =>
  judge(smallPlan({ parts: [battery({ capacityAh: 100, members, ...more })], leads: [] })).verdict.findings.filter(
    f => f.place === 'bat',
  )
const titled = (members: Member[], title: RegExp, more: Member = {}) =>
  found(members, more).find(f => title.test(f.title))

const pack = (string: number, more: Member = {}): Member => ({ string, capacityAh: 50, ...more })

describe('packs in parallel of different age', () => {
  const old = /old pack beside a new one/
  it('are told with the age of the newest and of the oldest, two years apart or more', () => {
    const aged = (...years: number[]) =>
      titled(
        years.map((ageYears, i) => pack(i + 1, { ageYears })),
        old,
      )
    expect(aged(6, 1, 3)).toMatchObject({ severity: 'caution', numbers: { apartYears: 5 } })
    expect(aged(6, 1, 3)!.message).toContain('are 1 and 6 years old')
    expect(aged(3, 1)).toBeDefined()
    expect(aged(2.9, 1)).toBeUndefined()
    expect(aged(4, 4)).toBeUndefined()
  })
  it('two batteries are as old as their oldest packs', () => {
    const of = (id: string, ...years: number[]) =>
      battery({ id, capacityAh: 50 * years.length, members: years.map((ageYears, i) => pack(i + 1, { ageYears })) })
    const between = (a: number[], b: number[]) => {
      const tie = lead({ id: 'tie', from: 'bat', to: 'b2', ends: {} })
      const plan = smallPlan({ parts: [of('bat', ...a), of('b2', ...b), radio()], leads: [lead(), tie] })
      return judge(plan).verdict.findings.find(f => old.test(f.title) && f.also?.length)?.numbers
    }
    expect(between([1, 1], [1, 5])).toMatchObject({ apartYears: 4 })
    expect(between([5, 1], [1, 1])).toMatchObject({ apartYears: 4 })
    expect(between([1, 5], [5, 1])).toBeUndefined()
  })
  it('are not told where only one says how old it is', () =>
    expect(titled([pack(1, { ageYears: 9 }), pack(2)], old)).toBeUndefined())
})

describe('packs in parallel that do not go together', () => {
  it('of unlike cells are a danger, told with what each stands half full', () => {
    const unlike = titled(
      [pack(1, { seriesCells: 4 }), pack(2, { seriesCells: 5, name: 'Big one' })],
      /cells in parallel/,
    )!
    expect(unlike).toMatchObject({ severity: 'danger', title: '4 and 5 cells in parallel' })
    // Half full a cell of lithium iron phosphate stands about 3.28 V.
    expect(unlike.numbers.highestV! / unlike.numbers.lowestV!).toBeCloseTo(5 / 4, 6)
    expect(unlike.message).toMatch(
      /^Pack 1 \(4 cells, 13\.\d\d V\) and Big one \(5 cells, 16\.\d\d V\) stand in parallel\.$/,
    )
  })
  it('of unlike chemistry are a danger, told with both', () =>
    expect(titled([pack(1), pack(2, { chemistry: 'agm' })], /in parallel/)!.message).toBe(
      'Pack 1 (LiFePO4) and pack 2 (AGM lead-acid) stand in parallel: no charging voltage suits both.',
    ))
})

describe('packs in parallel at different rest', () => {
  const rested = (a: number, b: number, more: Member = {}) =>
    found([pack(1, { restedV: a }), pack(2, { restedV: b })], more).find(f => f.numbers.surgeA !== undefined)
  it('drive a surge of the difference over both resistances', () => {
    // Two packs of twice the battery's 10 mΩ each: 0.4 V over 40 mΩ.
    expect(rested(13.4, 13.0)!.numbers.surgeA).toBeCloseTo(10, 6)
    expect(rested(13.0, 13.4)!.numbers.surgeA).toBeCloseTo(10, 6)
    expect(rested(13.4, 13.0, { internalOhm: 0.02 })!.numbers.surgeA).toBeCloseTo(5, 6)
  })
  it('that are alike drive none', () => expect(rested(13.2, 13.2)).toBeUndefined())
})
