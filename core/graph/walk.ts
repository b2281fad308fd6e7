/** Everything reached from a start by steps, the start included. */
export function reach<T>(starts: Iterable<T>, next: (at: T) => Iterable<T>): Set<T> {
  const seen = new Set<T>(starts)
  const waiting = [...seen]
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    for (const other of next(at)) {
      if (seen.has(other)) continue
      seen.add(other)
      waiting.push(other)
    }
  }
  return seen
}

/** Lists by key: a map that makes a list when it is first asked for. */
export class ListMap<K, V> {
  private readonly lists = new Map<K, V[]>()

  put(key: K, value: V) {
    const list = this.lists.get(key)
    if (list) list.push(value)
    else this.lists.set(key, [value])
  }

  at(key: K): readonly V[] {
    return this.lists.get(key) ?? NONE
  }
}

const NONE: readonly never[] = []
