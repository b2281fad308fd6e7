/**
 * Figures over a grid of several sizes, worked out where they are asked for and kept: straight between the points. A
 * run goes along a line through the grid and stays in one cell for many steps.
 */
export class Table {
  private readonly nodes = new Map<number, Float64Array>()
  /** Of each cell that was come by, what is wanted of its corners, one corner after the other; by what is wanted. */
  private readonly kept = new Map<Int32Array, Map<number, Float64Array>>()
  private wanted: Int32Array | null = null
  private block: Float64Array = new Float64Array(0)
  private readonly cell: Int32Array
  private readonly weights: Float64Array
  private readonly strides: number[]

  /**
   * @param knots of each dimension, rising
   * @param make the figures at one point of the grid
   */
  constructor(
    private readonly knots: readonly Float64Array[],
    private readonly make: (point: number[]) => Float64Array,
  ) {
    this.cell = new Int32Array(knots.length).fill(-1)
    this.weights = new Float64Array(2 ** knots.length)
    this.strides = knots.map((_, d) => knots.slice(0, d).reduce((n, k) => n * k.length, 1))
  }

  /** The figures at a place, those that are wanted; beyond the grid those of its edge. */
  at(place: Float64Array, wanted: Int32Array, out: Float64Array): void {
    const { knots, cell, weights } = this
    let moved = this.wanted !== wanted
    weights[0] = 1
    let filled = 1
    for (let d = 0; d < knots.length; d++) {
      const k = knots[d]!
      const x = place[d]!
      let i = cell[d]! < 0 ? 0 : cell[d]!
      while (i > 0 && x < k[i]!) i--
      while (i < k.length - 2 && x >= k[i + 1]!) i++
      if (i !== cell[d]) {
        cell[d] = i
        moved = true
      }
      const share = Math.min(1, Math.max(0, (x - k[i]!) / (k[i + 1]! - k[i]!)))
      for (let c = 0; c < filled; c++) {
        weights[c + filled] = weights[c]! * share
        weights[c]! *= 1 - share
      }
      filled *= 2
    }
    if (moved) this.block = this.blockOf(wanted)
    sumInto(out, wanted, this.block, weights)
  }

  private blockOf(wanted: Int32Array): Float64Array {
    this.wanted = wanted
    const { cell, strides } = this
    let blocks = this.kept.get(wanted)
    if (!blocks) this.kept.set(wanted, (blocks = new Map()))
    let index = 0
    for (let d = 0; d < cell.length; d++) index += cell[d]! * strides[d]!
    let block = blocks.get(index)
    if (!block) blocks.set(index, (block = this.gathered(wanted)))
    return block
  }

  private gathered(wanted: Int32Array): Float64Array {
    const corners = this.weights.length
    const block = new Float64Array(corners * wanted.length)
    for (let c = 0; c < corners; c++) {
      const corner = this.node(c)
      for (let w = 0; w < wanted.length; w++) block[c * wanted.length + w] = corner[wanted[w]!]!
    }
    return block
  }

  private node(corner: number): Float64Array {
    const { knots, cell, strides } = this
    const at = knots.map((_, d) => cell[d]! + ((corner >> d) & 1))
    const index = at.reduce((sum, i, d) => sum + i * strides[d]!, 0)
    let node = this.nodes.get(index)
    if (!node) this.nodes.set(index, (node = this.make(at.map((i, d) => knots[d]![i]!))))
    return node
  }
}

/** Each wanted figure as the weighted sum of its corners; four of them, as one store and one sun have, by hand. */
function sumInto(out: Float64Array, wanted: Int32Array, block: Float64Array, weights: Float64Array) {
  const n = wanted.length
  if (weights.length === 4) {
    const [a, b, c, d] = [weights[0]!, weights[1]!, weights[2]!, weights[3]!]
    for (let w = 0; w < n; w++)
      out[wanted[w]!] = a * block[w]! + b * block[n + w]! + c * block[2 * n + w]! + d * block[3 * n + w]!
    return
  }
  for (let w = 0; w < n; w++) {
    let sum = 0
    for (let c = 0, at = w; c < weights.length; c++, at += n) sum += weights[c]! * block[at]!
    out[wanted[w]!] = sum
  }
}
