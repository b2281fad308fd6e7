import { connector } from '../catalog/connectors'
import { CONDUCTOR_COST, CONTACT_COST, FUSE_COST } from '../catalog/prices'
import { fuseClass } from '../catalog/fuses'
import { conductorGramsPerM, conductorName } from '../conductor/resistance'
import { adapterKey, conductorKey, contactKey, fuseKey, packKey } from '../catalog/stockKeys'
import { graphOf } from '../graph/graph'
import { kindOf } from '../kinds/index'
import { inlineWords } from '../kinds/inline'
import { legsOf, nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { shelfFor, type ShelfItem } from '../shelf/item'
import { cutLength } from './cut'
import { LINK_M, packLinks, stringFuses } from './packLinks'
import { asGiven, rounded } from '../units/number'

/**
 * One thing a plan needs to be built, less what the shelf has of it. Counts in pieces or metres of single conductor.
 */
export interface ShoppingRow {
  what: string
  unit: 'piece' | 'm'
  needs: number
  has: number
  buy: number
  /** Money, typical where no price is said. */ cost: number
}

interface Need {
  key: string
  what: string
  unit: 'piece' | 'm'
  count: number
  unitCost: number
}

/** Everything a plan is made of, as countable things. */
export function needsOf(plan: Plan): Need[] {
  const rows = new Map<string, Need>()
  const put = ({ key, what, count, unitCost, unit }: Need) => {
    const row = rows.get(key)
    if (row) row.count = rounded(row.count + count, 3)
    else rows.set(key, { key, what, unit, count, unitCost })
  }
  const add = (key: string, what: string, count: number, unitCost: number) =>
    put({ key, what, count, unitCost, unit: 'piece' })
  for (const part of plan.parts) {
    const { key, what, cost } = kindOf(part).stock?.(part) ?? { key: `part ${part.id}` }
    add(key, what ?? `${kindOf(part).label}: ${nameOf(part)}`, 1, part.cost ?? cost ?? 0)
    for (const { opener, fields } of graphOf(plan).terminalsOf(part.id)) {
      // A breaker is its part itself.
      if (opener && fields?.opener)
        add(fuseKey(opener.type, opener.ratedA), fuseWords(opener.type, opener.ratedA), 1, FUSE_COST / 4)
    }
  }
  for (const lead of plan.leads) {
    const legs = legsOf(lead)
    const { conductor } = lead
    const name = conductorName(conductor)
    put({
      key: conductorKey(name),
      what: `${name} conductor${conductor.insulationC ? `, ${asGiven(conductor.insulationC)} °C` : ''}`,
      count: legs * cutLength(lead.lengthM),
      unitCost: CONDUCTOR_COST.perM + CONDUCTOR_COST.perGram * conductorGramsPerM(conductor),
      unit: 'm',
    })
    for (const end of ['from', 'to'] as const) {
      const fitted = lead.ends?.[end]?.connector
      if (fitted && fitted !== 'bare') add(contactKey(fitted), `${connector(fitted).label}, a pair`, 1, CONTACT_COST)
    }
    for (const item of lead.inline ?? []) {
      if (item.kind === 'fuse')
        add(
          fuseKey(item.type ?? 'blade', item.ratedA),
          fuseWords(item.type ?? 'blade', item.ratedA),
          item.legs === 'both' ? 2 : 1,
          FUSE_COST,
        )
      else if (item.kind === 'breaker')
        add(`breaker ${item.ratedA}`, `breaker ${asGiven(item.ratedA)} A`, 1, 3 * FUSE_COST)
      else if (item.kind === 'dropper')
        add(`diode ${item.ratedA ?? 1}`, `silicon diode ${asGiven(item.ratedA ?? 1)} A`, item.count ?? 1, 0.5)
      else if (item.kind === 'choke') add('ferrite core', 'ferrite core', item.cores, 3)
      else add(item.kind, item.kind === 'meter' ? 'watt meter' : inlineWords(item), 1, 5)
    }
  }
  for (const need of linkNeeds(plan)) put(need)
  return [...rows.values()]
}

/** Links between the packs of a battery, and the fuse of each of its strings. */
function linkNeeds(plan: Plan): Need[] {
  const links = packLinks(plan).flatMap(({ conductor, legs, connector: fitted }): Need[] => {
    const name = conductorName(conductor)
    const count = legs.length
    const heat = conductor.insulationC ? `, ${asGiven(conductor.insulationC)} °C` : ''
    const unitCost = CONDUCTOR_COST.perM + CONDUCTOR_COST.perGram * conductorGramsPerM(conductor)
    const wire = {
      key: conductorKey(name),
      what: `${name} conductor${heat}`,
      count: count * cutLength(LINK_M),
      unitCost,
    }
    if (!fitted) return [{ ...wire, unit: 'm' }]
    const what = `${connector(fitted).label}, a pair`
    return [
      { ...wire, unit: 'm' },
      { key: contactKey(fitted), what, count, unitCost: CONTACT_COST, unit: 'piece' },
    ]
  })
  const fuses = stringFuses(plan).map(({ type, ratedA, count }): Need => {
    const [key, what] = [fuseKey(type, ratedA), fuseWords(type, ratedA)]
    return { key, what, count, unitCost: FUSE_COST, unit: 'piece' }
  })
  return [...links, ...fuses]
}

const fuseWords = (type: string, ratedA: number) => `${fuseClass(type).label} fuse ${asGiven(ratedA)} A`

function keyOf(item: ShelfItem): string {
  switch (item.what) {
    case 'conductor':
      return conductorKey(conductorName(item))
    case 'contact':
      return contactKey(item.connector)
    case 'fuse':
      return fuseKey(item.type, item.ratedA)
    case 'adapter':
      return adapterKey(item.a, item.b)
    case 'pack':
      return packKey(item)
  }
}

/** How much there is on a shelf of each thing, and the price that it says, by the thing's key. */
export function stockOf(shelf: readonly ShelfItem[]): { has: Map<string, number>; price: Map<string, number> } {
  const has = new Map<string, number>()
  const price = new Map<string, number>()
  for (const item of shelf) {
    has.set(keyOf(item), (has.get(keyOf(item)) ?? 0) + (item.what === 'conductor' ? item.metres : item.count))
    if (item.cost !== undefined) price.set(keyOf(item), item.cost)
  }
  return { has, price }
}

/** What the plan needs less what the shelf has. Rows of which there is enough stay, with nothing to buy. */
export function shoppingList(plan: Plan, shelf: readonly ShelfItem[]): ShoppingRow[] {
  const { has, price } = stockOf(shelfFor(plan, shelf))
  return needsOf(plan).map(({ key, what, unit, count, unitCost }) => {
    const there = Math.min(count, has.get(key) ?? 0)
    const buy = rounded(count - there, 2)
    return { what, unit, needs: count, has: there, buy, cost: rounded(buy * (price.get(key) ?? unitCost), 2) }
  })
}
