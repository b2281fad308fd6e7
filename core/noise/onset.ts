import type { Observation } from './observation'
import { asGiven } from '../units/number'

/** Currents of a device between which its noise sets in, as they were heard, A. */
export interface Onset {
  /** The largest at which it was not heard. */
  quietUpToA?: number
  /** The least at which it was. */
  heardFromA?: number
}

/** What was heard of a device at its currents; nothing where findings at them contradict each other. */
export function onsetOf(evidence: readonly Observation[], device: string): Onset {
  const at = evidence.flatMap(o => {
    if (o.kind !== 'listen' || o.heard === 'not-sure') return []
    const before = o.current?.device === device ? [{ amps: o.current.amps, isHeard: true }] : []
    const put = o.setup.devices?.[device]
    const now = put?.state === 'working' && put.currentA !== undefined
    return now ? [...before, { amps: put.currentA!, isHeard: o.heard !== 'gone' }] : before
  })
  const heardFromA = Math.min(...at.filter(a => a.isHeard).map(a => a.amps))
  const quietUpToA = Math.max(...at.filter(a => !a.isHeard).map(a => a.amps))
  if (quietUpToA >= heardFromA) return {}
  return {
    ...(Number.isFinite(quietUpToA) && { quietUpToA }),
    ...(Number.isFinite(heardFromA) && { heardFromA }),
  }
}

/** "above 5 to 8 A, as heard"; null where only a share of its largest current is known. */
export function onsetWords({ quietUpToA, heardFromA }: Onset): string | null {
  if (quietUpToA !== undefined && heardFromA !== undefined)
    return `above ${asGiven(quietUpToA)} to ${asGiven(heardFromA)} A, as heard`
  if (heardFromA !== undefined) return `heard from ${asGiven(heardFromA)} A on`
  return quietUpToA === undefined ? null : `quiet up to ${asGiven(quietUpToA)} A`
}
