import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { expect, it } from 'vitest'

/** Files of the core that need each other, however far round: neither can be read without the other. */

const CORE = join(import.meta.dirname, '../../../core')
const files = readdirSync(CORE, { recursive: true, encoding: 'utf8' }).filter(f => f.endsWith('.ts'))
const known = new Set(files)

/** What a file takes from others as values; types need nothing to run. */
function neededBy(file: string): string[] {
  const text = readFileSync(join(CORE, file), 'utf8')
  const paths = [...text.matchAll(/^(?:import|export) (?!type)[^;'"]*?from '(\.[^']+)'/gm)].map(m => m[1]!)
  return paths.flatMap(path => {
    const at = relative(CORE, join(CORE, dirname(file), path))
    return [`${at}.ts`, join(at, 'index.ts')].filter(f => known.has(f))
  })
}
const needs = new Map(files.map(f => [f, neededBy(f)]))

/** All that a file needs, and what that needs. */
function reached(file: string): Set<string> {
  const seen = new Set<string>()
  const waiting = [...needs.get(file)!]
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    if (seen.has(at)) continue
    seen.add(at)
    waiting.push(...needs.get(at)!)
  }
  return seen
}

it('no file of the core needs itself by way of others, save kinds that ask what stands around them', () => {
  expect(files.length).toBeGreaterThan(300)
  expect([...needs.values()].flat().length).toBeGreaterThan(1000)
  const circles = files.filter(f => reached(f).has(f) && dirname(f) !== 'kinds')
  expect(circles).toEqual([])
})
