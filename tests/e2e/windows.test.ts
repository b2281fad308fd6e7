import { describe, expect, it } from 'vitest'
import { layoutFaults } from './faults'
import { fresh, journeys, page, server } from './journey'

/** What opens or is asked for is in sight, in every window. */
journeys('no page')

const opened = ([width, height]: readonly [number, number], isTouched: boolean) =>
  fresh({ width, height, isTouched, isCalm: true })

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
      await opened([width, height], true)
      const id = await server.firstDemo()
      const faults: Record<string, string[]> = {}
      await page.goto(`${server.url}/station/${id}`)
      await page.locator('.volts').first().waitFor()
      for (const [name, open] of Object.entries(OVER)) {
        await open()
        await page.getByRole('dialog').waitFor()
        const found = await layoutFaults(page, true)
        const box = (await page.getByRole('dialog').boundingBox())!
        if (box.y < 0 || box.y + box.height > height || box.x < 0 || box.x + box.width > width)
          found.push(`beyond the window: ${JSON.stringify(box)}`)
        if (found.length) faults[name] = found
        await page.keyboard.press('Escape')
        await page.getByRole('dialog').waitFor({ state: 'hidden' })
      }
      expect(faults).toEqual({})
    },
  )

  it('the condition that a link asks for is in sight on a phone, and the page stays at its top', async () => {
    await opened([390, 844], true)
    const id = await server.firstDemo()
    await page.goto(`${server.url}/station/${id}?state=low%2Fonly%3Alamps`)
    const more = page.getByLabel('More load states')
    await more.waitFor()
    const right = async () => {
      const { x, width } = (await more.boundingBox())!
      return Math.round(x + width)
    }
    await expect.poll(right).toBeLessThanOrEqual(390)
    expect(await more.evaluate((e: HTMLSelectElement) => e.selectedOptions[0]!.label)).toContain('Lamps')
    expect(await page.evaluate(() => scrollY)).toBe(0)
  })

  it('the place of a short that is chosen is in sight of a path wider than its pane', async () => {
    await opened([1024, 768], false)
    await page.goto(`${server.url}/station/${await server.firstDemo()}/proof`)
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
  })
})
