import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Download } from 'playwright'
import { describe, expect, it } from 'vitest'
import { lettersIn } from '../data/pdf'
import { demoPlan } from '../data/plans'
import { journeys, openDemo, page, says, server } from './journey'

journeys('a page each')

const contentOf = async (download: Download) => readFileSync((await download.path())!)

describe('the demo stations', () => {
  it.each(['narrowboat-heron', 'moor-walk-kit'] as const)('%s is mended by the F key alone', async name => {
    await openDemo(name)
    await page.locator('.path.body').waitFor()
    for (let press = 0; press < 16; press++) {
      const before = await page.locator('.panel h2').textContent()
      if (before?.includes('Nothing')) break
      await page.locator('article.chosen .fix.first:enabled').waitFor()
      await page.keyboard.press('f')
      await page.waitForFunction(was => document.querySelector('.panel h2')?.textContent !== was, before)
    }
    await says('Nothing to mend')
  })
})

describe('the short circuit', () => {
  it('is chosen on the path: its current, what opens and when, what survives', async () => {
    await openDemo('tern-rock-light', '/proof')
    await page.locator('.row[data-part="hf"] > g').click()
    const side = page.locator('aside')
    await side.getByRole('heading', { name: 'A dead short at HF radio' }).waitFor()
    expect(await side.textContent()).toMatch(/23\d A prospective from House pack/)
    expect(await side.textContent()).toMatch(
      /30 A fuse at Fused block, port 1 opens first, after [\d.]+ ms to [\d.]+ ms/,
    )
    await page.locator('.port .opens').waitFor()
    await page.locator('.bolt').waitFor()
    expect(await page.locator('.lead.hot').count()).toBeGreaterThan(1)
  })
  it('is chosen in the table, and the unprotected post says that nothing opens', async () => {
    await openDemo('tern-rock-light', '/proof')
    await page.getByRole('row', { name: /^House pack/ }).click()
    await page.locator('aside').getByText('before the first fuse').first().waitFor()
    expect(await page.locator('aside .verdict').textContent()).toContain('Nothing opens here')
  })
})

describe('sizing', () => {
  it('shows its difference before it is taken, and undo takes it back', async () => {
    await openDemo('clean-bench')
    await page.locator('.path.body').waitFor()
    await page.keyboard.press('s')
    const dialog = page.getByRole('dialog')
    await dialog.getByText('main lead: 8 AWG → 10 AWG').waitFor()
    await dialog.getByText('Proven least').waitFor()
    await dialog.getByRole('button', { name: 'Take it' }).click()
    await page.locator('.lead[data-lead="l1"]').getByText('10 AWG').waitFor()
    await says('Nothing to mend')
    await page.keyboard.press('u')
    await page.locator('.lead[data-lead="l1"]').getByText('8 AWG').waitFor()
  })
})

describe('schools', () => {
  it('the other side is built, mended and sized, shown beside this one, taken as one step and taken back', async () => {
    await openDemo('tern-rock-light', '/schools')
    await page.getByText('Come to the same, or cannot be had here').waitFor()
    await page.getByText('The loads take 36 A with everything active').waitFor()
    await page.getByRole('button', { name: /hold 13.8 V with a converter/ }).click()
    const row = (name: RegExp) => page.getByRole('row', { name })
    await row(/^HF radio gets/).waitFor()
    // Both sides are mended: neither lets the radio starve.
    expect(await row(/^HF radio gets/).textContent()).toMatch(/11\.7\d–14\.\d\d V.*13\.\d\d–13\.\d\d V/)
    expect(await row(/^may be heard/).textContent()).toMatch(/1: Charge controller.*3: Charge controller, Regulator/)
    expect(await row(/^findings left/).textContent()).not.toMatch(/danger|failure/)
    await page.getByRole('button', { name: /^Take: hold/ }).click()
    await page.getByRole('button', { name: /hold 13.8 V with a converter/, pressed: true }).waitFor()
    await page.getByRole('link', { name: 'Path', exact: true }).click()
    await page.locator('.bar', { hasText: 'Regulator 13.8 V' }).first().waitFor()
    await says(/^Nothing to mend, 3 notes/)
    expect(await page.locator('article.finding').getByText('switches at').count()).toBe(3)
    await page.keyboard.press('u')
    await page.locator('article.finding').getByText('HF radio starves').first().waitFor()
    expect(await page.locator('.bar', { hasText: 'Regulator 13.8 V' }).count()).toBe(0)
  })
})

describe('the shelf', () => {
  it('is kept, goes out and comes in as CSV, and a bad file leaves it as it is', async () => {
    await page.goto(`${server.url}/shelf`)
    const amount = page.getByLabel('how much: 12 AWG, 105 °C')
    await amount.waitFor()
    await amount.fill('31 m')
    const saved = page.waitForResponse(r => r.url().endsWith('/api/shelf') && r.request().method() === 'PUT')
    await amount.press('Enter')
    await saved
    await page.reload()
    expect(await page.getByLabel('how much: 12 AWG, 105 °C').inputValue()).toBe('31 m')
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Export CSV' }).click(),
    ])
    const csv = (await contentOf(download)).toString()
    expect(csv).toContain('conductor,,12,,105,31')
    const folder = mkdtempSync(join(tmpdir(), 'wireman-shelf-'))
    writeFileSync(join(folder, 'bad.csv'), 'what,type,rated_a,count\nfuse,blade,many,1\n')
    await page.getByTestId('shelf-import').setInputFiles(join(folder, 'bad.csv'))
    await page.getByText('line 2: ratedA is many').waitFor()
    expect(await page.getByLabel('how much: 12 AWG, 105 °C').inputValue()).toBe('31 m')
    writeFileSync(join(folder, 'good.csv'), csv.replace('conductor,,12,,105,31', 'conductor,,12,,105,7'))
    await page.getByTestId('shelf-import').setInputFiles(join(folder, 'good.csv'))
    await page.waitForFunction(
      () => document.querySelector<HTMLInputElement>('[aria-label="how much: 12 AWG, 105 °C"]')?.value === '7 m',
    )
    await page
      .getByText('your adapter')
      .first()
      .waitFor({ state: 'attached' })
      .catch(() => null)
  })
  it('of two windows the second is told, and nothing is overwritten', async () => {
    const { revision, items } = (await (await fetch(`${server.url}/api/shelf`)).json()) as {
      revision: number
      items: unknown[]
    }
    const put = (baseRevision: number) =>
      fetch(`${server.url}/api/shelf`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ baseRevision, items }),
      })
    expect((await put(revision)).status).toBe(200)
    const late = await put(revision)
    expect(late.status).toBe(409)
    expect(await late.json()).toMatchObject({ status: 'conflict', revision: revision + 1 })
    expect(
      (
        await fetch(`${server.url}/api/shelf`, {
          method: 'PUT',
          headers: { 'content-type': 'application/json' },
          body: '{"baseRevision":1,"items":[{"what":"banana"}]}',
        })
      ).status,
    ).toBe(400)
  })
})

describe('the build sheet', () => {
  it('has the hook-up order, the shopping list and labels, and goes out in every format', async () => {
    await openDemo('tern-rock-light', '/build')
    await page.getByText('Set Charge controller for House pack').waitFor()
    await page.getByRole('heading', { name: 'To buy' }).waitFor()
    await page.getByRole('heading', { name: 'Take down' }).waitFor()
    for (const [label, start] of [
      ['Build sheet PDF', '%PDF-'],
      ['Cut list CSV', 'lead,name'],
      ['Path SVG', '<svg'],
      ['Labels, tape', '%PDF-'],
      ['Netlist', '* Tern Rock'],
      ['Shopping CSV', 'what,unit'],
    ] as const) {
      await page.getByRole('combobox', { name: 'Export' }).click()
      const [download] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('option', { name: label }).click(),
      ])
      expect((await contentOf(download)).toString('latin1').slice(0, 20)).toContain(start)
    }
  })

  it('has names in any script on paper, with letters that are fetched for them', async () => {
    const plan = demoPlan('clean-bench')
    const [name, part] = ['Маяк', '站点']
    const named = { ...plan, name, parts: plan.parts.map((p, i) => (i ? p : { ...p, name: part })) }
    await page.goto(`${server.url}/station/${await server.made(named)}/build`)
    await page.locator('img.drawn').waitFor()
    const print = async () => {
      await page.getByRole('combobox', { name: 'Export' }).click()
      await page.getByRole('option', { name: 'Build sheet PDF' }).click()
    }
    const [download] = await Promise.all([page.waitForEvent('download'), print()])
    const embedded = lettersIn(await contentOf(download))
    for (const letter of name + part) expect(embedded).toContain(letter)
    // Not printed around where they cannot be had.
    await page.route(/unifont/, route => route.abort())
    await print()
    await page.getByText('No PDF was made').waitFor()
  })

  it('goes to PDF and is read back: which state of the plan, why not yet, its leads and their order', async () => {
    await openDemo('tern-rock-light', '/build')
    await page.locator('img.drawn').waitFor()
    await page.getByRole('combobox', { name: 'Export' }).click()
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('option', { name: 'Build sheet PDF' }).click(),
    ])
    const pdf = (await contentOf(download)).toString('latin1')
    const said = [...pdf.matchAll(/\(((?:[^()\\]|\\.)*)\) Tj/g)].map(m => m[1]!.replaceAll(/\\(.)/g, '$1'))
    const text = said.join(' ')
    expect(text).toMatch(/Build sheet, revision \d+ · /)
    expect(text).toContain('Not ready to build: Fuse too far from House pack')
    for (const name of ['main lead', 'HF lead', 'VHF lead', 'computer lead', 'lamp lead', 'panel lead'])
      expect(text).toContain(`${name}: `)
    const at = (words: string) => text.indexOf(words)
    expect(at('main lead: first Fused block feed, then House pack')).toBeGreaterThan(0)
    expect(at('Fit the 50 A fuse of main lead')).toBeGreaterThan(at('main lead: first Fused block feed'))
    expect(at('Fit the 30 A fuse of Fused block p1')).toBeGreaterThan(at('Uncover Two folding panels'))
    expect(pdf.match(/\/Type \/Page\b/g)!.length).toBeLessThanOrEqual(3)
    // As the browser prints it: nothing of the screen's tools, and no label cut in two.
    const printed = await page.pdf({ format: 'A4' })
    expect(printed.toString('latin1').match(/\/Type \/Page\b/g)!.length).toBeGreaterThan(1)
    await page.emulateMedia({ media: 'print' })
    expect(await page.locator('.tools').first().isVisible()).toBe(false)
    const label = page.locator('.label').first()
    expect(await label.evaluate(e => getComputedStyle(e).breakInside)).toBe('avoid')
    await page.emulateMedia({ media: 'screen' })
  })
})
