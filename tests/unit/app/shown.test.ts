import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, shallowReactive, type EffectScope } from 'vue'
import { useShown } from '../../../app/path/useShown'

/** A station of which only its plan and its verdict are looked at. */
const made = () => shallowReactive<Record<'plan' | 'judged', object | null>>({ plan: { name: 'one' }, judged: null })
let station: ReturnType<typeof made>
let scope: EffectScope
let shown: ReturnType<typeof useShown>

beforeEach(() => {
  vi.useFakeTimers()
  station = made()
  scope = effectScope()
  shown = scope.run(() => useShown(station as never))!
})
afterEach(() => {
  scope.stop()
  vi.useRealTimers()
})

const edit = (name: string) => (station.plan = { name })
const judge = () => (station.judged = { of: station.plan })

describe('what the picture shows', () => {
  it('is a plan at once, as long as it has no verdict yet', () => {
    expect(shown.value).toEqual({ plan: { name: 'one' }, judged: null })
    edit('two')
    expect(shown.value!.plan).toEqual({ name: 'two' })
  })

  it('is an edit together with its verdict, in one', () => {
    judge()
    const before = shown.value
    edit('two')
    expect(shown.value).toBe(before)
    judge()
    expect(shown.value).toEqual({ plan: { name: 'two' }, judged: { of: { name: 'two' } } })
  })

  it('is the edit alone where its verdict takes long, counted from the first of several edits', () => {
    judge()
    edit('two')
    vi.advanceTimersByTime(150)
    edit('three')
    vi.advanceTimersByTime(150)
    expect(shown.value).toEqual({ plan: { name: 'three' }, judged: { of: { name: 'one' } } })
  })

  it('is nothing once there is no plan, and never anything after its page has gone', () => {
    judge()
    station.plan = null
    expect(shown.value).toBeNull()
    edit('two')
    judge()
    const last = shown.value
    edit('three')
    scope.stop()
    vi.advanceTimersByTime(500)
    expect(shown.value).toBe(last)
  })
})
