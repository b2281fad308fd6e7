import { basename } from 'node:path'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** The longest journeys begin first, or one of them is still under way when all others have ended. */
const LONGEST = ['everyView', 'station', 'live', 'quiet', 'bench', 'backup', 'byHand', 'windows', 'own', 'phone']

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]) {
    const place = ({ moduleId }: TestSpecification) => {
      const at = LONGEST.indexOf(basename(moduleId, '.test.ts'))
      return at < 0 ? LONGEST.length : at
    }
    return (await super.sort(files)).sort((a, b) => place(a) - place(b))
  }
}

export default defineConfig({
  test: {
    include: ['tests/e2e/**/*.test.ts'],
    environment: 'node',
    testTimeout: 240_000,
    hookTimeout: 120_000,
    // What is waited for comes later where journeys share a machine.
    expect: { poll: { timeout: 40_000 } },
    // Journeys side by side, each with a server and a browser of its own.
    maxWorkers: 3,
    // They share what they import; each begins with a server and a browser of its own.
    isolate: false,
    sequence: { sequencer: LongestFirst },
  },
})
