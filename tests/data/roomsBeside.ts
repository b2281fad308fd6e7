import { proceduresOf } from '../../core/commission/procedures'
import { singleFailures, sparesOf } from '../../core/commission/spares'
import { commissionSteps, takeDownSteps } from '../../core/commission/steps'
import { EventCourse } from '../../core/hours/course'
import { readEvent } from '../../core/hours/readEvent'
import { fillingsOf, restingOf, startersOf } from '../../core/hours/refill'
import { setsFor } from '../../core/hours/sets'
import { whatIfs } from '../../core/hours/whatIf'
import { kindOf } from '../../core/kinds/index'
import { causesOf } from '../../core/noise/cause'
import type { Plan } from '../../core/plan/schema'
import { faultsOf } from '../../core/practice/faults'
import { hiddenIn } from '../../core/practice/hidden'
import { believeSymptom } from '../../core/symptoms/believe'

/** Five hours, with whatever transmits on the air and all other loads on half of the time. */
function eventOf({ parts }: Plan) {
  const hours = { from: '09:00', to: '13:00' }
  const loads = parts.filter(p => kindOf(p).role === 'load')
  const [radio] = loads.filter(p => kindOf(p).transmits)
  return {
    ...{ format: 'wireman-event', version: 1, name: 'a morning', start: '2026-09-12T09:00', hours: 5, utcOffsetH: 1 },
    place: { latDeg: 53.4, lonDeg: -1.9 },
    activities: radio ? [{ part: radio.id, mode: 'voice', share: 0.3, ...hours }] : [],
    loads: loads.filter(p => p !== radio).map(p => ({ part: p.id, duty: 0.5, ...hours })),
    weather: { airC: { low: 7, high: 14 } },
  }
}

function hoursOf(plan: Plan) {
  const read = readEvent(eventOf(plan), plan)
  // A plan that nothing transmits in, and nothing is on, has no event.
  if (!read.ok) return null
  const { event } = read
  return {
    run: new EventCourse(plan, event).run({ everyH: 1 }),
    sets: setsFor(plan, event, { least: 'massG', odds: 0.5, runs: 1, seed: 1 }),
    asked: whatIfs(plan, event).map(({ label }) => label),
    fillings: fillingsOf(plan, event),
    resting: restingOf(plan, event),
  }
}

/** What the rooms beside the verdict say of a plan: its hours, its building, what may fail, what is noisy. */
export const throughRoomsBeside = (plan: Plan) => ({
  hours: hoursOf(plan),
  steps: [...commissionSteps(plan), ...takeDownSteps(plan)],
  procedures: proceduresOf(plan),
  failures: singleFailures(plan).map(({ spare: _key, ...told }) => told),
  spares: sparesOf(plan).map(({ id: _key, ...told }) => told),
  starters: startersOf(plan),
  faults: faultsOf(plan).map(({ fault }) => fault),
  complaint: hiddenIn(plan, 1)?.complaint,
  symptom: believeSymptom(plan, { symptom: 'cuts-out-on-transmit' }).causes.map(c => [c.id, c.probability]),
  causes: causesOf(plan, { bands: ['20 m'] }).devices,
})
