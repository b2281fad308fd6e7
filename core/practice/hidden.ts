import { randomFrom } from '../chance/random'
import { conditionsOf, transmittersOf } from '../circuit/conditions'
import { solveMatrix, type SolvedPlan } from '../circuit/matrix'
import { compile } from '../circuit/network'
import { contactOhmNow } from '../connector/mate'
import { isDevice, isSwitch } from '../graph/device'
import { kindOf, needs } from '../kinds/index'
import { leadName, nameOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { jointsOf } from '../readings/places'

/** A station with one fault in it that nobody is told, to be found with a meter, eyes and fingers. */

export type FaultKind = 'joint' | 'blown' | 'switch' | 'setting'

export interface Fault {
  of: FaultKind
  place: string
  words: string
  /** What one should have seen, and by what. */
  shows: string
}

export interface Hidden {
  plan: Plan
  fault: Fault
  /** The station as it is. */
  built: SolvedPlan
  /** What the operator complains of. */
  complaint: string
  seed: number
}

/** A bad contact has so many times its table's. */
const WORSE = 12
/** A meter's last figure, and its scale. */
const DIGIT_V = 0.01
const SCALE_OFF = 0.003

/** Every fault that could be hidden in a plan. */
export function faultsOf(plan: Plan): { fault: Fault; built: Plan }[] {
  const words = new Map(jointsOf(compile(plan)).map(j => [j.place, j.words]))
  const joints = plan.leads.flatMap(lead =>
    (['from', 'to'] as const).flatMap(end => {
      const fitted = lead.ends?.[end]
      if (!fitted) return []
      const place = `${lead.id}.${end}`
      const bad = { ...fitted, contactOhm: WORSE * contactOhmNow(fitted) }
      const shows =
        'Idle all is well; with the key down volts are lost from one side of the mating to the other, and it gets warm.'
      const fault: Fault = { of: 'joint', place, words: `${words.get(place)} is bad`, shows }
      return [{ fault, built: withLead(plan, { ...lead, ends: { ...lead.ends, [end]: bad } }) }]
    }),
  )
  const blown = plan.leads.flatMap(lead =>
    (lead.inline ?? []).filter(isDevice).map(item => ({
      fault: {
        of: 'blown' as const,
        place: `${lead.id}.${item.id}`,
        words: `${item.kind} in ${leadName(lead)} is open`,
        shows: 'Full volts on one side of it and nothing on the other.',
      },
      built: { ...plan, leads: plan.leads.filter(l => l.id !== lead.id) },
    })),
  )
  const switches = plan.leads.flatMap(lead =>
    (lead.inline ?? [])
      .filter(i => isSwitch(i) && i.kind === 'switch' && i.closed !== false && i.by === undefined)
      .map(item => ({
        fault: {
          of: 'switch' as const,
          place: `${lead.id}.${item.id}`,
          words: `switch in ${leadName(lead)} was left off`,
          shows: 'Full volts before the switch and nothing behind it; nothing is hurt.',
        },
        built: withLead(plan, {
          ...lead,
          inline: lead.inline!.map(i => (i.id === item.id ? { ...i, closed: false } : i)) as NonNullable<
            Lead['inline']
          >,
        }),
      })),
  )
  return [...joints, ...blown, ...switches, ...settings(plan)]
}

const withLead = (plan: Plan, lead: Lead): Plan => ({
  ...plan,
  leads: plan.leads.map(l => (l.id === lead.id ? lead : l)),
})

/** A charging device set to another chemistry of those it knows. */
function settings(plan: Plan) {
  return plan.parts.flatMap(part => {
    const { chemistries, set } = part as { chemistries?: Record<string, unknown>; set?: string }
    const other = Object.keys(chemistries ?? {}).find(id => id !== set)
    if (!set || other === undefined) return []
    const fault: Fault = {
      of: 'setting',
      place: `${part.id}.set`,
      words: `${nameOf(part)} is set to another chemistry`,
      shows:
        'The battery stands at another voltage at the end of its charge than the plan says; its display tells which.',
    }
    return [
      {
        fault,
        built: { ...plan, parts: plan.parts.map(p => (p.id === part.id ? { ...p, set: other } : p)) as Plan['parts'] },
      },
    ]
  })
}

/** @returns null where a plan has nothing in which a fault would show */
export function hiddenIn(plan: Plan, seed: number): Hidden | null {
  const all = faultsOf(plan).flatMap(({ fault, built }) => {
    const solved = solveMatrix(built)
    const complaint = complaintOf(plan, solved, fault)
    return complaint ? [{ fault, built: solved, complaint }] : []
  })
  if (!all.length) return null
  const random = randomFrom(104_729 * seed)
  random.uniform()
  // First which kind: else a plan of many leads would hide joints alone.
  const kinds = [...new Set(all.map(a => a.fault.of))]
  const kind = kinds[Math.floor(random.uniform() * kinds.length)]!
  const its = all.filter(a => a.fault.of === kind)
  return { plan, seed, ...its[Math.floor(random.uniform() * its.length)]! }
}

/** Less than this against what it was is not noticed, V. */
const NOTICED_V = 0.25

/** What somebody notices, without knowing why; null where nobody would. */
function complaintOf(plan: Plan, built: SolvedPlan, { of }: Fault): string | null {
  const planned = solveMatrix(plan)
  const source = sourceOf(plan)
  const volts = (solved: SolvedPlan, id: string, state: string) => voltsAt(solved, id, `${source}/${state}`)
  if (of === 'setting') return 'The battery is not as it should be after a charge.'
  for (const radio of transmittersOf(plan)) {
    const [idle, keyed] = [volts(built, radio.id, 'idle'), volts(built, radio.id, `only:${radio.id}`)]
    if (idle < 1) return `${nameOf(radio)} is dead.`
    if (keyed < needs(radio).minV) return `${nameOf(radio)} cuts out on transmit.`
    const was = volts(planned, radio.id, `only:${radio.id}`)
    if (was - keyed > NOTICED_V) return `${nameOf(radio)} is weaker than it was.`
  }
  const dead = plan.parts.find(
    p => kindOf(p).role === 'load' && volts(planned, p.id, 'idle') > 1 && volts(built, p.id, 'idle') < 1,
  )
  return dead ? `${nameOf(dead)} is dead.` : null
}

const sourceOf = (plan: Plan) => {
  const states = conditionsOf(plan).map(c => c.source)
  return states.includes('full') ? 'full' : states[0]!
}

function voltsAt({ network, points }: SolvedPlan, at: string, condition: string): number {
  const point = points.find(p => p.condition.id === condition)
  const node = network.nodeOf.get(at)
  return point?.status === 'ok' && node !== undefined ? point.volts[node]! : 0
}

/** What a meter shows at a terminal. The same reading taken again shows nearly the same. @param n the how-manieth */
export function meterAt({ built, seed }: Hidden, at: string, condition: string, n: number): number {
  const random = randomFrom(31 * seed + 7 * n)
  random.uniform()
  const scale = 1 + SCALE_OFF * randomFrom(seed).normal()
  const shown = voltsAt(built, at, condition) * scale + 0.4 * DIGIT_V * random.normal()
  return Math.round(Math.max(0, shown) / DIGIT_V) * DIGIT_V
}

/** What eyes and fingers tell of a place, after a minute of transmitting. */
export function lookedAt({ fault }: Hidden, place: string): string {
  if (place !== fault.place) return 'Nothing to be seen; cold.'
  if (fault.of === 'joint') return 'Warm, and a little brown.'
  if (fault.of === 'blown') return 'Its strip is gone.'
  return fault.of === 'switch' ? 'It is off.' : 'Its display names another chemistry than the battery is of.'
}

export interface Score {
  right: boolean
  words: string
  /** 0–100: found, in few tests. */
  points: number
}

/** So many readings and looks are enough for somebody who knows how. */
const PAR = 4
const POINTS_A_TEST = 8

/** @param looks places that were looked at: looking at each in turn is no art */
export function scoreOf(
  { fault }: Hidden,
  guess: string,
  { readings, looks }: { readings: number; looks: number },
): Score {
  const right = guess === fault.place
  const over = Math.max(0, readings + 2 * looks - PAR)
  const points = right ? Math.max(10, 100 - POINTS_A_TEST * over) : 0
  const said = `${fault.words}. ${fault.shows}`
  return { right, points, words: right ? `Found: ${said}` : `No. ${said}` }
}
