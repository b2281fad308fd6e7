import { isCharging } from '../../../core/battery/emf'
import type { Transfer } from '../../../core/kinds/kind'
import { SAME, STATES, names, sourcesIn, sourcesOf, transfersOf, wireOf, type Rule } from './said'

/** What a part drives into a short: silence about it leaves a lead without a fuse. */
export const OF_SHORTS: readonly Rule[] = [
  {
    says: 'what gives, gives into a short as well',
    broken: said => {
      const into = said.kind.intoShort(said.part).map(s => s.at)
      const isTold = (at: string) => into.some(told => wireOf(said, at).has(told))
      return names(
        sourcesOf(said).map(s => s.at),
        at => !isTold(at),
        at => at,
      )
    },
  },
  {
    says: 'into a short goes no less than what is given at work',
    broken: said =>
      sourcesOf(said).flatMap(s => {
        const wire = wireOf(said, s.at)
        const into = said.kind.intoShort(said.part).filter(i => wire.has(i.at))
        const amps = into.map(i => (i.kind === 'emf' ? i.emfV / i.ohm : i.amps))
        return s.mostA !== undefined && amps.length && Math.max(...amps) < s.mostA ? [s.at] : []
      }),
  },
  {
    says: 'an EMF drives into a short all that it drives at rest',
    broken: said =>
      STATES.filter(state => !isCharging(state)).flatMap(state =>
        sourcesIn(said, state).flatMap(s => {
          const wire = wireOf(said, s.at)
          const into = said.kind.intoShort(said.part).find(i => wire.has(i.at))
          return into?.kind === 'emf' && s.emfV / s.ohm > (into.emfV / into.ohm) * (1 + SAME) ? [s.at] : []
        }),
      ),
  },
  {
    says: 'what is fed through it is fed in a short, or said to be held back',
    broken: said => {
      const { kind, part } = said
      const isTold = ({ from, to }: Transfer) =>
        kind.passes(part).some(p => p.from === from && p.to === to) || kind.intoShort(part).some(s => s.at === to)
      return names(
        transfersOf(said),
        t => !isTold(t),
        t => `${t.from} to ${t.to}`,
      )
    },
  },
  {
    says: 'behind what it passes on things are live',
    broken: said => {
      const { kind, part, around } = said
      // A charging stage gives to what is live by itself.
      const charged = kind.charge?.(part, around)?.at
      const isTold = ({ from, to }: Transfer) => kind.passes(part).some(p => p.from === from && p.to === to)
      return names(
        transfersOf(said),
        t => t.to !== charged && !isTold(t),
        t => `${t.from} to ${t.to}`,
      )
    },
  },
  {
    says: 'what gives by itself is live while it is hooked up',
    broken: ({ kind, part }) => {
      const { live } = kind.hookUp(part, 25)
      return live === 0 && kind.intoShort(part).some(s => s.by === 'itself') ? [part.id] : []
    },
  },
]
