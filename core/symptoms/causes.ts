import { conditionsOf, conditionWords, loadsOf } from '../circuit/conditions'
import { arrivalSpan, largestAmps, solveMatrix, type SolvedPlan } from '../circuit/matrix'
import type { OperatingPoint } from '../circuit/operatingPoint'
import { deviceAt, devicesIn } from '../graph/device'
import { gives, isLoad, kindOf, needs, type LoadPart } from '../kinds/index'
import type { Sink } from '../kinds/kind'
import { leadName } from '../plan/find'
import { partName, terminalName } from '../plan/names'
import type { Plan } from '../plan/schema'
import { normalShare } from '../readings/evidence'
import type { JointState } from '../readings/joints'
import { jointsOf, type Joint } from '../readings/places'
import type { Study } from '../study/study'
import { judge, type Finding } from '../verdict/verdict'
import { asGiven, fixed } from '../units/number'
import { resistance } from '../units/show'
import { FITS, HARDLY } from './fits'
import { CAUSES, type CauseClass, type PowerCause, type Symptom } from './symptom'

/** What a symptom may come of in a plan: classes of causes at its own places, weighed by its own numbers. */

/** Findings of the plan that make a cause likelier, and by how much. */
const BY_FINDING: Record<string, { of: CauseClass; odds: number }> = {
  'arrival-under': { of: 'sag', odds: 4 },
  collapse: { of: 'sag', odds: 3 },
  drop: { of: 'sag', odds: 1 },
  'power-sag': { of: 'low-power', odds: 2 },
  'battery-peak': { of: 'bms', odds: 3 },
  'battery-continuous': { of: 'bms', odds: 0.8 },
  'supply-overload': { of: 'limit', odds: 3 },
  'supply-charge': { of: 'limit', odds: 1 },
  'port-rating': { of: 'limit', odds: 1.5 },
  'load-terminal': { of: 'limit', odds: 2 },
  'converter-input': { of: 'limit', odds: 1.5 },
  'converter-dropout': { of: 'limit', odds: 1 },
  'usb-current': { of: 'limit', odds: 2 },
  'usb-voltage': { of: 'no-12', odds: 8 },
  'usb-sleep': { of: 'sleeps', odds: 8 },
  'fuse-nuisance': { of: 'small-fuse', odds: 6 },
  'gate-gap': { of: 'gap', odds: 6 },
  'gate-transfer': { of: 'gap', odds: 2 },
  'charge-chemistry': { of: 'wrong-set', odds: 6 },
  'charger-unset': { of: 'wrong-set', odds: 3 },
  'charge-voltage': { of: 'charger-small', odds: 2 },
  'charge-rate-low': { of: 'charger-small', odds: 4 },
  'supply-as-charger': { of: 'charger-small', odds: 2 },
  'panel-hot-voltage': { of: 'no-input', odds: 2 },
  'lithium-cold': { of: 'too-cold', odds: 2 },
  'load-timer': { of: 'load-cut', odds: 6 },
  'load-cut-off': { of: 'load-cut', odds: 3 },
  'vehicle-engine-off': { of: 'left-on', odds: 2 },
  'connector-heat': { of: 'joint', odds: 0.6 },
  'connector-rating': { of: 'joint', odds: 0.8 },
  'accessory-transmitter': { of: 'joint', odds: 1.2 },
  'connector-shared': { of: 'shared', odds: 3 },
  'near-antenna-lead': { of: 'rf', odds: 0.5 },
}

/** A joint that has gone bad has two to sixty times its resistance, each as likely by its logarithm. */
const BAD_FROM = 2
const BAD_TO = 60
const LEAST_LOOP_OHM = 6e-4
/** Symptoms that begin before the least voltage is reached. */
const BEGINS_EARLY: readonly Symptom[] = ['behaves-oddly', 'one-odd-of-two', 'weak-late', 'not-heard']
/** A current that changes by so much of a load's own goes through there. */
const ON_ITS_WAY = 0.5
const USUAL = 'nominal'

type Drafted = Omit<PowerCause, 'id' | 'words'>

export interface Case {
  symptom: Symptom
  /** The load that it is about; unsaid: any. */
  at?: string
  /** What past readings say of the plan's joints. */
  joints?: readonly JointState[]
}

/** Causes with their odds, likeliest first. They add up to whatever: `believe` makes probabilities of them. */
export function causesOf(plan: Plan, { symptom, at, joints = [] }: Case): PowerCause[] {
  const { verdict, study } = judge(plan)
  const about = loadsOf(plan).filter(l =>
    at === undefined ? kindOf(l).transmits || loadsOf(plan).length === 1 : l.id === at,
  )
  const loads = about.length ? about : loadsOf(plan)
  const drafted = [
    ...ofLoads(study, loads),
    ...ofJoints(plan, { loads, symptom, joints }),
    ...ofFuses(study),
    ...ofParts(plan),
    ...verdict.findings.flatMap(f => ofFinding(f, plan)),
    ...NOWHERE.map(([of, odds]): Drafted => ({ of, place: '', why: '', odds })),
  ]
  const merged = new Map<string, PowerCause>()
  for (const d of drafted) {
    const id = d.place ? `${d.of} ${d.place}` : d.of
    const fits = FITS[symptom][d.of] ?? HARDLY
    const known = merged.get(id)
    const odds = d.odds * fits
    if (!known) merged.set(id, { ...d, id, odds, words: wordsOf(plan, study, d) })
    else merged.set(id, { ...known, odds: known.odds + odds, why: known.why || d.why })
  }
  return [...merged.values()].filter(c => c.odds > 0).sort((a, b) => b.odds - a.odds)
}

/** Causes that are in no plan, with their odds: judgement. */
const NOWHERE: readonly (readonly [CauseClass, number])[] = [
  ['rf', 0.25],
  ['antenna', 0.5],
  ['itself', 0.3],
  ['other', 0.15],
  ['short', 0.3],
  ['blown', 0.4],
  ['no-12', 0.1],
  ['cable-3a', 0.15],
]

/** The voltage that reaches a load, against the least it needs. */
function ofLoads({ plan, solved }: Study, loads: readonly LoadPart[]): Drafted[] {
  return loads.flatMap((load): Drafted[] => {
    const span = arrivalSpan(solved, load.id)
    if (!span) return []
    const { minV } = needs(load)
    const spare = span.low.value - minV
    const when = conditionWords(plan, span.low.condition)
    const worst = `${fixed(span.low.value, 2)} V reaches ${partName(plan, load.id)} at worst (${when})`
    const why = `${worst}; it needs ${fixed(minV, 1)} V`
    const sags = 1.5 / (1 + Math.exp((spare - 0.2) / 0.25))
    const isWeak = kindOf(load).transmitShare?.(load, span.low.value)
    const share = isWeak ?? Math.min(1, (span.low.value / (needs(load).nominalV ?? 13.8)) ** 2)
    const atWorst = `it gives ${Math.round(100 * share)} % of its power at ${fixed(span.low.value, 1)} V`
    const low: Drafted = { of: 'low-power', place: load.id, why: atWorst, odds: 1.2 * (1 - share) + 0.03 }
    return [{ of: 'sag', place: load.id, why, odds: sags }, ...(kindOf(load).transmits ? [low] : [])]
  })
}

/** A station half full, with nothing active and with each load alone: what flows where because of whom. */
class Ways {
  private readonly solved: SolvedPlan
  private readonly idle: OperatingPoint | undefined

  constructor(private readonly plan: Plan) {
    const all = conditionsOf(plan)
    const source = all.some(c => c.source === USUAL) ? USUAL : all[0]?.source
    const alone = all.filter(c => c.source === source && (c.loadState === 'idle' || c.loadState.startsWith('only:')))
    this.solved = solveMatrix(plan, alone)
    this.idle = this.solved.points.find(p => p.condition.loadState === 'idle' && p.status === 'ok')
  }

  get joints(): Joint[] {
    return jointsOf(this.solved.network)
  }

  /** What a load alone sends through a joint, and the volts that it has then; null where it is fed another way. */
  through(joint: Joint, load: LoadPart): { amps: number; volts: number } | null {
    const alone = this.solved.points.find(p => p.condition.loadState === `only:${load.id}` && p.status === 'ok')
    if (!alone || !this.idle) return null
    const own = kindOf(load).sink!(load, true)
    const volts = alone.volts[this.solved.network.nodeOf.get(load.id)!]!
    const ownA = ampsOf(own, volts)
    const amps = Math.abs(alone.amps[joint.branch]! - this.idle.amps[joint.branch]!)
    return ownA > 0 && amps >= ON_ITS_WAY * ownA ? { amps: Math.max(amps, ownA), volts } : null
  }

  loadsThrough = (joint: Joint): LoadPart[] => loadsOf(this.plan).filter(l => this.through(joint, l))
}

function ampsOf({ law, value }: Sink, volts: number): number {
  if (law === 'current') return value
  return law === 'power' ? value / Math.max(1, volts) : volts / value
}

/** Joints on the way of the loads, by how bad each would have to be. */
function ofJoints(
  plan: Plan,
  { loads, symptom, joints }: { loads: readonly LoadPart[]; symptom: Symptom; joints: readonly JointState[] },
): Drafted[] {
  const ways = new Ways(plan)
  const early = BEGINS_EARLY.includes(symptom) ? 0.5 : 1
  return ways.joints.flatMap((joint): Drafted[] => {
    const through = loads.flatMap(load => {
      const way = ways.through(joint, load)
      return way ? [Math.max(0, (way.volts - needs(load).minV) * early) / way.amps] : []
    })
    if (!through.length || joint.kind === 'conductor') return []
    const needed = Math.min(...through)
    const reaches = reachOf(needed / Math.max(LEAST_LOOP_OHM, joint.loopOhm))
    const has = `as planned it has ${fixed(1000 * joint.loopOhm, 1)} mΩ`
    const would = needed > 0 ? `${resistance(needed)} more in it would do; ${has}` : 'any more in it would do'
    const of = ways.loadsThrough(joint).length > 1 ? 'shared' : 'joint'
    const read = joints.find(j => j.joint.place === joint.place && j.looked)
    const why = read ? `${would}, and was read to have ${loopWords(read)}` : would
    const odds = 5 * joint.badOdds * reaches * (read ? byReadings(read, needed, reaches) : 1)
    return [{ of, place: joint.place, why, odds }]
  })
}

/** Readings are of another day, and a joint may come and go: they move its odds no further. */
const READ_AT_MOST = 50
const READ_AT_LEAST = 1 / 15

/** How much likelier readings make it that a joint has so much more than its table, Ω in the loop. */
function byReadings(
  { joint, milliohm, errorMilliohm, tableMilliohm, bad }: JointState,
  needed: number,
  reaches: number,
) {
  const perLoop = joint.poles / 1000
  const more = (milliohm - tableMilliohm) * perLoop
  const isEnough = normalShare((more - needed) / Math.max(1e-6, errorMilliohm * perLoop))
  const oddsOf = (p: number) => p / Math.max(1e-3, 1 - p)
  const times = oddsOf(bad * isEnough) / oddsOf(joint.badOdds * reaches)
  return Math.max(READ_AT_LEAST, Math.min(READ_AT_MOST, times))
}

const loopWords = ({ joint, milliohm, errorMilliohm }: JointState) =>
  `${fixed(milliohm * joint.poles, 1)} ± ${fixed(errorMilliohm * joint.poles, 1)}`

/** Share of bad joints that are bad enough: of so many times their resistance. */
function reachOf(times: number): number {
  if (times <= BAD_FROM) return 1
  return Math.max(0.01, 1 - Math.log(times / BAD_FROM) / Math.log(BAD_TO / BAD_FROM))
}

/** Fuses in leads and ports, by the most that flows through them. */
function ofFuses({ solved, plan }: Study): Drafted[] {
  const { network } = solved
  const drafted = (place: string, ratedA: number, branch: number | undefined): Drafted[] => {
    if (branch === undefined) return []
    const { value } = largestAmps(solved, branch)
    const why = `${fixed(value, 1)} A at most, of its ${fixed(ratedA, 0)} A`
    return [{ of: 'small-fuse', place, why, odds: fuseOdds(value / ratedA) }]
  }
  const inLeads = plan.leads.flatMap(lead =>
    devicesIn(lead).flatMap(d => drafted(`${lead.id}.${d.item}`, d.ratedA, network.branchOfLead.get(lead.id))),
  )
  const inPorts = [...network.terminals.values()].flatMap(terminal => {
    const device = deviceAt(terminal)
    return device ? drafted(terminal.id, device.ratedA, network.branchOfTerminal.get(terminal.id)) : []
  })
  return [...inLeads, ...inPorts]
}
/** Over its rating it opens, over four fifths it grows tired (practice: a fuse is 1.25 times the current). */
function fuseOdds(share: number): number {
  if (share > 1) return 3
  return share > 0.8 ? 0.6 : 0.04
}

/** What parts of a plan can do by themselves. */
function ofParts(plan: Plan): Drafted[] {
  const charging = plan.parts.filter(p => kindOf(p).charge || kindOf(p).takesSun)
  return plan.parts.flatMap((part): Drafted[] => {
    const kind = kindOf(part)
    const can = (of: CauseClass, odds: number, why = ''): Drafted => ({ of, place: part.id, why, odds })
    const stored = Boolean(kind.store?.(part, () => []))
    const store = stored ? kind.store!(part, () => []) : null
    return [
      ...(stored ? [can('empty', 0.5), can('aged', 0.3)] : []),
      ...(store?.tripA ? [can('bms', 0.12)] : []),
      ...(store?.autoOffA !== undefined ? [can('sleeps', 1, `it sleeps under ${fixed(store.autoOffA, 2)} A`)] : []),
      ...(store?.cold && charging.length
        ? [can('too-cold', 0.25, `no charge under ${asGiven(store.cold.chargeAboveC)} °C`)]
        : []),
      ...(gives(part) && !stored && !kind.needsController ? [can('limit', 0.15)] : []),
      ...(kind.loadCut?.(part) ? [can('load-cut', 0.3)] : []),
      ...(charging.includes(part) ? chargers(can) : []),
      ...(isLoad(part) ? leftOn(plan, part, can) : []),
    ]
  })
}
const chargers = (can: (of: CauseClass, odds: number, why?: string) => Drafted) => [
  can('no-input', 0.5),
  can('wrong-set', 0.15),
  can('charger-small', 0.3),
]
/** What a load takes idle in a night, of what the packs hold. */
const NIGHT_H = 10
function leftOn(plan: Plan, load: LoadPart, can: (of: CauseClass, odds: number, why?: string) => Drafted): Drafted[] {
  const stores = plan.parts.flatMap(p => kindOf(p).store?.(p, () => []) ?? [])
  const holdsWh = stores.reduce((sum, s) => sum + s.printedWh * (1 - s.endOfUse.charge), 0)
  if (!(holdsWh > 0) || kindOf(load).withIgnition?.(load)) return []
  const { nominalV = 12 } = needs(load)
  const amps = ampsOf(kindOf(load).sink!(load, false), nominalV)
  const share = (amps * nominalV * NIGHT_H) / holdsWh
  if (!(share > 0)) return []
  const why = `${fixed(amps, 2)} A for ${NIGHT_H} hours is ${Math.round(100 * share)} % of what the packs hold`
  return [can('left-on', 0.02 + 0.8 * Math.min(1, share), why)]
}

function ofFinding(finding: Finding, plan: Plan): Drafted[] {
  const speaks = BY_FINDING[finding.check]
  if (!speaks) return []
  const { of, odds } = speaks
  const place = placeFor(of, finding, plan)
  return [{ of, place, why: finding.message, odds }]
}

/** A joint is named by its lead's end where the finding says the lead alone. */
function placeFor(of: CauseClass, { place, item }: Finding, plan: Plan): string {
  const lead = plan.leads.find(l => l.id === place)
  return lead && item && (of === 'joint' || of === 'shared') ? `${lead.id}.${item}` : place
}

function wordsOf(plan: Plan, study: Study, { of, place }: Drafted): string {
  if (!place) return CAUSES[of]
  const joint =
    of === 'joint' || of === 'shared' ? jointsOf(study.solved.network).find(j => j.place === place) : undefined
  const lead = plan.leads.find(l => l.id === place || place.startsWith(`${l.id}.`))
  const where = joint?.words ?? (lead ? leadName(lead) : terminalName(plan, place))
  return `${where}: ${CAUSES[of]}`
}
