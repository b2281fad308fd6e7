import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Browser, Page } from 'playwright'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { demoPlan } from '../data/plans'
import { errorsOf, freePort, launch, TestServer } from './browser'

/** Every view by the rules of access: contrast, names, roles. */
let server: TestServer
let browser: Browser
let page: Page
beforeAll(async () => {
  server = new TestServer(await freePort())
  await server.start()
  browser = await launch()
})
afterAll(async () => {
  await browser?.close()
  await server?.stop()
})

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
interface Violation {
  id: string
  nodes: { html: string; failureSummary: string }[]
}
const EVERY_RULE = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']
async function violations(runOnly: string[]): Promise<string[]> {
  await page.evaluate(axe)
  const found = await page.evaluate(async runOnly => {
    const run = (window as unknown as { axe: { run: (o: object) => Promise<{ violations: Violation[] }> } }).axe
    return (await run.run({ runOnly })).violations
  }, runOnly)
  return found.flatMap(v =>
    v.nodes.slice(0, 3).map(n => `${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary.slice(0, 200)}`),
  )
}

describe('for everybody', () => {
  it.each([
    [1280, 800],
    [390, 844],
  ] as const)('no view has a fault that axe finds, in either theme: %d px wide', async (width, height) => {
    const context = await browser.newContext({ viewport: { width, height }, reducedMotion: 'reduce' })
    page = await context.newPage()
    const errors = errorsOf(page)
    const id = await server.made(demoPlan('tern-rock-light'))
    const views = ['/stations', '/new', '/suits', '/shelf']
    const own = [
      '',
      '/proof',
      '/schools',
      '/quiet',
      '/quiet?tool=survey',
      '/quiet?tool=comb',
      '/quiet?tool=choke',
      '/hours',
      '/build',
      '/bench',
      '/bench?step=keyed%20hf',
      '/bench?tab=readings',
      '/bench?tab=wrong',
      '/bench?tab=batteries',
      '/bench?tab=spares',
      '/bench?tab=practice',
    ]
    const faults: Record<string, string[]> = {}
    for (const view of [...views, ...own.map(v => `/station/${id}${v}`)]) {
      await page.goto(server.url + view)
      await page.locator('main').first().waitFor()
      await page.waitForLoadState('networkidle')
      await page.emulateMedia({ colorScheme: 'light' })
      const found = await violations(EVERY_RULE)
      // The other theme changes colours and nothing else.
      await page.emulateMedia({ colorScheme: 'dark' })
      found.push(...(await violations(['color-contrast'])))
      if (found.length) faults[view.replace(id, 'id')] = found
    }
    expect(faults).toEqual({})
    expect(errors).toEqual([])
    await context.close()
  })
})
