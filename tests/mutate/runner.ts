/** A process that holds all test scripts and runs what it is asked to, with one mutant switched on. */
import type FastCheck from 'fast-check'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { Script } from 'node:vm'
import type { z } from 'zod'
import type { Collected } from './collect'

export interface Coverage {
  /** Reached while the file is loaded, before any test runs. */
  loading: Record<string, number>
  tests: { name: string; ms: number; hits: Record<string, number>; failed: string | null }[]
}
export type Ask =
  | { ask: 'cover'; script: string }
  | { ask: 'mutant'; id: string; hits: number; runs: { script: string; tests: number[] }[]; patienceMs: number | null }

interface Stryker {
  activeMutant?: string
  hitCount?: number
  hitLimit?: number
  currentTestId?: string
  mutantCoverage?: { static: Record<string, number>; perTest: Record<string, Record<string, number>> }
}
const world = globalThis as { __stryker__?: Stryker; collectedTests?: Collected[] }

/** A mutant that runs this many times more often than the line did is in a loop without end. */
const LOOP = 50
const MAY_LOAD = 20000

// The scripts ask for packages by require, which are others than the ones that are imported.
const { configureGlobal } = createRequire(import.meta.url)('fast-check') as typeof FastCheck
configureGlobal({ seed: 8, endOnFailure: true })

const scripts = new Map<string, Script>()
function load(path: string): Collected[] {
  const wrap = (text: string) => `(function (exports, require, module) {${text}\n})`
  const script = scripts.get(path) ?? new Script(wrap(readFileSync(path, 'utf8')), { filename: path })
  scripts.set(path, script)
  world.collectedTests = []
  const module = { exports: {} }
  const require = createRequire(path)
  // The packages stay as scripts are loaded anew, and zod names no schema twice.
  ;(require('zod') as typeof z).globalRegistry.clear()
  script.runInThisContext()(module.exports, require, module)
  return world.collectedTests
}

async function failureOf(test: Collected): Promise<string | null> {
  try {
    await test.run()
    return null
  } catch (error) {
    return String((error as Error).message ?? error).slice(0, 200)
  }
}

async function cover(script: string): Promise<Coverage> {
  const stryker: Stryker = { mutantCoverage: { static: {}, perTest: {} } }
  world.__stryker__ = stryker
  const tests = load(script)
  const coverage: Coverage = { loading: stryker.mutantCoverage!.static, tests: [] }
  for (const [i, test] of tests.entries()) {
    stryker.currentTestId = `t${i}`
    const began = performance.now()
    const failed = await failureOf(test)
    const hits = stryker.mutantCoverage!.perTest[`t${i}`] ?? {}
    coverage.tests.push({ name: test.name, ms: performance.now() - began, hits, failed })
  }
  return coverage
}

/** Whether any of the tests notices, as long as patience lasts (null: for ever). */
async function noticed({ id, hits, runs, patienceMs }: Extract<Ask, { ask: 'mutant' }>): Promise<boolean> {
  world.__stryker__ = { activeMutant: id, hitCount: 0, hitLimit: LOOP * hits + MAY_LOAD }
  const until = performance.now() + (patienceMs ?? Infinity)
  for (const { script, tests } of runs) {
    if (performance.now() > until) return false
    let collected: Collected[]
    try {
      collected = load(script)
    } catch {
      return true
    }
    for (const i of tests) {
      if (!collected[i] || (await failureOf(collected[i])) !== null) return true
      if (performance.now() > until) return false
    }
  }
  return false
}

process.on('message', async (message: Ask) => {
  const answer = message.ask === 'cover' ? await cover(message.script) : await noticed(message)
  process.send!(answer)
})
