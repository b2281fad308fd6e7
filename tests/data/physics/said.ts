import type { SourceState } from '../../../core/battery/emf'
import type { Part } from '../../../core/kinds/index'
import type { Around, PartKind, Sink, Source, Transfer } from '../../../core/kinds/kind'

/** A part as its kind says it, alone or with what stands around it. */
export interface Said {
  kind: PartKind<Part>
  part: Part
  around: Around
}

/** What holds of every kind. */
export interface Rule {
  says: string
  /** What of the part breaks it, by name. */
  broken: (said: Said) => string[]
}

export const STATES: readonly SourceState[] = ['charging', 'bulk', 'full', 'nominal', 'low', 'engine-on', 'engine-off']

export const terminalsOf = ({ kind, part }: Said) => kind.terminals(part, [])
export const sourcesIn = ({ kind, part, around }: Said, state: SourceState): Source[] =>
  kind.sources?.(part, state, around) ?? []
export const sourcesOf = (said: Said) => STATES.flatMap(state => sourcesIn(said, state))
export const transfersOf = ({ kind, part, around }: Said): Transfer[] =>
  STATES.flatMap(state => kind.transfers?.(part, state, around) ?? [])
export const sinksOf = ({ kind, part, around }: Said): Sink[] => [
  ...[true, false].flatMap(active => kind.sink?.(part, active) ?? []),
  ...STATES.flatMap(state => kind.standing?.(part, state, around) ?? []),
]
export const voltagesOf = ({ kind, part }: Said) => [
  ...kind.windows(part),
  ...(kind.role === 'load' ? [kind.needs(part)] : []),
]
export const efficienciesOf = ({ efficiency }: Transfer) =>
  typeof efficiency === 'number' ? [efficiency] : efficiency.map(point => point.efficiency)

/** Terminals, and nodes of its own, that are one wire: joined by links, whatever their resistance. */
export function wireOf(said: Said, at: string): ReadonlySet<string> {
  const wire = new Set([at])
  const links = said.kind.links(said.part, [])
  for (let before = 0; before !== wire.size;) {
    before = wire.size
    for (const { a, b } of links) {
      if (wire.has(a)) wire.add(b)
      if (wire.has(b)) wire.add(a)
    }
  }
  return wire
}

/** Figures this near are the same. */
export const SAME = 1e-9
export const isPositive = (value: number) => value > 0 && Number.isFinite(value)
export const isResistance = (value: number) => value >= 0 && Number.isFinite(value)
export const names = <T>(all: readonly T[], isBroken: (one: T) => boolean, name: (one: T) => string) =>
  all.filter(isBroken).map(name)

/** Where it says that it gives, takes or stands something: at its terminals, or inside. */
export const placesNamed = (said: Said): string[] => [
  ...sourcesOf(said).map(s => s.at),
  ...sinksOf(said).map(s => s.at),
  ...voltagesOf(said).map(w => w.at),
]

/** What it names as terminals of its own. */
export function terminalsNamed(said: Said): string[] {
  const { kind, part, around } = said
  return [
    ...kind.intoShort(part).map(s => s.at),
    ...transfersOf(said).flatMap(t => [t.from, t.to]),
    ...kind.passes(part).flatMap(p => [p.from, p.to]),
    ...(kind.charge?.(part, around) ? [kind.charge(part, around)!.at] : []),
    ...(kind.entry ? [kind.entry(part)] : []),
    ...(kind.between ?? []).map(end => `${part.id}.${end}`),
  ]
}
