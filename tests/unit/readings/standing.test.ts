import { describe, expect, it } from 'vitest'
import type { Reading } from '../../../core/readings/reading'
import { daysOf, standingOf, trendsOf } from '../../../core/readings/trend'
import { demoPlan } from '../../data/plans'
import { madeUpReadings } from '../../data/readings'

const plan = demoPlan('tern-rock-light')
const on = (day: string, readings: readonly Reading[]) => readings.map(r => ({ ...r, time: `${day}T10:00:00` }))
const suspectsOf = (readings: Reading[]) =>
  standingOf(daysOf(plan, readings)).flatMap(({ state, day }) => (state.suspect ? [`${state.joint.place} ${day}`] : []))
const bad = madeUpReadings(plan, { seed: 4, times: 10 })
const good = madeUpReadings(plan, { seed: 4, times: 0 })

describe('a joint that was bad one day', () => {
  it('stays so while nobody has looked at it since', () => {
    const one = on('2026-07-01', [good.readings.find(r => r.at === 'log' && r.condition === 'full/idle')!])
    const found = suspectsOf([...on('2026-06-01', bad.readings), ...one])
    expect(found.some(f => f.startsWith(bad.bad!))).toBe(true)
    expect(found.every(f => f.endsWith('2026-06-01'))).toBe(true)
  })
  it('is no longer once a whole day of good readings says so', () => {
    expect(suspectsOf([...on('2026-06-01', bad.readings), ...on('2026-07-01', good.readings)])).toEqual([])
  })
  it('has no figure on a day that says nothing of it', () => {
    const one = on('2026-07-01', [good.readings.find(r => r.at === 'log' && r.condition === 'full/idle')!])
    const trends = trendsOf(daysOf(plan, [...on('2026-06-01', bad.readings), ...one]))
    for (const t of trends) expect(t.days.map(d => d.day)).not.toContain('2026-07-01')
  })
})
