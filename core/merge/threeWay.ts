/**
 * Two values that grew from one, in two windows: what either changed, added or took out is in the result. Things in
 * lists are told apart by their `id`; lists of words and of things without one by what they say.
 */

export interface Merged<T> {
  value: T
  /** Where both changed the same thing in two ways: there mine stands. As `/cases/c1/title`. */
  clashes: string[]
}

type Json = unknown
type Fields = Record<string, Json>
interface Item extends Fields {
  id: string
}

const says = (value: Json) => JSON.stringify(value)
const same = (a: Json, b: Json) => a === b || says(a) === says(b)
const isFields = (value: Json): value is Fields => typeof value === 'object' && value !== null && !Array.isArray(value)
const hasIds = (list: readonly Json[]): list is Item[] =>
  list.every(x => isFields(x) && typeof x.id === 'string') &&
  new Set((list as Item[]).map(x => x.id)).size === list.length
/** Figures in a row mean nothing apart. */
const isSet = (list: readonly Json[]) => list.every(x => typeof x === 'string' || isFields(x))

/**
 * @param base what both started from
 * @param renames whether two things added under one id at the same moment are both kept, mine under another; else that
 * is a clash
 */
export function threeWay<T>(base: T, mine: T, theirs: T, { renames = false } = {}): Merged<T> {
  const clashes: string[] = []
  const clash = (path: string, mine: Json): Json => {
    clashes.push(path || '/')
    return mine
  }

  function of(b: Json, m: Json, t: Json, path: string): Json {
    if (same(m, t) || same(b, t)) return m
    if (same(b, m)) return t
    if (isFields(m) && isFields(t)) return ofFields(isFields(b) ? b : {}, m, t, path)
    if (Array.isArray(m) && Array.isArray(t)) {
      const was = Array.isArray(b) ? (b as Json[]) : []
      if (hasIds(m) && hasIds(t) && hasIds(was)) return ofItems(was, m, t, path)
      if (isSet(m) && isSet(t)) return ofSet(was, m, t)
    }
    // What one took out and the other changed is kept as it was changed.
    if (m === undefined) return t
    if (t === undefined) return m
    return clash(path, m)
  }

  function ofFields(b: Fields, m: Fields, t: Fields, path: string): Fields {
    const keys = [...new Set([...Object.keys(m), ...Object.keys(t)])]
    return Object.fromEntries(
      keys.flatMap(key => {
        const value = of(b[key], m[key], t[key], `${path}/${key}`)
        return value === undefined ? [] : [[key, value]]
      }),
    )
  }

  function ofItems(b: readonly Item[], m: readonly Item[], t: readonly Item[], path: string): Item[] {
    const [was, mine, theirs] = [b, m, t].map(list => new Map(list.map(x => [x.id, x]))) as [
      Map<string, Item>,
      Map<string, Item>,
      Map<string, Item>,
    ]
    const ids = [...new Set([...theirs.keys(), ...mine.keys()])]
    const taken = new Set(ids)
    const fresh = (id: string): string => {
      for (let n = 2; ; n++) if (!taken.has(`${id}-${n}`)) return `${id}-${n}`
    }
    return ids.flatMap((id): Item[] => {
      const [before, own, other] = [was.get(id), mine.get(id), theirs.get(id)]
      const addedTwice = !before && own && other && !same(own, other)
      if (addedTwice && renames) {
        const other_ = fresh(id)
        taken.add(other_)
        return [other, { ...own, id: other_ }]
      }
      if (addedTwice) return [clash(`${path}/${id}`, own) as Item]
      const value = of(before, own, other, `${path}/${id}`)
      return value === undefined ? [] : [value as Item]
    })
  }

  return { value: of(base, mine, theirs, '') as T, clashes }
}

/** Each that was there or was added, less what either took out. */
function ofSet(b: readonly Json[], m: readonly Json[], t: readonly Json[]): Json[] {
  const [was, mine, theirs] = [b, m, t].map(list => new Set(list.map(says)))
  const all = [...t, ...m.filter(x => !theirs!.has(says(x)))]
  const stays = (x: Json) => {
    const word = says(x)
    return !was!.has(word) || (mine!.has(word) && theirs!.has(word))
  }
  return all.filter(stays)
}
