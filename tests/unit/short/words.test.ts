import { describe, expect, it } from 'vitest'
import { shortStudy, type Short } from '../../../core/short/study'
import * as words from '../../../core/short/words'
import { battery, demoPlan, fuse, lead, smallPlan } from '../../data/plans'

const plan = demoPlan('tern-rock-light')
const { shorts } = shortStudy(plan)
const short = (over: Partial<Short>): Short => ({ ...shorts[0]!, survives: true, clears: true, from: [], ...over })

const POST = { at: 'b1.pos', opens: [], from: [{ source: 'b1', amps: 900, limited: false }] }

describe('what a short comes to', () => {
  const cases: [words.Outcome, Partial<Short>][] = [
    ['dead', { prospectiveA: 0.4, survives: false, clears: false }],
    ['burns', { prospectiveA: 900, survives: false }],
    ['cleared', { prospectiveA: 900 }],
    ['stays', { prospectiveA: 900, clears: false }],
    ['at a post', { ...POST, prospectiveA: 900, clears: false }],
  ]
  it.each(cases)('%s', (outcome, over) => expect(words.outcomeOf(short(over))).toBe(outcome))

  it('goes on at a post also where what else feeds it is cut off, unless its own source limits itself', () => {
    // By hand: a second pack behind 20 A gives 13.6 V over some 30 mΩ, which opens its fuse; the first goes on.
    const parts = [battery(), battery({ id: 'b2' })]
    const joined = smallPlan({ parts, leads: [lead({ to: 'b2', ends: {}, inline: [fuse(20)] })] })
    const posts = shortStudy(joined).shorts.filter(s => s.kind === 'terminal')
    expect(posts.map(s => [s.at, s.opens.map(o => o.ratedA), s.clears, words.outcomeOf(s)])).toEqual([
      ['bat', [20], false, 'at a post'],
      ['b2', [20], false, 'at a post'],
    ])
    const from = [{ source: 'b1', amps: 25, limited: true }]
    expect(words.outcomeOf(short({ ...POST, from, prospectiveA: 900, clears: false }))).toBe('stays')
  })

  it('is listed worst first, what takes more along before what does not', () => {
    const [dead, burns, cleared, stays, post] = cases.map(([, over]) => short({ selective: true, ...over }))
    const along = short({ prospectiveA: 20, selective: false })
    const larger = short({ prospectiveA: 950, selective: true })
    const sorted = words.worstFirst([dead!, cleared!, larger, post!, along, stays!, burns!])
    expect(sorted).toEqual([burns, stays, along, larger, cleared, post, dead])
  })

  it('is bad where a wire burns or nothing opens, and not at a post, which no fuse can protect', () => {
    const bad = cases.filter(([, over]) => words.isBad(short(over))).map(([outcome]) => outcome)
    expect(bad).toEqual(['burns', 'stays'])
  })
})

describe('a short in words', () => {
  it('names terminals and leads as they are called, never by their ids', () => {
    const ids = plan.parts.map(p => p.id)
    const told = shorts.flatMap(s => [
      words.placeWords(plan, s),
      words.firstWords(plan, s),
      ...s.opens.map(o => words.openingWords(plan, o)),
    ])
    expect(told.length).toBeGreaterThan(shorts.length)
    expect(told.filter(text => ids.some(id => text.includes(`${id}.`)))).toEqual([])
  })

  it('says that a source limits itself only where all that feed it do, and something flows', () => {
    const from = [{ source: 'b1', amps: 20, limited: true }]
    const first = (over: Partial<Short>) => words.firstWords(plan, short({ opens: [], ...over }))
    expect(first({ from, prospectiveA: 20 })).toBe('the source limits itself')
    expect(first({ from: [...from, { source: 'b2', amps: 9, limited: false }], prospectiveA: 29 })).toBe('nothing')
    expect(first({ from, prospectiveA: 0.2 })).toBe('nothing')
    expect(first({ from: [], prospectiveA: 20 })).toBe('nothing')
  })

  it('says "over" where a source keeps its internal resistance to itself', () => {
    expect(words.currentWords(short({ prospectiveA: 1234, known: false }))).toBe('over 1.23 kA')
    expect(words.currentWords(short({ prospectiveA: 640.4, known: true }))).toBe('640 A')
  })
})
