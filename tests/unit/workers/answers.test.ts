import { describe, expect, it } from 'vitest'
import { answer, type Judged } from '../../../app/workers/answers'
import { flowWords, leadWords, ownLine, boxLines } from '../../../core/picture/words'
import type { NamedPoint } from '../../../core/circuit/point'
import type { Staircase } from '../../../core/circuit/staircase'
import type { Part } from '../../../core/kinds/index'
import { METRIC } from '../../../core/units/quantity'
import type { Fix } from '../../../core/verdict/fixes'
import { demoPlan } from '../../data/plans'

describe('what the worker answers', () => {
  const plan = demoPlan('tern-rock-evening')
  it('nothing before a plan is judged, and an error for a method it has not', () => {
    expect(answer('point', ['low/all'])).toBeNull()
    expect(answer('fixes', ['x'])).toEqual([])
    expect(() => answer('fly', [])).toThrow('no method fly')
  })
  it('a verdict with what the picture shows beside it', () => {
    const judged = answer('judge', [plan]) as Judged
    expect(judged.verdict.findings).toHaveLength(3)
    expect(judged.passed).toHaveLength(judged.verdict.passed.length)
    expect(judged.leads.l2!.amps).toBeCloseTo(21, 9)
    expect(judged.leads.l6).toMatchObject({ amps: 0, dropV: 0 })
    expect(judged.unprotected).toEqual({
      l1: { lengthM: 0.62, end: 'from', bad: true },
      l6: { lengthM: expect.closeTo(0.12, 9), end: 'to', bad: false },
    })
    expect(judged.conditions).toHaveLength(40)
    // Rested and full, less what four amps of the idle station drop inside.
    expect(judged.sources.bat!.high.value).toBeCloseTo(13.6 - 4.034 * 0.008, 4)
    // It goes between threads: nothing in it may be a function.
    expect(structuredClone(judged)).toEqual(judged)
  })
  it('a point of any condition, solved when it was not yet', () => {
    expect((answer('point', ['full/both-operators']) as NamedPoint).parts.hf!.amps).toBe(21)
    expect(answer('point', ['no/such'])).toBeNull()
  })
  it('a staircase that ends where the load is', () => {
    const stairs = answer('stairs', ['hf', 'low/all']) as Staircase
    const point = answer('point', ['low/all']) as NamedPoint
    expect(stairs.leads).toEqual(['l1', 'l2'])
    expect(stairs.steps.at(-1)!.volts).toBeCloseTo(point.nodes.hf!.volts!, 6)
    expect(stairs.steps.map(s => s.label)).toEqual(
      expect.arrayContaining(['inside House pack', 'fuse 50 A', '8 AWG, 1.2 m', 'fuse 30 A, port p1', '12 AWG, 3.6 m']),
    )
  })
  it('fixes by the key of a finding', () => {
    const judged = answer('judge', [plan]) as Judged
    const fixes = answer('fixes', [judged.verdict.findings[0]!.key]) as Fix[]
    expect(fixes[0]!.label).toBe('Move the fuse to 0.12 m from House pack')
  })
  it('the build sheet', () => expect(answer('sheet', [])).toMatchObject({ name: 'Tern Rock light' }))
})

describe('short words of the picture', () => {
  const plan = demoPlan('tern-rock-evening')
  const part = (id: string) => plan.parts.find(p => p.id === id)!
  it('of sources and loads', () => {
    expect(boxLines(plan, part('bat'))).toEqual(['LiFePO4 4S · 50 Ah', '50 A · 100 A brief'])
    expect(boxLines(plan, part('mains'))).toEqual(['set to 13.8 V', '30 A · 32 A brief'])
    expect(boxLines(plan, part('blk'))).toEqual([])
    expect(ownLine(part('hf'))).toBe('100 W · 21 A')
    expect(ownLine(part('log'))).toBe('30 W')
  })
  it('of what hangs on a generator, by its name', () => {
    const generator: Part = { id: 'gen', kind: 'generator', ratedW: 1000, feeds: ['mains'] }
    const both = { ...plan, parts: [...plan.parts, generator] }
    expect(boxLines(both, generator)).toEqual(['1000 W', 'feeds Mains supply'])
  })
  it('of leads and what flows in them', () => {
    expect(leadWords(demoPlan('tern-rock-evening').leads[0]!, METRIC)).toEqual({ conductor: '8 AWG', length: '1.2 m' })
    expect(leadWords(demoPlan('tern-rock-evening').leads[0]!, { ...METRIC, length: 'ft' }).length).toBe('3.94 ft')
    expect(flowWords(2.449, 0.152)).toBe('2.45 A · 0.15 V')
    expect(flowWords(35.42, 0.27)).toBe('35.4 A · 0.27 V')
  })
})
