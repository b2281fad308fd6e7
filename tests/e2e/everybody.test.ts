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

const TARGETS = 'a, button, input, select, textarea, summary, [role="button"], [role="combobox"], [tabindex="0"]'
/** Whatever a finger is to hit and is under 44 px high or wide (WCAG 2.2, 2.5.5), but links within a sentence. */
const tooSmall = () =>
  page.evaluate(targets => {
    /** What is hit in its stead: a tick is hit by its label, a finding's title by its card. */
    const hitOf = (e: HTMLElement) =>
      (e.matches('[type="checkbox"], [type="radio"], [type="file"]') && e.closest('label')) ||
      (e.matches('.title') && e.closest('.finding')) ||
      e
    const isInSentence = (e: HTMLElement) =>
      e.matches('a') &&
      getComputedStyle(e).display === 'inline' &&
      [...e.parentNode!.childNodes].some(n => n.nodeType === Node.TEXT_NODE && /\w/.test(n.textContent!))
    return [...document.querySelectorAll<HTMLElement>(targets)].flatMap(e => {
      const { width, height } = hitOf(e).getBoundingClientRect()
      const isSeen = width > 1 && getComputedStyle(e).visibility !== 'hidden' && !e.closest('[inert]')
      if (!isSeen || isInSentence(e) || Math.min(width, height) > 43.5) return []
      return [`too small, ${Math.round(width)} × ${Math.round(height)} px: ${e.outerHTML.slice(0, 120)}`]
    })
  }, TARGETS)

/** Whatever is pressed and is narrower or lower than its own words: they lie on what stands beside it. */
const spilled = () =>
  page.evaluate(targets => {
    const isSpilled = (e: HTMLElement) =>
      getComputedStyle(e).overflowX === 'visible' &&
      getComputedStyle(e).display !== 'inline' &&
      (e.scrollWidth > e.clientWidth + 1 || e.scrollHeight > e.clientHeight + 4)
    return [...document.querySelectorAll<HTMLElement>(targets)]
      .filter(e => !e.closest('[inert], svg') && e.clientWidth > 1 && isSpilled(e))
      .map(e => `words beyond it, ${e.scrollWidth} px in ${e.clientWidth}: ${e.outerHTML.slice(0, 140)}`)
  }, TARGETS)

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
    [1280, 800, 'cut off at 200 %'],
    [390, 844, 'too small for a finger'],
  ] as const)(
    'no view has a fault that axe finds, in either theme: %d × %d px; nothing is %s',
    async (width, height) => {
      const isPhone = width < 500
      const viewport = { width, height }
      const context = await browser.newContext({
        viewport,
        reducedMotion: 'reduce',
        hasTouch: isPhone,
        isMobile: isPhone,
      })
      page = await context.newPage()
      // The transpiler wraps functions in a helper that the page does not have.
      await page.addInitScript('globalThis.__name = f => f')
      const errors = errorsOf(page)
      const id = await server.made(demoPlan('tern-rock-light'))
      const views = ['/stations', '/new', '/suits', '/shelf', '/devices']
      const own = [
        '',
        '/proof',
        '/schools',
        '/quiet',
        '/quiet?tool=survey',
        '/quiet?tool=comb',
        '/quiet?tool=live',
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
        found.push(...(await unknownElements()))
        found.push(...(await spilled()))
        found.push(...(isPhone ? await tooSmall() : await cutOffZoomed(width, height)))
        if (found.length) faults[view.replace(id, 'id')] = found
      }
      expect(faults).toEqual({})
      expect(errors).toEqual([])
      await context.close()
    },
  )
})
