import { FUSE_AT_POST_M } from '../catalog/fuses'
import { fittingRatings } from '../fuse/fuse'
import { mate } from '../connector/mate'
import { ampacityA } from '../conductor/ampacity'
import { thickerSizes } from '../conductor/ladder'
import { conductorMm2, conductorOhmPerM } from '../conductor/resistance'
import { ampsAbout } from '../kinds/draw'
import { isLoad, kindOf, KINDS, needs, type Part } from '../kinds/index'
import { askedBy } from '../kinds/usbSource'
import { FORMAT, VERSION, type Conductor, type Lead, type Plan } from './schema'
import { DEFAULT_AMBIENT_C } from './schema'

/** A row of the catalogue by its id, or a part as its manual tells it. */
export type Chosen = string | Omit<Part, 'id'>

/** The four questions a new station starts from. */
export interface Answers {
  name: string
  /** What is to be powered, one entry each. */
  loads: readonly Chosen[]
  /** What powers it. */
  source: Chosen
  /** From the block to each load, one way, m. */
  lengthM: number
  /** The conductor at hand. */
  conductor: Conductor
  /** The main lead is no thicker than this, mm²: what it lands on takes no more. */
  mostMm2?: number
}

/** A row of some kind's catalogue as a part with an id. */
export function partFromCatalogue(rowId: string, id: string): Part | null {
  for (const kind of KINDS.values()) {
    const row = kind.catalogue.find(r => r.id === rowId)
    if (row) return { ...structuredClone(row.part), id } as Part
  }
  return null
}

/** What was chosen as a part with an id; null where it is not in the catalogue. */
export const chosenPart = (chosen: Chosen, id: string): Part | null =>
  typeof chosen === 'string' ? partFromCatalogue(chosen, id) : ({ ...structuredClone(chosen), id } as Part)

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
export const activeAmps = (part: Part) => ampsAbout(kindOf(part).sink!(part, true))

/**
 * A first plan from four answers: the source, a fused block, every load on a port of its own with a fuse for it, the
 * wire at hand throughout.
 * It may well have findings; that is what the path then shows. Null where an answer is not in the catalogue.
 */
export function startPlan(answers: Answers): Plan | null {
  const source = chosenPart(answers.source, 'src')
  const parts = chosenLoads(answers.loads)
  return source && parts?.length ? planOf(answers, source, parts) : null
}

/** The same with its parts chosen. */
export function planOf(answers: Omit<Answers, 'loads' | 'source'>, source: Part, parts: readonly Part[]): Plan {
  const wire = wireOf(answers)
  const asked = askerFor(source, parts)
  const totalA = parts.reduce((sum, p) => sum + activeAmps(p), 0)
  const main = wireFor(wire, totalA, MAIN_M, answers.mostMm2)
  return {
    ...unjoined(answers.name, [source, ...(asked ? [asked] : []), blockFor(parts, totalA, { wire, main }), ...parts]),
    leads: [
      ...(asked ? [cable(source, asked)] : []),
      mainLead(asked ?? source, totalA, main),
      ...parts.map((part, i) => loadLead(part, i, wire)),
    ],
  }
}

/** Parts that nothing joins yet, at a site of which nothing is said. */
export const unjoined = (name: string, parts: Part[]): Plan => ({
  format: FORMAT,
  version: VERSION,
  name,
  site: { ambientC: { ...DEFAULT_AMBIENT_C }, ampacity: 'open', fuseDistance: 'strict' },
  parts,
  leads: [],
})

/** Share of a 12 V system that one lead of the path may drop. */
const DROP_V = 0.15
/** A stacking contact takes no thicker conductor. */
const STACK_MM2 = 5.3

/** The wire at hand, or the next thicker one that carries a current over a length with little drop. */
export function thickEnough(own: Conductor, amps: number, lengthM: number, mostMm2 = Infinity): Conductor {
  const isEnough = (c: Conductor) =>
    2 * lengthM * conductorOhmPerM(c) * amps <= DROP_V &&
    ampacityA(c, 'open', DEFAULT_AMBIENT_C.high) >= FUSE_OVER * FUSE_OVER * amps
  const sizes = [own, ...thickerSizes(own)].filter((c, i) => i === 0 || conductorMm2(c) <= mostMm2)
  return sizes.find(isEnough) ?? sizes.at(-1)!
}

/** A fuse is at least so many times its current, and its conductor carries it: room for both. */
const FUSE_OVER = 1.25

/** The same wire in the size that one lead needs. */
export function wireFor(wire: Wire, amps: number, lengthM: number, mostMm2 = Infinity): Wire {
  const conductor = thickEnough(wire.conductor, amps, lengthM, mostMm2)
  return { ...wireOf({ conductor, lengthM }), lengthM }
}

export function wireOf({ conductor, lengthM }: Pick<Answers, 'conductor' | 'lengthM'>): Wire {
  const insulated: Conductor = { ...conductor, insulationC: conductor.insulationC ?? INSULATION_C }
  return {
    conductor: insulated,
    lengthM,
    carriesA: ampacityA(insulated, 'open', DEFAULT_AMBIENT_C.high),
    connector: connectorFor(insulated),
  }
}

/** What asks the source for a voltage that every load stands, where it gives one only when asked. */
export function askerFor(source: Part, loads: readonly Part[]): Part | null {
  const mostV = Math.min(...loads.map(l => (isLoad(l) ? needs(l).maxV : Infinity)))
  const rowId = askedBy(source, mostV)
  return rowId === null ? null : partFromCatalogue(rowId, 'trg')
}

/** A USB cable between a source and its trigger. */
export const cable = (source: Part, asked: Part): Lead => ({
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
export interface Wire {
  conductor: Conductor
  lengthM: number
  carriesA: number
  /** Family of the block's contacts, which it fits. */
  connector: string
}

/** Parts of the catalogue under ids of their own; null where one is not in it. */
export function chosenLoads(chosen: readonly Chosen[]): Part[] | null {
  const used = new Map<string, number>()
  const parts = chosen.map(one => {
    const stem = typeof one === 'string' ? one.split('-')[0]! : 'rig'
    const n = (used.get(stem) ?? 0) + 1
    used.set(stem, n)
    return chosenPart(one, n > 1 ? `${stem}${n}` : stem)
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
/** From the source to the block, one way, m. */
const MAIN_M = 1
/** Blocks are sold for these totals, A. */
const BLOCK_A = [40, 100] as const

function blockFor(parts: readonly Part[], totalA: number, { wire, main }: { wire: Wire; main: Wire }): Part {
  const port = (i: number, ratedA: number, connector: string) => ({
    id: `p${i + 1}`,
    fuse: { type: 'blade', ratedA },
    connector,
  })
  const loadPort = (part: Part, i: number) => {
    const own = wireFor(wire, activeAmps(part), wire.lengthM, STACK_MM2)
    return port(i, portFuse(activeAmps(part), own.carriesA), own.connector)
  }
  return {
    id: 'blk',
    kind: 'block',
    name: 'Fused block',
    ratedA: totalA > BLOCK_A[0] ? BLOCK_A[1] : BLOCK_A[0],
    feed: main.connector,
    ports: [...parts.map(loadPort), port(parts.length, SPARE_A, wire.connector)],
  }
}

function mainLead(source: Part, totalA: number, { conductor, carriesA, connector }: Wire): Lead {
  return {
    id: 'main',
    name: 'main lead',
    from: exitOf(source),
    to: 'blk.feed',
    lengthM: MAIN_M,
    conductor,
    ends: { from: { connector: onto(exitOf(source), source), method: 'crimp' }, to: { connector, method: 'crimp' } },
    inline: [
      { id: 'f1', kind: 'fuse', ...fuseAtSource(source, totalA, carriesA), atM: FUSE_AT_POST_M, legs: 'positive' },
    ],
  }
}

/** What gives no more than this, or through no more than this, opens only fuses that are smaller than itself, A. */
const SMALL_SOURCE_A = 15

/**
 * The main fuse for what its loads take; on a small source or socket the largest that its terminal carries, so that a
 * short behind a load's fuse opens that one and not the main one.
 */
function fuseAtSource(source: Part, totalA: number, carriesA: number) {
  const needed = mainFuse(totalA, carriesA)
  const exit = exitOf(source)
  const mating = mate({ connector: onto(exit, source) }, { connector: connectorAt(source, exit) })
  const terminalA = mating.mates ? (mating.ratedA ?? Infinity) : 0
  const limit = kindOf(source)
    .limits(source, () => [])
    .find(l => l.of === 'gives')
  const givesA = limit?.peakA ?? limit?.continuousA ?? Infinity
  if (Math.min(givesA, terminalA) > SMALL_SOURCE_A) return needed
  const ratedA = fittingRatings('blade', 0, Math.min(carriesA, terminalA)).at(-1) ?? 0
  return ratedA > needed.ratedA ? { type: 'blade', ratedA } : needed
}

function loadLead(part: Part, i: number, wire: Wire): Lead {
  const { conductor, lengthM, connector } = wireFor(wire, activeAmps(part), wire.lengthM, STACK_MM2)
  return {
    id: `l${i + 1}`,
    name: `${part.name ?? part.id} lead`,
    from: `blk.p${i + 1}`,
    to: entryOf(part).id,
    lengthM,
    conductor,
    ends: { from: { connector, method: 'crimp' }, to: { connector: ontoEntry(part), method: 'crimp' } },
  }
}

/** The terminal by which a part is joined to the rest. */
export function entryOf(part: Part) {
  const terminals = kindOf(part).terminals(part, [])
  return terminals.find(t => t.id === kindOf(part).entry?.(part)) ?? terminals[0]!
}

/** The terminal by which what a part gives leaves it. */
export function exitOf(part: Part): string {
  const out = kindOf(part).between?.[1]
  return out === undefined ? entryOf(part).id : `${part.id}.${out}`
}

const ontoEntry = (part: Part) => onto(entryOf(part).id, part)

const connectorAt = (part: Part, terminalId: string): string =>
  kindOf(part)
    .terminals(part, [])
    .find(t => t.id === terminalId)?.connector ?? 'screw'

/** What goes onto a terminal: its own family, a fork under a screw. */
export function onto(terminalId: string, part: Part): string {
  const connector = connectorAt(part, terminalId)
  return connector === 'screw' || connector === 'post-4mm' ? 'fork' : connector
}

/** The smallest fuse that carries the load; failing that by the conductor, the largest the conductor allows. */
function portFuse(continuousA: number, conductorAmps: number): number {
  return fittingRatings('blade', continuousA, conductorAmps)[0] ?? fittingRatings('blade', 0, conductorAmps).at(-1) ?? 1
}

/** The smallest fuse that carries a current and that the conductor allows; failing that the largest it allows. */
export function mainFuse(continuousA: number, conductorAmps: number): { type: string; ratedA: number } {
  for (const type of ['blade', 'strip', 'strip-high']) {
    const ratedA = fittingRatings(type, continuousA, conductorAmps)[0]
    if (ratedA !== undefined) return { type, ratedA }
  }
  const type = conductorAmps >= 40 ? 'strip' : 'blade'
  return { type, ratedA: fittingRatings(type, 0, conductorAmps).at(-1) ?? 1 }
}
