import { describe, expect, it } from 'vitest'
import { accessFaults, layoutFaults } from './faults'
import { goOn, show, viewsOf } from './views'
import { fresh, journeys, page, server } from './journey'

/** Every view in every window: contrast, names, roles; nothing lies on another thing or moves away from a finger. */
journeys('no page')

/** Cumulative layout shift under which a page counts as steady (web vitals: "good"). */
const MOST_MOVED = 0.1

/** Adds up in the page how far what is seen moves by itself. */
function noteMoves() {
  const page = window as unknown as { moved: number }
  page.moved = 0
  const add = (list: PerformanceObserverEntryList) =>
    (list.getEntries() as unknown as { value: number }[]).forEach(shift => (page.moved += shift.value))
  new PerformanceObserver(add).observe({ type: 'layout-shift', buffered: true })
}
const moved = () => (window as unknown as { moved: number }).moved

describe('every view', () => {
  it.each<{ by: string; sizes: [number, number][] }>([
    // A window of 1280 × 800 px zoomed to 200 % is one of 640 × 400.
    { by: 'mouse', sizes: [[1280, 800], [1100, 700], [900, 1000], [1400, 480], [640, 400]] }, // prettier-ignore
    { by: 'finger', sizes: [[390, 844], [844, 390], [1024, 768]] }, // prettier-ignore
  ])('has no fault of access or layout that is looked for, by $by', async ({ by, sizes }) => {
    const isTouched = by === 'finger'
    const [width, height] = sizes[0]!
    await fresh({ width, height, isTouched, isCalm: true })
    if (isTouched) await page.addInitScript(noteMoves)
    const id = await server.firstDemo()
    const faults: Record<string, string[]> = {}
    for (const view of viewsOf(id)) {
      const found: string[] = []
      await page.setViewportSize({ width, height })
      // A finger's page is loaded anew, for what moves as it comes; a mouse goes from view to view.
      const isFirst = view === viewsOf(id)[0]
      await (isTouched || isFirst ? show(page, server.url + view) : goOn(page, view))
      found.push(...(await accessFaults(page)))
      if (isTouched && (await page.evaluate(moved)) > MOST_MOVED) found.push('moves by itself as it comes')
      for (const [wide, high] of sizes) {
        await page.setViewportSize({ width: wide, height: high })
        const lying = await layoutFaults(page, isTouched)
        found.push(...lying.map(fault => `${wide} × ${high} px: ${fault}`))
      }
      if (found.length) faults[view.replace(id, 'id')] = found
    }
    expect(faults).toEqual({})
  })
})
