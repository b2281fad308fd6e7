import type { Page } from 'playwright'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { writeWav } from '../../core/formats/wav'
import { freePort, launch, TestServer } from '../e2e/browser'
import { madeUpPlan } from './plans'
import { tenSeconds } from './noise'
import { spread } from './core'
import type { Plan } from '../../core/plan/schema'
import { demoPlan } from '../data/plans'

/**
 * Edits a lead's length by its figure in the picture, over and over, and times each from the Enter key to the first
 * frame
 * in which the load's new arriving voltage stands on the screen.
 */
export async function editToRepaint(page: Page, leadId: string, loadId: string, edits: number): Promise<number[]> {
  // The transpiler wraps functions in a helper that the page does not have.
  await page.evaluate('globalThis.__name = f => f')
  return page.evaluate(
    async ({ leadId, loadId, edits }) => {
      const frame = () => new Promise(resolve => requestAnimationFrame(resolve))
      const row = document.querySelector(`.row[data-part="${loadId}"]`)!
      // Of the row alone: a search of the whole picture at each frame would be timed as well.
      const shown = () => {
        if (!row.isConnected) throw new Error('the row was drawn anew')
        return [...row.querySelectorAll('.volts')].map(v => v.textContent).join()
      }
      const times: number[] = []
      for (let i = 0; i < edits; i++) {
        document
          .querySelectorAll<SVGTSpanElement>(`.lead[data-lead="${leadId}"] .token`)[1]!
          .dispatchEvent(new MouseEvent('click', { bubbles: true }))
        let input: HTMLInputElement | null = null
        while (!(input = document.querySelector<HTMLInputElement>('.token input'))) await frame()
        input.value = i % 2 ? '1.2 m' : '2.4 m'
        input.dispatchEvent(new Event('input', { bubbles: true }))
        await frame()
        const before = shown()
        const start = performance.now()
        input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
        while (shown() === before) await frame()
        await frame()
        times.push(performance.now() - start)
        while (document.querySelector('.token input')) await frame()
      }
      return times
    },
    { leadId, loadId, edits },
  )
}

export async function openPlan(page: Page, server: TestServer, plan: Plan) {
  const made = (await (
    await fetch(`${server.url}/api/stations`, {
      method: 'POST',
      body: JSON.stringify({ plan }),
      headers: { 'content-type': 'application/json' },
    })
  ).json()) as { id: string }
  await page.goto(`${server.url}/station/${made.id}`)
  await page.locator('.row .volts').first().waitFor()
  await page.waitForTimeout(1500)
}

export async function benchBrowser(print: (line: string) => void) {
  const server = new TestServer(await freePort())
  const browser = await launch()
  const pages: number[] = []
  for (let i = 0; i < 5; i++) {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
    const began = performance.now()
    server.spawn()
    while (!(await fetch(`${server.url}/icon.svg`).catch(() => null))) await new Promise(r => setTimeout(r, 20))
    await page.goto(server.url, { waitUntil: 'commit' })
    await page.locator('article.finding').first().waitFor()
    const took = performance.now() - began
    // The first start also makes the database; the later ones are the usual case.
    if (i) pages.push(took)
    else print(`server, first start with a new database: ${took.toFixed(0)} ms to the first page with its findings`)
    await page.context().close()
    await server.kill('SIGTERM')
  }
  print(
    `server, cold start to the first page with its findings: median ${spread(pages).median.toFixed(0)} ms (aim 3 s)`,
  )
  await server.start()
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  for (const [name, plan, lead, load, aimMs] of [
    ['Tern Rock light', demoPlan('tern-rock-light'), 'l2', 'hf', 100],
    ['60 parts', madeUpPlan(60), 'l-load0-0', 'load0-0', 100],
    ['250 parts', madeUpPlan(250), 'l-load0-0', 'load0-0', 150],
  ] as const) {
    await openPlan(page, server, plan)
    await editToRepaint(page, lead, load, 6)
    const { median, p95 } = spread(await editToRepaint(page, lead, load, 40))
    const [half, most] = [median, p95].map(ms => `${ms.toFixed(0)} ms`)
    print(`edit to repaint in Chromium, ${name}: median ${half}, 95 % ${most} (aim ${aimMs} ms)`)
  }
  print(
    'drop of a 10 s, 192 kS/s I/Q recording to its comb on the screen in Chromium: median ' +
      `${spread(await recordingToComb(page, server)).median.toFixed(0)} ms (aim 1 s for the worker)`,
  )
  await browser.close()
  await server.stop()
}

/** From choosing the file to its comb standing beside the picture; each time in a fresh worker. */
async function recordingToComb(page: Page, server: TestServer): Promise<number[]> {
  const folder = mkdtempSync(join(tmpdir(), 'wireman-bench-'))
  await page.goto(`${server.url}/station/${await server.made(demoPlan('tern-rock-light'))}/quiet?tool=comb`)
  const times: number[] = []
  const wav = writeWav(tenSeconds())
  for (let i = 0; i < 5; i++) {
    const path = join(folder, `evening-${i}.wav`)
    writeFileSync(path, wav)
    const input = page.getByTestId('listen')
    await input.evaluate((e: HTMLElement) =>
      e.addEventListener('change', () => ((window as unknown as { began: number }).began = performance.now()), {
        capture: true,
        once: true,
      }),
    )
    await input.setInputFiles(path)
    await page
      .locator('.picture h2')
      .filter({ hasText: `One comb in evening-${i}.wav` })
      .waitFor()
    times.push(await page.evaluate(() => performance.now() - (window as unknown as { began: number }).began))
  }
  rmSync(folder, { recursive: true })
  return times
}
