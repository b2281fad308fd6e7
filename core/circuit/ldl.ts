/**
 * Sparse LDLᵀ of a symmetric positive definite matrix whose pattern is known beforehand: analysed once, factored often.
 * Rows are numbered in elimination order, so that nothing is permuted while solving.
 */
export interface LdlPattern {
  n: number
  /** Elimination position of each original node. */
  position: Int32Array
  /** Column k holds entries columnStart[k] … columnStart[k+1]−1; rowOf says their rows, all below k. */
  columnStart: Int32Array
  rowOf: Int32Array
  /** For each pair of entries (a before b) of a column in turn, the entry that their product changes. */
  pairTarget: Int32Array
  /** Entry of each given edge. */
  edgeEntry: Int32Array
}

/** Orders the nodes by least degree (leaves first, so trees fill nothing) and works out where values will stand. */
export function analyse(n: number, edges: readonly (readonly [number, number])[]): LdlPattern {
  const near: Set<number>[] = Array.from({ length: n }, () => new Set())
  for (const [a, b] of edges) {
    near[a]!.add(b)
    near[b]!.add(a)
  }
  const position = new Int32Array(n).fill(-1)
  const columns: number[][] = []
  const leaves: number[] = []
  for (let v = 0; v < n; v++) if (near[v]!.size <= 1) leaves.push(v)
  for (let k = 0; k < n; k++) {
    const v = nextNode(position, near, leaves)
    position[v] = k
    const around = [...near[v]!]
    columns.push(around)
    for (const a of around) {
      near[a]!.delete(v)
      for (const b of around) if (a !== b) near[a]!.add(b)
      if (near[a]!.size <= 1) leaves.push(a)
    }
  }
  const columnStart = new Int32Array(n + 1)
  const rows: number[] = []
  const entryAt = new Map<number, number>()
  columns.forEach((around, k) => {
    columnStart[k] = rows.length
    for (const row of around.map(v => position[v]!).sort((a, b) => a - b)) {
      entryAt.set(k * n + row, rows.length)
      rows.push(row)
    }
  })
  columnStart[n] = rows.length
  const targets: number[] = []
  for (let k = 0; k < n; k++) {
    for (let a = columnStart[k]!; a < columnStart[k + 1]!; a++) {
      for (let b = a + 1; b < columnStart[k + 1]!; b++) targets.push(entryAt.get(rows[a]! * n + rows[b]!)!)
    }
  }
  return {
    n,
    position,
    columnStart,
    rowOf: Int32Array.from(rows),
    pairTarget: Int32Array.from(targets),
    edgeEntry: Int32Array.from(edges, ([a, b]) => {
      const i = position[a]!
      const j = position[b]!
      return entryAt.get(i < j ? i * n + j : j * n + i)!
    }),
  }
}

function nextNode(position: Int32Array, near: Set<number>[], leaves: number[]): number {
  while (leaves.length) {
    const v = leaves.pop()!
    if (position[v]! < 0 && near[v]!.size <= 1) return v
  }
  let best = -1
  for (let v = 0; v < near.length; v++) {
    if (position[v]! < 0 && (best < 0 || near[v]!.size < near[best]!.size)) best = v
  }
  return best
}

/**
 * Factors in place: `diagonal` becomes 1/D, `entries` the strict lower triangle of L.
 * @returns false where a pivot is not positive: the matrix is not positive definite.
 */
export function factor(p: LdlPattern, diagonal: Float64Array, entries: Float64Array): boolean {
  const { n, columnStart, rowOf, pairTarget } = p
  let pair = 0
  let start = 0
  for (let k = 0; k < n; k++) {
    const d = diagonal[k]!
    if (!(d > 1e-14)) return false
    const inverse = 1 / d
    diagonal[k] = inverse
    const end = columnStart[k + 1]!
    for (let a = start; a < end; a++) {
      const value = entries[a]!
      const ratio = value * inverse
      diagonal[rowOf[a]!]! -= value * ratio
      for (let b = a + 1; b < end; b++) entries[pairTarget[pair++]!]! -= ratio * entries[b]!
      entries[a] = ratio
    }
    start = end
  }
  return true
}

/**
 * Solves L·D·Lᵀ·x = eₖ for one unit entry at position k: the way down touches only what k's elimination leads to.
 * `x` must be zero. @returns xₖ, known before the way back, which `back` does on wish.
 */
// Called for every place of a short study: no object is made for its arguments.
// eslint-disable-next-line max-params
export function solveUnit(
  p: LdlPattern,
  inverseDiagonal: Float64Array,
  entries: Float64Array,
  k: number,
  x: Float64Array,
  back: boolean,
): number {
  const { n, columnStart, rowOf } = p
  x[k] = 1
  let own = 0
  const touched: number[] = []
  for (let v = k; v < n;) {
    const xv = x[v]!
    own += xv * xv * inverseDiagonal[v]!
    touched.push(v)
    const end = columnStart[v + 1]!
    for (let a = columnStart[v]!; a < end; a++) x[rowOf[a]!]! -= entries[a]! * xv
    v = columnStart[v]! < end ? rowOf[columnStart[v]!]! : n
  }
  if (!back) {
    for (const v of touched) x[v] = 0
    return own
  }
  let end = columnStart[n]!
  for (let v = n - 1; v >= 0; v--) {
    let s = x[v]! * inverseDiagonal[v]!
    const first = columnStart[v]!
    for (let a = first; a < end; a++) s -= entries[a]! * x[rowOf[a]!]!
    x[v] = s
    end = first
  }
  return own
}

/** Solves L·D·Lᵀ·x = b in place. */
export function solveFactored(
  p: LdlPattern,
  inverseDiagonal: Float64Array,
  entries: Float64Array,
  x: Float64Array,
): void {
  forward(p, entries, x)
  back(p, inverseDiagonal, entries, x)
}

/** L⁻¹·x in place. */
export function forward(p: LdlPattern, entries: Float64Array, x: Float64Array): void {
  const { n, columnStart, rowOf } = p
  let start = 0
  for (let k = 0; k < n; k++) {
    const xk = x[k]!
    const end = columnStart[k + 1]!
    for (let a = start; a < end; a++) x[rowOf[a]!]! -= entries[a]! * xk
    start = end
  }
}

/** L⁻ᵀ·D⁻¹·x in place. */
export function back(p: LdlPattern, inverseDiagonal: Float64Array, entries: Float64Array, x: Float64Array): void {
  const { n, columnStart, rowOf } = p
  let end = columnStart[n]!
  for (let k = n - 1; k >= 0; k--) {
    let s = x[k]! * inverseDiagonal[k]!
    const first = columnStart[k]!
    for (let a = first; a < end; a++) s -= entries[a]! * x[rowOf[a]!]!
    x[k] = s
    end = first
  }
}

/** Of each position the way up the elimination tree: all that its elimination leads to. */
export function pathsOf({ n, columnStart, rowOf }: LdlPattern, positions: readonly number[]): Int32Array[] {
  return positions.map(k => {
    const path: number[] = []
    for (let v = k; v < n; v = columnStart[v]! < columnStart[v + 1]! ? rowOf[columnStart[v]!]! : n) path.push(v)
    return Int32Array.from(path)
  })
}

/** L⁻¹·eₖ into `x`, where k begins the path; nothing is written beside it. */
export function forwardUnit(p: LdlPattern, entries: Float64Array, path: Int32Array, x: Float64Array): void {
  const { columnStart, rowOf } = p
  for (let i = 1; i < path.length; i++) x[path[i]!] = 0
  x[path[0]!] = 1
  for (let i = 0; i < path.length; i++) {
    const v = path[i]!
    const xv = x[v]!
    const end = columnStart[v + 1]!
    for (let a = columnStart[v]!; a < end; a++) x[rowOf[a]!]! -= entries[a]! * xv
  }
}
