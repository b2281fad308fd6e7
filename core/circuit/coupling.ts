import { back, forward, forwardUnit, pathsOf, type LdlPattern } from './ldl'

/** How a converter's two nodes hang together, S. */
export interface Couple {
  /** More is taken at its input for each volt there and at its output. */
  perInput: number
  perOutput: number
  /** More is given at its output for each volt at its input. */
  lift: number
}

/** A node behind a diode that blocks feels of itself more than this for what is lifted by it: the figures run out. */
const LOOSEST = 1e10

/**
 * What converters add to the symmetric matrix of a network: what is taken at one node for what is given at another.
 * Few rows against many nodes, so the factored matrix is kept and the rows are worked in by Woodbury's formula
 * (Golub and Van Loan, Matrix Computations, 2.1.4). With A = L·D·Lᵀ, what one node feels of another is the product of
 * L⁻¹e of both, and that is nothing outside of their ways up the elimination tree.
 */
export class Coupling {
  private readonly couples: Couple[]
  /** Those whose input nothing holds: what it lifts is left out of the step. */
  readonly isLoose: boolean[]
  private readonly nodes: readonly number[]
  private readonly paths: Int32Array[]
  private readonly columns: Float64Array[]
  /** What each coupled node feels of each with a row. */
  private readonly felt: Float64Array[]
  private readonly small: Float64Array[]
  /** Coupled nodes that have a row, in its order. */
  private readonly rowNode: Int32Array
  /** What each input feels of itself, Ω. */
  private readonly ownFelt: Float64Array

  /** `pairs`: of each converter the positions of its input and its output. */
  constructor(
    private readonly pattern: LdlPattern,
    pairs: readonly (readonly [input: number, output: number])[],
  ) {
    this.nodes = pairs.flat()
    this.couples = pairs.map(() => ({ perInput: 0, perOutput: 0, lift: 0 }))
    this.isLoose = pairs.map(() => false)
    this.paths = pathsOf(pattern, this.nodes)
    this.columns = this.nodes.map(() => new Float64Array(pattern.n))
    this.felt = this.nodes.map(() => new Float64Array(this.nodes.length + 1))
    this.small = this.nodes.map(() => new Float64Array(this.nodes.length + 1))
    this.rowNode = new Int32Array(this.nodes.length)
    this.ownFelt = new Float64Array(pairs.length)
  }

  put(i: number, couple: Couple) {
    this.couples[i] = couple
  }

  /** Solves the factored matrix and the couples for `x`, in place. @returns false where they have no solution */
  solve(diagonal: Float64Array, entries: Float64Array, x: Float64Array): boolean {
    const { pattern, small } = this
    forward(pattern, entries, x)
    const count = this.chooseRows()
    if (count) {
      this.feel(diagonal, entries, x, count)
      this.putRows(count)
      if (!eliminate(small, count)) return false
      for (let k = 0; k < count; k++) this.take(this.rowNode[k]!, small[k]![count]!, x)
    }
    back(pattern, diagonal, entries, x)
    return true
  }

  /** A regulated converter has one row, at its input; what passes its input on has one at its output too. */
  private chooseRows(): number {
    let count = 0
    for (let i = 0; i < this.couples.length; i++) {
      const { perInput, perOutput, lift } = this.couples[i]!
      if (perInput !== 0 || perOutput !== 0) this.rowNode[count++] = 2 * i
      if (lift !== 0) this.rowNode[count++] = 2 * i + 1
    }
    return count
  }

  /** Of each coupled node what it feels of those with a row, and of what `x` stands for (last). */
  private feel(diagonal: Float64Array, entries: Float64Array, x: Float64Array, count: number) {
    const { nodes, paths, columns, felt, pattern, couples, rowNode } = this
    for (let i = 0; i < nodes.length; i++) {
      const { perInput, perOutput, lift } = couples[i >> 1]!
      // A converter that gives nothing and passes nothing on is felt by none.
      if (perInput !== 0 || perOutput !== 0 || lift !== 0) forwardUnit(pattern, entries, paths[i]!, columns[i]!)
    }
    for (let i = 0; i < nodes.length; i++) {
      const { perInput, perOutput, lift } = couples[i >> 1]!
      const isRead = i % 2 === 0 ? perInput !== 0 || lift !== 0 : perOutput !== 0
      if (!isRead) continue
      for (let k = 0; k < count; k++) {
        const j = rowNode[k]!
        const shorter = paths[i]!.length < paths[j]!.length ? i : j
        felt[i]![k] = along(paths[shorter]!, diagonal, columns[i]!, columns[j]!)
      }
      felt[i]![count] = along(paths[i]!, diagonal, columns[i]!, x)
      if (i % 2 === 0 && lift !== 0) this.ownFelt[i >> 1] = along(paths[i]!, diagonal, columns[i]!, columns[i]!)
    }
  }

  private putRows(count: number) {
    const { felt, small, couples, rowNode } = this
    for (let k = 0; k < count; k++) {
      const i = rowNode[k]! >> 1
      const { perInput, perOutput, lift } = couples[i]!
      const isLoose = Math.abs(lift) * this.ownFelt[i]! > LOOSEST
      this.isLoose[i] = lift !== 0 && isLoose
      const [input, output] = [felt[2 * i]!, felt[2 * i + 1]!]
      const atInput = rowNode[k]! % 2 === 0
      const byInput = isLoose ? 0 : [-lift, perInput][Number(atInput)]!
      const byOutput = atInput ? perOutput : 0
      const row = small[k]!
      // What is not read has not been worked out either.
      for (let c = 0; c <= count; c++) row[c] = (byInput && byInput * input[c]!) + (byOutput && byOutput * output[c]!)
      row[k]! += 1
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
