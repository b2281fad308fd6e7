import type { Patch } from '../edit/patch'
import { worseThan } from '../verdict/consequences'
import { firstFixThat } from '../verdict/fixes'
import type { Verdict } from '../verdict/verdict'
import type { Judged } from './looked'

/** What sizes bring beside what they are for. */

/** What sizing itself chooses, and what the operator wants: no change beside the sizes touches it. */
const SIZED = /\/(conductor|lengthM|draw|powerW)(\/|$)/

/** Nobody who asks for sizes expects another part or lead, or one fewer. */
const WHOLE = /^\/(parts|leads)\/[^/]+$/

const isBeside = (patch: Patch) =>
  patch.every(op => !SIZED.test(op.path) && (op.op === 'replace' || !WHOLE.test(op.path)))

/** Changes beside the sizes for what they bring: another class of fuse, where more may flow now. */
const MOST_TIDYING = 4

/** The sizes with what else has to change along with them, as long as that is no conductor. */
export function tidied(before: Verdict, sized: Judged): Judged {
  let now = sized
  for (let n = 0; n < MOST_TIDYING; n++) {
    const { verdict, study } = now
    const fix = firstOf(worseBy(before, verdict), f => firstFixThat(f, study, verdict, isBeside))
    if (!fix) return now
    now = fix
  }
  return now
}

function firstOf<T, U>(items: readonly T[], make: (item: T) => U | null): U | null {
  for (const item of items) {
    const made = make(item)
    if (made) return made
  }
  return null
}

const worseBy = (before: Verdict, after: Verdict) => worseThan(before, after).filter(f => f.severity !== 'note')

/** What the sizes bring that was not there, in words: a thicker main lead may let more through than a fuse breaks. */
export const brought = (before: Verdict, after: Verdict): string[] =>
  worseBy(before, after).map(f => `it would bring this: ${f.title}`)
