import { endOfUse } from '../battery/emf'
import { chemistry } from '../catalog/chemistries'
import { setFields } from '../edit/set'
import { propose } from '../fixes/proposal'
import { asKind, partsOf } from '../kinds/index'
import { partById } from '../plan/find'
import type { Study } from '../study/study'
import { against, celsius, percent } from '../units/show'
import type { Check, Found } from './check'
import { fixed, rounded } from '../units/number'

/**
 * Lead-acid that freezes: the emptier it is, the more its acid is water.
 * Freezing point of the electrolyte by state of charge, °C (sulphuric acid of 1.28 to 1.10 kg/l, handbook values).
 */
const FREEZES_C = [
  [0, -7],
  [0.25, -15],
  [0.5, -25],
  [0.75, -40],
  [1, -65],
] as const

function freezesAtC(soc: number): number {
  const above = FREEZES_C.findIndex(([s]) => s >= soc)
  if (above <= 0) return FREEZES_C[0][1]
  const [[s0, c0], [s1, c1]] = [FREEZES_C[above - 1]!, FREEZES_C[above]!]
  return c0 + ((c1 - c0) * (soc - s0)) / (s1 - s0)
}

export const lowestC = (study: Study, zone: string | undefined) =>
  study.plan.site?.zones?.find(z => z.id === zone)?.ambientC.low ?? study.site.ambientC.low

/** Shares of the charge at which one may stop, so that the rest does not freeze. */
const STOPS_AT = [0.5, 0.6, 0.7, 0.8] as const

export const batteryFreezes: Check = {
  id: 'battery-freezes',
  severities: ['caution'],
  looksAt: 'lead-acid batteries at the end of their usable charge, on the coldest day of their place',
  title: 'Discharged lead-acid battery that freezes',
  why:
    'As lead-acid empties its acid turns to water: a discharged battery freezes in a night that a full one does not ' +
    'notice, and its case or its plates crack.',
  source: 'freezing point of sulphuric acid by density, handbook values',
  find: study =>
    partsOf(study.plan.parts, 'battery').flatMap((battery): Found[] => {
      if (!['agm', 'gel', 'flooded'].includes(battery.chemistry)) return []
      const left = endOfUse(battery)
      const atC = freezesAtC(left)
      const lowC = lowestC(study, battery.zone)
      if (lowC > atC) return []
      return [
        {
          severity: 'caution',
          place: battery.id,
          condition: null,
          title: `${study.name(battery)} freezes when it is empty`,
          message:
            `With ${fixed(100 * left, 0)} % left, ${study.name(battery)} (${chemistry(battery.chemistry).label}) ` +
            `freezes at about ${celsius(atC)}; it gets down to ${against(celsius, lowC, atC)} where it stands.`,
          numbers: { leftShare: left, freezesC: atC, lowC },
        },
      ]
    }),
  fixes: (found, study) => {
    const battery = asKind(partById(study.plan, found.place)!, 'battery')
    if (!battery || battery.stopV !== undefined) return []
    const share = STOPS_AT.find(left => left > found.numbers.leftShare! && freezesAtC(left) < found.numbers.lowC!)
    if (share === undefined) return []
    const usableFraction = rounded(1 - share, 2)
    return [propose(`Stop at ${percent(share)} in the cold`, setFields(study.plan, battery.id, { usableFraction }))]
  },
}
