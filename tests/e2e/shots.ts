/** Takes the pictures of docs/screenshots from the demo stations: ./run shots */
import type { Page } from 'playwright'
import { join } from 'node:path'
import { freePort, launch, TestServer } from './browser'

const OUT = join(import.meta.dirname, '../../docs/screenshots')
const server = new TestServer(await freePort())
await server.start()
const browser = await launch()

async function shoot(
  name: string,
  steps: (page: Page) => Promise<void>,
  { width = 1280, height = 800, theme = 'light' } = {},
) {
  const context = await browser.newContext({ viewport: { width, height } })
  const page = await context.newPage()
  await page.addInitScript(t => localStorage.setItem('wireman-preferences', JSON.stringify({ theme: t })), theme)
  await page.goto(server.url)
  await page.locator('article.chosen .fix:enabled').first().waitFor()
  await page.waitForTimeout(600)
  await steps(page)
  await page.waitForTimeout(700)
  await page.screenshot({ path: join(OUT, `${name}.png`) })
  await context.close()
}

await shoot('path', async () => {})
await shoot('path-dark', async page => page.getByRole('button', { name: 'nearly empty', exact: true }).click(), {
  theme: 'dark',
})
await shoot('path-phone', async () => {}, { width: 390, height: 844 })
await shoot('edit', async page => {
  await page.locator('.lead[data-lead="l2"] > g').first().click()
  await page.keyboard.press('e')
})
await shoot('hours', async page => {
  await page.getByRole('link', { name: 'Hours' }).click()
  await page.getByTestId('says').filter({ hasText: 'On the air' }).waitFor()
  await page.getByRole('button', { name: /Odds in 300/ }).click()
  await page.getByText(/weathers tried|such events/).waitFor()
  await page.evaluate(() => scrollTo(0, 0))
})
await shoot('build-sheet', async page => page.getByRole('link', { name: 'Build sheet' }).click())
await shoot('short-circuit', async page => {
  await page.getByRole('link', { name: 'Short circuit' }).click()
  await page.locator('.row[data-part="hf"] > g').click()
  await page.locator('.bolt').waitFor()
})
await shoot('size', async page => {
  await page.keyboard.press('s')
  await page.getByText('Proven least').waitFor()
})
await shoot('schools', async page => {
  await page.getByRole('link', { name: 'Choices' }).click()
  await page.getByText('hold 13.8 V with a converter').click()
  await page.locator('.compare table').waitFor({ timeout: 20_000 })
  await page.locator('.compare').scrollIntoViewIfNeeded()
})
await shoot('shelf', async page => {
  await page.getByRole('link', { name: 'Shelf' }).click()
  await page.locator('.ways').waitFor()
})
await shoot('bench', async page => {
  await page.getByRole('link', { name: 'Bench' }).click()
  await page.getByTestId('step').waitFor()
  await page.goto(`${page.url().split('?')[0]}?step=keyed%20hf`)
  await page.getByTestId('should').waitFor()
  await page.getByLabel('Volts read').fill('11.83')
  await page.keyboard.press('Enter')
  await page.getByTestId('meaning').waitFor()
})
const quiet = (page: Page) => page.getByRole('link', { name: 'Noise' }).click()
await shoot('quiet-case', async page => {
  await quiet(page)
  await page.locator('.test').waitFor()
})
await shoot('quiet-survey', async page => {
  await quiet(page)
  await page.getByText('Survey', { exact: true }).click()
  await page.locator('.costs').waitFor()
})
await shoot('quiet-comb', async page => {
  await page.getByRole('link', { name: 'Stations' }).click()
  await page.getByRole('link', { name: 'Narrowboat Heron' }).click()
  await quiet(page)
  await page.getByText('Comb', { exact: true }).click()
  await page.getByText('Listen to a simulated evening').click()
  await page.getByText('in a simulated evening').waitFor()
})
await shoot('quiet-listen', async page => {
  await page.goto(`${page.url().replace(/\/$/, '')}/quiet?tool=live`)
  await page.getByText('Listen to a simulated evening').click()
  await page.waitForTimeout(4500)
  for (const state of ['On', 'Off', 'On', 'Off', 'On', 'Off']) {
    await page.getByRole('button', { name: state, exact: true }).click()
    await page.waitForTimeout(2200)
  }
})
await shoot(
  'quiet-choke',
  async page => {
    await quiet(page)
    await page.getByText('Choke', { exact: true }).click()
    await page.locator('canvas').waitFor()
  },
  { theme: 'dark' },
)
await shoot('mend', async page => {
  await page.keyboard.press('m')
  await page.locator('article.way').nth(2).waitFor()
})
await shoot('stations', async page => {
  await page.getByRole('link', { name: 'Stations' }).click()
  await page.getByText('passes every check').waitFor()
})
await shoot('four-questions', async page => {
  await page.getByRole('link', { name: 'Plan my own' }).first().click()
  await page.getByRole('button', { name: 'One VHF radio, 50 W more' }).click()
  await page.getByLabel('Mains supply beside it, through a gate').click()
  await page.getByLabel('Sun fills it, through a controller').click()
  await page.getByText('Passes every check').waitFor()
})
await browser.close()
await server.stop()
