import type { Proposal } from '../fixes/proposal'
import type { Plan } from '../plan/schema'
import type { Study } from '../study/study'
import { someOf } from '../units/words'
import { partById } from '../plan/find'
import { partName } from '../plan/names'
import { figureName } from '../kinds/formOf'

/**
 * `danger` someone or something burns or vents · `fail` it will not work or breaks its limits · `caution` works until
 * it does not · `note`
 */
export type Severity = 'danger' | 'fail' | 'caution' | 'note'

/** A danger or a failure: what is to be mended before the rest. */
export const isSerious = ({ severity }: { severity: string }): boolean => severity === 'danger' || severity === 'fail'
export const SEVERITIES: readonly Severity[] = ['danger', 'fail', 'caution', 'note']

/** A figure of a part, as `bat` and `maxChargeA`. */
export type FigureOf = readonly [partId: string, path: string]

/** One thing wrong or worth knowing in a plan, without its fixes. */
export interface Found {
  severity: Severity
  /** Part, lead or terminal id. */
  place: string
  /** Which fuse or other item of the lead it is about, where several may stand; null: the port's own. */
  item?: string | null
  /** Other places that take part. */
  also?: string[]
  /** Condition it is worst in; null where it holds in all. */
  condition: string | null
  title: string
  message: string
  /** Figures of the sentence, SI, unit in the name. */
  numbers: Record<string, number>
  /** The figure of a part that sets the limit: whether it is recommended or absolute, known or guessed, counts. */
  limit?: FigureOf
  /** What the other school would say, where there is one. */
  otherSchool?: string
}

export interface Check {
  /** Stable. */
  id: string
  severities: readonly Severity[]
  /** Conditions it looks at, in words. */
  looksAt: string
  title: string
  /** For somebody who has not met it. */
  why: string
  source: string
  find: (study: Study) => Found[]
  /** Changes that might mend it, best first; each is solved again before it is shown. */
  fixes?: (found: Found, study: Study) => Proposal[]
}

/** Whether a finding is about a fuse or breaker. */
export const isOf = (found: Found, device: { place: string; item: string | null }): boolean =>
  device.place === found.place && device.item === (found.item ?? null)

/** An assumed limit decides fully only where it is broken twice over: the pack may stand more than its class. */
export const severityAt = (severity: Severity, limit: { amps: number; assumed?: string }, value: number): Severity =>
  limit.assumed && value <= 2 * limit.amps ? 'caution' : severity

/** Whether a figure of a part is said to be what its maker recommends, and not what it stands. */
const isRecommended = (plan: Plan, [partId, path]: FigureOf): boolean =>
  plan.parts.find(p => p.id === partId)?.figures?.[path]?.limit === 'recommended'

/** A finding whose limit is only recommended works until it does not, and says so; one that is a guess is named. */
export function weighed(plan: Plan, found: Found): Found {
  if (!found.limit) return found
  const recommended = isRecommended(plan, found.limit) && found.severity !== 'note'
  const said = found.message.includes('Rests on a guess') ? '' : guessed(plan, [found.limit])
  const words = recommended ? ' That limit is recommended, not absolute.' : ''
  return { ...found, severity: recommended ? 'caution' : found.severity, message: found.message + words + said }
}

/** Names the figures that are guesses among those a verdict rests on: "internal resistance of House pack". */
export function guessed(plan: Plan, figures: readonly FigureOf[]): string {
  const guesses = figures.flatMap(([id, path]) => {
    const part = partById(plan, id)
    return part?.figures?.[path]?.from === 'guess' ? [`${figureName(part, path)} of ${partName(plan, id)}`] : []
  })
  return guesses.length ? ` Rests on a guess: ${someOf(guesses)}.` : ''
}
