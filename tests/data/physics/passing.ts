import { efficienciesOf, names, sinksOf, transfersOf, type Rule } from './said'

/** What a part takes and passes on. */
export const OF_PASSING: readonly Rule[] = [
  {
    says: 'it gives no more than it takes',
    broken: said => [
      ...names(
        transfersOf(said),
        t => t.takes === 'power' && efficienciesOf(t).some(e => !(e > 0 && e <= 1)),
        t => `${t.from} to ${t.to}`,
      ),
      // The same current at a higher voltage would be more power.
      ...names(
        transfersOf(said),
        t => t.takes === 'current' && !['at-most-input', 'follows-input'].includes(t.relation),
        t => `${t.from} to ${t.to}`,
      ),
    ],
  },
  {
    says: 'what it burns is none below zero',
    broken: said =>
      names(
        transfersOf(said),
        t => !(t.idleW >= 0 && t.dropV >= 0),
        t => `${t.from} to ${t.to}`,
      ),
  },
  {
    says: 'it passes something, from one terminal to another',
    broken: said =>
      names(
        transfersOf(said),
        t => t.from === t.to || (t.mostA ?? 1) <= 0,
        t => `${t.from} to ${t.to}`,
      ),
  },
  {
    says: 'what takes, takes',
    broken: said =>
      names(
        sinksOf(said),
        s => !(s.value >= 0) || (s.law === 'ohm' && s.value === 0),
        s => s.at,
      ),
  },
  {
    says: 'what charges has its power from somewhere',
    broken: said => {
      const { kind, part, around } = said
      if (!kind.charge?.(part, around)) return []
      return kind.runsOn || kind.takesSun || kind.transfers ? [] : [part.id]
    },
  },
  {
    says: 'what changes power by switching may make noise',
    broken: said => {
      const switches = transfersOf(said).some(t => t.takes === 'power') || said.kind.switching?.(said.part)
      return switches && !said.kind.noise ? [said.part.id] : []
    },
  },
]
