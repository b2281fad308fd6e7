import { conditionsOf, conditionWords, type Condition } from '../circuit/conditions'
import type { Plan } from '../plan/schema'
import type { Inference } from './joints'
import { StationModel } from './model'
import { LEAST_OFF, scalesOf, type Reading } from './reading'

/** A reading that is worth taking, and why. */
export interface NextReading {
  at: string
  condition: string
  why: string
}

const MOST_SHOWN = 3
/** What a meter shows. */
const DIGIT = 0.01
/** A reading that tells less than this is not asked for. */
const LEAST_TOLD = 0.02
/** A joint that nothing is known of may be worse by this, of it: the one that is looked for. */
const MAY_BE_WORSE = 2

/** The readings that would tell most: which of several it is, else what nobody has looked at yet. */
export function nextReadings(plan: Plan, { model, readings, joints, evidence }: Inference): NextReading[] {
  const conditions = candidatesOf(plan, readings)
  const other = new StationModel(plan, conditions, scalesOf(readings))
  const points = pointsOf(plan, other)
  const taken = new Set(readings.map(r => `${r.at} ${r.condition}`))
  const possible: Reading[] = conditions.flatMap(c =>
    points
      .filter(at => !taken.has(`${at} ${c.id}`))
      .map(at => ({ at, condition: c.id, volts: 0, digit: DIGIT, line: 0 })),
  )
  const slopes = other.slopes(possible)
  // What is not known of in the readings' own conditions has no name there: it is free.
  const index = model.unknowns.map(u => other.unknowns.findIndex(o => keyOf(o) === keyOf(u)))
  const doubts = doubtsOf(joints)
  const scored = possible.map((reading, i) => {
    const its = index.map(k => (k < 0 ? 0 : (slopes[k]![i] ?? 0)))
    const { shows, variance } = evidence.ofReading(its, LEAST_OFF ** 2)
    const means = doubts.map(d => shows[d.k]! * d.byOhm)
    const mean = means.reduce((sum, m, n) => sum + m * doubts[n]!.share, 0)
    const told = means.reduce((sum, m, n) => sum + doubts[n]!.share * (m - mean) ** 2, mean ** 2 * none(doubts))
    return { reading, told: told / variance, most: doubts[peak(means)] }
  })
  const best = againOf(plan, joints)
  for (const { reading, told, most } of scored.sort((a, b) => b.told - a.told)) {
    if (best.length === MOST_SHOWN || !(told > LEAST_TOLD) || !most) break
    if (best.some(b => b.at === reading.at)) continue
    best.push({ at: reading.at, condition: reading.condition, why: whyOf(plan, reading, joints[most.joint]!) })
  }
  return best
}

/** What a suspect rests on alone is read again before anything else. */
function againOf(plan: Plan, joints: Inference['joints']): NextReading[] {
  const rests = joints.filter(j => j.restsOn && !joints.some(x => x.suspect && !x.restsOn)).map(j => j.restsOn!)
  const first = rests.filter((r, i) => rests.findIndex(x => x.at === r.at && x.condition === r.condition) === i)
  return first.slice(0, 1).map(({ at, condition }) => ({
    at,
    condition,
    why: `${conditionWords(plan, condition)}: read it once more, the suspicion rests on it alone`,
  }))
}

interface Doubt {
  k: number
  joint: number
  share: number
  byOhm: number
}

/** What may be so: a suspect that others stand beside, else any joint, each with how likely it is. */
function doubtsOf(joints: Inference['joints']): Doubt[] {
  const open = joints.some(j => j.suspect && j.or.length)
  return joints.flatMap((j, joint): Doubt[] => {
    if (open && !(j.suspect && j.or.length)) return []
    const worse = open ? ((j.milliohm - j.tableMilliohm) * j.joint.poles) / 1000 : MAY_BE_WORSE * j.joint.loopOhm
    return [{ k: joint, joint, share: open ? j.bad : Math.max(j.bad, j.joint.badOdds), byOhm: worse }]
  })
}
const none = (doubts: readonly Doubt[]) => Math.max(0, 1 - doubts.reduce((sum, d) => sum + d.share, 0))
const peak = (means: readonly number[]) => means.reduce((b, m, i) => (Math.abs(m) > Math.abs(means[b]!) ? i : b), 0)

/** Conditions that were read, and the one in which most flows. */
function candidatesOf(plan: Plan, readings: readonly Reading[]): Condition[] {
  const all = conditionsOf(plan)
  const read = all.filter(c => readings.some(r => r.condition === c.id))
  const [source] = read.length ? read.map(c => c.source) : all.map(c => c.source)
  const most = all.find(c => c.source === source && c.loadState === 'all')
  return most && !read.includes(most) ? [...read, most] : read
}

/** Where a meter can be held: terminals that a lead lands on, and the lead's own side of each mating. */
function pointsOf(plan: Plan, { network }: StationModel): string[] {
  const landed = plan.leads.flatMap(l => [l.from, l.to])
  const sides = plan.leads.flatMap(l => (['from', 'to'] as const).filter(e => l.ends?.[e]).map(e => `${l.id}.${e}`))
  return [...new Set(landed.filter(t => network.nodeOf.has(t))), ...sides]
}

function whyOf(plan: Plan, { condition }: Reading, { joint, orWords }: Inference['joints'][number]): string {
  const when = conditionWords(plan, condition)
  return orWords.length
    ? `${when}: it tells ${joint.words} from ${orWords.join(' and ')}`
    : `${when}: nobody has looked yet at ${joint.words}`
}

const keyOf = (u: StationModel['unknowns'][number]) =>
  u.of === 'joint' ? `joint ${u.joint.place}` : JSON.stringify({ ...u, spread: 0 })
