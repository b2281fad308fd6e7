import { describe, expect, it } from 'vitest'
import { EventCourse } from '../../../core/hours/course'
import { eventSchema } from '../../../core/hours/event'
import { oddsOf } from '../../../core/hours/odds'
import { courseWords } from '../../../core/hours/tell'
import { demoPlan } from '../../data/plans'

const plan = demoPlan('tern-rock-light')
const event = (more: object) =>
  eventSchema.parse({
    format: 'wireman-event',
    version: 1,
    name: 'Night',
    start: '2026-06-13T20:00',
    hours: 30,
    place: { latDeg: 54, lonDeg: -4 },
    activities: [{ part: 'hf', mode: 'voice', powerW: 50, share: 0.25 }],
    loads: [
      { part: 'lamps', between: 'off', from: '21:00', to: '23:00' },
      { part: 'log', duty: 0.3, between: 'off', to: 14 },
    ],
    panels: [{ part: 'sun', tiltDeg: 35 }],
    ...more,
  })

describe('odds', () => {
  const course = new EventCourse(plan, event({}))
  it('come out alike for one seed, and otherwise for another', () => {
    const once = oddsOf(course, { runs: 60, seed: 4 })
    expect(oddsOf(course, { runs: 60, seed: 4 })).toEqual(once)
    expect(oddsOf(course, { runs: 60, seed: 5 })!.band).not.toEqual(once!.band)
  })
  it('hold together: who fails had a first failure, and bands are in order', () => {
    const odds = oddsOf(course, { runs: 120, seed: 1 })!
    const shares = odds.causes.reduce((sum, c) => sum + c.share, 0)
    expect(shares).toBeCloseTo(1 - odds.onAir, 9)
    for (const { soc } of odds.band) {
      const { p10, p50, p90 } = soc.bat!
      expect(p10).toBeLessThanOrEqual(p50)
      expect(p50).toBeLessThanOrEqual(p90)
      expect(p10).toBeGreaterThanOrEqual(0)
      expect(p90).toBeLessThanOrEqual(1)
    }
    if (odds.firstFailureH) expect(odds.firstFailureH.p10).toBeLessThanOrEqual(odds.firstFailureH.p90)
    expect(courseWords(plan, course.event, course.run(), odds)).toMatch(/of 10 such events|weathers tried/)
  })
  it('rise with less cloud and with more in the pack', () => {
    const of = (more: object) => oddsOf(new EventCourse(plan, event(more)), { runs: 150, seed: 2 })!
    const charged = (startCharge: number) => ({ stores: [{ part: 'bat', startCharge }] })
    const mean = (more: object) => {
      const { band } = of(more)
      return band.at(-1)!.soc.bat!.p50
    }
    expect(mean({ weather: { cloud: 0.1 } })).toBeGreaterThan(mean({ weather: { cloud: 0.95 } }))
    expect(of(charged(1)).onAir).toBeGreaterThanOrEqual(of(charged(0.5)).onAir)
    expect(of(charged(0.25)).onAir).toBe(0)
  })
  it('can be let go', () => {
    expect(oddsOf(course, { runs: 100, seed: 1, progress: () => false })).toBeNull()
  })
})
