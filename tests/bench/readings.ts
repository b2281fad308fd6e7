import { inferJoints, type Inference } from '../../core/readings/joints'
import { nextReadings } from '../../core/readings/next'
import type { Plan } from '../../core/plan/schema'
import { demoPlan } from '../data/plans'
import { madeUpReadings, testableJoints, type MadeUp } from '../data/readings'

const STATIONS = ['clean-bench', 'tern-rock-light', 'narrowboat-heron', 'moor-walk-kit'] as const
const CASES = 500
/** As many of the readings that it asks for are taken, one after the other. */
const MOST_ASKED = 3
/** What a stated sureness was worth: in five bins. */
const BINS = [0.3, 0.5, 0.7, 0.8, 0.9, 1.0001]

interface Tally {
  cases: number
  hit: number
  falsely: number
  /** The same after the readings that were asked for. */
  hitThen: number
  falselyThen: number
  asked: number
  ms: number
}

/** Joints found in made-up readings, and joints blamed where none is bad: 500 stations each. */
export function benchReadings(print: (line: string) => void) {
  const plans = STATIONS.map(demoPlan)
  const measurable = plans.filter(p => testableJoints(p, 0.03).length)
  const sure = BINS.slice(1).map(() => ({ said: 0, right: 0 }))
  for (const times of [3, 5, 10]) {
    const tally = run(measurable, times, sure)
    const found = `found in ${percent(tally.hit, tally.cases)} of ${tally.cases}`
    print(
      `readings, a joint of ${times} times its resistance: ${found}, ` +
        `another blamed in ${percent(tally.falsely, tally.cases)}; ${(tally.ms / tally.cases).toFixed(0)} ms a solve`,
    )
    print(`readings, ${thenWords(tally)}: found in ${percent(tally.hitThen, tally.cases)}`)
  }
  const worse = run(measurable, 'three times or worse', sure)
  print(
    `readings, a joint of 3 to 30 times its resistance: found in ${percent(worse.hit, worse.cases)} ` +
      `of ${worse.cases}; ${thenWords(worse)}: in ${percent(worse.hitThen, worse.cases)}`,
  )
  const none = run(plans, 0, sure)
  print(`readings, none bad: none blamed in ${percent(none.cases - none.falsely, none.cases)} of ${none.cases}`)
  const kept = percent(none.cases - none.falselyThen, none.cases)
  print(`readings, none bad, ${thenWords(none)}: none blamed in ${kept}`)
  sure.forEach(({ said, right }, i) => {
    const to = Math.min(1, BINS[i + 1]!)
    if (said) print(`readings, sure of ${BINS[i]}–${to}: said ${said} times, right in ${percent(right, said)}`)
  })
}

const thenWords = ({ asked, cases, falselyThen }: Tally) =>
  `with the ${(asked / cases).toFixed(1)} readings it asks for next (another blamed in ${percent(falselyThen, cases)})`

/** What is found once the readings that are asked for were taken. */
function afterNext(plan: Plan, { readings, read }: MadeUp, first: Inference): { found: Inference; asked: number } {
  const taken = [...readings]
  let found = first
  while (taken.length - readings.length < MOST_ASKED && !isSettled(found)) {
    const [next] = nextReadings(plan, found)
    if (!next) break
    taken.push(read(next.at, next.condition))
    found = inferJoints(plan, taken)
  }
  return { found, asked: taken.length - readings.length }
}

function isSettled({ joints }: Inference): boolean {
  const suspects = joints.filter(j => j.suspect)
  return suspects.length > 0 && suspects.every(j => !j.or.length && !j.restsOn)
}

/** @param many of its new resistance, a bad joint's; 0: none is bad */
function run(
  plans: readonly Plan[],
  many: number | 'three times or worse',
  sure: { said: number; right: number }[],
): Tally {
  const tally: Tally = { cases: 0, hit: 0, falsely: 0, hitThen: 0, falselyThen: 0, asked: 0, ms: 0 }
  for (let n = 0; n < CASES; n++) {
    const plan = plans[n % plans.length]!
    const times = typeof many === 'number' ? many : 3 * 10 ** (((37 * n) % CASES) / CASES)
    const made = madeUpReadings(plan, { seed: 31 * n + Math.round(times), times })
    const { readings, bad } = made
    const began = performance.now()
    const first = inferJoints(plan, readings)
    const suspects = first.joints.filter(j => j.suspect)
    tally.ms += performance.now() - began
    tally.cases++
    const isRight = (place: string, or: readonly string[]) => place === bad || (bad !== null && or.includes(bad))
    if (bad && suspects.some(s => s.joint.place === bad)) tally.hit++
    if (suspects.some(s => !isRight(s.joint.place, s.or))) tally.falsely++
    const then = afterNext(plan, made, first)
    const suspectsThen = then.found.joints.filter(j => j.suspect)
    tally.asked += then.asked
    if (bad && suspectsThen.some(s => s.joint.place === bad)) tally.hitThen++
    if (suspectsThen.some(s => !isRight(s.joint.place, s.or))) tally.falselyThen++
    // What is said of a group is the sum of its members: each stands for it once.
    for (const s of suspects.filter((x, i) => !suspects.slice(0, i).some(y => y.or.includes(x.joint.place)))) {
      const of = s.bad + suspects.filter(x => s.or.includes(x.joint.place)).reduce((sum, x) => sum + x.bad, 0)
      const bin =
        sure[
          Math.max(
            0,
            BINS.findIndex((b, i) => of >= b && of < BINS[i + 1]!),
          )
        ]!
      bin.said++
      if (isRight(s.joint.place, s.or)) bin.right++
    }
  }
  return tally
}

const percent = (n: number, of: number) => `${((100 * n) / of).toFixed(1)} %`
