import { readPlan } from '../../core/plan/faults'
import cleanBench from '../../demo/clean-bench.json'
import ternRock from '../../demo/tern-rock-light.json'
import { FolderInUse } from '../db/lock'
import { createStation, isEmpty } from '../db/stations'

/** Opens the database before the first request; puts the demo stations into a new one. The last made stands first. */
export default defineNitroPlugin(async () => {
  try {
    if (await isEmpty()) {
      for (const demo of [cleanBench, ternRock]) {
        const read = readPlan(demo)
        if (read.ok) await createStation(read.plan, 'demo station')
      }
    }
  }
  catch (error) {
    console.error(error instanceof FolderInUse ? error.message : error)
    process.exit(1)
  }
})
