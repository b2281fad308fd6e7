/**
 * Runs both suites and closes with one line of counts. The end-to-end tests wait for the process that builds what they
 * drive: its id is the one argument.
 */
import { existsSync } from 'node:fs'
import { startVitest } from 'vitest/node'

const isRunning = (id: number) => {
  try {
    return process.kill(id, 0)
  } catch {
    return false
  }
}

const builder = Number(process.argv[2])
const counts = { passed: 0, failed: 0, skipped: 0, pending: 0 }

async function suite(config: string) {
  const vitest = await startVitest('test', [], { config, run: true, watch: false })
  for (const module of vitest.state.getTestModules()) {
    const tests = [...module.children.allTests()]
    for (const test of tests) counts[test.result().state]++
    // A file that could not even be loaded has no tests, but it has failed.
    if (module.state() === 'failed' && !tests.length) counts.failed++
  }
  await vitest.close()
}

await suite('vitest.config.ts')
while (isRunning(builder)) await new Promise(go => setTimeout(go, 500))
if (existsSync('.output/.built')) await suite('vitest.e2e.config.ts')
else counts.failed++

const { passed, failed } = counts
const skipped = counts.skipped + counts.pending
console.log(`${passed} passed, ${failed} failed${skipped ? `, ${skipped} skipped` : ''}`)
process.exit(failed || !passed ? 1 : 0)
