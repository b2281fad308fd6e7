import { ampacityA } from '../conductor/ampacity'
import { loadsOf } from '../circuit/conditions'
import { arrivalSpan, largestAmps, solveCorners, solvedPoints, type Extreme, type SolvedPlan } from '../circuit/matrix'
import { sourcesIn } from '../circuit/placed'
import { partAmps } from '../circuit/point'
import { staircase, type Staircase } from '../circuit/staircase'
import type { OperatingPoint } from '../circuit/operatingPoint'
import { deviceKey } from '../graph/device'
import { graphOf } from '../graph/graph'
import { gives, kindOf, type Part } from '../kinds/index'
import type { Around } from '../kinds/kind'
import { nameOf, partById } from '../plan/find'
import { partName } from '../plan/names'
import { ambientOf, siteOf, type Lead, type Plan } from '../plan/schema'
import { shortStudy, type ShortStudy } from '../short/study'
import type { ShelfItem } from '../shelf/item'
import {
  largestFuseOf,
  overfused,
  protectionOf,
  unprotectedRuns,
  type Overfused,
  type Protection,
  type Unprotected,
} from '../protection/zones'

/** What several checks ask of one solved plan, worked out once and when first asked. */
export class Study {
  readonly plan: Plan
  readonly site: ReturnType<typeof siteOf>
  private readonly memo = new Map<string, unknown>()

  constructor(
    readonly solved: SolvedPlan,
    readonly shelf: readonly ShelfItem[] = [],
  ) {
    this.plan = solved.plan
    this.site = siteOf(solved.plan)
  }

  /** What a part or lead is called in a sentence; a part with its id where another one is called alike. */
  readonly name = (item: { id: string; name?: string }): string =>
    this.once(`name ${item.id}`, () => (partById(this.plan, item.id) ? partName(this.plan, item.id) : nameOf(item)))

  private once<T>(key: string, work: () => T): T {
    if (!this.memo.has(key)) this.memo.set(key, work())
    return this.memo.get(key) as T
  }

  get loads() {
    return this.once('loads', () => loadsOf(this.plan))
  }
  get points(): OperatingPoint[] {
    return this.once('points', () => solvedPoints(this.solved))
  }

  point(conditionId: string): OperatingPoint | undefined {
    return this.solved.points.find(p => p.condition.id === conditionId)
  }

  /** Largest current in a lead over all conditions. */
  leadAmps(lead: Lead): Extreme {
    return this.once(`lead ${lead.id}`, () => largestAmps(this.solved, this.solved.network.branchOfLead.get(lead.id)))
  }

  /** What a lead drops at its largest current, V. */
  leadDropV(lead: Lead): number {
    const { network } = this.solved
    const branch = network.branchOfLead.get(lead.id)
    const { value } = this.leadAmps(lead)
    const point =
      branch === undefined ? undefined : this.points.find(p => Math.abs(Math.abs(p.amps[branch]!) - value) < 1e-5)
    return point
      ? Math.abs(point.volts[network.nodeOf.get(lead.from)!]! - point.volts[network.nodeOf.get(lead.to)!]!)
      : 0
  }

  /** Largest current through the link that ends at a terminal, as a block's port. */
  portAmps(terminal: string): Extreme {
    return this.once(`port ${terminal}`, () => {
      const branch = this.solved.network.branchOfTerminal.get(terminal)
      if (branch !== undefined) return largestAmps(this.solved, branch)
      // A terminal with no resistance of its own carries what its leads carry.
      return this.leadsAt(terminal)
        .map(l => this.leadAmps(l))
        .reduce((a, b) => (b.value > a.value ? b : a), { value: 0, condition: '' })
    })
  }

  /** Largest current a source gives, or a load takes, over all conditions. */
  partAmps(part: Part, worst: 'most' | 'least' = 'most'): Extreme {
    return this.once(`part ${part.id} ${worst}`, () => {
      let found: Extreme | null = null
      for (const point of this.points) {
        const value = partAmps(this.solved.network, point, part)
        if (!found || (worst === 'most' ? value > found.value : value < found.value))
          found = { value, condition: point.condition.id }
      }
      return found ?? { value: 0, condition: '' }
    })
  }

  /** Largest current through the leads on a terminal. */
  terminalAmps(terminal: string): Extreme {
    return this.leadsAt(terminal)
      .map(l => this.leadAmps(l))
      .reduce((a, b) => (b.value > a.value ? b : a), { value: 0, condition: '' })
  }

  /**
   * What all loads on a battery's wire take from it and its chargers while idle at the end of a charge, A; null where
   * that cannot be told apart.
   */
  batteryIdleA(batteryId: string): number | null {
    const point = this.point('charging/idle')
    const sharing = this.around(batteryId).filter(a => gives(a.part) && !kindOf(a.part).needsController)
    if (!point || point.status !== 'ok' || new Set(sharing.map(a => a.part.id)).size > 1) return null
    const { component, nodeOf } = this.solved.network
    const wire = component[nodeOf.get(batteryId)!]
    const given = point.sources.filter(s => component[s.node] === wire).reduce((sum, s) => sum + s.amps, 0)
    return given
  }

  arrival(terminal: string) {
    return this.once(`arrival ${terminal}`, () => arrivalSpan(this.solved, terminal))
  }

  staircase(terminal: string, conditionId: string): Staircase | null {
    return this.once(`stairs ${terminal} ${conditionId}`, () => {
      const point = this.point(conditionId)
      return point ? staircase(this.solved.network, point, terminal) : null
    })
  }

  /** Highest EMF of a point's sources, V. */
  highestSourceV(point: OperatingPoint): number {
    return this.once(`highest ${point.condition.source}`, () =>
      Math.max(0, ...sourcesIn(this.solved.network, point.condition.source).map(s => s.emfV)),
    )
  }

  /** Highest voltage on one wire: the highest EMF of any state, panels open on the coldest morning, V. */
  highestIn(component: number): number {
    return this.once(`highest in ${component}`, () => {
      const { network, points } = this.solved
      const states = new Set(points.map(p => p.condition.source))
      const emfs = [...states].flatMap(s =>
        sourcesIn(network, s)
          .filter(x => network.component[x.node] === component)
          .map(x => x.emfV),
      )
      const open = this.plan.parts.flatMap(part => {
        const { highestV } = kindOf(part)
        const onWire = highestV && network.component[network.nodeOf.get(part.id)!] === component
        return onWire ? [highestV(part, this.site.ambientC.low)] : []
      })
      return Math.max(0, ...emfs, ...open)
    })
  }

  leadsOf(partId: string): readonly Lead[] {
    return graphOf(this.plan).leadsOf(partId)
  }

  leadsAt(terminal: string): readonly Lead[] {
    return graphOf(this.plan).leadsAt(terminal)
  }

  get sources(): Part[] {
    return this.once('sources', () => this.plan.parts.filter(gives))
  }
  get parts(): Map<string, Part> {
    return this.once('parts', () => new Map(this.plan.parts.map(p => [p.id, p])))
  }
  get protection(): Protection {
    return this.once('protection', () => protectionOf(this.plan))
  }
  get unprotected(): Unprotected[] {
    return this.once('unprotected', () => unprotectedRuns(this.plan, this.protection))
  }
  get overfused(): Overfused[] {
    return this.once('overfused', () => overfused(this.plan, this.protection))
  }

  ambient(lead: Lead) {
    return ambientOf(this.plan, lead)
  }

  /** Dead shorts at every lead's far end. */
  get shorts(): ShortStudy {
    return this.once('shorts', () => shortStudy(this.plan, 'lead-ends', this.solved))
  }

  /** What each fuse and breaker may have to break, A, by `place item`. */
  get behindA(): ReadonlyMap<string, number> {
    return this.once('behind', () => new Map(this.shorts.devices.map(d => [deviceKey(d), d.behindA])))
  }

  get around(): Around {
    return this.solved.network.around
  }

  /** The largest fuse that protects a lead in the hottest ambient of the site, A. */
  largestFuse(lead: Lead): number {
    return largestFuseOf(this.plan, lead)
  }

  /** Ampacity of a lead in the hottest ambient of the site, under a school, A. */
  ampacity(lead: Lead, school = this.site.ampacity): number {
    return ampacityA(lead.conductor, school, this.ambient(lead).high, lead.bundledConductors)
  }
}

/** A plan solved in every condition, for whoever asks of it. */
export const studyOf = (plan: Plan) => new Study(solveCorners(plan))
