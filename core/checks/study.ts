import { ampacityA } from '../conductor/ampacity'
import { loadsOf } from '../circuit/conditions'
import { arrivalSpan, largestAmps, solvedPoints, type Extreme, type SolvedPlan } from '../circuit/matrix'
import { sourcesIn } from '../circuit/network'
import { partAmps } from '../circuit/point'
import { staircase, type Staircase } from '../circuit/staircase'
import type { OperatingPoint } from '../circuit/solve'
import { gives, type Part } from '../kinds/index'
import { siteOf, type Lead, type Plan } from '../plan/schema'
import { overfused, protectionOf, unprotectedRuns, type Overfused, type Protection, type Unprotected } from '../protection/zones'

/** What several checks ask of one solved plan, worked out once and when first asked. */
export class Study {
  readonly plan: Plan
  readonly site: ReturnType<typeof siteOf>
  private readonly memo = new Map<string, unknown>()

  constructor(readonly solved: SolvedPlan) {
    this.plan = solved.plan
    this.site = siteOf(solved.plan)
  }

  private once<T>(key: string, work: () => T): T {
    if (!this.memo.has(key)) this.memo.set(key, work())
    return this.memo.get(key) as T
  }

  get loads() { return this.once('loads', () => loadsOf(this.plan)) }
  get points(): OperatingPoint[] { return this.once('points', () => solvedPoints(this.solved)) }

  point(conditionId: string): OperatingPoint | undefined {
    return this.solved.points.find(p => p.condition.id === conditionId)
  }

  /** Largest current in a lead over all conditions. */
  leadAmps(lead: Lead): Extreme {
    return this.once(`lead ${lead.id}`, () => largestAmps(this.solved, this.solved.network.branchOfLead.get(lead.id)))
  }

  /** Largest current through the link that ends at a terminal, as a block's port. */
  portAmps(terminal: string): Extreme {
    return this.once(`port ${terminal}`, () => {
      const branch = this.solved.network.branchOfTerminal.get(terminal)
      if (branch !== undefined) return largestAmps(this.solved, branch)
      // A terminal with no resistance of its own carries what its leads carry.
      return this.leadsAt(terminal).map(l => this.leadAmps(l)).reduce((a, b) => b.value > a.value ? b : a, { value: 0, condition: '' })
    })
  }

  /** Largest current a source gives, or a load takes, over all conditions. */
  partAmps(part: Part, worst: 'most' | 'least' = 'most'): Extreme {
    return this.once(`part ${part.id} ${worst}`, () => {
      let found: Extreme | null = null
      for (const point of this.points) {
        const value = partAmps(this.solved.network, point, part)
        if (!found || (worst === 'most' ? value > found.value : value < found.value)) found = { value, condition: point.condition.id }
      }
      return found ?? { value: 0, condition: '' }
    })
  }

  arrival(terminal: string) {
    return this.once(`arrival ${terminal}`, () => arrivalSpan(this.solved, terminal))
  }

  staircase(terminal: string, conditionId: string): Staircase | null {
    const point = this.point(conditionId)
    return point ? staircase(this.solved.network, point, terminal) : null
  }

  /** Highest EMF of a point's sources, V. */
  highestSourceV(point: OperatingPoint): number {
    return this.once(`highest ${point.condition.source}`, () => Math.max(0, ...sourcesIn(this.solved.network, point.condition.source).map(s => s.emfV)))
  }

  leadsAt(terminal: string): Lead[] {
    return this.leadsByTerminal.get(terminal) ?? []
  }

  private get leadsByTerminal(): Map<string, Lead[]> {
    return this.once('leads by terminal', () => {
      const map = new Map<string, Lead[]>()
      for (const lead of this.plan.leads) {
        for (const t of [lead.from, lead.to]) {
          const list = map.get(t)
          if (list) list.push(lead)
          else map.set(t, [lead])
        }
      }
      return map
    })
  }

  get sources(): Part[] { return this.once('sources', () => this.plan.parts.filter(gives)) }
  get parts(): Map<string, Part> { return this.once('parts', () => new Map(this.plan.parts.map(p => [p.id, p]))) }
  get protection(): Protection { return this.once('protection', () => protectionOf(this.plan)) }
  get unprotected(): Unprotected[] { return this.once('unprotected', () => unprotectedRuns(this.plan, this.protection)) }
  get overfused(): Overfused[] { return this.once('overfused', () => overfused(this.plan, this.protection)) }

  /** Ampacity of a lead in the hottest ambient of the site, under a school, A. */
  ampacity(lead: Lead, school = this.site.ampacity): number {
    return ampacityA(lead.conductor, school, this.site.ambientC.high, lead.bundledConductors)
  }
}
