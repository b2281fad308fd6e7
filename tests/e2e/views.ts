import type { Page } from 'playwright'

const OUTER = ['/stations', '/new', '/suits', '/shelf', '/devices']
const OF_A_STATION = [
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

/** Every view there is, with those of one station. */
export const viewsOf = (stationId: string) => [...OUTER, ...OF_A_STATION.map(view => `/station/${stationId}${view}`)]

/** Opens a view and waits until all of it has come. */
export async function show(page: Page, address: string) {
  await page.goto(address)
  await page.locator('main').first().waitFor()
  await page.waitForLoadState('networkidle')
}

/** So long nothing changes on a page that has come to rest, ms. */
const AT_REST_MS = 300

/** Goes to a view from another one, as a link does, and waits until it has come to rest. */
export async function goOn(page: Page, path: string) {
  await page.evaluate(
    ({ path, restMs }) => {
      history.pushState(history.state, '', path)
      dispatchEvent(new PopStateEvent('popstate', { state: history.state as unknown }))
      return new Promise<void>(done => {
        const rest = () => setTimeout(() => (watch.disconnect(), done()), restMs)
        let timer = rest()
        const watch = new MutationObserver(() => {
          clearTimeout(timer)
          timer = rest()
        })
        watch.observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true })
      })
    },
    { path, restMs: AT_REST_MS },
  )
}
