import { doNotFit } from '../../core/readings/joints'
import { nextReadings, type NextReading } from '../../core/readings/next'
import { pointsOf } from '../../core/readings/points'
import type { Aside } from '../../core/readings/reading'
import { consequencesOf, jointWords } from '../../core/readings/tell'
import { daysOf, standingOf, trendsOf, type Day, type Trend } from '../../core/readings/trend'
import { fixed } from '../../core/units/number'
import { out, printJson, refuse, type Command } from '../command'
import { readPlan, readFigure, readingsIn } from '../inputs'

export const readings: Command = {
  name: 'readings',
  takes: 'PLAN.json READINGS.csv',
  options: { revision: { value: 'N' }, json: {} },
  help: `Readings of a station against its plan: which are within what they should be, which joint has more resistance
than it should and how surely, and the reading that would tell most. READINGS.csv has the columns at,condition,volts,
amps (and where wanted time, revision, seen): volts at a terminal (blk.p1) or at a lead's own side of a mating
(l2.to), amps in a lead; or it is a recording of instruments, as docs/instruments.md says. Of several days each is
judged by itself, joints by the last. Rows that cannot be used are told and left aside. Exit 1: a joint is suspect, or
a row was left aside. Exit 2: it cannot be read.`,
  run(call) {
    const [path] = call.others
    if (!path) return refuse('readings', 'no readings are named', 'PLAN.json READINGS.csv')
    const plan = readPlan(call)
    const revision = call.value('revision') === undefined ? {} : { revision: readFigure(call, 'revision') }
    const read = readingsIn(path, plan, revision)
    const days = daysOf(plan, read.readings, read.seen)
    const { found } = days.at(-1)!
    const beside = { next: nextReadings(plan, found), trends: trendsOf(days), aside: read.aside }
    if (call.json) printJson({ ...asJson(days), ...beside })
    else print(days, beside)
    return read.aside.length || standingOf(days).some(s => s.state.suspect) ? 1 : 0
  },
}

function asJson(days: readonly Day[]) {
  const { found } = days.at(-1)!
  const standing = standingOf(days)
  const does = consequencesOf(found.model.plan, { joints: standing.map(s => s.state) })
  return {
    points: pointsOf(days),
    joints: standing.map(({ state: j, day }, i) => ({
      ...(day && { day }),
      place: j.joint.place,
      milliohm: j.milliohm,
      errorMilliohm: j.errorMilliohm,
      tableMilliohm: j.tableMilliohm,
      suspect: j.suspect,
      bad: j.bad,
      or: j.or,
      ...(j.restsOn && { restsOn: j.restsOn }),
      kind: j.joint.kind,
      per: j.joint.poles === 2 ? 'pole' : 'loop',
      riseC: does[i]!.riseC,
      dropV: does[i]!.dropV,
      atA: does[i]!.amps,
    })),
    misfit: found.misfit,
  }
}

const MOST_SHOWN = 12

interface Beside {
  next: readonly NextReading[]
  trends: readonly Trend[]
  aside: readonly Aside[]
}

function print(days: readonly Day[], { next, trends, aside }: Beside) {
  const points = pointsOf(days)
  const outside = points.filter(p => !p.within)
  out(`${points.length} readings, ${points.length - outside.length} within what they should be`)
  for (const p of outside.slice(0, MOST_SHOWN)) {
    const should =
      p.expectedHere === null ? 'nothing: the plan collapses there' : `${fixed(p.expectedHere, 2)} ${p.unit}`
    out(`  ${p.day ? `${p.day} ` : ''}${p.at}, ${p.condition}: ${fixed(p.read, 2)} ${p.unit}; it should be ${should}`)
  }
  printJoints(days)
  for (const t of trends) {
    const by = t.days.map(d => `${d.day} ${fixed(d.milliohm, 1)}`).join(', ')
    out(`${t.place}, mΩ: ${by}${t.rises ? ': it rises' : ''}`)
  }
  for (const n of next) out(`next: ${n.at} at ${n.condition}. ${n.why}`)
  for (const a of aside) out(`left aside, line ${a.line} (${a.text}): ${a.wrong}; right would be ${a.right}`)
}

function printJoints(days: readonly Day[]) {
  const last = days.at(-1)!
  const suspects = standingOf(days).filter(s => s.state.suspect)
  const does = consequencesOf(last.found.model.plan, { joints: suspects.map(s => s.state) })
  suspects.forEach(({ state, day }, i) => {
    const since = day === last.day ? '' : `, as of ${day}`
    out(`suspect (${Math.round(100 * state.bad)} %${since}): ${jointWords(state, does[i]!)}`)
  })
  if (!suspects.length) out('no joint is suspect by these readings')
  if (doNotFit(last.found)) out('the readings do not fit together: a condition, a load or a point was not as said')
}
