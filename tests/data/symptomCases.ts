import { conditionsOf, findCondition, loadsOf, type Condition } from '../../core/circuit/conditions'
import { solveMatrix } from '../../core/circuit/matrix'
import { contactRise } from '../../core/connector/heat'
import { connector } from '../../core/catalog/connectors'
import { contactOhmNow } from '../../core/connector/mate'
import { kindOf, needs, type LoadPart } from '../../core/kinds/index'
import type { Lead, Plan } from '../../core/plan/schema'
import type { PowerFinding } from '../../core/symptoms/believe'
import type { CauseClass } from '../../core/symptoms/symptom'
import { dice, type Dice } from './randomPlans'

/**
 * Stations in which something is wrong, and what each test would give: by the circuit with the fault in it, not by
 * the tables that the reasoning has.
 */

export interface HiddenCause {
  of: CauseClass
  /** Of a joint. */
  place: string
  at: string
  /** What a test would give here, as somebody would note it; null: it cannot be made. */
  outcome: (test: string) => PowerFinding | null
}

interface Stand {
  restedV: number
  idleV: number
  batteryV: number
  radioV: number
  halfV: number
  amps: (leadId: string) => number
}

/** Keyed volts at a load and its battery; zero where nothing is carried. */
function standOf(plan: Plan, load: LoadPart, source: string): Stand {
  const condition = (loadState: string) => findCondition(plan, `${source}/${loadState}`) as Condition
  const halved = {
    ...plan,
    parts: plan.parts.map(p => {
      if (p.id !== load.id || !('draw' in p) || p.draw.model !== 'constant-current') return p
      return { ...p, levels: undefined, powerW: undefined, draw: { ...p.draw, activeA: 0.67 * p.draw.activeA! } }
    }) as Plan['parts'],
  }
  const at = (of: Plan, loadState: string) => {
    const { network, points } = solveMatrix(of, [condition(loadState)])
    const [point] = points
    const battery = of.parts.find(p => kindOf(p).store || p.kind === 'supply')!.id
    const volts = (id: string) => (point!.status === 'ok' ? point!.volts[network.nodeOf.get(id)!]! : 0)
    const amps = (leadId: string) =>
      point!.status === 'ok' ? Math.abs(point!.amps[network.branchOfLead.get(leadId)!]!) : 0
    return { radio: volts(load.id), battery: volts(battery), amps }
  }
  const keyed = at(plan, `only:${load.id}`)
  const idle = at(plan, 'idle')
  return {
    restedV: idle.battery,
    idleV: idle.battery,
    batteryV: keyed.battery,
    radioV: keyed.radio,
    halfV: at(halved, `only:${load.id}`).radio,
    amps: keyed.amps,
  }
}

const withContact = (plan: Plan, leadId: string, end: 'from' | 'to', times: number): Plan => ({
  ...plan,
  leads: plan.leads.map((l): Lead => {
    const fitted = l.ends?.[end]
    if (l.id !== leadId || !fitted) return l
    return { ...l, ends: { ...l.ends, [end]: { ...fitted, contactOhm: contactOhmNow(fitted) * times } } }
  }),
})
const withInternal = (plan: Plan, times: number): Plan => ({
  ...plan,
  parts: plan.parts.map(p =>
    p.kind === 'battery' ? { ...p, internalOhm: (p.internalOhm ?? 0.02) * times } : p,
  ) as Plan['parts'],
})

/** Leads between the battery and the load, by the current that the load alone sends through them. */
function onTheWay(plan: Plan, load: LoadPart, source: string): Lead[] {
  const own = standOf(plan, load, source)
  const most = Math.max(...plan.leads.map(l => own.amps(l.id)))
  return plan.leads.filter(l => own.amps(l.id) > 0.7 * most)
}

type Kind = 'joint' | 'empty' | 'aged' | 'itself' | 'antenna' | 'rf'
/** How often each is what it was (judgement: contacts and flat packs most of all). */
const KINDS: readonly (readonly [Kind, number])[] = [
  ['joint', 0.5],
  ['empty', 0.2],
  ['aged', 0.1],
  ['itself', 0.1],
  ['rf', 0.07],
  ['antenna', 0.03],
]

/** A station that cuts out on transmit, and why; null where the roll of the dice makes none that does. */
export function hiddenCause(plan: Plan, seed: number): HiddenCause | null {
  const d = dice(seed)
  const sources = new Set(conditionsOf(plan).map(c => c.source))
  const loads = loadsOf(plan).filter(l => kindOf(l).transmits)
  if (!loads.length) return null
  const load = d.of(loads)
  let left = d.roll()
  const [kind] = KINDS.find(([, share]) => (left -= share) < 0) ?? KINDS[0]!
  const usual = sources.has('nominal') ? 'nominal' : [...sources][0]!
  const source = kind === 'empty' && sources.has('low') ? 'low' : usual
  const { built, place } = builtOf(plan, load, { kind, source, d })
  const stand = standOf(built, load, source)
  const { minV } = needs(load)
  const starves = stand.radioV < minV
  // It is the cause only where the station does without it.
  if (standOf(plan, load, usual).radioV < minV) return null
  const isElectrical = kind === 'joint' || kind === 'empty' || kind === 'aged'
  if (isElectrical !== starves) return null
  const of = kind === 'joint' && isShared(plan, place, load) ? 'shared' : kind
  const hidden = { kind, stand, place, built, d, isRead: (v: number) => v + 0.02 * (d.roll() - 0.5) }
  return { of, place, at: load.id, outcome: test => outcomeOf(test, load, hidden) }
}

interface Hidden {
  kind: Kind
  stand: Stand
  place: string
  built: Plan
  d: Dice
  isRead: (volts: number) => number
}

function builtOf(plan: Plan, load: LoadPart, { kind, source, d }: { kind: Kind; source: string; d: Dice }) {
  const way = onTheWay(plan, load, source)
  if (kind === 'joint' && way.length) {
    const lead = d.of(way)
    const end = d.of(['from', 'to'] as const)
    return { built: withContact(plan, lead.id, end, d.between(3, 800)), place: `${lead.id}.${end}` }
  }
  if (kind === 'aged') return { built: withInternal(plan, d.between(3, 15)), place: '' }
  return { built: plan, place: '' }
}

function isShared(plan: Plan, place: string, load: LoadPart): boolean {
  const leadId = place.split('.')[0]!
  const ids = new Set(conditionsOf(plan).map(c => c.id))
  const others = loadsOf(plan).filter(l => l.id !== load.id && ids.has(`nominal/only:${l.id}`))
  return others.some(l => onTheWay(plan, l, 'nominal').some(x => x.id === leadId))
}

/** A warm joint is felt from here on, °C over the air. */
const FELT_C = 12

function outcomeOf(test: string, load: LoadPart, { kind, stand, place, built, isRead }: Hidden): PowerFinding | null {
  const { minV } = needs(load)
  const said = (outcome: string): PowerFinding => ({ test, outcome })
  const gone = (isGone: boolean) => said(isGone ? 'gone' : 'same')
  switch (test) {
    case 'volts-at-radio-keyed':
      return { test, read: isRead(stand.radioV) }
    case 'volts-at-battery-keyed':
      return { test, before: isRead(stand.idleV), read: isRead(stand.batteryV) }
    case 'rested-volts':
      return { test, read: isRead(stand.restedV) }
    case 'half-power':
      return gone(kind === 'itself' ? false : kind === 'rf' || stand.halfV >= minV)
    case 'other-battery':
      return gone(kind !== 'itself' && kind !== 'antenna' && kind !== 'rf')
    case 'dummy-load':
      return gone(kind === 'rf' || kind === 'antenna')
    case 'direct-lead':
      return gone(kind === 'joint' || stand.batteryV - 0.15 >= minV ? !isBeyondLead(kind) : false)
    case 'fuse-whole':
      return said('whole')
    case 'feel-joints':
      return said(riseOf(built, place, stand) > FELT_C ? 'warm' : 'cold')
    case 'power-meter':
      return said(kind === 'itself' || stand.radioV < minV ? 'down' : 'full')
    default:
      return null
  }
}

const isBeyondLead = (kind: Kind) => kind === 'itself' || kind === 'antenna' || kind === 'rf'

function riseOf(plan: Plan, place: string, stand: Stand): number {
  const [leadId, end] = place.split('.') as [string, 'from' | 'to']
  const fitted = plan.leads.find(l => l.id === leadId)?.ends?.[end]
  if (!fitted) return 0
  const { ratedA } = connector(fitted.connector)
  return contactRise(fitted.connector, ratedA, stand.amps(leadId), contactOhmNow(fitted)) ?? 0
}
