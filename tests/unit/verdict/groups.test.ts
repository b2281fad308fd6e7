import { describe, expect, it } from 'vitest'
import { groupFindings } from '../../../core/verdict/groups'
import type { Finding } from '../../../core/verdict/verdict'

const finding = (check: string, place: string, severity = 'fail') =>
  ({ check, place, severity, key: `${check} ${place}` }) as Finding

describe('findings that are alike', () => {
  const many = ['a', 'b', 'c', 'd'].map(place => finding('ampacity', place))
  it('are told as one from four on, with their places, where the first of them stood', () => {
    const groups = groupFindings([
      finding('island', 'x'),
      ...many.slice(0, 2),
      finding('island', 'y'),
      ...many.slice(2),
    ])
    expect(groups.map(g => g.findings.map(f => f.place))).toEqual([['x'], ['y'], ['a', 'b', 'c', 'd']])
    expect(groups.map(g => g.key)).toEqual(['island x', 'island y', 'fail/ampacity'])
  })
  it('are told one by one where they are fewer', () => {
    const groups = groupFindings(many.slice(0, 3))
    expect(groups.map(g => g.key)).toEqual(['ampacity a', 'ampacity b', 'ampacity c'])
  })
  it('are not put together where one is worse than the others', () => {
    const groups = groupFindings([finding('ampacity', 'z', 'danger'), ...many])
    expect(groups.map(g => g.findings.length)).toEqual([1, 4])
  })
})
