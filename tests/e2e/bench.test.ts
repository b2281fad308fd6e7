import type { Page } from 'playwright'
import { beforeAll, describe, expect, it } from 'vitest'
import { context, demoNamed, journeys, logOf, page, server } from './journey'

/** At the bench: put together step by step, measured, a fault found, batteries looked after; on a phone too. */

let id: string
journeys('a page each')
beforeAll(async () => void (id = await demoNamed('Tern Rock light')))
const log = () => logOf(id)
const open = async (query: string, on = page) => {
  await on.goto(`${server.url}/station/${id}/bench?${query}`)
  await on.getByRole('tab', { selected: true }).waitFor()
}
const step = () => page.getByTestId('step')
const reads = async (text: string) => {
  await page.getByLabel('Volts read').fill(text)
  await page.keyboard.press('Enter')
}
const meaning = (text: string | RegExp) => page.getByTestId('meaning').filter({ hasText: text }).waitFor()

describe('step by step', () => {
  it('goes through the bench checks, and what is done stays done over a reload', async () => {
    await open('')
    await step().getByText('Step 1 of 37').waitFor()
    await page.getByRole('button', { name: 'Done, next' }).click()
    await step().getByText('Step 2 of 37').waitFor()
    await step().press('Enter')
    await step().getByText('Step 3 of 37').waitFor()
    await page.getByRole('button', { name: /Bench checks 2\/8/ }).waitFor()
    await expect.poll(async () => (await log()).steps.map(s => s.id)).toEqual(['bench l1', 'bench l2'])
    await open('')
    await step().getByText('Step 3 of 37').waitFor()
    await page.getByRole('button', { name: 'Back' }).click()
    await page.getByRole('button', { name: 'Not done after all' }).click()
    await expect.poll(async () => (await log()).steps.map(s => s.id)).toEqual(['bench l1'])
  })

  it('a pack the wrong way round stops it; right it says its charge, and the next points follow', async () => {
    await open('step=keyed%20hf')
    const should = () => page.getByTestId('should').textContent()
    await page.getByTestId('should').waitFor()
    const whenFull = parseFloat((await should())!)
    await open('step=rested%20bat')
    await reads('-13.2')
    await meaning('wrong way round')
    expect(await page.getByRole('button', { name: 'Done, next' }).isDisabled()).toBe(true)
    await page.getByRole('button', { name: 'Take it out' }).click()
    await reads('twelve')
    await page.getByText('Volts as the meter shows them').waitFor()
    await reads('132')
    await page.getByText('out of any reason').waitFor()
    await reads('13,2 V')
    await meaning(/43 % to 68 % charged/)
    await page.getByRole('button', { name: 'Done, next' }).click()
    await open('step=keyed%20hf')
    await expect.poll(async () => parseFloat((await should())!)).toBeLessThan(whenFull - 0.3)
    await reads('10.9')
    await meaning(/Under the 11.7 V that HF radio needs.*mΩ too much/)
    await expect
      .poll(async () => (await log()).readings.filter(r => r.condition === 'rested').map(r => r.volts))
      .toEqual([13.2])
  })

  it('a controller found on another chemistry is told as the danger it is, until it is set right', async () => {
    await open('')
    await page.getByRole('button', { name: /Settings/ }).click()
    const choose = async (name: string) => {
      await page.getByLabel('Chemistry it is set to').click()
      await page.getByRole('option', { name }).click()
    }
    await choose('flooded')
    await step()
      .getByText(/is set to flooded/)
      .waitFor()
    await choose('LiFePO4')
    await step()
      .getByText(/is set to flooded/)
      .waitFor({ state: 'detached' })
    await expect.poll(async () => (await log()).settings.length).toBe(3)
  })

  it('is usable with one hand on a phone', async () => {
    await page.setViewportSize({ width: 390, height: 780 })
    await open('step=idle%20hf')
    await page.getByTestId('should').waitFor()
    await reads('13.0')
    await page.getByTestId('meaning').waitFor()
    const next = page.getByRole('button', { name: 'Done, next' })
    const box = (await next.boundingBox())!
    // Low down, and as large as a thumb.
    expect(box.y).toBeGreaterThan(650)
    expect(box.height).toBeGreaterThanOrEqual(42)
    await next.click()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  })
})

describe('what is entered', () => {
  it('while the server is away waits, over a closed page too, and is saved when it is back', async () => {
    await open('step=bench%20l5')
    await step().waitFor()
    await server.kill('SIGKILL')
    await page.getByRole('button', { name: 'Done, next' }).click()
    await page.getByTestId('log-problem').filter({ hasText: 'Not saved yet' }).waitFor()
    await page.goto('about:blank')
    await server.start()
    expect((await log()).steps.map(s => s.id)).not.toContain('bench l5')
    await open('')
    await expect.poll(async () => (await log()).steps.map(s => s.id)).toContain('bench l5')
  })

  it('the moment before the page is left is saved: a survey, an event', async () => {
    const made = async (path: string, list: 'surveys' | 'events') => {
      const answer = await fetch(`${server.url}/api/stations/${id}/${path}`)
      const state = (await answer.json()) as { logbook?: { surveys: unknown[] }; events?: unknown[] }
      return (list === 'surveys' ? state.logbook!.surveys : state.events!).length
    }
    const [surveys, events] = [await made('noise', 'surveys'), await made('hours', 'events')]
    await page.goto(`${server.url}/station/${id}/quiet?tool=survey`)
    await page.getByRole('button', { name: 'New survey' }).click()
    await page.goto(`${server.url}/station/${id}/hours`)
    await expect.poll(() => made('noise', 'surveys')).toBe(surveys + 1)
    await page.getByRole('button', { name: 'Copy' }).click()
    await page.goto('about:blank')
    await expect.poll(() => made('hours', 'events')).toBe(events + 1)
  })

  it('in two windows at once is kept of both', async () => {
    const other = await context.newPage()
    await open('tab=batteries')
    await open('tab=batteries', other)
    const note = async (on: Page, volts: string) => {
      await on.getByLabel('volts', { exact: true }).fill(volts)
      await on.getByLabel('volts', { exact: true }).press('Tab')
      await on.getByRole('button', { name: 'Note it' }).click()
    }
    await Promise.all([note(page, '13.31'), note(other, '13.29')])
    const rested = async () => (await log()).batteries.filter(b => b.what === 'rested').map(b => b.volts)
    await expect.poll(rested).toEqual(expect.arrayContaining([13.31, 13.29]))
  })
})

describe('readings', () => {
  it('of a season name the joint that goes bad, and what is added is held against the plan at once', async () => {
    await open('tab=readings')
    const joints = page.getByTestId('joints')
    await joints
      .getByText(/sure.*HF lead at/)
      .first()
      .waitFor()
    await joints.getByText('and rising').first().waitFor()
    await page.getByLabel('Where it was read').click()
    await page.getByRole('option', { name: 'VHF radio', exact: true }).click()
    await page.getByLabel('What it read').fill('1320')
    await page.getByRole('button', { name: 'Add' }).click()
    await page.getByText('is no reading of a 100 V meter').waitFor()
    await page.getByLabel('What it read').fill('9.1')
    await page.getByRole('button', { name: 'Add' }).click()
    const row = page.getByRole('row').filter({ hasText: 'VHF radio' }).filter({ hasText: '9.10 V' })
    await row.getByText('off', { exact: true }).waitFor()
    await row.getByRole('button', { name: /Take out/ }).click()
    await row.waitFor({ state: 'detached' })
    // Saved as well: a journey that opens the station in another browser asks by what its readings say.
    await expect.poll(async () => (await log()).readings.filter(r => r.volts === 9.1)).toEqual([])
  })

  it('of a file are taken, and what cannot be used is told and left aside', async () => {
    await open('tab=readings')
    const rows = ['at,condition,volts,amps,time', 'hf,full/idle,13.4,,2026-10-10', 'nobody,full/idle,13.4,,2026-10-10']
    const buffer = Buffer.from([...rows, 'hf,full/idle,132,,2026-10-10'].join('\n'))
    await page.getByTestId('readings-file').setInputFiles({ name: 'autumn.csv', mimeType: 'text/csv', buffer })
    await page.getByText(/line 3, left aside: .*nobody/).waitFor()
    await page.getByText(/line 4, left aside/).waitFor()
    await expect.poll(async () => (await log()).readings.filter(r => r.time.startsWith('2026-10-10'))).toHaveLength(1)
    // A log of another device: what is in it comes beside what is here.
    const before = await log()
    const entry = { id: 'from-the-phone', time: '2026-10-11T09:00:00', at: 'hf', condition: 'full/idle', volts: 13.41 }
    const takes = (value: object) =>
      page.getByTestId('readings-file').setInputFiles({
        name: 'log.json',
        mimeType: 'application/json',
        buffer: Buffer.from(JSON.stringify(value)),
      })
    await takes({ ...before, readings: [{ ...entry, volts: 'many' }] })
    await page.getByText(/not taken: .*readings.*volts/).waitFor()
    await takes({ ...before, readings: [entry] })
    await expect.poll(async () => (await log()).readings.length).toBe(before.readings.length + 1)
    expect((await log()).readings).toContainEqual(entry)
  })
})

describe('something is wrong', () => {
  it('is ranked by the plan, moved by what is found, and kept', async () => {
    await open('tab=wrong')
    await page.getByLabel('What happens').click()
    await page.getByRole('option', { name: 'it cuts out, or starts anew, on transmit' }).click()
    const causes = page.getByTestId('causes')
    await causes.getByText('the voltage sags under its least when it transmits').waitFor()
    await page
      .getByTestId('next-test')
      .getByRole('button', { name: /one is warm, discoloured or loose/ })
      .click()
    await causes.locator('li').first().filter({ hasText: 'a joint has gone bad' }).waitFor()
    await expect.poll(async () => (await log()).symptoms.at(-1)?.findings.length).toBe(1)
    await open('tab=wrong')
    await page.getByText('Found so far').waitFor()
    await page.getByRole('button', { name: 'Take this finding back' }).click()
    await page.getByText('Found so far').waitFor({ state: 'detached' })
    // Saved as well, before the next journey opens the station anew.
    await expect.poll(async () => (await log()).symptoms.at(-1)?.findings.length ?? 0).toBe(0)
  })

  it('takes what the meter shows, and says what it is held against', async () => {
    await open('tab=wrong')
    const test = page.getByTestId('next-test').locator('article').filter({ hasText: 'own posts' })
    await test.getByLabel('Key up').fill('13.2 V')
    await test.getByLabel('Key down').fill('none')
    await test.getByRole('button', { name: 'Take it' }).click()
    await test.getByText('none is no reading of a 100 V meter: 11.4').waitFor()
    await test.getByLabel('Key down').fill('12.95')
    await test.getByLabel('Key down').press('Enter')
    await page.getByText('13.2 V, then 12.95 V: it stays where it was').waitFor()
    await page.getByText('0.25 V less than with the key up').waitFor()
    await expect
      .poll(async () => (await log()).symptoms.at(-1)?.findings)
      .toEqual([{ test: 'volts-at-battery-keyed', before: 13.2, read: 12.95 }])
  })
})

describe('batteries', () => {
  it('fade by their tests, and are told when they are worn', async () => {
    await open('tab=batteries')
    const life = page.getByTestId('life-bat')
    await life.getByText(/4.3 % less a year/).waitFor()
    await page.getByLabel(/What was done to/).click()
    await page.getByRole('option', { name: 'capacity test' }).click()
    await page.getByRole('button', { name: 'Note it' }).click()
    await page.getByText('Nothing was noted').waitFor()
    await page.getByLabel('amp-hours').fill('38 Ah')
    await page.getByLabel('amp-hours').press('Tab')
    await page.getByRole('button', { name: 'Note it' }).click()
    await life.getByText(/holds 76 % of what is printed/).waitFor()
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByText('What is due, as a calendar').click(),
    ])
    expect(file.suggestedFilename()).toBe('batteries.ics')
    // It stands on the station's one page, under its day.
    await page.getByRole('tab', { name: 'History' }).click()
    const today = page.getByTestId('history').locator('.day').first()
    await today.getByText('House pack: capacity test, 38 Ah').waitFor()
  })
})

describe('practice', () => {
  it('hides a fault that a meter shows; what it was is told at the end', async () => {
    await open('tab=practice')
    await page.getByRole('button', { name: 'Hide a fault' }).click()
    const choose = async (label: string, option: string | RegExp) => {
      await page.getByLabel(label, { exact: true }).click()
      await page.getByRole('option', { name: option }).first().click()
    }
    await choose('Meter at', 'House pack')
    await choose('With what on', /full, all idle/)
    await page.getByRole('button', { name: 'Read', exact: true }).click()
    await page.getByText(/House pack, full, all idle: 13\.\d\d V/).waitFor()
    await choose('What it is', /main lead at House pack is bad/)
    await page.getByTestId('hidden').getByRole('button', { name: 'That is it' }).click()
    await page
      .getByTestId('score')
      .filter({ hasText: /of 100\./ })
      .waitFor()
  })
  it('asks short sums, takes no words for a figure, and says how it is worked out', async () => {
    await open('tab=practice')
    const sums = page.getByTestId('drill')
    await sums.getByText(/manual says/).waitFor()
    await page.getByLabel('Your answer').fill('much')
    await sums.getByRole('button', { name: 'That is it' }).click()
    await sums.getByText('A figure, as 11.7.').waitFor()
    await page.getByLabel('Your answer').fill('1')
    await sums.getByRole('button', { name: 'That is it' }).click()
    await sums.getByText(/No\..*% of/).waitFor()
    await sums.getByText('0 of 1 right').waitFor()
    await sums.getByRole('button', { name: 'Next' }).click()
  })
})
