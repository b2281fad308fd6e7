import type { Browser, BrowserContext, Page } from 'playwright'
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest'
import type { Log } from '../../core/log/log'
import type { Plan } from '../../core/plan/schema'
import { demoPlan } from '../data/plans'
import { errorsOf, freePort, launch, PATIENCE_MS, tellWhereItStands, TestServer } from './browser'

// What the journeys of one file have. A name that is imported follows: with the next page it means that.
export let server: TestServer
export let browser: Browser
export let context: BrowserContext
export let page: Page
/** What the page has said is wrong with itself. */
export let errors: string[]

/** How a page is looked at; what is not said is as at a desk. */
interface Look {
  width?: number
  height?: number
  /** Moved by a finger, as a phone is. */
  isTouched?: boolean
  /** Its owner asks for less motion. */
  isCalm?: boolean
  /** What was set in it before; it is put there once. */
  preferences?: object
  /** What its owner allows a page, as a microphone. */
  permissions?: string[]
}

/** Another page in place of the one there was, of a browser that has seen nothing yet. */
export async function fresh({
  width = 1280,
  height = 800,
  isTouched = false,
  isCalm,
  preferences,
  permissions = [],
}: Look = {}) {
  await context?.close()
  const reducedMotion = isCalm ? 'reduce' : null
  context = await browser.newContext({
    viewport: { width, height },
    hasTouch: isTouched,
    isMobile: isTouched,
    reducedMotion,
    permissions,
  })
  context.setDefaultTimeout(PATIENCE_MS)
  page = await context.newPage()
  // The transpiler wraps functions in a helper that the page does not have.
  await page.addInitScript('globalThis.__name = f => f')
  errors = errorsOf(page)
  if (!preferences) return
  await page.addInitScript(chosen => {
    if (!localStorage.getItem('wireman-preferences')) localStorage.setItem('wireman-preferences', chosen)
  }, JSON.stringify(preferences))
}

/**
 * A server and a browser for the journeys of one file, there before the first and gone after the last. No page says in
 * any of them that something is wrong with itself.
 * @param pages a new page for each journey, one for all, or none but those that a journey asks for
 * @param switches further ones of the browser, as a file for a microphone
 */
export function journeys(
  pages: 'a page each' | 'one page' | 'no page',
  look: Look = {},
  switches: readonly string[] = [],
) {
  beforeAll(async () => {
    server = new TestServer(await freePort())
    await server.start()
    browser = await launch(switches)
    errors = []
    if (pages === 'one page') await fresh(look)
  }, 60_000)
  if (pages === 'a page each') beforeEach(() => fresh(look))
  afterEach(async ({ task }) => {
    if (task.result?.state === 'fail' && page) await tellWhereItStands(page)
    expect(errors).toEqual([])
  })
  afterAll(async () => {
    await browser?.close()
    await server?.stop()
  })
}

/** A station as it is saved. */
export async function planOf(id: string): Promise<Plan> {
  const answer = await fetch(`${server.url}/api/stations/${id}`)
  return ((await answer.json()) as { plan: Plan }).plan
}

/** A station's logbook as it is saved. */
export async function logOf(id: string): Promise<Log> {
  const answer = await fetch(`${server.url}/api/stations/${id}/log`)
  return ((await answer.json()) as { log: Log }).log
}

/** The demo station of a name. @returns its id */
export async function demoNamed(name: string): Promise<string> {
  const list = (await (await fetch(`${server.url}/api/stations`)).json()) as { id: string; name: string }[]
  return list.find(s => s.name === name)!.id
}

/**
 * Opens a station of its own for a journey, of a demo's plan, and waits for its path, unless another view is asked for.
 * @returns its id
 */
export async function openDemo(name: Parameters<typeof demoPlan>[0], query = ''): Promise<string> {
  const id = await server.made(demoPlan(name))
  await page.goto(`${server.url}/station/${id}${query}`)
  if (!query.startsWith('/')) await page.locator('.path.body, .cards').waitFor()
  return id
}

/** The panel is headed so. */
export const says = (text: string | RegExp) => page.locator('.panel h2').filter({ hasText: text }).waitFor()
