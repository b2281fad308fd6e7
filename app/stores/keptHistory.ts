import type { Step } from './useHistory'

/** What was done to a plan, a logbook or a shelf and taken back, kept in this window over a reload. */
export interface Steps {
  done: Step[]
  undone: Step[]
}

export interface KeptHistory {
  /** What was kept, if the value is as it was then; else null. */
  read: (value: unknown) => Steps | null
  write: (value: unknown, steps: Steps) => void
}

/** Of many steps the last are kept. */
const MOST_STEPS = 60

const WRITE_AFTER_MS = 250
const waiting = new Map<string, () => void>()
function writeWaiting() {
  for (const write of waiting.values()) {
    try {
      write()
    } catch {
      // A full store keeps no steps: they are there until the page is left.
    }
  }
  waiting.clear()
}
if (typeof window !== 'undefined') window.addEventListener('pagehide', writeWaiting)

/** The steps of one document, in the window's own store; they hold for the very value that they led to. */
export function keptHistory(name: string): KeptHistory {
  const key = `wireman-steps-${name}`
  return {
    read(value) {
      try {
        const kept = JSON.parse(sessionStorage.getItem(key) ?? 'null') as (Steps & { value: string }) | null
        return kept && value && kept.value === JSON.stringify(value) ? kept : null
      } catch {
        return null
      }
    },
    write(value, { done, undone }) {
      const steps = { done: done.slice(-MOST_STEPS), undone: undone.slice(-MOST_STEPS) }
      // After the picture: a large plan takes a frame to write. What is waiting is written before the page goes.
      waiting.set(key, () => sessionStorage.setItem(key, JSON.stringify({ value: JSON.stringify(value), ...steps })))
      setTimeout(writeWaiting, WRITE_AFTER_MS)
    },
  }
}
