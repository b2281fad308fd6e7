/**
 * ./run mutate [FOLDER …] [--numbers] [--sample N] [--seed S] [--patience SECONDS] [--alive] [--write]
 *
 * Changes one thing in the code at a time (Stryker's mutants) and runs the tests that reach it: a mutant that no
 * test notices is alive. All mutants are put in at once, each behind a switch; the test scripts are loaded anew for
 * each, in processes that stay.
 * With --numbers each number is another one instead.
 * Without a folder all of core/. --sample tries N of each folder, drawn by the seed; --patience counts as alive what
 * was not noticed in so long, so that the share errs upwards. --alive lists the living; --write puts the table into
 * docs/tests.md.
 */
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { parseArgs } from 'node:util'
import fc from 'fast-check'
import { byAll, runners, type Runner } from './hands'
import { bundleTests, instrument, type Instrumented, type Mutant } from './instrument'
import { instrumentNumbers } from './numbers'
import type { Coverage } from './runner'

const ROOT = join(import.meta.dirname, '../..')
/** Beside the packages, so that the scripts find them. */
const BUILT = join(ROOT, 'node_modules/.mutate')
/** What starts processes, a database or a page tells nothing of a line of core. */
const NOT_OF_CORE = /^tests\/unit\/(app|cli|house|server|stores|workers)\//
/** A test that takes longer than this is the last to be asked, and one that takes longer than LOST_MS is lost. */
const LOST_MS = 60000

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    alive: { type: 'boolean' },
    numbers: { type: 'boolean' },
    write: { type: 'boolean' },
    sample: { type: 'string' },
    seed: { type: 'string', default: '8' },
    patience: { type: 'string' },
  },
})

/** A test that puts another module in a module's place needs vitest itself. */
const replacesModules = (test: string) => readFileSync(join(ROOT, test), 'utf8').includes('vi.mock(')

const filesIn = (folder: string, ending: string) =>
  readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
    .filter(f => f.endsWith(ending))
    .map(f => join(folder, f))

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

/** The tests of a room of core stand in the room of the same name: they are the likeliest to notice. */
const isOfItsRoom = (script: string, mutant: Mutant) => {
  const [, room] = relative(ROOT, mutant.fileName).split('/')
  return script.includes(`__unit__${room}__`)
}

/** The tests that reach a mutant: those of its own room first, then the quickest. */
function runsFor(mutant: Mutant, covered: readonly Covered[]): { runs: Run[]; hits: number } {
  const { id } = mutant
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
  const rank = (run: Run) => Number(!isOfItsRoom(run.script, mutant))
  return { runs: runs.sort((a, b) => rank(a) - rank(b) || a.ms - b.ms), hits }
}

interface Share {
  folder: string
  mutants: number
  tried: number
  alive: number
}

/** Each folder's mutants, and the ones of them to be tried. */
async function chosenIn(folders: readonly string[]) {
  const all = await Promise.all(folders.map(async folder => ({ folder, mutants: await mutantsIn(folder) })))
  return all.map(({ folder, mutants }) => ({ folder, mutants: mutants.length, chosen: drawn(mutants) }))
}

const pathsIn = (folder: string) => filesIn(folder, '.ts').map(f => join(ROOT, f))
const mutantsIn = async (folder: string) => (await changesIn(pathsIn(folder))).mutants

/** One kind of changes or the other. */
const changesIn = (files: readonly string[], chosen?: readonly Mutant[]): Promise<Instrumented> =>
  values.numbers ? Promise.resolve(instrumentNumbers(files, chosen)) : instrument(files, chosen)

function drawn(mutants: Mutant[]): Mutant[] {
  const wanted = Number(values.sample ?? Infinity)
  if (mutants.length <= wanted) return mutants
  const some = fc.shuffledSubarray(mutants, { minLength: wanted, maxLength: wanted })
  return fc.sample(some, { seed: Number(values.seed), numRuns: 1 })[0]!
}

/** One and the same change, before and after the instrumenter has numbered it anew. */
const keyOf = (m: Mutant) => JSON.stringify([m.fileName, m.mutatorName, m.location, m.replacement])

async function sharesOf(folders: readonly string[]): Promise<Share[]> {
  const chosen = await chosenIn(folders)
  const wanted = new Set(chosen.flatMap(c => c.chosen.map(keyOf)))
  const { sources, mutants } = await changesIn(
    folders.flatMap(pathsIn),
    chosen.flatMap(c => c.chosen),
  )
  rmSync(BUILT, { recursive: true, force: true })
  mkdirSync(BUILT, { recursive: true })
  const tests = filesIn('tests/unit', '.test.ts').filter(f => !NOT_OF_CORE.test(f) && !replacesModules(f))
  const covered = await coverAll(await bundleTests(ROOT, tests, sources, BUILT))
  const tried = mutants.filter(m => wanted.has(keyOf(m)))
  const fates = await byAll(tried, async (mutant, runner) => ({ mutant, ...(await fateOf(mutant, covered, runner)) }))
  return chosen.map(({ folder, mutants }) => {
    const here = fates.filter(f => relative(ROOT, f.mutant.fileName).startsWith(`${folder}/`))
    return { folder, mutants, tried: here.length, alive: here.filter(f => f.alive).length }
  })
}

async function fateOf(mutant: Mutant, covered: readonly Covered[], runner: Runner): Promise<{ alive: boolean }> {
  const { runs, hits } = runsFor(mutant, covered)
  if (!runs.length) return told(mutant, 'unreached')
  const patienceMs = 1000 * Number(values.patience ?? Infinity)
  const longest = runs.reduce((sum, run) => sum + run.ms, 0)
  const lostMs = LOST_MS + 10 * Math.min(longest, patienceMs)
  const noticed = await runner.ask<boolean>({ ask: 'mutant', id: mutant.id, hits, runs, patienceMs }, lostMs)
  return noticed === false ? told(mutant, 'alive    ') : { alive: false }
}

function told(m: Mutant, fate: string) {
  const at = `${relative(ROOT, m.fileName)}:${m.location.start.line + 1}`
  if (values.alive) console.log([fate, at, m.mutatorName, m.replacement.replace(/\s+/g, ' ').slice(0, 80)].join('  '))
  return { alive: true }
}

const percent = (share: number) => `${(100 * share).toFixed(0)} %`
const shareOf = (s: Share) => (s.tried ? s.alive / s.tried : 0)
const row = (s: Share) => `| ${s.folder} | ${s.mutants} | ${s.tried} | ${s.alive} | ${percent(shareOf(s))} |`

const folders = positionals.length ? positionals : readdirSync(join(ROOT, 'core')).map(f => `core/${f}`)
const shares = await sharesOf(folders.map(f => f.replace(/\/$/, '')))
runners.forEach(r => r.end())

/** Of all together each folder weighs by what it has, not by how many were tried. */
const sum = (of: (s: Share) => number) => shares.reduce((n, s) => n + of(s), 0)
const all = { mutants: sum(s => s.mutants), tried: sum(s => s.tried), alive: sum(s => s.alive) }
const together = percent(sum(s => shareOf(s) * s.mutants) / all.mutants)
const table = [
  '| folder | mutants | tried | alive | share |',
  '|---|---:|---:|---:|---:|',
  ...shares.map(row),
  `| together | ${all.mutants} | ${all.tried} | ${all.alive} | ${together} |`,
].join('\n')
console.log(table)
if (values.write) {
  const page = join(ROOT, 'docs/tests.md')
  const name = values.numbers ? 'numbers' : 'mutants'
  const [before, after] = [`^[\\s\\S]*<!-- ${name} -->\\n`, `<!-- /${name} -->[\\s\\S]*$`].map(
    part => new RegExp(part).exec(readFileSync(page, 'utf8'))![0],
  )
  writeFileSync(page, `${before}${table}\n${after}`)
}
rmSync(BUILT, { recursive: true, force: true })
