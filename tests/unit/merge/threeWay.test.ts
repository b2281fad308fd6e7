import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { threeWay } from '../../../core/merge/threeWay'

interface Thing {
  id: string
  words: string
  count: number
  tags: string[]
}
const thing = (id: string, more: Partial<Thing> = {}): Thing => ({ id, words: `of ${id}`, count: 1, tags: [], ...more })
const ids = (list: readonly Thing[]) => list.map(t => t.id).sort()

const word = fc.constantFrom('a', 'b', 'c', 'd')
const things = fc.uniqueArray(
  fc.record({ id: word, words: word, count: fc.nat(3), tags: fc.uniqueArray(word, { maxLength: 3 }) }),
  { selector: t => t.id, maxLength: 4 },
)
const document = fc.record({ name: word, list: things, note: fc.option(word, { nil: undefined }) })

describe('what two windows made of one thing', () => {
  it('is what one of them made, where the other changed nothing', () => {
    fc.assert(
      fc.property(document, document, (base, changed) => {
        const plain = (x: unknown) => JSON.parse(JSON.stringify(x)) as unknown
        const [a, b] = [threeWay(base, changed, base), threeWay(base, base, changed)]
        expect([plain(a.value), a.clashes]).toEqual([plain(changed), []])
        expect([plain(b.value), b.clashes]).toEqual([plain(changed), []])
      }),
    )
  })
  it('has what either added and nothing that one took out and the other left alone', () => {
    fc.assert(
      fc.property(things, things, things, (base, mine, theirs) => {
        const { value } = threeWay(base, mine, theirs, { renames: true })
        const [b, m, t] = [base, mine, theirs].map(list => new Map(list.map(x => [x.id, x])))
        for (const { id } of [...mine, ...theirs])
          if (!b!.has(id)) expect(value.some(v => v.id === id || v.id.startsWith(`${id}-`))).toBe(true)
        for (const [id, was] of b!) {
          const [own, other] = [m!.get(id), t!.get(id)]
          const unchanged = (x: Thing | undefined) => x !== undefined && JSON.stringify(x) === JSON.stringify(was)
          if ((!own && unchanged(other)) || (!other && unchanged(own))) expect(ids(value)).not.toContain(id)
          // What one changed and the other took out is kept.
          if (!own && other && !unchanged(other)) expect(ids(value)).toContain(id)
        }
        expect(new Set(ids(value)).size).toBe(value.length)
      }),
    )
  })
  it('is the same whichever is merged into whichever, where they do not clash', () => {
    fc.assert(
      fc.property(document, document, document, (base, mine, theirs) => {
        const [a, b] = [threeWay(base, mine, theirs), threeWay(base, theirs, mine)]
        if (a.clashes.length || b.clashes.length) return
        const sorted = (d: typeof a.value) => ({ ...d, list: [...d.list].sort((x, y) => x.id.localeCompare(y.id)) })
        const tagged = (d: typeof a.value) =>
          JSON.stringify(
            sorted(d),
            (_k, v: unknown) => (Array.isArray(v) && v.every(x => typeof x === 'string') ? [...v].sort() : v),
            0,
          )
        const keys = (text: string) => [...text].sort().join('')
        expect(keys(tagged(a.value))).toBe(keys(tagged(b.value)))
      }),
    )
  })
})

describe('field by field', () => {
  const base = [thing('a'), thing('b')]
  it('a change of one field by each is both', () => {
    const { value, clashes } = threeWay(
      base,
      [thing('a', { words: 'mine' }), thing('b')],
      [thing('a', { count: 9 }), thing('b')],
    )
    expect([value, clashes]).toEqual([[thing('a', { words: 'mine', count: 9 }), thing('b')], []])
  })
  it('the same field in two ways is told, and mine stands', () => {
    const { value, clashes } = threeWay(
      base,
      [thing('a', { words: 'mine' }), thing('b')],
      [thing('a', { words: 'theirs' }), thing('b')],
    )
    expect(value[0]!.words).toBe('mine')
    expect(clashes).toEqual(['/a/words'])
  })
  it('tags: what each added is there, what one took out is not', () => {
    const was = thing('a', { tags: ['x', 'y'] })
    const { value } = threeWay(was, { ...was, tags: ['x', 'y', 'm'] }, { ...was, tags: ['y', 't'] })
    expect([...value.tags].sort()).toEqual(['m', 't', 'y'])
  })
  it('figures in a row are not mixed', () => {
    const { value, clashes } = threeWay({ curve: [1, 2, 3] }, { curve: [1, 2, 4] }, { curve: [0, 2, 3] })
    expect([value.curve, clashes]).toEqual([[1, 2, 4], ['/curve']])
  })
})

describe('two things added under one id', () => {
  const [mine, theirs] = [thing('c1', { words: 'hiss' }), thing('c1', { words: 'buzz' })]
  it('are both kept', () => {
    const { value, clashes } = threeWay<Thing[]>([], [mine], [theirs], { renames: true })
    expect(value.map(t => [t.id, t.words])).toEqual([
      ['c1', 'buzz'],
      ['c1-2', 'hiss'],
    ])
    expect(clashes).toEqual([])
  })
  it('clash where other things may point to it', () => {
    expect(threeWay<Thing[]>([], [mine], [theirs]).clashes).toEqual(['/c1'])
  })
  it('are one where they say the same', () => {
    expect(threeWay<Thing[]>([], [mine], [{ ...mine }], { renames: true }).value).toEqual([mine])
  })
})
