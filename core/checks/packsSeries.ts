import { chemistry } from '../catalog/chemistries'
import { setFields } from '../edit/set'
import { nameOf, partById } from '../plan/find'
import type { Check, Found } from './check'
import { type Battery, stringsOf, batteries, AGE_APART_YEARS } from './packs'

export const packsSeries: Check = {
  id: 'packs-series',
  severities: ['danger', 'caution'],
  looksAt: 'the members of each string',
  title: 'Unequal packs in series',
  why:
    'The same current passes every pack in series: the smallest is empty first and then driven backwards by the ' +
    'others, and full first and then overcharged.',
  source: "practice for packs in series; the management system's own limit of packs in series",
  find: study =>
    batteries(study).flatMap(battery =>
      stringsOf(battery).flatMap((string): Found[] => {
        const at = { place: battery.id, condition: null }
        if (battery.mostInSeries !== undefined && string.length > battery.mostInSeries) {
          return [
            {
              ...at,
              severity: 'danger',
              title: `${string.length} packs in series, ${battery.mostInSeries} allowed`,
              message:
                `${nameOf(battery)} has ${string.length} packs in series; the maker of their management system ` +
                `allows ${battery.mostInSeries}: its switch does not stand the voltage.`,
              numbers: { inSeries: string.length, mostInSeries: battery.mostInSeries },
            },
          ]
        }
        if (new Set(string.map(p => p.chemistry)).size > 1)
          return [
            {
              ...at,
              severity: 'danger',
              title: 'Unlike chemistries in series',
              message: `${string.map(p => `${p.name} (${chemistry(p.chemistry).label})`).join(', ')} stand in series.`,
              numbers: {},
            },
          ]
        const [least, most] = [Math.min(...string.map(p => p.capacityAh)), Math.max(...string.map(p => p.capacityAh))]
        if (most > least * 1.05) {
          return [
            {
              ...at,
              severity: 'caution',
              title: `${least} Ah and ${most} Ah in series`,
              message:
                `${string.map(p => `${p.name} (${p.capacityAh} Ah)`).join(', ')} stand in series: the string is ` +
                'empty with the smallest, which the others then drive backwards.',
              numbers: { leastAh: least, mostAh: most },
            },
          ]
        }
        const ages = string.flatMap(p => p.ageYears ?? [])
        if (ages.length > 1 && Math.max(...ages) - Math.min(...ages) >= AGE_APART_YEARS) {
          return [
            {
              ...at,
              severity: 'caution',
              title: 'An old pack in series with a new one',
              message:
                `The packs of ${nameOf(battery)} are ${Math.min(...ages)} and ${Math.max(...ages)} years old: the ` +
                'older one is empty first.',
              numbers: { apartYears: Math.max(...ages) - Math.min(...ages) },
            },
          ]
        }
        return []
      }),
    ),
  fixes: (found, study) => {
    const battery = partById(study.plan, found.place) as Battery
    const ah = found.numbers.mostAh
    if (ah === undefined || !battery.members) return []
    return [
      {
        label: `Packs of ${ah} Ah throughout`,
        patch: setFields(study.plan, battery.id, {
          ...Object.fromEntries(battery.members.map((_, i) => [`members.${i}.capacityAh`, ah])),
          capacityAh: ah * stringsOf(battery).length,
        }),
      },
    ]
  },
}

export const membersSum: Check = {
  id: 'members-sum',
  severities: ['caution'],
  looksAt: 'the figures of a battery against those of its members',
  title: 'Members do not add up to the battery',
  why:
    'The plan is solved with the figures of the whole battery; if its packs do not add up to them, voltages and ' +
    'hours are wrong.',
  source: 'series: cells add; parallel: amp-hours add',
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const strings = stringsOf(battery)
      if (!strings.length) return []
      const cells = strings[0]!.reduce((n, p) => n + p.seriesCells, 0)
      const ah = strings.reduce((sum, s) => sum + Math.min(...s.map(p => p.capacityAh)), 0)
      if (cells === battery.seriesCells && Math.abs(ah - battery.capacityAh) <= 0.01 * battery.capacityAh) return []
      return [
        {
          severity: 'caution',
          place: battery.id,
          condition: null,
          title: `The packs of ${nameOf(battery)} make ${cells} cells, ${Number(ah.toFixed(1))} Ah`,
          message:
            `The packs of ${nameOf(battery)} add up to ${cells} cells in series and ${Number(ah.toFixed(1))} Ah; ` +
            `the battery says ${battery.seriesCells} cells and ${battery.capacityAh} Ah, and it is solved with ` +
            'that.',
          numbers: { cells, capacityAh: ah },
        },
      ]
    }),
  fixes: (found, study) => [
    {
      label: 'Take the sum of the packs',
      patch: setFields(study.plan, found.place, {
        seriesCells: found.numbers.cells!,
        capacityAh: found.numbers.capacityAh!,
      }),
    },
  ],
}
