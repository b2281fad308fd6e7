/** Stryker's mutants, all of them at once, in copies of the code: a switch each, set while the tests run. */
import { createInstrumenter } from '@stryker-mutator/instrumenter'
import { commonTokens } from '@stryker-mutator/api/plugin'
import { build, type Plugin } from 'esbuild'
import { existsSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type * as TypedInject from 'typed-inject'
import { basename, dirname, join, resolve } from 'node:path'

const require = createRequire(import.meta.url)
const { createInjector } = require('typed-inject') as typeof TypedInject

export interface Mutant {
  id: string
  fileName: string
  mutatorName: string
  replacement: string
  location: { start: Place; end: Place }
}

/** Lines and columns from 0. */
interface Place {
  line: number
  column: number
}

export interface Instrumented {
  /** Instrumented text by absolute path. */
  sources: Map<string, string>
  mutants: Mutant[]
}

const SILENT = Object.fromEntries(
  ['trace', 'debug', 'info', 'warn', 'error', 'fatal'].map(level => [level, () => {}]),
) as Record<string, () => void>

/** Words are read in the differences of the recorded answers. */
const EXCLUDED = ['StringLiteral']

/** All mutants of some files, or the ones that were chosen of them (with those that stand inside them). */
export async function instrument(files: readonly string[], chosen?: readonly Mutant[]): Promise<Instrumented> {
  const logger = { ...SILENT, isDebugEnabled: () => false }
  const injector = createInjector().provideValue(commonTokens.logger, logger as never)
  const instrumenter = injector.injectFunction(createInstrumenter as never) as ReturnType<typeof createInstrumenter>
  const given = files.map(name => ({
    name,
    mutate: chosen?.filter(m => m.fileName === name).map(m => m.location) ?? true,
    content: readFileSync(name, 'utf8'),
  }))
  const result = await instrumenter.instrument(given, { ignorers: [], excludedMutations: EXCLUDED, plugins: null })
  return {
    sources: new Map(result.files.map(file => [file.name, file.content])),
    mutants: result.mutants
      .filter(m => m.status !== 'Ignored')
      .map(m => ({ ...m, location: { start: { ...m.location.start }, end: { ...m.location.end } } })),
  }
}

/** Resolves as the tests do, gives the instrumented text where there is one, and our own runner for vitest. */
function asTestsDo(root: string, sources: Map<string, string>): Plugin {
  return {
    name: 'as-tests-do',
    setup(bundle) {
      bundle.onResolve({ filter: /^#core\// }, ({ path }) => ({ path: withExtension(join(root, path.slice(1))) }))
      bundle.onResolve({ filter: /^vitest$/ }, () => ({ path: join(root, 'tests/mutate/collect.ts') }))
      bundle.onLoad({ filter: /\.ts$/ }, ({ path }) => ({
        contents: (sources.get(path) ?? readFileSync(path, 'utf8'))
          .replaceAll('import.meta.dirname', JSON.stringify(dirname(path)))
          .replaceAll('import.meta.url', JSON.stringify(`file://${path}`)),
        loader: 'ts',
      }))
    },
  }
}

const withExtension = (path: string) => [path, `${path}.ts`, join(path, 'index.ts')].find(p => existsSync(p)) ?? path

/** Each test file with all it imports of ours as one script that can be evaluated again and again. */
export async function bundleTests(root: string, tests: readonly string[], sources: Map<string, string>, out: string) {
  await build({
    entryPoints: tests.map(test => ({ in: resolve(root, test), out: test.replaceAll('/', '__') })),
    bundle: true,
    platform: 'node',
    format: 'cjs',
    packages: 'external',
    target: 'node20',
    outdir: out,
    outExtension: { '.js': '.cjs' },
    logLevel: 'error',
    plugins: [asTestsDo(root, sources)],
  })
  return tests.map(test => ({ test, script: join(out, `${test.replaceAll('/', '__')}.cjs`), name: basename(test) }))
}
