import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from 'playwright'
import { describe, expect, it } from 'vitest'
import { atWork, pageOf } from './atWork'
import { show, viewsOf } from './views'

/** Every view by the rules of access: contrast, names, roles. */
const work = atWork()
let page: Page

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
interface Violation {
  id: string
  nodes: { html: string; failureSummary: string }[]
}
const EVERY_RULE = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']
async function violations(runOnly: string[]): Promise<string[]> {
  const found = await page.evaluate(async runOnly => {
    const run = (window as unknown as { axe: { run: (o: object) => Promise<{ violations: Violation[] }> } }).axe
    return (await run.run({ runOnly, resultTypes: ['violations'] })).violations
  }, runOnly)
  return found.flatMap(v =>
    v.nodes.slice(0, 3).map(n => `${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary.slice(0, 200)}`),
  )
}

/** Names of elements that are none: a component that the build does not know is drawn as nothing. */
const unknownElements = () =>
  page.evaluate(() =>
    [...document.querySelectorAll('*')]
      .filter(e => e instanceof HTMLUnknownElement)
      .map(e => `no element: ${e.localName}`),
  )

/** Zoomed to twice its size a page is half as wide: what is then cut off at the side is not reached. */
async function cutOffZoomed(width: number, height: number) {
  await page.setViewportSize({ width: width / 2, height: height / 2 })
  const fits = () => document.documentElement.scrollWidth <= innerWidth
  const isCutOff = await page.waitForFunction(fits, null, { timeout: 3000 }).then(
    () => false,
    () => true,
  )
  await page.setViewportSize({ width, height })
  return isCutOff ? [`zoomed to 200 % it is wider than the window`] : []
}

describe('for everybody', () => {
  it.each<[number, number, string]>([
    [1280, 800, ', also at 200 %'],
    [390, 844, ''],
  ] as const)('no view has a fault that axe finds, in either theme: %d × %d px%s', async (width, height) => {
    const isPhone = width < 500
    const { page: shown, context, errors } = await pageOf(work.browser, [width, height], isPhone)
    page = shown
    const id = await work.server.firstDemo()
    const faults: Record<string, string[]> = {}
    for (const view of viewsOf(id)) {
      await page.emulateMedia({ colorScheme: 'light' })
      await show(page, work.server.url + view)
      await page.evaluate(axe)
      const found = await violations(EVERY_RULE)
      // The other theme changes colours and nothing else.
      await page.emulateMedia({ colorScheme: 'dark' })
      found.push(...(await violations(['color-contrast'])))
      found.push(...(await unknownElements()))
      if (!isPhone) found.push(...(await cutOffZoomed(width, height)))
      if (found.length) faults[view.replace(id, 'id')] = found
    }
    expect(faults).toEqual({})
    expect(errors).toEqual([])
    await context.close()
  })
})
