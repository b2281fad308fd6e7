import { spawnSync } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

const ROOT = join(import.meta.dirname, '../../..')

interface Block {
  language: string
  file: string
  text: string
}

/** The code blocks of a section of CONTRIBUTING.md that name a file. */
function blocksOf(section: string): Block[] {
  const page = readFileSync(join(ROOT, 'CONTRIBUTING.md'), 'utf8')
  const text = page.split(/^## /m).find(s => s.startsWith(section))!
  return [...text.matchAll(/^```(ts|diff) (\S+)\n([\s\S]*?)^```$/gm)].map(([, language, file, body]) => ({
    language: language!,
    file: file!,
    text: body!,
  }))
}

/** Lines of a block that begin with a sign, without it. */
const linesWith = (sign: string, { text }: Block) =>
  text
    .split('\n')
    .filter(line => line.startsWith(sign))
    .map(line => line.slice(1))

let house: string
beforeAll(() => {
  house = mkdtempSync(join(tmpdir(), 'wireman-recipe-'))
  for (const part of [
    'core',
    'demo',
    'tests/data',
    'tests/unit/kinds',
    'tests/unit/checks',
    'tests/setup.ts',
    'package.json',
  ])
    cpSync(join(ROOT, part), join(house, part), { recursive: true })
  for (const config of ['vitest.config.ts', 'tsconfig.json', 'tsconfig.tools.json'])
    cpSync(join(ROOT, config), join(house, config))
  symlinkSync(join(ROOT, 'node_modules'), join(house, 'node_modules'))
  for (const made of ['.nuxt']) symlinkSync(join(ROOT, made), join(house, made))
})
afterAll(() => rmSync(house, { recursive: true, force: true }))

/** Does what a block says, as a newcomer would. */
function follow(block: Block) {
  const path = join(house, block.file)
  if (block.language === 'ts') {
    mkdirSync(dirname(path), { recursive: true })
    writeFileSync(path, block.text)
    return
  }
  const text = readFileSync(path, 'utf8')
  const [after] = linesWith(' ', block)
  const at = text.indexOf(`${after}\n`)
  expect(at, `${block.file} has the line ${after}`).toBeGreaterThanOrEqual(0)
  const next = at + after!.length + 1
  writeFileSync(path, `${text.slice(0, next)}${linesWith('+', block).join('\n')}\n${text.slice(next)}`)
}

/** A whole run of tests in each, beside the others. */
const LONG = { timeout: 240_000 }

function tested(file: string, names: string) {
  const vitest = join(ROOT, 'node_modules/vitest/vitest.mjs')
  const args = [vitest, 'run', '--root', house, '--reporter', 'verbose', '--no-color', '-t', names, file]
  const { status, stdout, stderr } = spawnSync(process.execPath, args, { cwd: house, encoding: 'utf8' })
  return { status, output: stdout + stderr }
}

describe('the recipes of CONTRIBUTING.md', () => {
  it('"add a part kind": one file and its line, and it goes through every engine', LONG, () => {
    for (const block of blocksOf('Add a part kind')) follow(block)
    const { status, output } = tested('tests/unit/kinds/everyKind.test.ts', 'line-filter-20')
    expect(output).toContain('line-filter-20 goes through every engine')
    expect(status, output.slice(-3000)).toBe(0)
  })
  it('"add a check": without its pair the tests say so, with it they pass', LONG, () => {
    const [check, imported, listed, pair] = blocksOf('Add a check') as [Block, Block, Block, Block]
    for (const block of [check, imported, listed]) follow(block)
    const without = tested('tests/unit/checks/checks.test.ts', 'has a pair of plans|fuse-count')
    expect(without.status).toBe(1)
    expect(without.output).toContain('fuse-count')
    follow(pair)
    const { status, output } = tested('tests/unit/checks/checks.test.ts', 'has a pair of plans|fuse-count')
    expect(output).toContain('fuse-count does not fire nearby')
    expect(status, output.slice(-3000)).toBe(0)
  })
})
