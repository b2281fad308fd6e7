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
