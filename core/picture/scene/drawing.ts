import type { Severity } from '../../checks/check'
import type { NamedPoint } from '../../circuit/point'
import type { Graph } from '../../graph/graph'
import type { Plan } from '../../plan/schema'
import type { Units } from '../../units/quantity'
import type { Verdict } from '../../verdict/verdict'
import type { PathLayout } from '../layout'
import type { Shown } from '../shown'
import type { LabelPlace } from './labels'

/** A short circuit shown on the path. */
export interface ShownShort {
  /** Terminal. */
  at: string
  lead: string | null
  /** Leads on the way of its current, and whether each survives it. */
  way: ReadonlyMap<string, boolean>
  /** Words by device key: what opens, and when. */
  opens: ReadonlyMap<string, string>
}

export interface SceneOptions {
  units: Units
  verdict: Verdict | null
  shown: Shown | null
  /** The chosen condition; null for all together. */
  point?: NamedPoint | null
  selected?: string | null
  /** Load whose staircase is open. */
  shownLoad?: string | null
  lit?: ReadonlySet<string>
  short?: ShownShort | null
  /** To be printed: without what invites a hand. */
  onPaper?: boolean
}

/** What every part of a scene is drawn from. */
export interface Drawing extends Required<Omit<SceneOptions, 'shown'>> {
  plan: Plan
  layout: PathLayout
  graph: Graph
  shown: Shown | null
  /** Worst severity at each place. */
  worst: ReadonlyMap<string, Severity>
  /** Where the words of each lead stand; null where they would lie on something. */
  labels: ReadonlyMap<string, LabelPlace | null>
}

/** Height of the scene's head, px. */
export const HEAD_HEIGHT = 40

/** The band behind a load's row, px. */
export const rowBand = ({ loadX, width, rowHeight }: PathLayout, y: number) => ({
  x: loadX - 6,
  y: y - rowHeight / 2 + 3,
  width: width - loadX,
  height: rowHeight - 6,
  rx: 6,
})
