/**
 * ./run mutate [FOLDER …] [--lines N] [--write]
 *
 * Changes one thing in the code at a time (Stryker's mutants) and runs the tests that reach it: a mutant that no
 * test notices is alive.
 * Without a folder every folder of core/ is sampled, the same lines each time. --write puts the table into
 * docs/tests.md.
 */
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { parseArgs } from 'node:util'
import ts from 'typescript'

const ROOT = join(import.meta.dirname, '..')
const SAMPLED_LINES = 30
const SEED = 8

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { lines: { type: 'string' }, write: { type: 'boolean' } },
})

interface Mutant {
  status: string
  mutatorName: string
  replacement?: string
  location: { start: { line: number } }
}
interface Share {
  folder: string
  mutants: number
  alive: number
}

const filesIn = (folder: string): string[] =>
  readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
    .filter(f => f.endsWith('.ts'))
    .map(f => join(folder, f))

/** Lines that do something at run time: those on which a statement or an arrow's body begins, inside some function. */
function linesThatDo(file: string): number[] {
  const source = ts.createSourceFile(file, readFileSync(join(ROOT, file), 'utf8'), ts.ScriptTarget.Latest, true)
  const lines = new Set<number>()
  const visit = (node: ts.Node, inFunction: boolean) => {
    const begins = ts.isStatement(node) || (ts.isArrowFunction(node.parent ?? node) && ts.isExpression(node))
    if (inFunction && begins && !ts.isBlock(node))
      lines.add(source.getLineAndCharacterOfPosition(node.getStart()).line + 1)
    ts.forEachChild(node, child => visit(child, inFunction || ts.isFunctionLike(node)))
  }
  ts.forEachChild(source, node => visit(node, false))
  return [...lines]
}

/** A few of a list, the same ones each time (a linear congruential generator). */
function sample<T>(list: readonly T[], count: number): T[] {
  let state = SEED
  const keyed = list.map(item => ({ item, key: (state = (state * 1664525 + 1013904223) % 2 ** 32) }))
  return keyed
    .sort((a, b) => a.key - b.key)
    .slice(0, count)
    .map(k => k.item)
}

function mutate(folder: string, lines: number | null): Share {
  const places = filesIn(folder).flatMap(file => linesThatDo(file).map(line => `${file}:${line}-${line}`))
  const chosen = lines === null ? filesIn(folder) : sample(places, lines)
  if (!chosen.length) return { folder, mutants: 0, alive: 0 }
  const temp = mkdtempSync(join(tmpdir(), 'wireman-mutate-'))
  const report = join(temp, 'report.json')
  const config = join(temp, 'stryker.json')
  writeFileSync(
    config,
    JSON.stringify({
      testRunner: 'vitest',
      plugins: ['@stryker-mutator/vitest-runner'],
      vitest: { configFile: 'vitest.mutate.config.ts', related: true },
      mutate: chosen,
      // Words are read in the differences of the recorded answers; a table's rows are held against their sources.
      mutator: { excludedMutations: ['StringLiteral'] },
      ignoreStatic: true,
      coverageAnalysis: 'perTest',
      concurrency: 2,
      reporters: ['json'],
      jsonReporter: { fileName: report },
      tempDirName: join(temp, 'sandbox'),
      ignorePatterns: ['!.nuxt', '.output', '/data', 'docs', 'app', 'server'],
      disableTypeChecks: false,
      timeoutMS: 20000,
      logLevel: 'warn',
    }),
  )
  const env = { ...process.env, WIREMAN_MUTATE_NOISE: folder.startsWith('core/noise') ? '1' : '0' }
  const run = spawnSync('stryker', ['run', config], { cwd: ROOT, env, stdio: ['ignore', 'inherit', 'inherit'] })
  if (run.status !== 0) throw new Error(`Stryker ended with ${run.status} in ${folder}`)
  const { files } = JSON.parse(readFileSync(report, 'utf8')) as { files: Record<string, { mutants: Mutant[] }> }
  rmSync(temp, { recursive: true, force: true })
  return shareOf(folder, files)
}

const ALIVE = ['Survived', 'NoCoverage']
const COUNTED = [...ALIVE, 'Killed', 'Timeout', 'RuntimeError']

function shareOf(folder: string, files: Record<string, { mutants: Mutant[] }>): Share {
  const share: Share = { folder, mutants: 0, alive: 0 }
  for (const [file, { mutants }] of Object.entries(files)) {
    for (const m of mutants.filter(m => COUNTED.includes(m.status))) {
      share.mutants++
      if (!ALIVE.includes(m.status)) continue
      share.alive++
      const where = `${relative(ROOT, join(ROOT, file))}:${m.location.start.line}`
      console.log(`alive  ${where}  ${m.mutatorName}  ${(m.replacement ?? '').replace(/\s+/g, ' ').slice(0, 70)}`)
    }
  }
  return share
}

const row = ({ folder, mutants, alive }: Share) =>
  `| ${folder} | ${mutants} | ${alive} | ${mutants ? ((100 * alive) / mutants).toFixed(0) : 0} % |`

const folders = positionals.length
  ? positionals
  : readdirSync(join(ROOT, 'core'))
      .filter(f => f !== 'catalog')
      .map(f => `core/${f}`)
const wanted = values.lines === undefined ? null : Number(values.lines)
const lines = positionals.length ? wanted : (wanted ?? SAMPLED_LINES)
const shares = folders.map(folder => mutate(folder, lines))
const total: Share = {
  folder: 'together',
  mutants: shares.reduce((n, s) => n + s.mutants, 0),
  alive: shares.reduce((n, s) => n + s.alive, 0),
}
const head = ['| folder | mutants | alive | share |', '|---|---:|---:|---:|']
const table = [...head, ...[...shares, total].map(row)].join('\n')
console.log(table)
if (values.write) {
  const page = join(ROOT, 'docs/tests.md')
  const [head, tail] = [/^[\s\S]*<!-- mutants -->\n/, /<!-- \/mutants -->[\s\S]*$/].map(
    part => part.exec(readFileSync(page, 'utf8'))![0],
  )
  writeFileSync(page, `${head}${table}\n${tail}`)
}
