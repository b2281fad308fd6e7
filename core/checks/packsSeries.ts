import { chemistry } from '../catalog/chemistries'
import { restedVolts } from '../battery/emf'
import { setFields } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { nameOf, partById } from '../plan/find'
import type { Study } from '../study/study'
import type { Check, Found } from './check'
import {
  type Battery,
  type Pack,
  packsOf,
  stringsOf,
  batteries,
  chargeApart,
  AGE_APART_YEARS,
  namedWith,
} from './packs'
import { asGiven, figure, fixed, rounded } from '../units/number'

/** Packs in series may be this share of their charge apart (practice: charge each full before joining). */
const CHARGE_APART = 0.1

type Wrong = Pick<Found, 'severity' | 'title' | 'message' | 'numbers'>
type Rule = (battery: Battery, string: Pack[]) => Wrong | null

const tooMany: Rule = (battery, string) =>
  battery.mostInSeries === undefined || string.length <= battery.mostInSeries
    ? null
    : {
        severity: 'danger',
        title: `${string.length} packs in series, ${battery.mostInSeries} allowed`,
        message:
          `${nameOf(battery)} has ${string.length} packs in series; the maker of their management system allows ` +
          `${battery.mostInSeries}: its switch does not stand the voltage.`,
        numbers: { inSeries: string.length, mostInSeries: battery.mostInSeries },
      }

const unlikeChemistry: Rule = (_, string) =>
  new Set(string.map(p => p.chemistry)).size < 2
    ? null
    : {
        severity: 'danger',
        title: 'Unlike chemistries in series',
        message: `${namedWith(string, p => chemistry(p.chemistry).label)} stand in series.`,
        numbers: {},
      }

const unlikeCapacity: Rule = (_, string) => {
  const [least, most] = spread(string.map(p => p.capacityAh))
  if (most <= least * 1.05) return null
  return {
    severity: 'caution',
    title: `${asGiven(least)} Ah and ${asGiven(most)} Ah in series`,
    message:
      `${namedWith(string, p => `${asGiven(p.capacityAh)} Ah`)} stand in series: ` +
      'the string is empty with the smallest, which the others then drive backwards.',
    numbers: { leastAh: least, mostAh: most },
  }
}

const unlikeCharge: Rule = (battery, string) => {
  const rested = string.flatMap(p => (p.restedV === null ? [] : [{ name: p.name, cellV: p.restedV / p.seriesCells }]))
  if (rested.length < 2) return null
  const [leastCellV, mostCellV] = spread(rested.map(r => r.cellV))
  const apart = chargeApart(string[0]!.chemistry, 1, leastCellV, mostCellV)
  if (apart <= CHARGE_APART) return null
  const list = rested.map(r => `${fixed(r.cellV, 2)} V a cell (${r.name})`).join(', ')
  return {
    severity: 'caution',
    title: 'Packs in series unequally charged',
    message:
      `The packs of ${nameOf(battery)} rest at ${list}: about ${fixed(100 * apart, 0)} % of charge apart. The ` +
      'fuller one is overcharged first, the emptier one driven backwards.',
    numbers: { leastCellV, mostCellV, apart },
  }
}

const unlikeAge: Rule = (battery, string) => {
  const [least, most] = spread(string.flatMap(p => p.ageYears ?? []))
  if (!(most - least >= AGE_APART_YEARS)) return null
  return {
    severity: 'caution',
    title: 'An old pack in series with a new one',
    message: `The packs of ${nameOf(battery)} are ${least} and ${most} years old: the older one is empty first.`,
    numbers: { apartYears: most - least },
  }
}

const spread = (values: number[]): [least: number, most: number] => [Math.min(...values), Math.max(...values)]

/** The worst first: one finding a string. */
const SERIES_RULES: readonly Rule[] = [tooMany, unlikeChemistry, unlikeCapacity, unlikeCharge, unlikeAge]

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
      stringsOf(battery).flatMap(string => {
        const wrong = SERIES_RULES.map(rule => rule(battery, string)).find(f => f !== null)
        return wrong ? [{ place: battery.id, condition: null, ...wrong }] : []
      }),
    ),
  fixes: (found, study) => {
    const battery = partById(study.plan, found.place) as Battery
    if (found.numbers.apart !== undefined) return chargeEach(study, battery)
    const ah = found.numbers.mostAh
    if (ah === undefined || !battery.members) return []
    return [
      {
        label: `Packs of ${asGiven(ah)} Ah throughout`,
        patch: setFields(study.plan, battery.id, {
          ...Object.fromEntries(battery.members.map((_, i) => [`members.${i}.capacityAh`, ah])),
          capacityAh: ah * stringsOf(battery).length,
        }),
      },
    ]
  },
}

/** Each pack filled by itself before they are joined. */
const chargeEach = (study: Study, battery: Battery): Proposal[] => [
  propose(
    'Charge each pack full by itself before joining them',
    setFields(
      study.plan,
      battery.id,
      Object.fromEntries(packsOf(battery).map((p, i) => [`members.${i}.restedV`, rounded(restedVolts(p, 1), 2)])),
    ),
  ),
]

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
          title: `The packs of ${nameOf(battery)} make ${cells} cells, ${figure(ah, 1)} Ah`,
          message:
            `The packs of ${nameOf(battery)} add up to ${cells} cells in series and ${figure(ah, 1)} Ah; ` +
            `the battery says ${battery.seriesCells} cells and ${asGiven(battery.capacityAh)} Ah, ` +
            'and it is solved with that.',
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
