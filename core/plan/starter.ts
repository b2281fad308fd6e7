import { FUSE_AT_POST_M } from '../catalog/fuses'
import { fittingRatings } from '../fuse/fuse'
import { ampacityA } from '../conductor/ampacity'
import { conductorMm2 } from '../conductor/resistance'
import { ampsAbout } from '../kinds/draw'
import { kindOf, KINDS, type Part } from '../kinds/index'
import { FORMAT, VERSION, type Conductor, type Lead, type Plan } from './schema'
import { DEFAULT_AMBIENT_C } from './schema'

/** The four questions a new station starts from. */
export interface Answers {
  name: string
  /** Catalogue ids of what is to be powered, one entry each. */
  loads: string[]
  /** Catalogue id of what powers it. */
  source: string
  /** From the block to each load, one way, m. */
  lengthM: number
  /** The conductor at hand. */
  conductor: Conductor
}

/** A row of some kind's catalogue as a part with an id. */
export function partFromCatalogue(rowId: string, id: string): Part | null {
  for (const kind of KINDS.values()) {
    const row = kind.catalogue.find(r => r.id === rowId)
    if (row) return { ...structuredClone(row.part), id } as Part
  }
  return null
}

/** Everything of one role that the catalogue has, for choosing. */
export function catalogueOf(role: 'source' | 'load' | 'between') {
  return [...KINDS.values()]
    .filter(k => k.role === role)
    .flatMap(k =>
      k.catalogue.map(row => ({
        id: row.id,
        label: row.label,
        kind: k.kind as string,
        part: row.part as Record<string, unknown>,
      })),
    )
}

/** What a station can start from: a panel alone powers nothing. */
export const startingSources = () => catalogueOf('source').filter(c => !KINDS.get(c.kind)!.needsController)

const INSULATION_C = 105
const activeAmps = (part: Part) => ampsAbout(kindOf(part).sink!(part, true))

/**
 * A first plan from four answers: the source, a fused block, every load on a port of its own with a fuse for it, the wire at hand throughout.
 * It may well have findings; that is what the path then shows. Null where an answer is not in the catalogue.
 */
export function startPlan(answers: Answers): Plan | null {
  const source = partFromCatalogue(answers.source, 'src')
  const used = new Map<string, number>()
  const loads = answers.loads.map(rowId => {
    const stem = rowId.split('-')[0]!
    const n = (used.get(stem) ?? 0) + 1
    used.set(stem, n)
    return partFromCatalogue(rowId, n > 1 ? `${stem}${n}` : stem)
  })
  if (!source || loads.some(l => l === null) || !loads.length) return null
  const parts = loads as Part[]
  const conductor: Conductor = { ...answers.conductor, insulationC: answers.conductor.insulationC ?? INSULATION_C }
  const carries = ampacityA(conductor, 'open', DEFAULT_AMBIENT_C.high)
  const total = parts.reduce((sum, p) => sum + activeAmps(p), 0)
  const portConnector = conductorMm2(conductor) > 6 ? 'heavy-50' : conductorMm2(conductor) < 2 ? 'stack-30' : 'stack-45'
  const sourceTerminal = entryOf(source).connector ?? 'screw'
  const sourceEnd = sourceTerminal === 'screw' ? 'fork' : sourceTerminal === 'post-4mm' ? 'fork' : sourceTerminal
  const block: Part = {
    id: 'blk',
    kind: 'block',
    name: 'Fused block',
    ratedA: total > 40 ? 100 : 40,
    feed: portConnector,
    ports: [
      ...parts.map((p, i) => ({
        id: `p${i + 1}`,
        fuse: { type: 'blade', ratedA: portFuse(activeAmps(p), carries) },
        connector: portConnector,
      })),
      { id: `p${parts.length + 1}`, fuse: { type: 'blade', ratedA: 10 }, connector: portConnector },
    ],
  }
  const main: Lead = {
    id: 'main',
    name: 'main lead',
    from: entryOf(source).id,
    to: 'blk.feed',
    lengthM: 1,
    conductor,
    ends: { from: { connector: sourceEnd, method: 'crimp' }, to: { connector: portConnector, method: 'crimp' } },
    inline: [
      {
        id: 'f1',
        kind: 'fuse',
        type: mainFuse(total, carries).type,
        ratedA: mainFuse(total, carries).ratedA,
        atM: FUSE_AT_POST_M,
        legs: 'positive',
      },
    ],
  }
  const leads = parts.map((part, i): Lead => ({
    id: `l${i + 1}`,
    name: `${part.name ?? part.id} lead`,
    from: `blk.p${i + 1}`,
    to: entryOf(part).id,
    lengthM: answers.lengthM,
    conductor,
    ends: { from: { connector: portConnector, method: 'crimp' }, to: { connector: loadEnd(part), method: 'crimp' } },
  }))
  return {
    format: FORMAT,
    version: VERSION,
    name: answers.name,
    site: { ambientC: { ...DEFAULT_AMBIENT_C }, ampacity: 'open', fuseDistance: 'strict' },
    parts: [source, block, ...parts],
    leads: [main, ...leads],
  }
}

/** The terminal by which a part is joined to the rest. */
function entryOf(part: Part) {
  const terminals = kindOf(part).terminals(part, [])
  return terminals.find(t => t.id === kindOf(part).entry?.(part)) ?? terminals[0]!
}

function loadEnd(part: Part): string {
  const terminal = entryOf(part).connector
  return terminal === 'screw' || terminal === undefined ? 'fork' : terminal
}

/** The smallest fuse that carries the load; failing that by the conductor, the largest the conductor allows. */
function portFuse(continuousA: number, conductorAmps: number): number {
  return fittingRatings('blade', continuousA, conductorAmps)[0] ?? fittingRatings('blade', 0, conductorAmps).at(-1) ?? 1
}

function mainFuse(continuousA: number, conductorAmps: number): { type: string; ratedA: number } {
  for (const type of ['blade', 'strip', 'strip-high']) {
    const ratedA = fittingRatings(type, continuousA, conductorAmps)[0]
    if (ratedA !== undefined) return { type, ratedA }
  }
  const type = conductorAmps >= 40 ? 'strip' : 'blade'
  return { type, ratedA: fittingRatings(type, 0, conductorAmps).at(-1) ?? 1 }
}
