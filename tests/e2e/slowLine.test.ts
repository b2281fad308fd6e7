import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { describe, expect, it } from 'vitest'
import { sparesBytes } from './browser'
import { browser, journeys, server } from './journey'

const PUBLIC = join(import.meta.dirname, '../../.output/public')

journeys('no page')

/**
 * What script a view needs until it is drawn, as gzip, kB.
 * @param isJudged else the verdict, and what comes with it, is kept back
 */
async function scriptKilobytes(view: string, drawn: string, isJudged: boolean) {
  const context = await browser.newContext()
  await sparesBytes(context)
  const page = await context.newPage()
  if (!isJudged) await page.route(/core\.worker/, () => {})
  const scripts = new Set<string>()
  page.on('response', answer => {
    const path = new URL(answer.url()).pathname
    if (path.endsWith('.js') && !path.includes('core.worker')) scripts.add(path)
  })
  await page.goto(server.url + view)
  await page.locator(drawn).first().waitFor()
  const bytes = [...scripts].reduce((sum, path) => sum + gzipSync(readFileSync(join(PUBLIC, path))).length, 0)
  await context.close()
  return { kilobytes: bytes / 1000, files: scripts.size }
}

describe('on a slow line', () => {
  it.each([
    { what: 'a station’s path', view: '', drawn: '[data-part="hf"]', isJudged: false, allowed: 200 },
    { what: 'its noise view', view: '/quiet', drawn: '.next h3', isJudged: true, allowed: 250 },
  ])('$what stands with less than $allowed kB of script', async ({ what, view, drawn, isJudged, allowed }) => {
    const { kilobytes, files } = await scriptKilobytes(`/station/${await server.firstDemo()}${view}`, drawn, isJudged)
    console.log(`${what}: ${Math.round(kilobytes)} kB of script as gzip in ${files} files`)
    expect(files).toBeGreaterThan(5)
    expect(kilobytes).toBeLessThan(allowed)
  })
})
