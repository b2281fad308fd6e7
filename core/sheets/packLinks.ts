import { fuseClass } from '../catalog/fuses'
import { stringsOf } from '../checks/packs'
import { largestFuseA } from '../conductor/ampacity'
import { conductorMm2 } from '../conductor/resistance'
import { devicesIn } from '../graph/device'
import { graphOf } from '../graph/graph'
import { partsOf } from '../kinds/index'
import type { Battery } from '../kinds/battery'
import { nameOf } from '../plan/find'
import { siteOf, type Lead, type Plan } from '../plan/schema'
import { figure } from '../units/number'

/**
 * The short conductors that make one battery of several packs, which a plan says by its members alone: each is a lead
 * of its own, to be cut, fused, marked and bought.
 */
export interface PackLink {
  batteryId: string
  id: string
  name: string
  from: string
  to: string
  conductor: Lead['conductor']
  legs: readonly { colour: 'red' | 'black'; leg: 'positive' | 'negative' }[]
  /** Ring or stud at both its ends; null where the battery's lead does not say. */
  connector: string | null
  fuse: { type: string; ratedA: number; at: string } | null
  note: string
}

/** No plan says where its packs stand: one link, until it is measured, m. */
export const LINK_M = 0.3

const RED = { colour: 'red', leg: 'positive' } as const
const BLACK = { colour: 'black', leg: 'negative' } as const

export function packLinks(plan: Plan): PackLink[] {
  return partsOf(plan.parts, 'battery').flatMap(b => [...seriesLinks(plan, b), ...parallelLinks(plan, b)])
}

/** The thickest lead on a battery: its links carry what that carries. */
function mainLead(plan: Plan, battery: Battery): Lead | undefined {
  const size = ({ conductor }: Lead) => conductorMm2(conductor)
  const leads = [...graphOf(plan).leadsOf(battery.id)]
  return leads.sort((a, b) => size(b) - size(a))[0]
}

function linkOf(plan: Plan, battery: Battery, own: Pick<PackLink, 'id' | 'name' | 'from' | 'to' | 'legs' | 'note'>) {
  const main = mainLead(plan, battery)
  if (!main) return []
  const end = main.from === battery.id || main.from.startsWith(`${battery.id}.`) ? 'from' : 'to'
  const connector = main.ends?.[end]?.connector ?? null
  const link: PackLink = { batteryId: battery.id, conductor: main.conductor, connector, fuse: null, ...own }
  return [{ ...link, name: `${nameOf(battery)}, ${own.name}` }]
}

function seriesLinks(plan: Plan, battery: Battery): PackLink[] {
  const strings = stringsOf(battery)
  return strings.flatMap((packs, s) =>
    packs.slice(1).flatMap((pack, i) =>
      linkOf(plan, battery, {
        id: `${battery.id} series ${s + 1}.${i + 1}`,
        name: `series link ${strings.length > 1 ? `${s + 1}.` : ''}${i + 1}`,
        from: `${packs[i]!.name} −`,
        to: `${pack.name} +`,
        legs: [BLACK],
        note: `mark its end at ${pack.name} red; cap both ends until they are on; as short as it goes`,
      }),
    ),
  )
}

function parallelLinks(plan: Plan, battery: Battery): PackLink[] {
  const strings = stringsOf(battery)
  return strings.slice(1).flatMap((packs, i) => {
    const before = strings[i]!
    const links = linkOf(plan, battery, {
      id: `${battery.id} parallel ${i + 1}`,
      name: `parallel link ${i + 1}`,
      from: `${before[0]!.name} +, ${before.at(-1)!.name} −`,
      to: `${packs[0]!.name} +, ${packs.at(-1)!.name} −`,
      legs: [RED, BLACK],
      note: 'all links of one length and gauge',
    })
    return links.map(link => ({ ...link, fuse: stringFuse(plan, battery, strings.length, packs[0]!.name) }))
  })
}

/**
 * A fuse for each string: its share of what the fuses of the battery's leads let through, the next rating up; none that
 * the links could not carry.
 */
function stringFuse(plan: Plan, battery: Battery, strings: number, at: string): PackLink['fuse'] {
  const devices = graphOf(plan)
    .leadsOf(battery.id)
    .flatMap(l => devicesIn(l)[0] ?? [])
  const [largest] = [...devices].sort((a, b) => b.ratedA - a.ratedA)
  if (!largest) return null
  const type = largest.kind === 'fuse' ? largest.type : 'strip'
  const share = devices.reduce((sum, d) => sum + d.ratedA, 0) / strings
  const { ambientC, ampacity } = siteOf(plan)
  const mostA = largestFuseA(mainLead(plan, battery)!.conductor, ampacity, ambientC.high)
  const ratedA = fuseClass(type).ratingsA.find(a => a >= share && a <= mostA)
  return ratedA === undefined ? null : { type, ratedA, at: `${at} +` }
}

/** The fuses of all strings: one more than there are links between them. */
export function stringFuses(plan: Plan): { type: string; ratedA: number; count: number }[] {
  return partsOf(plan.parts, 'battery').flatMap(battery => {
    const strings = stringsOf(battery)
    const fuse = strings.length > 1 ? stringFuse(plan, battery, strings.length, '') : null
    return fuse ? [{ type: fuse.type, ratedA: fuse.ratedA, count: strings.length }] : []
  })
}

/** The packs a battery is made of, each with its share of the battery's voltage; none where it is one pack. */
export function memberPacks(plan: Plan, batteryId: string): { name: string; share: number }[] {
  const battery = partsOf(plan.parts, 'battery').find(b => b.id === batteryId)
  const strings = battery ? stringsOf(battery) : []
  if (strings.flat().length < 2) return []
  return strings.flatMap(packs => {
    const cells = packs.reduce((n, p) => n + p.seriesCells, 0)
    return packs.map(p => ({ name: p.name, share: p.seriesCells / cells }))
  })
}

/** How a battery of several packs is put together, one line each, before anything else is on it. */
export function packSteps(plan: Plan): { does: string; before: string; caution?: string }[] {
  return partsOf(plan.parts, 'battery').flatMap(battery => {
    const strings = stringsOf(battery)
    const packs = strings.flat()
    if (packs.length < 2) return []
    const name = nameOf(battery)
    const [first, last] = [strings[0]![0]!, strings.at(-1)!.at(-1)!]
    const inSeries = strings[0]!.length > 1
    const cells = strings[0]!.reduce((n, p) => n + p.seriesCells, 0)
    return [
      {
        does: `${name}: charge each of ${packs.map(p => p.name).join(', ')} full by itself, and let it rest.`,
        before: 'Each by its own meter reading: within 0.1 V of the others, and polarity on each.',
      },
      ...(inSeries
        ? [
            {
              does: `${name}: series links, one string after the other; caps on every post that is not in hand.`,
              before: `The sum grows by one pack with each link, to ${figure(cells)} cells.`,
              caution: 'Live throughout: insulated tools, rings off, one post open at a time.',
            },
          ]
        : []),
      ...(strings.length > 1
        ? [
            {
              does: `${name}: parallel links with the strings' fuses out; the fuses last, one after the other.`,
              before: 'Over each holder under 0.1 V before its fuse goes in.',
              caution: 'Live on both sides: a difference drives a surge from string to string.',
            },
            {
              does: `${name}: take off + at ${first.name} and − at ${last.name}: at opposite corners.`,
              before: 'All leads on these two posts alone, so that the strings share.',
            },
          ]
        : []),
    ]
  })
}
