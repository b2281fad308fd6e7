import { timelineCsv } from '../../core/formats/timelineCsv'
import { eventIcal } from '../../core/formats/ical'
import { EventCourse } from '../../core/hours/course'
import type { HoursEvent } from '../../core/hours/event'
import { monthsOf } from '../../core/hours/months'
import { oddsOf } from '../../core/hours/odds'
import { fillingsOf, restingOf, startersOf } from '../../core/hours/refill'
import { sagOf, sagWords } from '../../core/hours/sag'
import { setsFor } from '../../core/hours/sets'
import { eventSheet } from '../../core/hours/sheet'
import { failureWords } from '../../core/hours/tell'
import { fillingWords, restingWords, setWords, starterWords } from '../../core/hours/tellLasting'
import { hourCostsG, packsInTurn } from '../../core/hours/turns'
import { whatIfs } from '../../core/hours/whatIf'
import { packFigures, rivalOf, rivalWords, worthOf } from '../../core/hours/worth'
import type { Plan } from '../../core/plan/schema'
import { brokenPlan } from './brokenPlans'
import { randomRun } from './randomEvents'
import { randomPlan } from './randomPlans'
import { bySeed } from './sampled'

/** How events of any kind go on stations of any kind: whole answers, as in `recorded.ts`. */

type Asked = { plan: Plan; event: HoursEvent }

function courseAnswer({ plan, event }: Asked) {
  const course = new EventCourse(plan, event)
  const run = course.run({ everyH: 6 })
  const sags = sagOf(plan, run)
  return {
    run,
    told: run.failures.map(f => failureWords(plan, f)),
    alone: restingOf(plan, event).map(r => restingWords(plan, r)),
    sags: sags.map(s => sagWords('it', s)),
    asked: whatIfs(plan, event).map(({ label, event: other }) => [label, other?.activities]),
    ...(event.hours < 48 && { sheet: eventSheet(course, run, null) }),
    csv: timelineCsv(course.run({ everyH: event.hours / 3 }))
      .split('\n')
      .slice(0, 4),
  }
}

function lastingAnswer({ plan, event }: Asked) {
  const course = new EventCourse(plan, event)
  const sets = setsFor(plan, event, { least: 'massG', odds: 0.5, runs: 2, seed: 3, refillH: 6 })
  return {
    sets: sets && {
      ...sets,
      sets: sets.sets.map(({ patch: _patch, ...set }) => ({ ...set, words: setWords({ ...set, patch: [] }) })),
    },
    turns: packsInTurn(plan, event),
    hourCostsG: hourCostsG(plan, event),
    odds: oddsOf(course, { runs: 6, seed: 3 }),
    fillings: fillingsOf(plan, event, [6]).map(f => ({ ...f, words: fillingWords(f) })),
    months: monthsOf(plan, event).slice(5, 7),
    starters: startersOf(plan).map(s => ({ ...s, words: starterWords(plan, s) })),
    worth: course.stores.map(store => {
      const pack = packFigures(store)
      const rival = rivalOf(pack, { cost: pack.cost * 0.6, holdsShare: 0.8, lifeShare: 0.5 })
      const [own, other] = [worthOf(pack, 60), worthOf(rival, 60)]
      return { pack, own, other, words: rivalWords(own, other) }
    }),
    calendar: eventIcal(plan, event).split('\r\n').slice(0, 30),
  }
}

const over = (make: typeof randomPlan, seeds: number, answer: (asked: Asked) => unknown) =>
  bySeed(seed => randomRun(seed, make), seeds, answer)

export const RECORDED_HOURS: Record<string, () => Record<string, unknown>> = {
  'random-courses': () => ({ wild: over(randomPlan, 40, courseAnswer), ordinary: over(brokenPlan, 24, courseAnswer) }),
  'random-lasting': () => ({ wild: over(randomPlan, 4, lastingAnswer), ordinary: over(brokenPlan, 5, lastingAnswer) }),
}
