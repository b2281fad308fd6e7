import { isLoad, kindOf, type LoadPart } from '../kinds/index'
import type { Sink } from '../kinds/kind'
import type { Plan } from '../plan/schema'
import type { Activity, HoursEvent } from './event'
import { MODES } from './modes'
import { isIn, stretchesOf, type Stretch } from './schedule'

/** What a load does at a moment. */
export interface Use {
  part: LoadPart
  /** Off, or what it takes when nothing goes on, on average of what is not transmitting, and at most. */
  off: boolean
  idle: Sink
  /** Other loads' duty is in it. */
  mean: Sink
  full: Sink
  /** Share of the time that its key is down, on average of the mode; 0 where it only listens. */
  keyed: number
}

interface Entry {
  stretches: Stretch[]
  off: boolean
}
interface ActivityEntry extends Entry {
  activity: Activity
  keyed: number
}
interface LoadEntry extends Entry {
  duty: number
}

const NOTHING: Record<Sink['law'], number> = { current: 0, power: 0, ohm: Infinity }

/** A load that is off. */
export function switchedOff(use: Use): Use {
  const none = { ...use.idle, value: NOTHING[use.idle.law] }
  return { ...use, off: true, idle: none, mean: none, full: none, keyed: 0 }
}

/** A sink that takes so much of the way between two. */
function between(a: Sink, b: Sink, share: number): Sink {
  if (a.law !== 'ohm') return { ...a, value: a.value + (b.value - a.value) * share }
  const siemens = 1 / a.value + (1 / b.value - 1 / a.value) * share
  return { ...a, value: siemens > 0 ? 1 / siemens : Infinity }
}

/** What every load of a plan does over an event. */
export class Users {
  private readonly loads: LoadPart[]
  private readonly activities = new Map<string, ActivityEntry[]>()
  private readonly duties = new Map<string, LoadEntry[]>()

  constructor(plan: Plan, event: HoursEvent) {
    this.loads = plan.parts.filter(isLoad)
    for (const activity of event.activities ?? []) {
      const { share = MODES[activity.mode].share, ratio = MODES[activity.mode].ratio } = activity
      const entry = { activity, keyed: share * ratio, stretches: stretchesOf(event, activity) }
      const known = this.activities.get(activity.part) ?? []
      this.activities.set(activity.part, [...known, { ...entry, off: activity.between === 'off' }])
    }
    for (const { part, duty = 1, between: outside, ...times } of event.loads ?? []) {
      const entry = { duty, stretches: stretchesOf(event, times), off: outside === 'off' }
      this.duties.set(part, [...(this.duties.get(part) ?? []), entry])
    }
  }

  /** When anything of it changes, hours. */
  edges(): number[] {
    const all = [...this.activities.values(), ...this.duties.values()].flat()
    return all.flatMap(e => e.stretches.flatMap(s => [s.fromH, s.toH]))
  }

  /** What each load does at an hour. @param engineRuns what the ignition switches goes with it */
  at(h: number, engineRuns: boolean): Use[] {
    const uses = this.loads.map(part => this.useOf(part, h, engineRuns))
    // What follows a radio is keyed with it.
    return uses.map(use => {
      const leader = uses.find(u => u.part.id === use.part.follows)
      return leader ? { ...use, keyed: leader.keyed, off: use.off || leader.off } : use
    })
  }

  private useOf(part: LoadPart, h: number, engineRuns: boolean): Use {
    const kind = kindOf(part)
    const sink = (active: boolean, powerW?: number) => kind.sink!(part, active, powerW)
    const [idle, full] = [sink(false), sink(true)]
    const activities = this.activities.get(part.id) ?? []
    const now = activities.find(e => isIn(e.stretches, h))
    const duties = this.duties.get(part.id) ?? []
    const on = duties.find(e => isIn(e.stretches, h))
    const isOff = !now && !on && [...activities, ...duties].some(e => e.off)
    if (isOff || (kind.withIgnition?.(part) && !engineRuns))
      return switchedOff({ part, off: true, idle, mean: idle, full, keyed: 0 })
    if (now) {
      const keyedSink = sink(true, now.activity.powerW)
      return { part, off: false, idle, mean: idle, full: keyedSink, keyed: now.keyed }
    }
    if (on)
      return { part, off: false, idle, mean: between(idle, full, on.duty), full: on.duty > 0 ? full : idle, keyed: 0 }
    return { part, off: false, idle, mean: idle, full: idle, keyed: 0 }
  }
}
