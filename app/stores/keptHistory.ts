import type { Plan } from '#core/plan/schema'
import type { Step } from './useHistory'

/** What was done to a plan and taken back, kept in this window over a reload. */
export interface Steps {
  done: Step[]
  undone: Step[]
}

export interface KeptHistory {
  /** What was kept, if the plan is as it was then; else null. */
  read: (plan: Plan | null) => Steps | null
  write: (plan: Plan | null, steps: Steps) => void
}

/** Of many steps the last are kept. */
const MOST_STEPS = 60

/** The steps of one station, in the window's own store; they hold for the very plan that they led to. */
export function keptHistory(stationId: string): KeptHistory {
  const key = `wireman-steps-${stationId}`
  return {
    read(plan) {
      try {
        const kept = JSON.parse(sessionStorage.getItem(key) ?? 'null') as (Steps & { plan: string }) | null
        return kept && plan && kept.plan === JSON.stringify(plan) ? kept : null
      } catch {
        return null
      }
    },
    write(plan, { done, undone }) {
      try {
        const steps = { done: done.slice(-MOST_STEPS), undone: undone.slice(-MOST_STEPS) }
        sessionStorage.setItem(key, JSON.stringify({ plan: JSON.stringify(plan), ...steps }))
      } catch {
        // A full store keeps no steps: they are there until the page is left.
      }
    },
  }
}
