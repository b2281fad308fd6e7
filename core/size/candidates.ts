import { AWG_LADDER, MM2_LADDER, COPPER_PER_C } from '../catalog/conductors'
import { CONDUCTOR_COST } from '../catalog/prices'
import type { Study } from '../study/study'
import { risePerAmp2, ampacityA, largestFuseA } from '../conductor/ampacity'
import {
  conductorGramsPerM,
  conductorMm2,
  conductorName,
  conductorOhmPerM,
  resistanceFactorAt,
} from '../conductor/resistance'
import { legsOf } from '../plan/find'
import type { Conductor, Lead } from '../plan/schema'
import { takenByEnds } from './contacts'
import type { Stock, SizeOptions } from './options'

/** What a lead may be made of, and which of it can be the least. */

export interface Candidate {
  conductor: Conductor
  dropV: number
  cost: number
}

export interface Entry {
  allowsV: number
  cost: number
  lead: string
  candidate: Candidate
  children: Entry[]
  /** Fuses chosen along with it, by key. */
  fuses: readonly (readonly [key: string, ratedA: number])[]
}

/** Lists of several branches at one node as one list: what each drop allowed costs them together. */
export function merge(lists: Entry[][], ownV: number): { allowsV: number; cost: number; entries: Entry[] }[] {
  if (!lists.length) return [{ allowsV: ownV, cost: 0, entries: [] }]
  const levels = new Set(lists.flat().map(e => Math.min(e.allowsV, ownV)))
  const found: { allowsV: number; cost: number; entries: Entry[] }[] = []
  for (const level of levels) {
    const entries = lists.map(list => cheapest(list, level))
    if (entries.some(e => e === null)) continue
    found.push({ allowsV: level, cost: entries.reduce((c, e) => c + e!.cost, 0), entries: entries as Entry[] })
  }
  return found
}

/** Lists are sorted by falling allowance and falling cost: the last that still allows it is the cheapest. */
function cheapest(list: Entry[], level: number): Entry | null {
  let found: Entry | null = null
  for (const e of list) {
    if (e.allowsV < level - 1e-12) break
    found = e
  }
  return found
}

/** Of entries that allow as much and cost no more, one; sorted by falling allowance, falling cost. */
export function pareto(entries: Entry[]): Entry[] {
  const sorted = entries.sort((a, b) => b.allowsV - a.allowsV || a.cost - b.cost)
  const kept: Entry[] = []
  for (const e of sorted) if (!kept.length || e.cost < kept.at(-1)!.cost - 1e-12) kept.push(e)
  return kept
}

function ladder(conductor: Conductor, owned: Stock[] | undefined): Conductor[] {
  const { insulationC } = conductor
  const dress = (size: Conductor): Conductor => ({
    ...size,
    ...(insulationC !== undefined && size.insulationC === undefined && { insulationC }),
  })
  if (owned) return owned.map(s => dress(s.conductor))
  return conductor.mm2 !== undefined ? MM2_LADDER.map(mm2 => dress({ mm2 })) : AWG_LADDER.map(awg => dress({ awg }))
}

/**
 * What counts in a candidate for an aim: grams, money, or volts dropped; of equal drops that of the plan's own
 * conductor.
 */
function costFor(
  { for: aim }: SizeOptions,
  { grams, dropV, money, isSame }: { grams: number; dropV: number; money: number; isSame: boolean },
): number {
  if (aim === 'weight') return grams
  return aim === 'drop' ? dropV + (isSame ? 0 : 1e-9) : money
}

export function candidate(study: Study, lead: Lead, conductor: Conductor, options: SizeOptions): Candidate {
  const current = study.leadAmps(lead).value
  const legs = legsOf(lead)
  const ambientC = study.ambient(lead).typical
  const cold = legs * lead.lengthM * conductorOhmPerM(conductor)
  const ohm =
    cold *
    (resistanceFactorAt(ambientC) +
      COPPER_PER_C * risePerAmp2(conductor, study.site.ampacity, lead.bundledConductors) * current ** 2)
  const grams = legs * lead.lengthM * conductorGramsPerM(conductor)
  const dropV = current * ohm
  const isSame = conductorName(conductor) === conductorName(lead.conductor)
  return {
    conductor,
    dropV,
    cost: costFor(options, { grams, dropV, isSame, money: legs * lead.lengthM * costPerM(conductor, options.owned) }),
  }
}

export function costPerM(conductor: Conductor, owned: Stock[] | undefined): number {
  return (
    owned?.find(s => conductorName(s.conductor) === conductorName(conductor))?.costPerM ??
    CONDUCTOR_COST.perM + CONDUCTOR_COST.perGram * conductorGramsPerM(conductor)
  )
}

/** A conductor that carries what flows in a lead, and goes into its contacts. */
export interface Fitting extends Candidate {
  mm2: number
  /** The largest fuse that it may stand behind, A. */
  largestFuseA: number
}

/** A size of a ladder as it lies somewhere. */
interface Rung {
  conductor: Conductor
  mm2: number
  ampacityA: number
  largestFuseA: number
}

/** The ladders of one sizing: many leads of a station lie alike. */
export class Ladders {
  private readonly known = new Map<string, readonly Rung[]>()

  /** What a lead may be made of, thinnest first or in the order of the shelf. */
  rungs(study: Study, lead: Lead, owned: Stock[] | undefined): readonly Rung[] {
    const { ampacity } = study.site
    const { conductor, bundledConductors } = lead
    const ambientC = study.ambient(lead).high
    const asked = [ampacity, conductor.mm2 !== undefined, conductor.insulationC, ambientC, bundledConductors]
    const key = asked.join()
    const known = this.known.get(key)
    if (known) return known
    const rungs = ladder(conductor, owned).map(c => ({
      conductor: c,
      mm2: conductorMm2(c),
      ampacityA: ampacityA(c, ampacity, ambientC, bundledConductors),
      largestFuseA: largestFuseA(c, ampacity, ambientC, bundledConductors),
    }))
    this.known.set(key, rungs)
    return rungs
  }
}

/** What a lead may be made of, behind whichever fuse. */
export function fitting(study: Study, lead: Lead, options: SizeOptions, ladders: Ladders): Fitting[] {
  const current = study.leadAmps(lead).value
  // For least drop a wire that is too thick for its contact is not made thinner for it.
  const relaxed = options.for === 'drop' || (options.relax?.includes('contacts') ?? false)
  return ladders
    .rungs(study, lead, options.owned)
    .filter(rung => rung.ampacityA >= current && takenByEnds(study, lead, rung.mm2, relaxed))
    .map(({ conductor, mm2, largestFuseA }) => ({
      ...candidate(study, lead, conductor, options),
      mm2,
      largestFuseA,
    }))
}

/** What a lead's conductor must be: as much as its fuse, so thick at least, none of those barred. */
interface Bounds {
  /** Of the fuse before it; 0 where there is none. */
  ratedA: number
  leastMm2: number
  banned: ReadonlySet<string> | undefined
}

export const within = (fitting: readonly Fitting[], { ratedA, leastMm2, banned }: Bounds): Candidate[] =>
  fitting.filter(c => c.largestFuseA >= ratedA && c.mm2 >= leastMm2 - 1e-9 && !banned?.has(conductorName(c.conductor)))
