import type { SourceState } from '../../../core/battery/emf'
import { isPositive, isResistance, names, sourcesIn, sourcesOf, type Rule } from './said'

/** What a part gives by itself, and holds. */
export const OF_GIVING: readonly Rule[] = [
  {
    says: 'an EMF is a voltage',
    broken: said =>
      names(
        sourcesOf(said),
        s => !isResistance(s.emfV),
        s => s.at,
      ),
  },
  {
    says: 'a fuller battery has no lower EMF',
    broken: said => {
      const emfOf = (state: SourceState) => Math.max(0, ...sourcesIn(said, state).map(s => s.emfV))
      return emfOf('full') >= emfOf('nominal') && emfOf('nominal') >= emfOf('low') ? [] : [said.part.id]
    },
  },
  {
    says: 'a source gives less at a higher voltage',
    broken: said =>
      names(
        sourcesOf(said),
        ({ curve = [] }) => curve.some(([v, i], n) => n > 0 && !(v > curve[n - 1]![0] && i <= curve[n - 1]![1])),
        s => s.at,
      ),
  },
  {
    says: 'a limit of what is taken is none of what is given, and the other way round',
    broken: said =>
      names(
        sourcesOf(said),
        s => (s.leastA ?? 0) > 0 || (s.mostA ?? 0) < 0,
        s => s.at,
      ),
  },
  {
    says: 'nothing takes back what a source gives but what can hold it',
    broken: said =>
      names(
        sourcesOf(said),
        s => !said.kind.stores && !said.kind.sourceStates && !s.curve && s.leastA !== 0,
        s => s.at,
      ),
  },
  {
    says: 'nothing stands higher than it says that it ever does',
    broken: said => {
      const highestV = said.kind.highestV?.(said.part, 25)
      return names(
        sourcesOf(said),
        s => highestV !== undefined && s.emfV > highestV,
        s => s.at,
      )
    },
  },
  {
    says: 'what is stored comes out no fuller than it went in',
    broken: ({ kind, part, around }) => {
      const store = kind.store?.(part, around)
      if (!store) return []
      const shares = [store.efficiency, store.chargeEfficiency, ...[-20, 0, 20].map(store.coldShare)]
      const emfsAt = (charge: number) => Math.max(0, ...store.sourcesAt(charge).map(s => s.emfV))
      const falls = [1, 0.8, 0.5, 0.2, 0.05].every((charge, i, all) => i === 0 || emfsAt(charge) <= emfsAt(all[i - 1]!))
      return isPositive(store.capacity) && falls && shares.every(s => s >= 0 && s <= 1) ? [] : [part.id]
    },
  },
]
