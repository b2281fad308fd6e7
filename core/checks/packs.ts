import { chemistry } from '../catalog/chemistries'
import { restedVolts } from '../battery/emf'
import { addItem } from '../edit/items'
import { setFields } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { partsOf, type PartOf } from '../kinds/index'
import { leadName, partById, partIdOf } from '../plan/find'
import { amps, volts } from '../units/show'
import { capital, someOf } from '../units/words'
import type { Check, Found } from './check'
import type { Study } from '../study/study'
import { fixed } from '../units/number'

export type Battery = PartOf<'battery'>

/**
 * A pack that stands in parallel or in series with others: a member of a battery, or a battery of its own on the same
 * wire.
 */
export interface Pack {
  name: string
  chemistry: string
  seriesCells: number
  capacityAh: number
  internalOhm: number
  restedV: number | null
  ageYears: number | null
}

function packOf(battery: Battery, index: number, inString: number, strings: number): Pack {
  const member = battery.members![index]!
  return {
    name: member.name ?? member.id ?? `pack ${index + 1}`,
    chemistry: member.chemistry ?? battery.chemistry,
    seriesCells: member.seriesCells ?? battery.seriesCells / inString,
    capacityAh: member.capacityAh ?? battery.capacityAh / strings,
    internalOhm: member.internalOhm ?? (battery.internalOhm * strings) / inString,
    restedV: member.restedV ?? null,
    ageYears: member.ageYears ?? null,
  }
}

/** The string that each member of a battery stands in. */
const placesOf = (battery: Battery) => (battery.members ?? []).map(m => m.string ?? 1)

/** The packs of a battery, as its members stand in the plan. */
export function packsOf(battery: Battery): Pack[] {
  const places = placesOf(battery)
  const strings = new Set(places).size
  return places.map((place, i) => packOf(battery, i, places.filter(p => p === place).length, strings))
}

/** The strings of a battery: packs in series, string by string. */
export function stringsOf(battery: Battery): Pack[][] {
  const places = placesOf(battery)
  const packs = packsOf(battery)
  return [...new Set(places)].map(place => packs.filter((_, i) => places[i] === place))
}

/** Age of the oldest of several packs, years; null where none says it. */
function oldest(packs: readonly { ageYears?: number | null | undefined }[]): number | null {
  const said = packs.flatMap(({ ageYears }) => ageYears ?? [])
  return said.length ? Math.max(...said) : null
}

export const batteries = (study: Study) => partsOf(study.plan.parts, 'battery')

/**
 * Charge that a difference of rested voltage stands for, as a share of the capacity, where the curve is read from the
 * lower one.
 */
export function chargeApart(chemistryId: string, cells: number, lowV: number, highV: number): number {
  const { curve } = chemistry(chemistryId)
  const soc = (v: number) => {
    const perCell = v / cells
    for (let i = 1; i < curve.length; i++) {
      const [s0, v0] = curve[i - 1]!
      const [s1, v1] = curve[i]!
      if (perCell <= v1) return Math.max(0, s0 + ((s1 - s0) * (perCell - v0)) / (v1 - v0))
    }
    return 1
  }
  return soc(highV) - soc(lowV)
}

/** Years apart from which packs age unlike each other. */
export const AGE_APART_YEARS = 2

export const packsParallel: Check = {
  id: 'packs-parallel',
  severities: ['danger', 'caution'],
  looksAt: 'the moment of joining; strings of one battery, and batteries on one wire',
  title: 'Unlike packs in parallel',
  why:
    'Packs joined in parallel even out at once: the fuller one drives a surge into the other, limited only by ' +
    "their small resistances. On lithium's flat curve a fifth of a volt may be a third of the charge. Unlike " +
    'chemistries never agree on a voltage.',
  source: 'surge = ΔV / ΣR; rested curves of the chemistry',
  find: study => {
    const inside = batteries(study)
      .filter(b => b.members)
      .map(b => ({
        place: b.id,
        also: [] as string[],
        packs: stringsOf(b).map((s): Pack => ({
          name: s.map(p => p.name).join(' + '),
          chemistry: s[0]!.chemistry,
          seriesCells: s.reduce((n, p) => n + p.seriesCells, 0),
          capacityAh: Math.min(...s.map(p => p.capacityAh)),
          internalOhm: s.reduce((r, p) => r + p.internalOhm, 0),
          restedV: s.every(p => p.restedV !== null) ? s.reduce((v, p) => v + p.restedV!, 0) : null,
          ageYears: oldest(s),
        })),
      }))
    const seen = new Set<string>()
    const outside = batteries(study).flatMap(b => {
      const group = batteries(study).filter(o => o === b || study.around(b.id).some(a => a.part.id === o.id))
      if (group.length < 2 || seen.has(b.id)) return []
      group.forEach(g => seen.add(g.id))
      return [
        {
          place: group.at(-1)!.id,
          also: group.slice(0, -1).map(g => g.id),
          packs: group.map((g): Pack => ({
            name: study.name(g),
            chemistry: g.chemistry,
            seriesCells: g.seriesCells,
            capacityAh: g.capacityAh,
            internalOhm: g.internalOhm,
            restedV: g.members?.length === 1 ? (g.members[0]!.restedV ?? null) : null,
            ageYears: oldest(g.members ?? []),
          })),
        },
      ]
    })
    return [...inside, ...outside].flatMap(({ place, also, packs }): Found[] =>
      packs.length < 2 ? [] : unlike(place, also, packs),
    )
  },
  fixes: (found, study) => {
    const battery = partById(study.plan, found.place) as Battery
    if (found.numbers.surgeA === undefined || !battery.members) return apart(study, battery.id)
    const level = Math.max(...battery.members.map(m => m.restedV ?? 0))
    return [
      {
        label: `Charge each by itself to ${volts(level)} before joining`,
        patch: setFields(
          study.plan,
          battery.id,
          Object.fromEntries(
            battery.members.flatMap((m, i) => (m.restedV === undefined ? [] : [[`members.${i}.restedV`, level]])),
          ),
        ),
      },
    ]
  },
}

/** A pack that does not go with the others, taken off their wire by a switch at its post. */
function apart(study: Study, batteryId: string): Proposal[] {
  const [lead, ...others] = study.leadsOf(batteryId)
  if (!lead || others.length) return []
  const end = partIdOf(lead.from) === batteryId ? 'from' : 'to'
  const patch = addItem(study.plan, lead.id, { kind: 'switch', closed: false }, { end })
  return [propose(`A switch in ${leadName(lead)}, open while the other pack feeds`, patch)]
}

/** "Pack 1 (AGM) and pack 2 (LiFePO4)", as a sentence begins. */
export const namedWith = (packs: readonly Pack[], of: (pack: Pack, i: number) => string): string =>
  capital(someOf(packs.map((p, i) => `${p.name} (${of(p, i)})`)))

function unlike(place: string, also: string[], packs: Pack[]): Found[] {
  const at = { place, also, condition: null }
  const kinds = [...new Set(packs.map(p => p.chemistry))]
  if (kinds.length > 1) {
    return [
      {
        ...at,
        severity: 'danger',
        title: `${kinds.map(k => chemistry(k).label).join(' and ')} in parallel`,
        message:
          `${namedWith(packs, p => chemistry(p.chemistry).label)} stand in parallel: no ` +
          'charging voltage suits both.',
        numbers: {},
      },
    ]
  }
  const cells = [...new Set(packs.map(p => p.seriesCells))]
  if (cells.length > 1) {
    const vs = packs.map(p =>
      restedVolts({ chemistry: p.chemistry, seriesCells: p.seriesCells, capacityAh: p.capacityAh }, 0.5),
    )
    return [
      {
        ...at,
        severity: 'danger',
        title: `${cells.join(' and ')} cells in parallel`,
        message: `${namedWith(packs, (p, i) => `${p.seriesCells} cells, ${volts(vs[i]!)}`)} stand in ` + 'parallel.',
        numbers: { highestV: Math.max(...vs), lowestV: Math.min(...vs) },
      },
    ]
  }
  const unequal = unlikeCharge(at, packs)
  return unequal.length ? unequal : unlikeAge(at, packs)
}

/** A difference of rested voltage that a meter shows beyond doubt, V. */
const APART_V = 0.05

type At = Pick<Found, 'place' | 'also' | 'condition'>

function unlikeCharge(at: At, packs: readonly Pack[]): Found[] {
  const measured = packs.filter(p => p.restedV !== null)
  const high = measured.reduce<Pack | null>((a, b) => (!a || b.restedV! > a.restedV! ? b : a), null)
  const low = measured.reduce<Pack | null>((a, b) => (!a || b.restedV! < a.restedV! ? b : a), null)
  if (!high || !low || high.restedV! - low.restedV! < APART_V) return []
  const apartV = high.restedV! - low.restedV!
  const ohm = high.internalOhm + low.internalOhm
  const apart = chargeApart(high.chemistry, high.seriesCells, low.restedV!, high.restedV!)
  const surgeA = ohm > 0 ? apartV / ohm : undefined
  return [
    {
      ...at,
      severity: surgeA !== undefined && surgeA > low.capacityAh ? 'danger' : 'caution',
      title: `${volts(apartV)} between packs that are to be joined`,
      message:
        `${capital(high.name)} rests at ${volts(high.restedV!)}, ${low.name} at ${volts(low.restedV!)}` +
        // Both outside of the curve: what lies between them is not known.
        (apart > 0 ? `: ${fixed(100 * apart, 0)} % of the charge apart.` : '.') +
        (surgeA === undefined ? '' : ` Joining them drives ${amps(surgeA)} into ${low.name} at first.`),
      numbers: { apartV, chargeApart: apart, ...(surgeA !== undefined && { surgeA }) },
    },
  ]
}

function unlikeAge(at: At, packs: readonly Pack[]): Found[] {
  const ages = packs.flatMap(p => p.ageYears ?? [])
  if (ages.length > 1 && Math.max(...ages) - Math.min(...ages) >= AGE_APART_YEARS) {
    return [
      {
        ...at,
        severity: 'caution',
        title: 'An old pack beside a new one',
        message:
          `The packs in parallel are ${Math.min(...ages)} and ${Math.max(...ages)} years old: the newer one does ` +
          'the work and the older one is charged wrong.',
        numbers: { apartYears: Math.max(...ages) - Math.min(...ages) },
      },
    ]
  }
  return []
}
