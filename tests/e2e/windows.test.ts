import type { Page } from 'playwright'
import { describe, expect, it } from 'vitest'
import { atWork, pageOf } from './atWork'
import { show, viewsOf } from './views'

/** Every view in every window: nothing lies on another thing, runs out of itself, or is too small for a finger. */
const work = atWork()
let page: Page

const TARGETS =
  'a, button, input, select, textarea, summary, [role="button"], [role="combobox"], [role="option"], [tabindex="0"]'

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
      const isSeen = width > 1 && getComputedStyle(e).visibility !== 'hidden' && !e.closest('[inert], svg')
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

/** Whatever is pressed and lies under something that does not stay where it is as the page scrolls. */
const covered = () =>
  page.evaluate(targets => {
    const lies = (e: Element | null): boolean =>
      e !== null && (['fixed', 'sticky'].includes(getComputedStyle(e).position) || lies(e.parentElement))
    const isClipped = (e: Element, x: number, y: number): boolean => {
      const box = e.parentElement
      if (!box) return false
      const { left, right, top, bottom } = box.getBoundingClientRect()
      const clips = getComputedStyle(box).overflow !== 'visible'
      return (clips && (x < left || x > right || y < top || y > bottom)) || isClipped(box, x, y)
    }
    return [...document.querySelectorAll<HTMLElement>(targets)].flatMap(e => {
      const { left, right, top, bottom } = e.getBoundingClientRect()
      if (right - left < 8 || e.closest('[inert], svg') || !e.checkVisibility({ visibilityProperty: true })) return []
      const y = (top + bottom) / 2
      const over = [left + 4, (left + right) / 2, right - 4].flatMap(x => {
        const at = isClipped(e, x, y) ? null : document.elementFromPoint(x, y)
        return !at || at.contains(e) || e.contains(at) || e.closest('label')?.contains(at) || lies(at) ? [] : [at]
      })
      const [first] = over
      return first ? [`${e.outerHTML.slice(0, 120)} lies under ${first.outerHTML.slice(0, 120)}`] : []
    })
  }, TARGETS)

const wider = () =>
  page.evaluate(() =>
    document.documentElement.scrollWidth > innerWidth ? [`${document.documentElement.scrollWidth} px wide`] : [],
  )

/** What is wrong once the view has settled in its window. */
async function faultsOf(isTouched: boolean): Promise<string[]> {
  let found: string[] = []
  for (let look = 0; look < 10; look++) {
    found = [...(await wider()), ...(await spilled()), ...(await covered()), ...(isTouched ? await tooSmall() : [])]
    if (!found.length) return []
    await page.waitForTimeout(100)
  }
  return found
}

async function opened(size: readonly [number, number], isTouched: boolean) {
  const { page: shown, ...more } = await pageOf(work.browser, size, isTouched)
  page = shown
  return more
}

/** Views of which a part comes later than the rest. */
const MOVING = ['/stations', '/shelf', ...['', '/proof', '/hours', '/build', '/bench'].map(v => `/station/id${v}`)]

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

/** What opens over a station's path, and how. */
const OVER: Record<string, () => Promise<unknown>> = {
  add: () => page.getByRole('button', { name: /^Add/ }).last().click(),
  'mend all': async () => {
    await page.getByRole('button', { name: /^Mend all/ }).click()
    await page.getByText('Other gear, all else as it is').waitFor()
  },
  'size it': () => page.getByRole('button', { name: /^Size it/ }).click(),
  site: () => page.locator('button.name').click(),
  history: () => page.getByTestId('saved').click(),
  settings: () => page.locator('button.units').click(),
  'another way': () => page.getByLabel('Way of this station').selectOption({ label: 'Another way…' }),
}

describe('in every window', () => {
  it.each<[number, number]>([
    [390, 844],
    [844, 390],
  ])(
    'what opens over the path is within a phone of %d × %d px and large enough for a finger',
    async (width, height) => {
      const { context, errors } = await opened([width, height], true)
      const id = await work.server.firstDemo()
      const faults: Record<string, string[]> = {}
      for (const [name, open] of Object.entries(OVER)) {
        await page.goto(`${work.server.url}/station/${id}`)
        await page.locator('.volts').first().waitFor()
        await open()
        await page.getByRole('dialog').waitFor()
        const found = await faultsOf(true)
        const box = (await page.getByRole('dialog').boundingBox())!
        if (box.y < 0 || box.y + box.height > height || box.x < 0 || box.x + box.width > width)
          found.push(`beyond the window: ${JSON.stringify(box)}`)
        if (found.length) faults[name] = found
      }
      expect(faults).toEqual({})
      expect(errors).toEqual([])
      await context.close()
    },
  )

  it('nothing on a phone moves away from under a finger as a view comes', async () => {
    const { context, errors } = await opened([390, 844], true)
    await page.addInitScript(noteMoves)
    const id = await work.server.firstDemo()
    const moved: Record<string, number> = {}
    for (const view of MOVING.map(v => v.replace('id', id))) {
      await show(page, work.server.url + view)
      await page.waitForTimeout(500)
      const sum = await page.evaluate(() => (window as unknown as { moved: number }).moved)
      if (sum > MOST_MOVED) moved[view.replace(id, 'id')] = sum
    }
    expect(moved).toEqual({})
    expect(errors).toEqual([])
    await context.close()
  })

  it('the condition that a link asks for is in sight on a phone, and the page stays at its top', async () => {
    const { context } = await opened([390, 844], true)
    const id = await work.server.firstDemo()
    await page.goto(`${work.server.url}/station/${id}?state=low%2Fonly%3Alamps`)
    const more = page.getByLabel('More load states')
    await more.waitFor()
    const right = async () => {
      const { x, width } = (await more.boundingBox())!
      return Math.round(x + width)
    }
    await expect.poll(right).toBeLessThanOrEqual(390)
    expect(await more.evaluate((e: HTMLSelectElement) => e.selectedOptions[0]!.label)).toContain('Lamps')
    expect(await page.evaluate(() => scrollY)).toBe(0)
    await context.close()
  })

  it('the place of a short that is chosen is in sight of a path wider than its pane', async () => {
    const { context } = await opened([1024, 768], false)
    await page.goto(`${work.server.url}/station/${await work.server.firstDemo()}/proof`)
    for (const name of ['HF radio', 'Two folding panels']) {
      await page.getByRole('row', { name }).first().click()
      const isInSight = () =>
        page.evaluate(() => {
          const [pane, bolt] = ['.path-pane', '.bolt'].map(e => document.querySelector(e)!.getBoundingClientRect())
          // All of the picture goes along: nothing lies over it here.
          const [body, arrivals] = ['.body', '.arrivals'].map(e => document.querySelector(e)!.getBoundingClientRect())
          if (Math.abs(body!.right - arrivals!.right) > 1) return false
          const { left, right, top, bottom } = bolt!
          return left > pane!.left && right < pane!.right && top > pane!.top && bottom < pane!.bottom
        })
      await expect.poll(isInSight).toBe(true)
    }
    await context.close()
  })

  it.each<{ by: string; sizes: [number, number][] }>([
    { by: 'mouse', sizes: [[1280, 800], [1100, 700], [900, 1000], [1400, 480], [640, 400]] }, // prettier-ignore
    { by: 'finger', sizes: [[390, 844], [844, 390], [1024, 768]] }, // prettier-ignore
  ])('nothing lies on another thing or runs out of itself, by $by', async ({ by, sizes }) => {
    const isTouched = by === 'finger'
    const { context, errors } = await opened(sizes[0]!, isTouched)
    const id = await work.server.firstDemo()
    const faults: Record<string, string[]> = {}
    for (const view of viewsOf(id)) {
      await show(page, work.server.url + view)
      for (const [width, height] of sizes) {
        await page.setViewportSize({ width, height })
        const found = await faultsOf(isTouched)
        if (found.length) faults[`${view.replace(id, 'id')} ${width} × ${height}`] = found
      }
    }
    expect(faults).toEqual({})
    expect(errors).toEqual([])
    await context.close()
  })
})
