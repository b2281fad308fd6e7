import { readFileSync } from 'node:fs'
import type { Page } from 'playwright'
import { describe, expect, it } from 'vitest'
import { EventCourse } from '../../core/hours/course'
import { readEventText } from '../../core/hours/readEvent'
import { demoPlan } from '../data/plans'
import { demoNamed, journeys, page, planOf, server } from './journey'

/** How long a station lasts: an event of one's own, dragged and changed, its odds, and a larger pack into the plan. */

journeys('one page')
const says = (on: Page) => on.getByTestId('says')
const ternRock = () => demoNamed('Tern Rock light')

describe('hours', () => {
  it("show Tern Rock's weekend as the core works it out, and its odds", async () => {
    const id = await ternRock()
    await page.goto(`${server.url}/station/${id}/hours`)
    await says(page).filter({ hasText: 'On the air until' }).waitFor()
    const plan = demoPlan('tern-rock-light')
    const read = readEventText(readFileSync('demo/events/tern-rock-weekend.json', 'utf8'), plan)
    if (!read.ok) throw new Error('no event')
    const { ends } = new EventCourse(plan, read.event).run()
    const minutes = Math.round(ends!.atH * 60) + 8 * 60
    const clock = `${String(Math.floor(minutes / 60) % 24).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
    expect(await says(page).textContent()).toContain(clock)
    await page.getByRole('button', { name: /Odds in 300/ }).click()
    await says(page)
      .filter({ hasText: /weathers tried|of 10 such events/ })
      .waitFor()
  }, 60_000)

  it('move at once with another time, and undo takes it back', async () => {
    const before = await says(page).textContent()
    const first = page.getByLabel('transmits').first()
    await first.fill('5 %')
    await first.press('Enter')
    await expect.poll(() => says(page).textContent()).not.toBe(before)
    await says(page).filter({ hasNotText: 'Working' }).waitFor()
    await page.locator('h1').click()
    await page.keyboard.press('Control+z')
    await page.getByText(/Undone: transmit share/).waitFor()
    await expect.poll(() => first.inputValue()).toBe('30 %')
    // What cannot be read stays, and says what would be right.
    await first.fill('often')
    await first.press('Enter')
    await page.getByText('0 to 100 %').waitFor()
    await first.fill('30 %')
    await first.press('Enter')
    // The end of the first bar, dragged four hours to the left.
    const end = page.getByTestId('lanes').locator('.transmit').first().locator('.end').nth(1)
    const box = (await end.boundingBox())!
    await page.mouse.move(box.x + 5, box.y + 8)
    await page.mouse.down()
    await page.mouse.move(box.x - 66, box.y + 8, { steps: 5 })
    await page.mouse.up()
    await expect.poll(() => page.getByLabel('to', { exact: true }).first().inputValue()).toMatch(/^1[5-7]:/)
  }, 60_000)

  it('tell in words what cannot be: one radio at two things at once', async () => {
    await page.getByRole('button', { name: '+ an operator' }).click()
    await page
      .getByText(/HF radio is told twice from/)
      .first()
      .waitFor()
    await page.getByRole('button', { name: 'Remove this activity' }).last().click()
    await says(page).filter({ hasText: 'On the air' }).waitFor()
  }, 60_000)

  it('put a larger pack into the plan', async () => {
    const id = await ternRock()
    await page.getByTestId('pack-size').fill('3')
    await page.getByText('150 Ah').waitFor()
    await page.getByRole('button', { name: 'Put it into the plan' }).click()
    const capacity = async () => (await planOf(id)).parts.find(p => p.id === 'bat') as { capacityAh?: number }
    await expect.poll(async () => (await capacity()).capacityAh).toBe(150)
  }, 60_000)

  it('begin an event of a station that has none, and keep it over a reload', async () => {
    const id = await server.made(demoPlan('moor-walk-kit'))
    await page.goto(`${server.url}/station/${id}/hours`)
    await page.getByRole('button', { name: 'Begin an event' }).click()
    await says(page)
      .filter({ hasText: /On the air|It does not begin/ })
      .waitFor()
    await page.getByLabel('lasts').fill('6 h')
    await page.getByLabel('lasts').press('Enter')
    await expect
      .poll(async () => {
        const state = (await (await fetch(`${server.url}/api/stations/${id}/hours`)).json()) as {
          events: { hours: number }[]
        }
        return state.events[0]?.hours
      })
      .toBe(6)
    await page.reload()
    await expect.poll(() => page.getByLabel('lasts').inputValue()).toBe('6 h')
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByText('Save as JSON').click()])
    const kept = readEventText(readFileSync(await file.path(), 'utf8'), demoPlan('moor-walk-kit'))
    expect(kept.ok).toBe(true)
  }, 60_000)
})
