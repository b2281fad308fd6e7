import { cellsOf } from '../battery/cells'
import { packClass } from '../battery/packs'
import type { NamedStore } from './standing'

/** What a pack is and costs; what it does not say of itself is its class's, and named in `assumed`. */
export interface PackFigures {
  /** As printed, and what of it is planned to be used, at its terminals. */
  wh: number
  usableWh: number
  massG: number
  /** Outside. */
  litres: number
  cost: number
  cycles: number
  years: number
  assumed: string[]
}

const MM3_PER_LITRE = 1e6

/** @param store a battery, bank or power station of a plan */
export function packFigures(store: NamedStore): PackFigures {
  const { part, printedWh: wh } = store
  const usual = packClass(store.chemistry)
  const assumed: string[] = []
  const orUsual = (value: number | undefined, what: string, otherwise: number) => {
    if (value === undefined) assumed.push(what)
    return value ?? otherwise
  }
  const size = part.sizeMm?.reduce((product, side) => product * side, 1 / MM3_PER_LITRE)
  return {
    wh,
    usableWh: wh * (1 - store.endOfUse.charge) * store.efficiency,
    massG: orUsual(part.massG, 'mass', (1000 * wh) / usual.whPerKg),
    litres: orUsual(size, 'size', wh / usual.whPerLitre),
    cost: orUsual(part.cost, 'cost', wh * usual.costPerWh),
    cycles: orUsual(store.lasts.cycles, 'cycles', store.chemistry ? cellsOf(store.chemistry).cycles : BANK_CYCLES),
    years: orUsual(store.lasts.years, 'years', usual.years),
    assumed,
  }
}

/** Full cycles of a bank that does not say what its cells are (typical). */
const BANK_CYCLES = 500

/** What a pack costs by what one gets of it. `perKWhOfLife`: of all that it gives until it is worn. */
export interface Worth {
  perUsableWh: number
  usableWhPerKg: number
  /** It is worn by cycles, or by age, whichever comes first. */
  lifeYears: number
  wornBy: 'cycles' | 'age'
  perYear: number
  perKWhOfLife: number
}

/** @param cyclesAYear how often it is emptied and filled again */
export function worthOf(
  { usableWh, massG, cost, cycles, years }: Pick<PackFigures, 'usableWh' | 'massG' | 'cost' | 'cycles' | 'years'>,
  cyclesAYear: number,
): Worth {
  const yearsByCycles = cyclesAYear > 0 ? cycles / cyclesAYear : Infinity
  const lifeYears = Math.min(years, yearsByCycles)
  const cyclesInLife = Math.min(cycles, cyclesAYear * years)
  return {
    perUsableWh: cost / usableWh,
    usableWhPerKg: usableWh / (massG / 1000),
    lifeYears,
    wornBy: yearsByCycles < years ? 'cycles' : 'age',
    perYear: cost / lifeYears,
    perKWhOfLife: cyclesInLife > 0 ? cost / ((usableWh * cyclesInLife) / 1000) : Infinity,
  }
}

/** Another pack against one: of its price, what it holds and how long it lasts, as shares. */
export interface Rival {
  cost: number
  holdsShare: number
  lifeShare: number
}

/** The same pack from another maker: what it says it holds, and how long it is trusted to last. */
export function rivalOf(pack: PackFigures, { cost, holdsShare, lifeShare }: Rival): PackFigures {
  return {
    ...pack,
    cost,
    wh: pack.wh * holdsShare,
    usableWh: pack.usableWh * holdsShare,
    cycles: pack.cycles * lifeShare,
    years: pack.years * lifeShare,
  }
}

const MUCH_THE_SAME = 0.05

/** Which of two packs costs less for what it gives. */
export function rivalWords(own: Worth, other: Worth): string {
  const [a, b] = [own, other].map(w => (Number.isFinite(w.perKWhOfLife) ? w.perKWhOfLife : w.perYear)) as [
    number,
    number,
  ]
  if (Math.abs(a - b) <= MUCH_THE_SAME * Math.max(a, b)) return 'Over their lives they cost about the same.'
  const [word, share] = b < a ? ['less', 1 - b / a] : ['more', b / a - 1]
  return `Over its life the other costs ${Math.round(100 * share)} % ${word} for what it gives.`
}
