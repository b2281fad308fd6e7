import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Coupling } from '../../../core/circuit/coupling'
import { analyse, factor, solveFactored, solveUnit } from '../../../core/circuit/ldl'

/** A conductance network: edges with siemens, and siemens to ground at each node; positive definite by construction. */
const aNetwork = fc.integer({ min: 2, max: 12 }).chain(n =>
  fc.record({
    n: fc.constant(n),
    edges: fc.uniqueArray(
      fc.tuple(fc.nat(n - 1), fc.nat(n - 1)).filter(([a, b]) => a < b),
      { selector: ([a, b]) => a * 100 + b, maxLength: 20 },
    ),
    siemens: fc.array(fc.double({ min: 0.01, max: 100, noNaN: true }), { minLength: 40, maxLength: 40 }),
    b: fc.array(fc.double({ min: -10, max: 10, noNaN: true }), { minLength: n, maxLength: n }),
  }),
)

/** How many neighbours each node of a network has at the time it is taken out, and the least that any had then. */
function degrees(n: number, edges: readonly [number, number][], position: Int32Array) {
  const near = Array.from({ length: n }, () => new Set<number>())
  for (const [a, b] of edges) {
    near[a]!.add(b)
    near[b]!.add(a)
  }
  const order = [...position.keys()].sort((a, b) => position[a]! - position[b]!)
  return order.map((v, i) => {
    const left = order.slice(i)
    const least = Math.min(...left.map(u => near[u]!.size))
    const mine = [...near[v]!]
    for (const u of mine) near[u]!.delete(v)
    for (const u of mine) for (const w of mine) if (u !== w) near[u]!.add(w)
    return { own: mine.length, least }
  })
}

/** Gaussian elimination with pivoting, for comparison. */
function dense(a: number[][], b: number[]): number[] {
  const n = b.length
  const m = a.map((row, i) => [...row, b[i]!])
  for (let k = 0; k < n; k++) {
    const p = m.reduce((best, row, i) => (i >= k && Math.abs(row[k]!) > Math.abs(m[best]![k]!) ? i : best), k)
    ;[m[k], m[p]] = [m[p]!, m[k]!]
    for (let i = k + 1; i < n; i++) {
      const ratio = m[i]![k]! / m[k]![k]!
      for (let j = k; j <= n; j++) m[i]![j]! -= ratio * m[k]![j]!
    }
  }
  const x = new Array<number>(n).fill(0)
  for (let k = n - 1; k >= 0; k--)
    x[k] = (m[k]![n]! - m[k]!.slice(k + 1, n).reduce((s, v, j) => s + v * x[k + 1 + j]!, 0)) / m[k]![k]!
  return x
}

/** The network as a full matrix. */
function matrixOf(n: number, edges: [number, number][], siemens: number[]): number[][] {
  const matrix = Array.from({ length: n }, () => new Array<number>(n).fill(0))
  for (let v = 0; v < n; v++) matrix[v]![v]! += siemens[v]!
  edges.forEach(([i, j], e) => {
    const g = siemens[20 + (e % 20)]!
    matrix[i]![j]! -= g
    matrix[j]![i]! -= g
    matrix[i]![i]! += g
    matrix[j]![j]! += g
  })
  return matrix
}

/** The same matrix in the solver's order, factored, with the right-hand side beside it. */
function factored(matrix: number[][], edges: [number, number][], b: number[]) {
  const n = b.length
  const pattern = analyse(n, edges)
  const diagonal = new Float64Array(n)
  const entries = new Float64Array(pattern.rowOf.length)
  const x = new Float64Array(n)
  for (let v = 0; v < n; v++) {
    diagonal[pattern.position[v]!] = matrix[v]![v]!
    x[pattern.position[v]!] = b[v]!
  }
  edges.forEach(([i, j], e) => (entries[pattern.edgeEntry[e]!] = matrix[i]![j]!))
  expect(factor(pattern, diagonal, entries)).toBe(true)
  return { pattern, diagonal, entries, x }
}

describe('sparse LDLᵀ', () => {
  it('solves what Gaussian elimination solves', () => {
    fc.assert(
      fc.property(aNetwork, ({ n, edges, siemens, b }) => {
        const matrix = matrixOf(n, edges, siemens)
        const { pattern, diagonal, entries, x } = factored(matrix, edges, b)
        solveFactored(pattern, diagonal, entries, x)
        const expected = dense(matrix, b)
        for (let v = 0; v < n; v++) expect(x[pattern.position[v]!]).toBeCloseTo(expected[v]!, 6)
      }),
    )
  })

  it('solves for one unit entry, its own node first, and leaves nothing behind where no more is wanted', () => {
    fc.assert(
      fc.property(aNetwork, fc.nat(11), ({ n, edges, siemens, b }, at) => {
        const node = at % n
        const matrix = matrixOf(n, edges, siemens)
        const { pattern, diagonal, entries } = factored(matrix, edges, b)
        const unit = Array.from({ length: n }, (_, v) => Number(v === node))
        const expected = dense(matrix, unit)
        const k = pattern.position[node]!
        const x = new Float64Array(n)
        expect(solveUnit(pattern, diagonal, entries, k, x, false)).toBeCloseTo(expected[node]!, 6)
        expect([...x]).toEqual(new Array(n).fill(0))
        expect(solveUnit(pattern, diagonal, entries, k, x, true)).toBeCloseTo(expected[node]!, 6)
        for (let v = 0; v < n; v++) expect(x[pattern.position[v]!]).toBeCloseTo(expected[v]!, 6)
      }),
      { seed: 8 },
    )
  })

  it('takes out a node with as few neighbours as any has by then', () => {
    fc.assert(
      fc.property(aNetwork, ({ n, edges }) => {
        for (const { own, least } of degrees(n, edges, analyse(n, edges).position))
          expect(own).toBeLessThanOrEqual(Math.max(1, least))
      }),
    )
  })
  it('fills nothing on a tree', () => {
    const edges = Array.from({ length: 99 }, (_, i) => [Math.floor(i / 3), i + 1] as const)
    const pattern = analyse(100, edges)
    expect(pattern.rowOf).toHaveLength(99)
    expect(pattern.pairTarget).toHaveLength(0)
  })

  it('says when a matrix is not positive definite', () => {
    const pattern = analyse(2, [[0, 1]])
    expect(factor(pattern, Float64Array.from([1, 1]), Float64Array.from([-2]))).toBe(false)
    expect(factor(pattern, Float64Array.from([0, 1]), Float64Array.from([0]))).toBe(false)
  })

  it('takes two edges between the same nodes as one entry', () => {
    const pattern = analyse(2, [
      [0, 1],
      [1, 0],
    ])
    expect(pattern.edgeEntry[0]).toBe(pattern.edgeEntry[1])
    expect(pattern.rowOf).toHaveLength(1)
  })
})

describe('couples beside the matrix', () => {
  const siemens = fc.double({ min: -3, max: 3, noNaN: true })
  const aCouple = fc.record({ perInput: siemens, perOutput: siemens, lift: siemens })

  it('are solved with it as Gaussian elimination solves all of it', () => {
    fc.assert(
      fc.property(aNetwork, fc.array(aCouple, { maxLength: 4 }), ({ n, edges, siemens: s, b }, couples) => {
        const matrix = matrixOf(n, edges, s)
        const { pattern, diagonal, entries, x } = factored(matrix, edges, b)
        // In a small network some of them share a node, or stand between a node and itself.
        const pairs = couples.map((_, i) => [(2 * i) % n, (2 * i + 1) % n] as const)
        const coupling = new Coupling(
          pattern,
          pairs.map(([input, output]) => [pattern.position[input]!, pattern.position[output]!]),
        )
        couples.forEach((couple, i) => {
          coupling.put(i, couple)
          const [input, output] = pairs[i]!
          matrix[input]![input]! += couple.perInput
          matrix[input]![output]! += couple.perOutput
          matrix[output]![input]! -= couple.lift
        })
        const expected = dense(matrix, b)
        fc.pre(expected.every(v => Math.abs(v) < 1e3))
        expect(coupling.solve(diagonal, entries, x)).toBe(true)
        for (let v = 0; v < n; v++) expect(x[pattern.position[v]!]).toBeCloseTo(expected[v]!, 5)
      }),
      { seed: 8, numRuns: 300 },
    )
  })

  it('that leave a matrix without a solution are told apart', () => {
    // 2 S and what is given for each volt there, −2 S: any voltage would do.
    const solved = (perInput: number) => {
      const pattern = analyse(1, [])
      const coupling = new Coupling(pattern, [[0, 0]])
      coupling.put(0, { perInput, perOutput: 0, lift: 0 })
      const diagonal = Float64Array.of(2)
      expect(factor(pattern, diagonal, new Float64Array(0))).toBe(true)
      const x = Float64Array.of(3)
      return coupling.solve(diagonal, new Float64Array(0), x) && x[0]
    }
    expect(solved(-2)).toBe(false)
    expect(solved(1)).toBeCloseTo(1, 12)
  })
})
