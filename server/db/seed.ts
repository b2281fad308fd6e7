import { readPlan } from '../../core/plan/faults'
import cleanBench from '../../demo/clean-bench.json'
import heron from '../../demo/narrowboat-heron.json'
import moor from '../../demo/moor-walk-kit.json'
import ternRock from '../../demo/tern-rock-light.json'
import heronNoise from '../../demo/noise/narrowboat-heron.json'
import ternRockNoise from '../../demo/noise/tern-rock-light.json'
import shelfItems from '../../demo/shelf.json'
import { logbookSchema } from '../../core/noise/logbook'
import { shelfSchema } from '../../core/shelf/item'
import { insertStation, type Database } from './insert'
import { noise, shelf } from './schema'

/** Puts the demo stations and a drawer of parts into a new database. The last made stands first in the list. */
export async function seed(db: Database) {
  for (const [demo, log] of [[cleanBench], [moor], [heron, heronNoise], [ternRock, ternRockNoise]]) {
    const read = readPlan(demo)
    if (!read.ok) continue
    const { id } = await insertStation(db, read.plan, 'demo station')
    if (log)
      await db.insert(noise).values({ stationId: id, revision: 1, logbook: JSON.stringify(logbookSchema.parse(log)) })
  }
  await db.insert(shelf).values({ id: 1, revision: 1, items: JSON.stringify(shelfSchema.parse(shelfItems)) })
}
