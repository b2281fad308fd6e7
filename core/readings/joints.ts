import type { Plan } from '../plan/schema'
import { conditionWords, findCondition, type Condition } from '../circuit/conditions'
import { Evidence, normalShare } from './evidence'
import { pointName, StationModel, type Unknown } from './model'
import type { Joint } from './places'
import { offOf, scalesOf, SEEN, type Reading, type Seen } from './reading'

/** What the readings say of one joint. Contacts' resistances are of one pole, as in the table; others' of the loop. */
export interface JointState {
  joint: Joint
  milliohm: number
  errorMilliohm: number
  tableMilliohm: number
  /** How surely it is bad, 0–1. */
  bad: number
  suspect: boolean
  /** The readings would have shown it, had it gone bad. */
  looked: boolean
  /** Places that would explain the readings as well: a reading at one of them tells. */
  or: string[]
  /** The same in words. */
  orWords: string[]
  /** Without this one reading it would not be suspect: read it again before anything is taken apart. */
  restsOn?: Pick<Reading, 'at' | 'condition'> & { words: string }
}

export interface Inference {
  model: StationModel
  readings: readonly Reading[]
  /**
   * Of each reading: what the plan says; what it would be with good joints and the charge, draw and meter that the
   * readings show; and within what of that it should be.
   */
  expected: number[]
  expectedHere: number[]
  tolerance: number[]
  joints: JointState[]
  evidence: Evidence
  /** About 1 where the readings fit together once the suspects are counted in. */
  misfit: number
}

/** Readings fit together worse than this: something else is not as planned. Of one or two nobody can say. */
const DO_NOT_FIT = 3
const ENOUGH_TO_FIT = 3
export const doNotFit = ({ misfit, readings }: Inference) => misfit > DO_NOT_FIT && readings.length >= ENOUGH_TO_FIT

/** A bad joint has so much more than its table's, of it: hypotheses, each as likely as the other. */
const BAD_BY = [2, 10, 60]
/** Of a conductor: strands are broken, or it is another one. */
const CONDUCTOR_BAD_BY = [0.3, 1, 5]
/** Where a table has next to nothing, a bad one has more than that, Ω. */
const LEAST_LOOP_OHM = 6e-4
/** From here on it is named. */
const SURE = 0.35
/** And it has to be so many times its error. */
const PLAIN = 2.3
/** Readings that see two joints so much alike cannot tell which. */
const ALIKE = 0.985
/** No more are looked for. */
const MOST_BAD = 6
const ROUNDS = 2
/** Readings that fit together worse than this are noisier than their figures say. */
const MISFIT = 2
const SIGMAS = 2
/** However little the readings hold a charge or a draw by, together they hold it to this, V or A. */
const STATE_LEFT_V = 0.03

/** Where something is to be read, with what. */
export type Asked = Pick<Reading, 'at' | 'condition' | 'digit'> & { isAmps?: boolean }

/**
 * What other points should read, by the plan and by what was read so far: how full the battery is, how far off the
 * meter.
 * NaN where the plan has no operating point.
 */
export function expectedNow(
  plan: Plan,
  readings: readonly Reading[],
  asked: readonly Asked[],
): { expected: number; tolerance: number }[] {
  const places = asked.map((a): Reading => ({ ...a, line: 0, ...(a.isAmps ? { amps: 0 } : { volts: 0 }) }))
  const found = inferJoints(
    plan,
    readings,
    [],
    places.map(p => p.condition),
  )
  const here = hereOf(found.model, places, found.evidence, readings.length > 1)
  return places.map((_, i) => ({ expected: here.expectedHere[i]!, tolerance: here.tolerance[i]! }))
}

/**
 * @param readings of conditions and places that the plan has: see formats/readingsCsv.ts
 * @param also conditions to have in the model beside those that were read in
 */
export function inferJoints(
  plan: Plan,
  readings: readonly Reading[],
  seen: readonly Seen[] = [],
  also: readonly string[] = [],
): Inference {
  const ids = [...new Set([...readings.map(r => r.condition), ...also])]
  const conditions = ids.map(id => findCondition(plan, id)).filter((c): c is Condition => typeof c !== 'string')
  const model = new StationModel(plan, conditions, scalesOf(readings))
  const expected = model.predicted(readings)
  const use = readings.map((_, i) => i).filter(i => Number.isFinite(expected[i]!))
  const usable = use.map(i => readings[i]!)
  const first = new Search(model, usable, seen, 1).run()
  // Noisier than they look: believed less, and looked through once more.
  const found = first.misfit > MISFIT ? new Search(model, usable, seen, first.misfit).run() : first
  const withoutOne = new Map<number, JointState[]>()
  const joints = found.joints.map(j => {
    if (!j.suspect) return j
    const most = mostTelling(found.evidence, model, j, usable)
    const rest = () => usable.filter((_, i) => i !== most)
    // Joints that readings cannot tell apart rest on the same one.
    const others = withoutOne.get(most) ?? new Search(model, rest(), seen, 1).run().joints
    withoutOne.set(most, others)
    const stays = others.some(x => x.suspect && isAlike(x, j))
    if (stays) return j
    const { at, condition } = usable[most]!
    return { ...j, restsOn: { at, condition, words: `${pointName(plan, at)} with ${conditionWords(plan, condition)}` } }
  })
  return { model, readings, expected, ...hereOf(model, readings, found.evidence), ...found, joints }
}

const isAlike = (a: JointState, b: JointState) => a.joint.place === b.joint.place || b.or.includes(a.joint.place)

/** The reading that speaks most for a joint, by its place in the list. */
function mostTelling(
  evidence: Evidence,
  model: StationModel,
  { joint }: JointState,
  readings: readonly Reading[],
): number {
  const k = model.unknowns.findIndex(u => u.of === 'joint' && u.joint === joint)
  const pulls = readings.map((_, i) => evidence.pullOf(k, i))
  return pulls.reduce((best, p, i) => (p > pulls[best]! ? i : best), 0)
}

/**
 * What good joints would give with sources, loads and meter as the readings show them.
 * @param isHeld several readings hold charge and draw
 */
function hereOf(model: StationModel, readings: readonly Reading[], evidence: Evidence, isHeld = true) {
  const isJoint = (k: number) => model.unknowns[k]!.of === 'joint'
  const states = model.unknowns.map((_, k) => evidence.estimate(k))
  const shift = new Map(
    states.flatMap(({ value }, k) => (isJoint(k) ? [] : [[k, clamped(model.unknowns[k]!, value)] as const])),
  )
  const slopes = model.slopes(readings, shift)
  return {
    expectedHere: model.predicted(readings, shift),
    tolerance: readings.map((r, i) => {
      const joints = slopes.reduce((sum, j, k) => sum + (isJoint(k) ? (model.unknowns[k]!.spread * j[i]!) ** 2 : 0), 0)
      // What is left of the others moves together: as far as the readings hold it.
      const others = slopes.reduce((sum, j, k) => sum + (isJoint(k) ? 0 : (states[k]!.error * j[i]!) ** 2), 0)
      const state = isHeld ? Math.min(others, STATE_LEFT_V ** 2) : others
      return SIGMAS * Math.sqrt(offOf(r) ** 2 + joints + state)
    }),
  }
}

/** Looks for one bad joint after the other, until none more is sure. */
class Search {
  private readonly y: number[]
  private readonly noise: number[]
  private readonly jointUnknowns: number[]
  private readonly seenOdds: Map<string, number>

  constructor(
    private readonly model: StationModel,
    private readonly readings: readonly Reading[],
    seen: readonly Seen[],
    inflated: number,
  ) {
    this.y = readings.map(r => r.volts ?? Math.abs(r.amps!))
    this.noise = readings.map(r => inflated * offOf(r) ** 2)
    this.jointUnknowns = model.unknowns.flatMap((u, k) => (u.of === 'joint' ? [k] : []))
    this.seenOdds = new Map()
    for (const { place, saw } of seen) this.seenOdds.set(place, (this.seenOdds.get(place) ?? 1) * SEEN[saw])
  }

  run(): Pick<Inference, 'joints' | 'evidence' | 'misfit'> {
    const bad = new Map<number, { variance: number; share: number; or: string[] }>()
    let evidence = this.evidenceWith(bad)
    let shares = this.sharesOf(evidence, bad)
    while (bad.size < MOST_BAD) {
      const best = this.surest(evidence, shares)
      if (!best) break
      const [chosen] = best.members
      const variance = this.variancesOf(chosen!.k).reduce((a, v) => {
        const weight = (x: number) => logWeight(evidence, chosen!.k, x)
        return weight(v) > weight(a) ? v : a
      })
      for (const { k, share } of best.members) {
        const or = best.members.filter(m => m.k !== k).map(m => this.jointOf(m.k).place)
        // Only one of them is counted in: they stand for the same.
        bad.set(k, { variance: k === chosen!.k ? variance : 0, share, or })
      }
      evidence = this.evidenceWith(bad)
      shares = this.sharesOf(evidence, bad)
    }
    return { joints: this.told(evidence, shares, bad), evidence, misfit: evidence.misfit() }
  }

  /** With the slopes where the bad joints put the station. */
  private evidenceWith(bad: ReadonlyMap<number, { variance: number }>): Evidence {
    const { model, readings } = this
    const variances = model.unknowns.map((u, k) => u.spread ** 2 + (bad.get(k)?.variance ?? 0))
    let shift = new Map<number, number>()
    let evidence: Evidence | null = null
    for (let round = 0; round < (bad.size ? ROUNDS + 1 : 1); round++) {
      const at = model.predicted(readings, shift)
      const slopes = model.slopes(readings, shift)
      const usable = at.every(Number.isFinite) && slopes.every(j => j.every(Number.isFinite))
      if (!usable) break
      const left = this.y.map((y, i) => y - at[i]! + [...shift].reduce((sum, [k, by]) => sum + slopes[k]![i]! * by, 0))
      evidence = new Evidence(slopes, variances, left, this.noise)
      const now = evidence
      shift = new Map(model.unknowns.map((u, k) => [k, clamped(u, now.estimate(k).value)]))
    }
    return (
      evidence ??
      new Evidence(
        model.unknowns.map(() => []),
        variances,
        [],
        [],
      )
    )
  }

  private jointOf(k: number): Joint {
    return (this.model.unknowns[k] as Extract<Unknown, { of: 'joint' }>).joint
  }

  private variancesOf(k: number): number[] {
    const joint = this.jointOf(k)
    const by = joint.kind === 'conductor' ? CONDUCTOR_BAD_BY : BAD_BY
    return by.map(x => (x * Math.max(LEAST_LOOP_OHM, joint.loopOhm)) ** 2)
  }

  /**
   * How likely each joint is bad beside those that are counted in. Others that would explain the readings as well stand
   * against it by how much likelier they make them; those that nobody has looked at do not.
   */
  private sharesOf(evidence: Evidence, bad: ReadonlyMap<number, unknown>): Map<number, number> {
    const candidates = this.jointUnknowns
      .filter(k => !bad.has(k))
      .map(k => {
        const { badOdds, place } = this.jointOf(k)
        const odds = (badOdds / (1 - badOdds)) * (this.seenOdds.get(place) ?? 1)
        const logs = this.variancesOf(k).map(v => logWeight(evidence, k, v))
        const most = Math.max(...logs)
        const mean = logs.reduce((sum, l) => sum + Math.exp(l - most), 0) / logs.length
        const times = mean * Math.exp(Math.min(500, most))
        return { k, weight: odds * times, against: odds * Math.max(0, times - 1) }
      })
    const all = candidates.reduce((sum, c) => sum + c.against, 0)
    return new Map(candidates.map(({ k, weight, against }) => [k, weight / (1 + weight + all - against)]))
  }

  /** The joints, alike to the readings, of which one is surest the next bad one; null where none is sure. */
  private surest(evidence: Evidence, shares: ReadonlyMap<number, number>) {
    const ranked = [...shares].sort((a, b) => b[1] - a[1])
    const [lead] = ranked
    if (!lead) return null
    const group = ranked.filter(([k]) => k === lead[0] || evidence.alike(k, lead[0]) > ALIKE)
    const sure = group.reduce((sum, [, share]) => sum + share, 0)
    if (sure < SURE || !this.isPlain(evidence, lead[0])) return null
    const members = group.filter(([, share]) => share > LIKELY_ENOUGH * lead[1]).map(([k, share]) => ({ k, share }))
    return { members, sure }
  }

  /** Whether what a joint has too much is plainly more than nothing, by the readings alone. */
  private isPlain(evidence: Evidence, k: number): boolean {
    const { value, error } = evidence.estimate(k, Math.max(...this.variancesOf(k)))
    return value > PLAIN * error
  }

  private told(
    evidence: Evidence,
    shares: ReadonlyMap<number, number>,
    bad: ReadonlyMap<number, { variance: number; share: number; or: string[] }>,
  ): JointState[] {
    return this.jointUnknowns.map(k => {
      const joint = this.jointOf(k)
      const found = bad.get(k)
      const spread = this.model.unknowns[k]!.spread ** 2
      // One of several that explain it alike is shown as if it were the one.
      const main =
        found && [...bad].find(([m, b]) => b.variance > 0 && (m === k || found.or.includes(this.jointOf(m).place)))
      const { value, error } = main ? evidence.estimate(main[0]) : evidence.estimate(k, spread)
      const perPole = 1000 / joint.poles
      return {
        joint,
        milliohm: Math.max(0, joint.loopOhm + value) * perPole,
        errorMilliohm: error * perPole,
        tableMilliohm: joint.loopOhm * perPole,
        bad: found?.share ?? shares.get(k) ?? 0,
        suspect: Boolean(found),
        looked: Boolean(found) || evidence.along(k).information * this.variancesOf(k)[0]! >= SEEN_BY,
        or: found?.or ?? [],
        orWords: (found?.or ?? []).map(place => this.model.joints.find(j => j.place === place)?.words ?? place),
      }
    })
  }
}
/** A joint that were bad would stand out by two sigma. */
const SEEN_BY = 4
/** Of a group that cannot be told apart, one is named with the likeliest where it is at least so likely beside it. */
const LIKELY_ENOUGH = 0.2

/** Log of how much likelier the readings are where one unknown has so much more variance; a bad joint only has more. */
function logWeight(evidence: Evidence, k: number, variance: number): number {
  const { information, pull } = evidence.along(k)
  const grown = 1 + variance * information
  const mean = (variance * pull) / grown
  const sd = Math.sqrt(variance / grown)
  const above = Math.max(1e-12, 2 * normalShare(mean / sd))
  return -0.5 * Math.log(grown) + (0.5 * variance * pull * pull) / grown + Math.log(above)
}

/** No resistance is below nothing, and shares stay shares. */
function clamped(u: Unknown, by: number): number {
  if (u.of === 'joint') return Math.max(-0.9 * u.joint.loopOhm, by)
  if (u.of === 'warmth') return Math.max(-0.3, Math.min(0.3, by))
  return u.of === 'internal' || u.of === 'load' ? Math.max(-0.8, Math.min(3, by)) : by
}
