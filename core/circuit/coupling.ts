import { back, forward, forwardUnit, pathsOf, type LdlPattern } from './ldl'

/** An entry of a row: the slope at one of the coupled nodes, S. */
export interface Entry {
  at: number
  siemens: number
}

/**
 * What converters add to the symmetric matrix of a network: what is taken at one node for what is given at another.
 * Few rows against many nodes, so the factored matrix is kept and the rows are worked in by Woodbury's formula
 * (Golub and Van Loan, Matrix Computations, 2.1.4). With A = L·D·Lᵀ, what one node feels of another is the product of
 * L⁻¹e of both, and that is nothing outside of their ways up the elimination tree.
 */
export class Coupling {
  private count = 0
  private readonly rows: { at: number; first: Entry; second: Entry }[]
  private readonly paths: Int32Array[]
  private readonly columns: Float64Array[]
  /** What each coupled node feels of each other one. */
  private readonly felt: Float64Array[]
  private readonly small: Float64Array[]

  /** `nodes`: those that may be coupled, which rows name by their place here. */
  constructor(
    private readonly pattern: LdlPattern,
    private readonly nodes: readonly number[],
  ) {
    const most = nodes.length
    const none = () => ({ at: 0, siemens: 0 })
    this.rows = Array.from({ length: most }, () => ({ at: 0, first: none(), second: none() }))
    this.paths = pathsOf(pattern, nodes)
    this.columns = nodes.map(() => new Float64Array(pattern.n))
    this.felt = nodes.map(() => new Float64Array(most + 1))
    this.small = nodes.map(() => new Float64Array(most + 1))
  }

  clear() {
    this.count = 0
  }

  /** More flows out of the node `at` for each volt at those of two entries. */
  add(at: number, first: Entry, second: Entry) {
    this.rows[this.count++] = { at, first, second }
  }

  /** Solves the factored matrix and the rows for `x`, in place. @returns false where they have no solution */
  solve(diagonal: Float64Array, entries: Float64Array, x: Float64Array): boolean {
    const { pattern, count, rows, small, felt } = this
    forward(pattern, entries, x)
    if (count > 0) {
      this.feel(diagonal, entries, x)
      for (let k = 0; k < count; k++) {
        const { first, second } = rows[k]!
        const a = felt[first.at]!
        const b = felt[second.at]!
        for (let c = 0; c < count; c++) {
          const at = rows[c]!.at
          small[k]![c] = first.siemens * a[at]! + second.siemens * b[at]! + (k === c ? 1 : 0)
        }
        small[k]![count] = first.siemens * a[felt.length]! + second.siemens * b[felt.length]!
      }
      if (!eliminate(small, count)) return false
      for (let k = 0; k < count; k++) this.take(rows[k]!.at, small[k]![count]!, x)
    }
    back(pattern, diagonal, entries, x)
    return true
  }

  /** Of each coupled node what it feels of the others and, last, of what `x` stands for. */
  private feel(diagonal: Float64Array, entries: Float64Array, x: Float64Array) {
    const { nodes, paths, columns, felt, pattern } = this
    for (let i = 0; i < nodes.length; i++) forwardUnit(pattern, entries, paths[i]!, columns[i]!)
    for (let i = 0; i < nodes.length; i++) {
      for (let j = i; j < nodes.length; j++) {
        const shorter = paths[i]!.length < paths[j]!.length ? i : j
        felt[i]![j] = felt[j]![i] = along(paths[shorter]!, diagonal, columns[i]!, columns[j]!)
      }
      felt[i]![nodes.length] = along(paths[i]!, diagonal, columns[i]!, x)
    }
  }

  private take(at: number, share: number, x: Float64Array) {
    const column = this.columns[at]!
    for (const v of this.paths[at]!) x[v]! -= share * column[v]!
  }
}

function along(path: Int32Array, inverseDiagonal: Float64Array, a: Float64Array, b: Float64Array): number {
  let sum = 0
  for (let i = 0; i < path.length; i++) {
    const v = path[i]!
    sum += a[v]! * b[v]! * inverseDiagonal[v]!
  }
  return sum
}

/** Gauss with row exchange; the solution stands in column `n`. @returns false where the matrix is singular */
function eliminate(rows: Float64Array[], n: number): boolean {
  for (let k = 0; k < n; k++) {
    let best = k
    for (let r = k + 1; r < n; r++) if (Math.abs(rows[r]![k]!) > Math.abs(rows[best]![k]!)) best = r
    const pivotRow = rows[best]!
    rows[best] = rows[k]!
    rows[k] = pivotRow
    const pivot = pivotRow[k]!
    if (!(Math.abs(pivot) > LEAST_PIVOT)) return false
    for (let r = k + 1; r < n; r++) {
      const row = rows[r]!
      const ratio = row[k]! / pivot
      if (ratio === 0) continue
      for (let c = k; c <= n; c++) row[c]! -= ratio * pivotRow[c]!
    }
  }
  for (let k = n - 1; k >= 0; k--) {
    const row = rows[k]!
    let sum = row[n]!
    for (let c = k + 1; c < n; c++) sum -= row[c]! * rows[c]![n]!
    row[n] = sum / row[k]!
  }
  return true
}
const LEAST_PIVOT = 1e-12
