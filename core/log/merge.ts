import type { Log } from './log'

/** A log's lists; every entry of each has an id of its own. */
export const LOG_LISTS = ['readings', 'seen', 'instruments', 'steps', 'settings', 'symptoms', 'batteries'] as const
export type LogList = (typeof LOG_LISTS)[number]

/**
 * Two logs that grew from one: every entry of either. One that both have is this one's; `base`: what both started
 * from, so that what either took out stays out.
 */
export function mergedLogs(now: Log, theirs: Log, base?: Log): Log {
  const lists = LOG_LISTS.map(list => {
    const [mine, others, were] = [now[list], theirs[list], base?.[list] ?? []] as { id: string }[][]
    const had = new Map(were!.map(e => [e.id, JSON.stringify(e)]))
    const here = new Map(mine!.map(e => [e.id, e]))
    const there = new Map(others!.map(e => [e.id, e]))
    const kept = mine!.flatMap(e => {
      const known = had.get(e.id)
      const other = there.get(e.id)
      // Taken out there, and not changed here.
      if (!other && known === JSON.stringify(e)) return []
      // Changed there alone.
      return [other && known === JSON.stringify(e) ? other : e]
    })
    const added = others!.filter(e => !here.has(e.id) && had.get(e.id) !== JSON.stringify(e))
    return [list, [...kept, ...added]] as const
  })
  return { ...now, ...Object.fromEntries(lists) } as Log
}
