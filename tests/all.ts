/** Runs both suites and closes with one line of counts. */
import { startVitest } from 'vitest/node'

let passed = 0
let failed = 0
let skipped = 0
for (const config of ['vitest.config.ts', 'vitest.e2e.config.ts']) {
  const vitest = await startVitest('test', [], { config, run: true, watch: false })
  for (const module of vitest.state.getTestModules()) {
    // A file that could not even be loaded has no tests, but it has failed.
    if (module.state() === 'failed' && ![...module.children.allTests()].length) failed++
    for (const test of module.children.allTests()) {
      const { state } = test.result()
      if (state === 'passed') passed++
      else if (state === 'failed') failed++
      else skipped++
    }
  }
  await vitest.close()
}
console.log(`${passed} passed, ${failed} failed${skipped ? `, ${skipped} skipped` : ''}`)
process.exit(failed || !passed ? 1 : 0)
