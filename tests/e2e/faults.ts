import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from 'playwright'

/** What is wrong with a page that stands: how it lies in its window, and by the rules of access. */

const TARGETS =
  'a, button, input, select, textarea, summary, [role="button"], [role="combobox"], [role="option"], [tabindex="0"]'

/** Whatever a finger is to hit and is under 44 px high or wide (WCAG 2.2, 2.5.5), but links within a sentence. */
const tooSmall = (page: Page) =>
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
const spilled = (page: Page) =>
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
const covered = (page: Page) =>
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

const wider = (page: Page) =>
  page.evaluate(() =>
    document.documentElement.scrollWidth > innerWidth ? [`${document.documentElement.scrollWidth} px wide`] : [],
  )

/** What is wrong once the view has settled in its window: what lies on, runs out or is too small, each in words. */
export async function layoutFaults(page: Page, isTouched: boolean): Promise<string[]> {
  const scans = [wider, spilled, covered, ...(isTouched ? [tooSmall] : [])]
  let found: string[] = []
  for (let look = 0; look < 10; look++) {
    found = []
    for (const scan of scans) found.push(...(await scan(page)))
    if (!found.length) return []
    await page.waitForTimeout(100)
  }
  return found
}

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
interface Violation {
  id: string
  nodes: { html: string; failureSummary: string }[]
}
const EVERY_RULE = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']

async function violations(page: Page, runOnly: string[]): Promise<string[]> {
  const found = await page.evaluate(async runOnly => {
    const run = (window as unknown as { axe: { run: (o: object) => Promise<{ violations: Violation[] }> } }).axe
    return (await run.run({ runOnly, resultTypes: ['violations'] })).violations
  }, runOnly)
  return found.flatMap(v =>
    v.nodes.slice(0, 3).map(n => `${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary.slice(0, 200)}`),
  )
}

/** Names of elements that are none: a component that the build does not know is drawn as nothing. */
const unknownElements = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll('*')]
      .filter(e => e instanceof HTMLUnknownElement)
      .map(e => `no element: ${e.localName}`),
  )

/** What axe finds in a page, in either theme, and what is drawn as nothing. It is left in the light theme. */
export async function accessFaults(page: Page): Promise<string[]> {
  await page.evaluate(axe)
  const found = [...(await violations(page, EVERY_RULE)), ...(await unknownElements(page))]
  // The other theme changes colours and nothing else.
  await page.emulateMedia({ colorScheme: 'dark' })
  found.push(...(await violations(page, ['color-contrast'])))
  await page.emulateMedia({ colorScheme: 'light' })
  return found
}
