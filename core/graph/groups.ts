/** Names joined into groups (union–find): terminals that are one node, nodes that are one network. */
export class Groups {
  private readonly parent = new Map<string, string>()
  count = 0

  add(name: string) {
    if (this.parent.has(name)) return
    this.parent.set(name, name)
    this.count++
  }

  has(name: string): boolean {
    return this.parent.has(name)
  }

  /** The one name that stands for a group. */
  root(name: string): string {
    let r = name
    while (this.parent.get(r) !== r) r = this.parent.get(r)!
    for (let v = name; v !== r;) {
      const next = this.parent.get(v)!
      this.parent.set(v, r)
      v = next
    }
    return r
  }

  /** Makes one group of two; names not yet known are added. */
  join(a: string, b: string) {
    this.add(a)
    this.add(b)
    const ra = this.root(a)
    const rb = this.root(b)
    if (ra === rb) return
    this.parent.set(ra, rb)
    this.count--
  }

  /** Number of each name's group, 0 … count − 1, in the order in which the names were added. */
  numbers(): Map<string, number> {
    const numberOfRoot = new Map<string, number>()
    return new Map(
      [...this.parent.keys()].map(name => {
        const r = this.root(name)
        if (!numberOfRoot.has(r)) numberOfRoot.set(r, numberOfRoot.size)
        return [name, numberOfRoot.get(r)!]
      }),
    )
  }
}

/** Number of each node's group, where edges join nodes 0 … n − 1. */
export function groupNodes(n: number, from: Int32Array, to: Int32Array): { of: Int32Array; count: number } {
  const parent = Int32Array.from({ length: n }, (_, v) => v)
  const root = (v: number): number => {
    while (parent[v] !== v) v = parent[v] = parent[parent[v]!]!
    return v
  }
  for (let i = 0; i < from.length; i++) parent[root(from[i]!)] = root(to[i]!)
  const number = new Int32Array(n).fill(-1)
  let count = 0
  const of = new Int32Array(n)
  for (let v = 0; v < n; v++) {
    const r = root(v)
    if (number[r]! < 0) number[r] = count++
    of[v] = number[r]!
  }
  return { of, count }
}
