import { partById } from '../plan/find'
import type { Plan } from '../plan/schema'
import type { CommissionStep, Phase } from './step'

/** What a device's own lamps and display should show at a step, and what there ends it: as its manual says. */

type Sight = 'on' | 'active' | 'charging' | 'full' | 'low' | 'fault'

const EXPECTED: Partial<Record<Phase, readonly Sight[]>> = {
  idle: ['on'],
  keyed: ['active'],
  charge: ['charging', 'full'],
}
const ENDS: readonly Sight[] = ['fault', 'low']
const MEANS: Record<Sight, string> = {
  on: '',
  active: '',
  charging: '',
  full: ' once it is full',
  low: ' (battery low)',
  fault: ' (a fault)',
}

/** A step with what its device shows. */
export function withSights(plan: Plan, step: CommissionStep): CommissionStep {
  const expected = EXPECTED[step.phase]
  const shows = step.part === undefined ? undefined : partById(plan, step.part)?.shows
  if (!expected || !shows) return step
  const said = (sights: readonly Sight[]) =>
    sights.flatMap(sight => (shows[sight] ? [`${shows[sight]}${MEANS[sight]}`] : []))
  const [well, ill] = [said(expected), said(ENDS)]
  return {
    ...step,
    see: well.length ? `${step.see} It shows: ${well.join('; ')}.` : step.see,
    stopIf: ill.length ? `${step.stopIf} Or it shows: ${ill.join('; ')}.` : step.stopIf,
  }
}
