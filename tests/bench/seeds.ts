import { spawnSync } from 'node:child_process'

/** The core's tests on all that is made up by seeds, of which they take one in three by themselves. */
export function benchSeeds(print: (line: string) => void) {
  const begun = performance.now()
  const env = { ...process.env, WIREMAN_WHOLE: '1' }
  const { status } = spawnSync('vitest', ['run', '--project', 'core'], { env, stdio: 'inherit' })
  print(`seeds: every made-up case of the core's tests in ${Math.round((performance.now() - begun) / 1000)} s`)
  if (status !== 0) process.exitCode = 1
}
