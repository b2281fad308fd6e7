import { changeOf, type Patch } from '../edit/patch'
import { kindOf, type Part } from '../kinds/index'
import type { Plan } from '../plan/schema'
import { goIn, type Sides } from './box'
import { EventCourse } from './course'
import type { HoursEvent } from './event'
import { meetsOdds } from './odds'
import type { NamedStore } from './standing'
import { packFigures } from './worth'
import { placeName } from '../plan/names'

/** The least set of packs and panels that lasts an event. */

export type Least = 'massG' | 'cost' | 'litres'

export interface SetWish {
  least: Least
  /** In such a share of weathers nothing fails. */
  odds: number
  runs: number
  seed: number
  /** The pack that is chosen; unsaid: the plan's largest. */
  part?: string
  /** What one pack may hold, Wh, as for travel in a cabin. */
  mostWhAPack?: number
  /** Inside of a box that takes all packs, mm. */
  boxMm?: Sides
  mostCost?: number
  /** In turn, one is filled while another is used: hours that takes from empty; unsaid: none is filled. */
  refillH?: number
  /** Told the share done; stops by returning false. */
  progress?: (share: number) => boolean
}

/** One way to last: so many packs joined or changed in turn, and panels of so much. */
export interface PackSet {
  way: 'joined' | 'in turn'
  packs: number
  /** Of one pack: Ah, or Wh of a bank. */
  each: number
  unit: 'Ah' | 'Wh'
  eachWh: number
  /** Of the panels at their label, W; against what the plan has. */
  panelW: number
  panelFactor: number
  /** Packs and panels. */
  massG: number
  cost: number
  litres: number
  onAir: number
  /** In turn: when each is put in, in the weather that is said. */
  changedAtH: number[]
  /** In turn, with one filled while another is used: hours that takes. */
  refillH?: number
  /** What changes in the plan: the pack, and the panels. */
  patch: Patch
}

export interface Sets {
  part: string
  /** Best first; one of each way. */
  sets: PackSet[]
  /** What the plan's own costs by the same measure. */
  asPlanned: { massG: number; cost: number; litres: number }
  /** Classes' figures that decided, in words. */
  assumed: string[]
  /** Nothing lasts, and why. */
  none?: string
}

/** Sizes that packs are sold in. */
const SIZES = {
  Ah: [1, 1.5, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 150, 200, 250, 300, 400, 600, 800],
  Wh: [10, 20, 30, 50, 75, 100, 150, 200, 300, 400, 500, 700, 1000, 1500, 2000, 3000, 5000, 8000],
}
const PANEL_FACTORS = [0, 0.5, 1, 1.5, 2, 3]
const WAYS = [
  { way: 'joined', packs: 1 },
  { way: 'joined', packs: 2 },
  { way: 'joined', packs: 3 },
  { way: 'joined', packs: 4 },
  { way: 'in turn', packs: 2 },
  { way: 'in turn', packs: 3 },
  { way: 'in turn', packs: 4 },
] as const
/** Panels that do not say: folding ones, by the watt (typical). */
const PANEL_G_A_WATT = 42
const PANEL_COST_A_WATT = 1.2
const DECIDES = ['mass', 'cost']

type Way = (typeof WAYS)[number]
type Panel = Part & { maxPowerV: number; maxPowerA: number }

/** The pack that is chosen: the one asked for, or the largest. */
export function mainStore(stores: readonly NamedStore[], part?: string): NamedStore | undefined {
  if (part !== undefined) return stores.find(s => s.part.id === part)
  return [...stores].sort((a, b) => b.printedWh - a.printedWh)[0]
}

/** The same of those that come in other sizes. */
export const sizableStore = (stores: readonly NamedStore[], part?: string): NamedStore | undefined =>
  mainStore(
    stores.filter(s => kindOf(s.part).sized),
    part,
  )

/** A plan with one of its parts in place of what has its id. */
export const withPart = (plan: Plan, part: Part): Plan => ({
  ...plan,
  parts: plan.parts.map(p => (p.id === part.id ? part : p)) as Plan['parts'],
})

/** What is at hand at once, and what lies ready. */
interface Amount {
  capacity: number
  panelFactor: number
  spares: number
}

/** What was found of amounts: what holds does with more of anything, what does not does not with less. */
class Known {
  private readonly held: Amount[] = []
  private readonly failed: Amount[] = []
  constructor(private readonly ask: (amount: Amount) => boolean) {}

  holds(amount: Amount): boolean {
    if (this.held.some(known => isWithin(known, amount))) return true
    if (this.failed.some(known => isWithin(amount, known))) return false
    const holds = this.ask(amount)
    ;(holds ? this.held : this.failed).push(amount)
    return holds
  }
}
const isWithin = (a: Amount, b: Amount) =>
  a.capacity <= b.capacity && a.panelFactor <= b.panelFactor && a.spares <= b.spares

/** The first of a row for which something holds from there on; `to` where it holds for that alone. */
function leastFrom(from: number, to: number, holds: (i: number) => boolean): number {
  let [low, high] = [from, to]
  while (low < high) {
    const middle = (low + high) >> 1
    if (holds(middle)) high = middle
    else low = middle + 1
  }
  return high
}

/** One search: the plan and the event it is for, and what is known of its pack and panels. */
class Search {
  readonly store: NamedStore
  readonly panels: Panel[]
  private readonly sizes: readonly number[]
  private tried = 0

  constructor(
    readonly plan: Plan,
    readonly event: HoursEvent,
    readonly wish: SetWish,
  ) {
    const course = new EventCourse(plan, event)
    this.store = sizableStore(course.stores, wish.part)!
    const onControllers = new Set(course.sunInputs.flatMap(i => i.panels.map(p => p.panel.id)))
    this.panels = plan.parts.filter(p => onControllers.has(p.id)) as Panel[]
    this.sizes = SIZES[this.store.unit]
  }

  get panelFactors(): readonly number[] {
    return this.panels.length && this.event.place ? PANEL_FACTORS : [1]
  }

  /** A part of the plan as it would be. */
  private packOf(capacity: number): Part {
    const { part, capacity: own } = this.store
    return kindOf(part).sized!(part, capacity / own)
  }

  private planWith(capacity: number, panelFactor: number): Plan {
    const parts = this.plan.parts.map(p => {
      if (p.id === this.store.part.id) return this.packOf(capacity)
      const isPanel = panelFactor > 0 && this.panels.some(x => x.id === p.id)
      return isPanel ? kindOf(p).sized!(p, panelFactor) : p
    })
    return { ...this.plan, parts: parts as Plan['parts'] }
  }

  /** Panels that stay at home are in the shade all the time. */
  private eventWith(panelFactor: number): HoursEvent {
    if (panelFactor > 0 || !this.panels.length) return this.event
    const others = (this.event.panels ?? []).filter(p => !this.panels.some(x => x.id === p.part))
    return { ...this.event, panels: [...others, ...this.panels.map(p => ({ part: p.id, shade: 1 }))] }
  }

  /** What a set is and costs. */
  private described(
    { way, packs }: Way,
    each: number,
    panelFactor: number,
  ): Omit<PackSet, 'onAir' | 'patch' | 'changedAtH'> {
    const { store, panels } = this
    const factor = each / store.capacity
    const figures = packFigures({ ...store, part: this.packOf(each), printedWh: store.printedWh * factor })
    const watts = panels.reduce((sum, p) => sum + p.maxPowerV * p.maxPowerA, 0) * panelFactor
    const said = (field: 'massG' | 'cost', aWatt: number) =>
      panels.reduce((sum, p) => sum + (p[field] ?? p.maxPowerV * p.maxPowerA * aWatt), 0) * panelFactor
    return {
      way,
      packs,
      each,
      unit: store.unit,
      eachWh: figures.wh,
      panelW: watts,
      panelFactor,
      massG: packs * figures.massG + said('massG', PANEL_G_A_WATT),
      cost: packs * figures.cost + said('cost', PANEL_COST_A_WATT),
      litres: packs * figures.litres,
    }
  }

  /** Whether a set is within what was asked, by what it is and costs. */
  private isAllowed(set: Pick<PackSet, 'eachWh' | 'cost' | 'litres' | 'packs' | 'each'>): boolean {
    const { mostWhAPack = Infinity, mostCost = Infinity, boxMm } = this.wish
    if (set.eachWh > mostWhAPack || set.cost > mostCost) return false
    const { sizeMm } = this.packOf(set.each)
    return !boxMm || goIn(set.packs, (sizeMm as Sides | undefined) ?? null, set.litres, boxMm)
  }

  /** The smallest size from which on a way lasts with so much of panels; null where none does, or none is better. */
  private least(way: Way, panelFactor: number, best: PackSet | null): PackSet | null {
    const { sizes, wish } = this
    const describe = (i: number) => this.described(way, sizes[i]!, panelFactor)
    const isBetter = (i: number) => best === null || describe(i)[wish.least] < best[wish.least]
    const most = sizes.findLastIndex((_, i) => this.isAllowed(describe(i)) && isBetter(i))
    const of = (i: number): Amount => this.amountOf(way, sizes[i]!, panelFactor)
    if (most < 0 || !this.inWeatherSaid.holds(of(most))) return null
    // In the weather that is said it lasts from here on; with the odds asked for a little above, or below.
    let at = leastFrom(0, most, i => this.inWeatherSaid.holds(of(i)))
    while (at <= most && !this.inMostWeathers.holds(of(at))) at++
    if (at > most) return null
    while (at > 0 && this.inMostWeathers.holds(of(at - 1))) at--
    const { changedAtH } = this.courseOf(of(at)).run({ everyH: 0, ...this.sparesOf(of(at)) })
    const filled = way.way === 'in turn' && this.wish.refillH ? { refillH: this.wish.refillH } : {}
    return { ...describe(at), ...filled, onAir: this.onAirOf(of(at)), changedAtH, patch: this.patchFor(of(at)) }
  }

  private amountOf({ way, packs }: Way, each: number, panelFactor: number): Amount {
    return way === 'joined'
      ? { capacity: packs * each, panelFactor, spares: 0 }
      : { capacity: each, panelFactor, spares: packs - 1 }
  }
  private courseOf({ capacity, panelFactor }: Amount): EventCourse {
    return new EventCourse(this.planWith(capacity, panelFactor), this.eventWith(panelFactor))
  }
  private sparesOf({ spares }: Amount) {
    const { refillH } = this.wish
    return spares ? { spares: { part: this.store.part.id, count: spares, ...(refillH && { refillH }) } } : {}
  }
  private asked(amount: Amount) {
    return { runs: this.wish.runs, seed: this.wish.seed, ...this.sparesOf(amount) }
  }

  private readonly inWeatherSaid = new Known(
    amount => !this.courseOf(amount).run({ everyH: 0, ...this.sparesOf(amount) }).ends,
  )
  private readonly counted = new Map<string, number>()
  private readonly inMostWeathers = new Known(amount => {
    const { meets, onAir } = meetsOdds(this.courseOf(amount), this.asked(amount), this.wish.odds)
    // Where they are met, all runs were counted.
    if (meets) this.counted.set(JSON.stringify(amount), onAir)
    return meets
  })
  /** Share of weathers in which nothing fails. */
  private onAirOf(amount: Amount): number {
    return this.counted.get(JSON.stringify(amount)) ?? meetsOdds(this.courseOf(amount), this.asked(amount), 0).onAir
  }

  private patchFor({ capacity, panelFactor }: Amount): Patch {
    return changeOf(this.plan, this.planWith(capacity, panelFactor || 1))
  }

  /** The best of each way, best first; null where it was stopped. */
  all(): PackSet[] | null {
    const found: PackSet[] = []
    const steps = WAYS.length * this.panelFactors.length
    for (const way of WAYS) {
      let best: PackSet | null = null
      for (const factor of this.panelFactors) {
        if (this.wish.progress && !this.wish.progress(this.tried++ / steps)) return null
        best = this.least(way, factor, best) ?? best
      }
      if (best) found.push(best)
    }
    return found.sort((a, b) => a[this.wish.least] - b[this.wish.least] || a.packs - b.packs)
  }

  asPlanned() {
    const { massG, cost, litres } = this.described({ way: 'joined', packs: 1 }, this.store.capacity, 1)
    return { massG, cost, litres }
  }
}

/** @returns null where it was stopped, or where the plan has nothing that runs out and comes in other sizes */
export function setsFor(plan: Plan, event: HoursEvent, wish: SetWish): Sets | null {
  const { stores } = new EventCourse(plan, event)
  if (!sizableStore(stores, wish.part)) return null
  const search = new Search(plan, event, wish)
  const sets = search.all()
  if (!sets) return null
  const { part } = search.store
  const { assumed } = packFigures(search.store)
  return {
    part: part.id,
    sets,
    asPlanned: search.asPlanned(),
    assumed: assumed
      .filter(what => DECIDES.includes(what) || (what === 'size' && wish.boxMm))
      .map(a => `${a} of a pack`),
    ...(sets.length ? {} : { none: whyNone(search) }),
  }
}

/** With far more of everything than anybody has, what fails all the same. */
function whyNone({ plan, event, store, wish }: Search): string {
  const most = SIZES[store.unit].at(-1)!
  const largest = kindOf(store.part).sized!(store.part, most / store.capacity)
  const { ends } = new EventCourse(withPart(plan, largest), event).run({ everyH: 0 })
  if (ends) return `${placeName(plan, ends.place)} ${ends.cause} whatever the pack: mend the plan first`
  return wish.odds > 0.99 ? 'no set tried lasts with such odds' : 'none within these limits lasts'
}
