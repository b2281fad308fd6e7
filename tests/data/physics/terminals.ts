import { isPositive, isResistance, names, placesNamed, sourcesOf, terminalsNamed, terminalsOf, type Rule } from './said'

/** Where leads land on a part, and what is between them inside it. */
export const OF_TERMINALS: readonly Rule[] = [
  {
    says: 'a terminal is called by its part',
    broken: said => {
      const isOwn = (id: string) => id === said.part.id || id.startsWith(`${said.part.id}.`)
      return terminalsOf(said).flatMap(({ id }) => (isOwn(id) ? [] : [id]))
    },
  },
  {
    says: 'two terminals have two names',
    broken: said => {
      const ids = terminalsOf(said).map(t => t.id)
      return ids.filter((id, i) => ids.indexOf(id) !== i)
    },
  },
  {
    says: 'what it names is a terminal that it has',
    broken: said => {
      const named = terminalsNamed(said)
      const grown = said.kind.terminals(said.part, named)
      const own = new Set([...terminalsOf(said), ...grown].map(t => t.id))
      const inside = new Set(said.kind.links(said.part, []).flatMap(({ a, b }) => [a, b]))
      return [...named.filter(at => !own.has(at)), ...placesNamed(said).filter(at => !own.has(at) && !inside.has(at))]
    },
  },
  {
    says: 'a resistance is none below zero, and ends',
    broken: said => [
      ...names(
        said.kind.links(said.part, []),
        l => !isResistance(l.ohm),
        l => `${l.a} to ${l.b}`,
      ),
      ...names(
        sourcesOf(said),
        s => !isResistance(s.ohm),
        s => s.at,
      ),
      ...names(
        said.kind.passes(said.part),
        p => p.faultOhm !== null && !isResistance(p.faultOhm),
        p => p.from,
      ),
      ...said.kind.intoShort(said.part).flatMap(s => (s.kind === 'emf' && !isPositive(s.ohm) ? [s.at] : [])),
    ],
  },
  {
    says: 'a diode inside has a law',
    broken: ({ kind, part }) =>
      kind.links(part, []).flatMap(({ a, b, diode }) => {
        if (!diode) return []
        const { saturationA, emission, seriesOhm, count } = diode
        const has = isPositive(saturationA) && emission >= 1 && isResistance(seriesOhm) && count >= 1
        return has ? [] : [`${a} to ${b}`]
      }),
  },
]
