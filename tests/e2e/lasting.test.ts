import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { demoNamed, journeys, page, planOf, server } from './journey'

/** What follows from how long a station lasts: what one would try, which packs, what fills them; files opened. */

let id: string
journeys('one page')
beforeAll(async () => {
  id = await demoNamed('Tern Rock light')
  await page.goto(`${server.url}/station/${id}/hours`)
  await says().filter({ hasText: 'On the air until' }).waitFor()
})
const says = () => page.getByTestId('says')
const tab = (name: string) => page.getByRole('tab', { name }).click()
const packAh = async () => ((await planOf(id)).parts.find(p => p.id === 'bat') as { capacityAh: number }).capacityAh
const events = async () => {
  const answer = await fetch(`${server.url}/api/stations/${id}/hours`)
  return ((await answer.json()) as { events: { name: string; weather?: object; swaps?: object[] }[] }).events
}
const opens = (name: string, text: string) =>
  page.getByTestId('hours-file').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })

describe('what follows', () => {
  it('what one would try stands side by side; one is taken, and taken back', async () => {
    await tab('What if')
    const rows = page.getByTestId('what-if').locator('tbody tr')
    await rows.filter({ hasText: 'House pack of 100 Ah' }).filter({ hasText: 'to the end' }).waitFor()
    expect(await rows.count()).toBeGreaterThanOrEqual(6)
    await page.getByText(/Holding 13.8 V gives HF radio/).waitFor()
    await page.getByRole('button', { name: 'Take: House pack of 100 Ah' }).click()
    await expect.poll(packAh).toBe(100)
    await says().filter({ hasText: 'On the air to the end' }).waitFor()
    await page.locator('h1').click()
    await page.keyboard.press('Control+z')
    await expect.poll(packAh).toBe(50)
  }, 60_000)

  it('the lightest packs of at most 300 Wh: in turn, with their changes in the event', async () => {
    await tab('Which packs')
    await page.getByLabel('in so many of 100 weathers').fill('50')
    await page.getByLabel('in so many of 100 weathers').press('Enter')
    await page.getByLabel('one pack at most').fill('700 Wh')
    await page.getByLabel('one pack at most').press('Enter')
    await page.getByRole('button', { name: 'Find it' }).click()
    const sets = page.getByTestId('sets')
    await sets.waitFor({ timeout: 90_000 })
    const inTurn = sets.getByRole('button', { name: /in turn/ }).first()
    const packs = Number(/(\d) packs/.exec((await inTurn.getAttribute('aria-label'))!)![1])
    await inTurn.click()
    await expect.poll(async () => (await events())[0]!.swaps?.length).toBe(packs - 1)
    await says().filter({ hasText: 'On the air to the end' }).waitFor()
    await page.getByText('Packs changed').waitFor()
  }, 120_000)

  it('what fills them, through the year, and what they cost', async () => {
    await tab('Charging')
    await page.getByTestId('charging').locator('tr', { hasText: 'Mains supply' }).filter({ hasText: ' h' }).waitFor()
    await page.getByTestId('charging').locator('tr', { hasText: 'Sun in June' }).waitFor()
    await tab('Through the year')
    await page.getByTestId('months').getByText('not even listening').first().waitFor()
    await tab('What it costs')
    await page.getByLabel('another pack costs').fill('100')
    await page.getByLabel('another pack costs').press('Enter')
    await page.getByText(/Over its life the other costs \d+ % less/).waitFor()
  }, 90_000)
})

describe('what is known already', () => {
  const hour = (h: number) => `2026-06-${13 + Math.floor(h / 24)} ${String(h % 24).padStart(2, '0')}:00`
  it('a file of measured sun with a gap is refused at its line; a whole one is taken, and taken out', async () => {
    await page.getByText('Open a file, or say what was measured').click()
    const rows = Array.from({ length: 60 }, (_, h) => `${hour(h)},${h % 24 > 6 && h % 24 < 20 ? 400 : 0}`)
    await opens('roof.csv', ['time,wm2', ...rows.filter((_, i) => i !== 20)].join('\n'))
    await page.getByText(/roof.csv, line \d+: from 2026-06-13 20:00 to 2026-06-13 21:00 there is no row/).waitFor()
    await opens('roof.csv', ['time,wm2', ...rows].join('\n'))
    await page.getByText('The sun as measured, 48 h').waitFor()
    await expect.poll(async () => JSON.stringify((await events())[0]!.weather)).toContain('irradianceWm2')
    await page.getByRole('button', { name: 'Take it out' }).click()
    await page.getByLabel('cloud, of all or day by day').waitFor()
  })

  it('a log says how much was transmitted', async () => {
    const contact = (minute: number) =>
      `<QSO_DATE:8>20260613<TIME_ON:4>09${String(minute).padStart(2, '0')}<MODE:3>SSB<CALL:5>Q0ABC<EOR>`
    await opens('log.adi', `made up<EOH>${[0, 3, 6, 9, 12, 15].map(contact).join('\n')}`)
    await page.getByText(/6 contacts in 0.3 h on the air, 20 an hour/).waitFor()
    await page.getByRole('button', { name: 'Use these shares' }).click()
    // 22 s of every 180.
    await expect.poll(() => page.getByLabel('transmits').first().inputValue()).toBe('12.2 %')
  })

  it('what the event took says it too, or why it cannot be', async () => {
    const took = page.getByLabel('this event took')
    await took.fill('a lot')
    await took.press('Enter')
    await page.getByText('18 Ah, 230 Wh, or 100-64 %').waitFor()
    await took.fill('2 Ah')
    await took.press('Enter')
    await page.getByText(/by itself, and more than was measured|of the transmit time there was/).waitFor()
  })

  it('an event of another plan is refused with its faults; one of this plan is opened beside', async () => {
    const demo = readFileSync('demo/events/tern-rock-weekend.json', 'utf8')
    await opens('event.json', demo.replaceAll('"hf"', '"nobody"'))
    await page.getByText('event.json is not taken, and nothing is changed:').waitFor()
    await page
      .getByText(/the plan has no part nobody/)
      .first()
      .waitFor()
    await opens('event.json', demo.replace("Tern Rock's weekend", 'Autumn'))
    await expect.poll(async () => (await events()).map(e => e.name)).toContain('Autumn')
    await expect.poll(() => page.getByLabel('Name of the event').inputValue()).toBe('Autumn')
    // A moment of the weekend is shown by its day, and can be typed so.
    const from = page.getByLabel('from', { exact: true }).nth(5)
    expect(await from.inputValue()).toMatch(/^Sat 19:00$/)
    await from.fill('Sat 18:30')
    await from.press('Enter')
    await expect.poll(() => from.inputValue()).toBe('Sat 18:30')
  })

  it('the sheet of the event is a PDF', async () => {
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByText('Print as PDF').click()])
    expect(
      readFileSync(await file.path())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-')
  })

  it('a pack that lies ready carries it further, and is refused what is no number of packs', async () => {
    const before = await says().textContent()
    await page.getByText('+ packs that lie ready').click()
    await says().filter({ hasText: 'A pack is changed once' }).waitFor()
    expect(await says().textContent()).not.toBe(before)
    const count = page.getByLabel('of them')
    await count.fill('1.5')
    await count.press('Enter')
    await page.getByText('1 to 99').waitFor()
    await count.fill('3')
    await count.press('Enter')
    await page.getByLabel('refilled in').fill('6 h')
    await page.getByLabel('refilled in').press('Enter')
    await expect.poll(async () => JSON.stringify(await events())).toContain('"count":3,"refillH":6')
    await page.getByRole('button', { name: 'Take these spare packs away' }).click()
    await expect.poll(async () => JSON.stringify(await events())).not.toContain('refillH')
  })

  it('the list of stations says how long each lasts', async () => {
    await page.goto(`${server.url}/stations`)
    const card = page.locator('li').filter({ has: page.getByRole('link', { name: 'Moor walk kit' }) })
    await card.getByTestId('lasts').filter({ hasText: 'A day on the moor: It does not begin' }).waitFor()
    const clean = page.locator('li').filter({ has: page.getByRole('link', { name: 'Clean bench' }) })
    await clean.getByText('passes every check').waitFor()
    expect(await clean.getByTestId('lasts').count()).toBe(0)
  })
})
