import { isPositive, names, voltagesOf, type Rule } from './said'

/** What a part stands, and to what it charges. */
export const OF_LIMITS: readonly Rule[] = [
  {
    says: 'the lowest voltage is under the highest',
    broken: said =>
      names(
        voltagesOf(said),
        w => !(w.minV <= (w.nominalV ?? w.minV) && (w.nominalV ?? w.minV) <= w.maxV && w.maxV > 0),
        w => w.field,
      ),
  },
  {
    says: 'a limit lets something pass, for a moment no less than for good',
    broken: ({ kind, part, around }) =>
      names(
        kind.limits(part, around),
        l => !(isPositive(l.continuousA) && (l.peakA ?? l.continuousA) >= l.continuousA),
        l => l.fields.join(),
      ),
  },
  {
    says: 'a charge is held no higher than it ends',
    broken: ({ kind, part, around }) => {
      const output = kind.charge?.(part, around)
      if (!output) return []
      const { absorptionV, floatV, maxA } = output
      return maxA >= 0 && (absorptionV === null || floatV === null || floatV <= absorptionV) ? [] : [output.at]
    },
  },
]
