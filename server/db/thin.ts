import { and, eq, inArray, lt } from 'drizzle-orm'
import { database, onDisk } from './client'
import { readRevision } from './readable'
import { revisions, stations } from './schema'

/** A station's history grows with every edit: of what is old, less is kept. */

const HOUR_MS = 3_600_000
const DAY_MS = 24 * HOUR_MS
/** Up to this age all states are kept; up to this, the last of each hour; beyond, the last of each day. */
const ALL_MS = DAY_MS
const HOURLY_MS = 30 * DAY_MS

export interface DatedState {
  number: number
  savedAt: Date
  name: string
}

/** The hour or day (UTC) that a state stands for; itself where all are kept. */
function slotOf({ number, savedAt }: DatedState, now: Date): string {
  const ageMs = now.getTime() - savedAt.getTime()
  if (ageMs <= ALL_MS) return `state ${number}`
  const [unit, ms] = ageMs <= HOURLY_MS ? (['hour', HOUR_MS] as const) : (['day', DAY_MS] as const)
  return `${unit} ${Math.floor(savedAt.getTime() / ms)}`
}

/**
 * Numbers of the states that go: of each hour, and of each day, the last stays; so do the first of all, the current
 * one, and those that have a name.
 */
export function goneFrom(states: readonly DatedState[], current: number, now: Date): number[] {
  const inOrder = [...states].sort((a, b) => a.number - b.number)
  const lastOf = new Map(inOrder.map(s => [slotOf(s, now), s.number]))
  const first = inOrder[0]?.number
  return inOrder
    .filter(s => !s.name && s.number !== first && s.number !== current && lastOf.get(slotOf(s, now)) !== s.number)
    .map(s => s.number)
}

/** States taken out at once: whoever works meanwhile waits no longer than for these. */
const AT_ONCE = 500

/**
 * Thins every station's history. One whose current state is lost, or lies on a damaged page, is left as it is: what is
 * old stands in.
 */
export async function thinHistories(now: Date): Promise<number> {
  const db = await database()
  let gone = 0
  for (const { id, revision } of await db.select({ id: stations.id, revision: stations.revision }).from(stations)) {
    const its = eq(revisions.stationId, id)
    const states = await db
      .select({ number: revisions.number, savedAt: revisions.savedAt, name: revisions.name })
      .from(revisions)
      .where(its)
    const numbers = goneFrom(states, revision, now)
    if (!numbers.length || !(await readRevision(db, id, revision))) continue
    for (let from = 0; from < numbers.length; from += AT_ONCE) {
      const some = numbers.slice(from, from + AT_ONCE)
      // Named in the meantime it stays.
      const going = and(its, inArray(revisions.number, some), eq(revisions.name, ''), lt(revisions.number, revision))
      await db.delete(revisions).where(going)
    }
    gone += numbers.length
  }
  if (gone) await onDisk()
  return gone
}
