/**
 * What is tried on many made-up cases is tried on each of them by `./run bench seeds`, and by the tests on one in so
 * many.
 */
export const isWhole = process.env.WIREMAN_WHOLE === '1' || process.env.WIREMAN_RECORD === '1'

export const sampled = <T>(all: readonly T[], oneIn = 3): T[] =>
  isWhole ? [...all] : all.filter((_, i) => i % oneIn === 0)

/** What is answered for the first seeds, by seed; a seed that makes nothing has no answer. */
export function bySeed<T>(make: (seed: number) => T | null, seeds: number, answer: (made: T) => unknown) {
  const asked = sampled(Array.from({ length: seeds }, (_, i) => i + 1))
  return Object.fromEntries(
    asked.flatMap(seed => {
      const made = make(seed)
      return made === null ? [] : [[`seed ${seed}`, answer(made)]]
    }),
  )
}

/** Of answers recorded by group and name those that a sample has: a name that was never recorded is told. */
export function partOf(recorded: Groups, answer: Groups): Groups {
  const groups = Object.entries(answer).map(([group, answers]) => {
    const held = Object.keys(answers).map(name => [name, recorded[group]?.[name]])
    return [group, Object.fromEntries(held)]
  })
  return Object.fromEntries(groups) as Groups
}
type Groups = Record<string, Record<string, unknown>>
