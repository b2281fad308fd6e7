import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { groupNodes, Groups } from '../../../core/graph/groups'
import { ListMap, reach } from '../../../core/graph/walk'

const N = 8
const edges = fc.array(fc.tuple(fc.nat(N - 1), fc.nat(N - 1)), { maxLength: 12 })
type Edge = [number, number]

/** Whether a way leads from one node to another, by trying as many rounds as there are nodes (Warshall). */
function joined(list: readonly Edge[]): boolean[][] {
  const way = Array.from({ length: N }, (_, a) => Array.from({ length: N }, (_, b) => a === b))
  for (const [a, b] of list) way[a]![b] = way[b]![a] = true
  for (let k = 0; k < N; k++)
    for (let a = 0; a < N; a++) for (let b = 0; b < N; b++) way[a]![b] ||= way[a]![k]! && way[k]![b]!
  return way
}

describe('what is reached', () => {
  it('is each node to which a way leads, whichever way the edges are listed', () => {
    fc.assert(
      fc.property(edges, fc.nat(N - 1), (list, start) => {
        const near = new ListMap<number, number>()
        for (const [a, b] of [...list, ...list.map(([a, b]): Edge => [b, a])]) near.put(a, b)
        const there = [...reach([start], v => near.at(v))].sort()
        const way = joined(list)[start]!
        expect(there).toEqual(way.flatMap((is, v) => (is ? [v] : [])))
      }),
    )
  })
  it('is what it starts from, where nothing leads on; from several, all of theirs', () => {
    expect([...reach(['a'], () => [])]).toEqual(['a'])
    const next = (v: number) => (v < 3 ? [v + 1] : [])
    expect([...reach([0, 7], next)].sort()).toEqual([0, 1, 2, 3, 7])
    expect([...reach([], next)]).toEqual([])
  })
  it('goes along a step only the way it leads', () =>
    expect([...reach(['b'], v => ({ a: ['b'], b: ['c'], c: [] })[v] ?? [])]).toEqual(['b', 'c']))
})

describe('lists by key', () => {
  it('keep what is put in its order, and are empty where nothing was', () => {
    const lists = new ListMap<string, number>()
    for (const [key, value] of [
      ['a', 1],
      ['b', 2],
      ['a', 3],
    ] as const)
      lists.put(key, value)
    expect([lists.at('a'), lists.at('b'), lists.at('c')]).toEqual([[1, 3], [2], []])
  })
})

describe('groups', () => {
  it('of names and of numbered nodes are those between which a way leads, numbered from 0 on', () => {
    fc.assert(
      fc.property(edges, list => {
        const way = joined(list)
        const named = new Groups()
        for (let v = 0; v < N; v++) named.add(String(v))
        for (const [a, b] of list) named.join(String(a), String(b))
        const numbers = named.numbers()
        const column = (i: 0 | 1) => Int32Array.from(list.map(e => e[i]))
        const { of, count } = groupNodes(N, column(0), column(1))
        expect(named.count).toBe(count)
        expect(new Set(numbers.values())).toEqual(new Set(Array.from({ length: count }, (_, i) => i)))
        for (let a = 0; a < N; a++)
          for (let b = 0; b < N; b++) {
            expect(of[a] === of[b]).toBe(way[a]![b])
            expect(numbers.get(String(a)) === numbers.get(String(b))).toBe(way[a]![b])
            expect(named.root(String(a)) === named.root(String(b))).toBe(way[a]![b])
          }
      }),
    )
  })
  it('count a name once, however often it is added or joined', () => {
    const groups = new Groups()
    groups.add('a')
    groups.add('a')
    groups.join('a', 'b')
    groups.join('b', 'a')
    expect([groups.count, groups.has('b'), groups.has('c')]).toEqual([1, true, false])
    expect([...groups.numbers()]).toEqual([
      ['a', 0],
      ['b', 0],
    ])
  })
})
