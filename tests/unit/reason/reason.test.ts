import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { contradictionsIn, doubtsIn, misfitsOf, movedByAll } from '../../../core/reason/findings'
import { answersBy, eachOf, inTwos, massOf, mixed } from '../../../core/reason/hypotheses'
import { entropyBits, movedBy, normalised, sumOf } from '../../../core/reason/odds'
import { rateOf, toldBy } from '../../../core/reason/tests'

const likelihood = fc.double({ min: 0.01, max: 1, noNaN: true })
const rowOf = (n: number) => fc.array(likelihood, { minLength: n, maxLength: n })

/** A room made up here: three causes, alone or two at once, and findings at random. */
const room = fc.record({ odds: rowOf(3), rows: fc.array(rowOf(6), { minLength: 1, maxLength: 5 }) })
const hypotheses = (odds: number[]) =>
  mixed([
    { share: 0.7, all: normalised(odds).map((o, i) => ({ of: [i], odds: o })) },
    { share: 0.3, all: inTwos(odds, () => true) },
  ])

describe('odds', () => {
  it('of probabilities made whole', () => {
    expect(normalised([1, 3])).toEqual([0.25, 0.75])
    expect(entropyBits([0.25, 0.25, 0.25, 0.25])).toBe(2)
    expect(entropyBits([1, 0])).toBeCloseTo(0, 12)
  })
  it('by hand: one in ten, found by a test right nine times in ten, is one in two', () => {
    const { odds, expected } = movedBy([0.1, 0.9], [0.9, 0.1])
    expect(odds).toEqual([0.5, 0.5])
    expect(expected).toBeCloseTo(0.18, 12)
  })
})

describe('hypotheses', () => {
  it('by hand: two alone and the two together, each class with its share', () => {
    const singles = [0.75, 0.25].map((odds, i) => ({ of: [i], odds }))
    const all = mixed([
      { share: 0.9, all: singles },
      { share: 0.1, all: inTwos([0.75, 0.25], () => true) },
    ])
    expect(all.map(h => h.odds)).toEqual([0.675, 0.225, 0.1].map(v => expect.closeTo(v, 12) as number))
    expect(
      eachOf(
        all.map(h => h.of),
        all.map(h => h.odds),
        2,
      ),
    ).toEqual([expect.closeTo(0.775, 12), expect.closeTo(0.325, 12)])
  })
  it('a class of none gives its share to the others', () => {
    const alone = mixed([
      { share: 0.9, all: [{ odds: 2 }, { odds: 6 }] },
      { share: 0.1, all: [] },
    ])
    expect(alone.map(h => h.odds)).toEqual([0.25, 0.75])
  })
  it('only those come in twos that may be there at once', () => {
    expect(inTwos([0.5, 0.3, 0.2], (i, j) => i !== 0 && j !== 0).map(h => h.of)).toEqual([[1, 2]])
  })
  it('of one key are one answer, and its probability is theirs', () => {
    const answers = answersBy(['a', 'b', 'a', 'c'], h => h)
    expect([...answers.of]).toEqual([0, 1, 0, 2])
    expect(answers.first).toEqual([0, 1, 3])
    expect([...massOf(answers, [0.1, 0.2, 0.3, 0.4])]).toEqual([expect.closeTo(0.4, 12), 0.2, 0.4])
  })
})

describe('findings', () => {
  it('move the odds as counting every case does, in whatever order they were made', () => {
    fc.assert(
      fc.property(room, ({ odds, rows }) => {
        const all = hypotheses(odds)
        const moved = movedByAll(
          all.map(h => h.odds),
          rows,
        )
        // Counted: of all cases those in which every finding came out as it did.
        const cases = all.map((h, i) => rows.reduce((p, row) => p * row[i]!, h.odds))
        moved.forEach((p, i) => expect(p).toBeCloseTo(cases[i]! / sumOf(cases), 9))
        const other = movedByAll(
          all.map(h => h.odds),
          [...rows].reverse(),
        )
        moved.forEach((p, i) => expect(other[i]).toBeCloseTo(p, 9))
      }),
    )
  })
  it('of a long log never multiply down to nothing', () => {
    const [first, second] = movedByAll(
      [0.5, 0.5],
      Array.from({ length: 5000 }, (_, i) => (i % 2 ? [1e-4, 1e-3] : [1e-3, 1e-4])),
    )
    expect(first! + second!).toBeCloseTo(1, 9)
    expect(first).toBeCloseTo(0.5, 6)
  })
  it('by hand: what only a slip explains is doubted by that share', () => {
    const rows = [
      { whole: [0.02, 0.5], clean: [0.005, 0.49] },
      { whole: [0.9, 0.9], clean: [0.88, 0.88] },
    ]
    expect(doubtsIn(rows, [1, 0])).toEqual([{ index: 0, probability: expect.closeTo(0.75, 12) as number }])
    expect(doubtsIn(rows, [0, 1])).toEqual([])
  })
  it('contradict each other where no one cause does for both', () => {
    const clean = (row: number[]) => ({ whole: row, clean: row })
    const rows = [clean([0.9, 0.05]), clean([0.05, 0.9]), clean([0.5, 0.5])]
    expect(contradictionsIn(rows)).toEqual([[0, 1]])
    expect(misfitsOf(rows, [0.8, 0.2], h => h === 0)).toEqual([1])
  })
})

describe('what a test tells', () => {
  it('is one bit where it tells two like causes apart for sure, none where it shows the same', () => {
    expect(
      toldBy(
        [0.5, 0.5],
        [
          [1, 0],
          [0, 1],
        ],
      ).bits,
    ).toBeCloseTo(1, 12)
    expect(
      toldBy(
        [0.5, 0.5],
        [
          [0.7, 0.7],
          [0.3, 0.3],
        ],
      ).bits,
    ).toBeCloseTo(0, 12)
  })
  it('by hand: right nine times in ten, 1 − H(0.9) = 0.531 bits', () => {
    expect(
      toldBy(
        [0.5, 0.5],
        [
          [0.9, 0.1],
          [0.1, 0.9],
        ],
      ).bits,
    ).toBeCloseTo(0.531, 3)
  })
  it('is nothing where it tells apart what is one answer', () => {
    const answers = answersBy(['a', 'a', 'b'], h => h)
    expect(
      toldBy(
        [0.25, 0.25, 0.5],
        [
          [1, 0, 0.5],
          [0, 1, 0.5],
        ],
        answers,
      ).bits,
    ).toBeCloseTo(0, 12)
    expect(
      toldBy(
        [0.25, 0.25, 0.5],
        [
          [1, 1, 0],
          [0, 0, 1],
        ],
        answers,
      ).bits,
    ).toBeCloseTo(1, 12)
  })
  it('is never more than is open, and the mean of what is believed after is what was before', () => {
    fc.assert(
      fc.property(rowOf(6), rowOf(6), (odds, row) => {
        const before = normalised(odds)
        const { bits, prospects } = toldBy(before, [row, row.map(l => 1 - l)])
        expect(bits).toBeLessThanOrEqual(entropyBits(before) + 1e-9)
        before.forEach((p, i) => expect(sumOf(prospects.map(o => o.joint[i]!))).toBeCloseTo(p, 9))
      }),
    )
  })
  it('costs its minutes, and its euros as minutes', () => {
    expect(rateOf(1, { minutes: 4, euro: 0 })).toBe(0.25)
    expect(rateOf(1, { minutes: 4, euro: 4 })).toBe(0.1)
  })
})
