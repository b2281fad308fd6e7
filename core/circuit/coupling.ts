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
  /** What each coupled node feels of each other one. */
  private readonly felt: Float64Array[]
  private readonly small: Float64Array[]

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
  }

  put(i: number, couple: Couple) {
    this.couples[i] = couple
  }

  /** Solves the factored matrix and the couples for `x`, in place. @returns false where they have no solution */
  solve(diagonal: Float64Array, entries: Float64Array, x: Float64Array): boolean {
    const { pattern, nodes, small } = this
    forward(pattern, entries, x)
    if (nodes.length) {
      this.feel(diagonal, entries, x)
      this.couples.forEach((c, i) => this.putRows(c, i))
      if (!eliminate(small, nodes.length)) return false
      for (let k = 0; k < nodes.length; k++) this.take(k, small[k]![nodes.length]!, x)
    }
    back(pattern, diagonal, entries, x)
    return true
  }

  /** The rows of one converter: at its input what it takes, at its output what its input lifts. */
  private putRows({ perInput, perOutput, lift }: Couple, i: number) {
    const { felt, small, nodes } = this
    const [input, output] = [felt[2 * i]!, felt[2 * i + 1]!]
    const isLoose = Math.abs(lift) * input[2 * i]! > LOOSEST
    this.isLoose[i] = isLoose
    const taken = isLoose ? 0 : perInput
    const lifted = isLoose ? 0 : lift
    for (let c = 0; c <= nodes.length; c++) {
      small[2 * i]![c] = taken * input[c]! + perOutput * output[c]!
      small[2 * i + 1]![c] = -lifted * input[c]!
    }
    small[2 * i]![2 * i]! += 1
    small[2 * i + 1]![2 * i + 1]! += 1
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
