import { readPlan } from '../../core/plan/faults'
import cleanBench from '../../demo/clean-bench.json'
import heron from '../../demo/narrowboat-heron.json'
import moor from '../../demo/moor-walk-kit.json'
import ternRock from '../../demo/tern-rock-light.json'
import heronWeek from '../../demo/events/heron-grey-week.json'
import moorDay from '../../demo/events/moor-walk-day.json'
import ternRockEvenings from '../../demo/events/tern-rock-both-evenings.json'
import ternRockPacks from '../../demo/events/tern-rock-more-packs.json'
import ternRockWeekend from '../../demo/events/tern-rock-weekend.json'
import ternRockLog from '../../demo/log/tern-rock-light.json'
import heronNoise from '../../demo/noise/narrowboat-heron.json'
import ternRockNoise from '../../demo/noise/tern-rock-light.json'
import shelfItems from '../../demo/shelf.json'
import { eventSchema } from '../../core/hours/event'
import { logSchema } from '../../core/log/log'
import { logbookSchema } from '../../core/noise/logbook'
import { shelfSchema } from '../../core/shelf/item'
import type { Database } from './engine'
import { insertStation } from './insert'
import { hours, logs, noise, shelf } from './schema'

const readEvent = (event: unknown) => eventSchema.parse(event)

/** Puts the demo stations and a drawer of parts into a new database. The last made stands first in the list. */
export async function seed(db: Database) {
  for (const [demo, log, ...events] of [
    [cleanBench],
    [moor, undefined, moorDay],
    [heron, heronNoise, heronWeek],
    [ternRock, ternRockNoise, ternRockWeekend, ternRockEvenings, ternRockPacks],
  ]) {
    const read = readPlan(demo)
    if (!read.ok) continue
    const { id } = await insertStation(db, read.plan, { note: 'demo station' })
    if (log)
      await db.insert(noise).values({ stationId: id, revision: 1, body: JSON.stringify(logbookSchema.parse(log)) })
    if (demo === ternRock)
      await db.insert(logs).values({ stationId: id, revision: 1, body: JSON.stringify(logSchema.parse(ternRockLog)) })
    if (events.length)
      await db.insert(hours).values({ stationId: id, revision: 1, body: JSON.stringify(events.map(readEvent)) })
  }
  await db.insert(shelf).values({ id: 1, revision: 1, items: JSON.stringify(shelfSchema.parse(shelfItems)) })
}
