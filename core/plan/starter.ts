import { FUSE_AT_POST_M } from '../catalog/fuses'
import { fittingRatings } from '../fuse/fuse'
import { ampacityA } from '../conductor/ampacity'
import { conductorMm2 } from '../conductor/resistance'
import { ampsAbout } from '../kinds/draw'
import { isLoad, kindOf, KINDS, needs, type Part } from '../kinds/index'
import { askedBy } from '../kinds/usbSource'
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
 * A first plan from four answers: the source, a fused block, every load on a port of its own with a fuse for it, the
 * wire at hand throughout.
 * It may well have findings; that is what the path then shows. Null where an answer is not in the catalogue.
 */
export function startPlan(answers: Answers): Plan | null {
  const source = partFromCatalogue(answers.source, 'src')
  const parts = chosenLoads(answers.loads)
  if (!source || !parts?.length) return null
  const conductor: Conductor = { ...answers.conductor, insulationC: answers.conductor.insulationC ?? INSULATION_C }
  const wire: Wire = {
    conductor,
    lengthM: answers.lengthM,
    carriesA: ampacityA(conductor, 'open', DEFAULT_AMBIENT_C.high),
    connector: connectorFor(conductor),
  }
  const asked = askerFor(source, parts)
  const totalA = parts.reduce((sum, p) => sum + activeAmps(p), 0)
  return {
    format: FORMAT,
    version: VERSION,
    name: answers.name,
    site: { ambientC: { ...DEFAULT_AMBIENT_C }, ampacity: 'open', fuseDistance: 'strict' },
    parts: [source, ...(asked ? [asked] : []), blockFor(parts, totalA, wire), ...parts],
    leads: [
      ...(asked ? [cable(source, asked)] : []),
      mainLead(asked ?? source, totalA, wire),
      ...parts.map((part, i) => loadLead(part, i, wire)),
    ],
  }
}

/** What asks the source for a voltage that every load stands, where it gives one only when asked. */
function askerFor(source: Part, loads: readonly Part[]): Part | null {
  const mostV = Math.min(...loads.map(l => (isLoad(l) ? needs(l).maxV : Infinity)))
  const rowId = askedBy(source, mostV)
  return rowId === null ? null : partFromCatalogue(rowId, 'trg')
}

/** A USB cable between a source and its trigger. */
const cable = (source: Part, asked: Part): Lead => ({
  id: 'usb',
  name: 'USB cable',
  from: entryOf(source).id,
  to: entryOf(asked).id,
  lengthM: 0.5,
  conductor: { awg: 22, insulationC: 80 },
  ends: {
    from: { connector: ontoEntry(source), method: 'solder' },
    to: { connector: ontoEntry(asked), method: 'solder' },
  },
})

/** The wire at hand, and what goes with it. */
interface Wire {
  conductor: Conductor
  lengthM: number
  carriesA: number
  /** Family of the block's contacts, which it fits. */
  connector: string
}

/** Parts of the catalogue under ids of their own; null where one is not in it. */
function chosenLoads(rowIds: readonly string[]): Part[] | null {
  const used = new Map<string, number>()
  const parts = rowIds.map(rowId => {
    const stem = rowId.split('-')[0]!
    const n = (used.get(stem) ?? 0) + 1
    used.set(stem, n)
    return partFromCatalogue(rowId, n > 1 ? `${stem}${n}` : stem)
  })
  return parts.every(p => p !== null) ? parts : null
}

function connectorFor(conductor: Conductor): string {
  const mm2 = conductorMm2(conductor)
  if (mm2 > 6) return 'heavy-50'
  return mm2 < 2 ? 'stack-30' : 'stack-45'
}

/** A spare port's fuse, A. */
const SPARE_A = 10
/** Blocks are sold for these totals, A. */
const BLOCK_A = [40, 100] as const

function blockFor(parts: readonly Part[], totalA: number, { carriesA, connector }: Wire): Part {
  const port = (i: number, ratedA: number) => ({ id: `p${i + 1}`, fuse: { type: 'blade', ratedA }, connector })
  return {
    id: 'blk',
    kind: 'block',
    name: 'Fused block',
    ratedA: totalA > BLOCK_A[0] ? BLOCK_A[1] : BLOCK_A[0],
    feed: connector,
    ports: [...parts.map((p, i) => port(i, portFuse(activeAmps(p), carriesA))), port(parts.length, SPARE_A)],
  }
}

function mainLead(source: Part, totalA: number, { conductor, carriesA, connector }: Wire): Lead {
  return {
    id: 'main',
    name: 'main lead',
    from: exitOf(source),
    to: 'blk.feed',
    lengthM: 1,
    conductor,
    ends: { from: { connector: onto(exitOf(source), source), method: 'crimp' }, to: { connector, method: 'crimp' } },
    inline: [{ id: 'f1', kind: 'fuse', ...mainFuse(totalA, carriesA), atM: FUSE_AT_POST_M, legs: 'positive' }],
  }
}

const loadLead = (part: Part, i: number, { conductor, lengthM, connector }: Wire): Lead => ({
  id: `l${i + 1}`,
  name: `${part.name ?? part.id} lead`,
  from: `blk.p${i + 1}`,
  to: entryOf(part).id,
  lengthM,
  conductor,
  ends: { from: { connector, method: 'crimp' }, to: { connector: ontoEntry(part), method: 'crimp' } },
})

/** The terminal by which a part is joined to the rest. */
function entryOf(part: Part) {
  const terminals = kindOf(part).terminals(part, [])
  return terminals.find(t => t.id === kindOf(part).entry?.(part)) ?? terminals[0]!
}

/** The terminal by which what a part gives leaves it. */
function exitOf(part: Part): string {
  const out = kindOf(part).between?.[1]
  return out === undefined ? entryOf(part).id : `${part.id}.${out}`
}

const ontoEntry = (part: Part) => onto(entryOf(part).id, part)

/** What goes onto a terminal: its own family, a fork under a screw. */
function onto(terminalId: string, part: Part): string {
  const terminals = kindOf(part).terminals(part, [])
  const connector = terminals.find(t => t.id === terminalId)?.connector ?? 'screw'
  return connector === 'screw' || connector === 'post-4mm' ? 'fork' : connector
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
