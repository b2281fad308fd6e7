/**
 * ./run mutate [FOLDER …] [--alive] [--write]
 *
 * Changes one thing in the code at a time (Stryker's mutants) and runs the tests that reach it: a mutant that no
 * test notices is alive. All mutants of a folder are put in at once, each behind a switch; the test scripts are
 * loaded anew for each, in processes that stay.
 * Without a folder all of core/. --alive lists the living; --write puts the table into docs/tests.md.
 */
import { fork, type ChildProcess } from 'node:child_process'
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { join, relative } from 'node:path'
import { parseArgs } from 'node:util'
import { bundleTests, instrument, type Mutant } from './instrument'
import type { Ask, Coverage } from './runner'

const ROOT = join(import.meta.dirname, '../..')
/** Beside the packages, so that the scripts find them. */
const BUILT = join(ROOT, 'node_modules/.mutate')
/** What starts processes, a database or a page tells nothing of a line of core. */
const NOT_OF_CORE = /^tests\/unit\/(app|cli|house|server|stores|workers)\//
/** A test that takes longer than this is the last to be asked, and one that takes longer than LOST_MS is lost. */
const LOST_MS = 60000

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { alive: { type: 'boolean' }, write: { type: 'boolean' } },
})

/** A test that puts another module in a module's place needs vitest itself. */
const replacesModules = (test: string) => readFileSync(join(ROOT, test), 'utf8').includes('vi.mock(')

const filesIn = (folder: string, ending: string) =>
  readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
    .filter(f => f.endsWith(ending))
    .map(f => join(folder, f))

/** A process of ours: one question at a time; null when it did not answer in time. */
class Runner {
  private process: ChildProcess | null = null
  ask<T>(question: Ask, lostMs: number): Promise<T | null> {
    const child = (this.process ??= fork(join(import.meta.dirname, 'runner.ts'), {
      execArgv: ['--import', 'tsx', '--max-old-space-size=3000'],
    }))
    return new Promise(resolve => {
      const lost = () => {
        child.removeAllListeners()
        child.kill('SIGKILL')
        this.process = null
        resolve(null)
      }
      const timer = setTimeout(lost, lostMs)
      child.once('exit', () => (clearTimeout(timer), lost()))
      child.once('message', answer => {
        clearTimeout(timer)
        child.removeAllListeners('exit')
        resolve(answer as T)
      })
      child.send(question)
    })
  }
  end() {
    this.process?.removeAllListeners()
    this.process?.kill()
  }
}

const runners = Array.from({ length: availableParallelism() }, () => new Runner())

/** All of a list, by as many hands as there are processors. */
async function byAll<T, R>(list: readonly T[], work: (item: T, runner: Runner) => Promise<R>): Promise<R[]> {
  const results: R[] = []
  let next = 0
  const hand = async (runner: Runner) => {
    while (next < list.length) {
      const at = next++
      results[at] = await work(list[at]!, runner)
    }
  }
  await Promise.all(runners.map(hand))
  return results
}

interface Covered {
  script: string
  coverage: Coverage
}

async function coverAll(scripts: { test: string; script: string }[]): Promise<Covered[]> {
  return byAll(scripts, async ({ test, script }, runner) => {
    const coverage = await runner.ask<Coverage>({ ask: 'cover', script }, 20 * LOST_MS)
    const red = coverage?.tests.find(t => t.failed)
    if (!coverage || red) throw new Error(`${test} fails without a mutant: ${red?.name} ${red?.failed}`)
    return { script, coverage }
  })
}

interface Run {
  script: string
  tests: number[]
  ms: number
}

/** The tests that reach a mutant, the quickest first. */
function runsFor(id: string, covered: readonly Covered[]): { runs: Run[]; hits: number } {
  let hits = 0
  const runs = covered.flatMap(({ script, coverage }) => {
    const whileLoading = id in coverage.loading
    hits = Math.max(hits, coverage.loading[id] ?? 0, ...coverage.tests.map(t => t.hits[id] ?? 0))
    const reaching = coverage.tests
      .map((t, i) => ({ ms: t.ms, i, reached: whileLoading || id in t.hits }))
      .filter(t => t.reached)
      .sort((a, b) => a.ms - b.ms)
    if (!reaching.length) return []
    const ms = reaching.reduce((sum, t) => sum + t.ms, 0)
    return [{ script, tests: reaching.map(t => t.i), ms }]
  })
  return { runs: runs.sort((a, b) => a.ms - b.ms), hits }
}

interface Share {
  folder: string
  mutants: number
  alive: number
}

async function shareOf(folder: string): Promise<Share> {
  const { sources, mutants } = await instrument(filesIn(folder, '.ts').map(f => join(ROOT, f)))
  rmSync(BUILT, { recursive: true, force: true })
  mkdirSync(BUILT, { recursive: true })
  const tests = filesIn('tests/unit', '.test.ts').filter(f => !NOT_OF_CORE.test(f) && !replacesModules(f))
  const covered = await coverAll(await bundleTests(ROOT, tests, sources, BUILT))
  const alive = await byAll(mutants, async (mutant, runner) => {
    const { runs, hits } = runsFor(mutant.id, covered)
    const longest = runs.reduce((sum, run) => sum + run.ms, 0)
    const noticed = runs.length
      ? await runner.ask<boolean>({ ask: 'mutant', id: mutant.id, hits, runs }, LOST_MS + 10 * longest)
      : false
    return noticed === false ? [{ ...mutant, reached: runs.length > 0 }] : []
  })
  if (values.alive) for (const m of alive.flat()) console.log(lineOf(m))
  return { folder, mutants: mutants.length, alive: alive.flat().length }
}

const lineOf = (m: Mutant & { reached: boolean }) =>
  [
    m.reached ? 'alive ' : 'unreached ',
    `${relative(ROOT, m.fileName)}:${m.location.start.line}`,
    m.mutatorName,
    m.replacement.replace(/\s+/g, ' ').slice(0, 80),
  ].join('  ')

const percent = ({ mutants, alive }: Share) => `${mutants ? ((100 * alive) / mutants).toFixed(0) : 0} %`
const row = (s: Share) => `| ${s.folder} | ${s.mutants} | ${s.alive} | ${percent(s)} |`

const folders = positionals.length ? positionals : readdirSync(join(ROOT, 'core')).map(f => `core/${f}`)
const shares: Share[] = []
for (const folder of folders) {
  const began = performance.now()
  const share = await shareOf(folder)
  shares.push(share)
  console.error(row(share), `${((performance.now() - began) / 1000).toFixed(0)} s`)
}
runners.forEach(r => r.end())

const sum = (of: (s: Share) => number) => shares.reduce((n, s) => n + of(s), 0)
const total: Share = { folder: 'together', mutants: sum(s => s.mutants), alive: sum(s => s.alive) }
const head = ['| folder | mutants | alive | share |', '|---|---:|---:|---:|']
const table = [...head, ...[...shares, total].map(row)].join('\n')
console.log(table)
if (values.write) {
  const page = join(ROOT, 'docs/tests.md')
  const [before, after] = [/^[\s\S]*<!-- mutants -->\n/, /<!-- \/mutants -->[\s\S]*$/].map(
    part => part.exec(readFileSync(page, 'utf8'))![0],
  )
  writeFileSync(page, `${before}${table}\n${after}`)
}
rmSync(BUILT, { recursive: true, force: true })
