import type { Browser } from 'playwright'
import { afterAll, beforeAll } from 'vitest'
import { errorsOf, freePort, launch, TestServer } from './browser'

/** A server and a browser for the tests of one file, there from the first test on and gone after the last. */
export function atWork() {
  let server: TestServer | undefined
  let browser: Browser | undefined
  beforeAll(async () => {
    server = new TestServer(await freePort())
    await server.start()
    browser = await launch()
  })
  afterAll(async () => {
    await browser?.close()
    await server?.stop()
  })
  return {
    get server() {
      return server!
    },
    get browser() {
      return browser!
    },
  }
}

/** A page of so many px, moved by a mouse or by a finger, of whoever asks for less motion. */
export async function pageOf(browser: Browser, [width, height]: readonly [number, number], isTouched: boolean) {
  const viewport = { width, height }
  const context = await browser.newContext({
    viewport,
    reducedMotion: 'reduce',
    hasTouch: isTouched,
    isMobile: isTouched,
  })
  const page = await context.newPage()
  // The transpiler wraps functions in a helper that the page does not have.
  await page.addInitScript('globalThis.__name = f => f')
  return { page, context, errors: errorsOf(page) }
}
