/* eslint-disable max-lines -- one server and one browser for the whole journey */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from 'playwright'
import { beforeEach, describe, expect, it } from 'vitest'
import { demoPlan } from '../data/plans'
import { PATIENCE_MS, sparesBytes } from './browser'
import { browser, journeys, openDemo, page, says, server } from './journey'

journeys('a page each')
const card = (check: string) => page.locator(`article[data-check="${check}"]`)
const saved = () => page.locator('[data-testid="saved"]', { hasText: 'saved' }).waitFor()

const file = (name: string, text: string) => {
  const path = join(mkdtempSync(join(tmpdir(), 'wireman-file-')), name)
  writeFileSync(path, text)
  return path
}

describe('a station', () => {
  it('a fresh start opens on Tern Rock with its worst finding; its fix is taken, gone, and undone', async () => {
    await page.goto(server.url)
    await page.waitForURL(/\/station\//)
    await says('5 things to mend, 1 note')
    const first = page.locator('article.finding').first()
    expect(await first.textContent()).toContain('Fuse too far from House pack')
    await first.getByRole('button', { name: /Move the fuse/ }).click()
    await says('4 things to mend')
    expect(await card('fuse-place').count()).toBe(0)
    await saved()
    await page.keyboard.press('Control+z')
    await says('5 things to mend, 1 note')
    await card('fuse-place').waitFor()
  })

  it('every finding is mended by the F key alone', async () => {
    await openDemo('tern-rock-evening')
    await says('3 things to mend')
    for (let left = 3; left > 0; left--) {
      await page.locator('article.chosen .fix.first:enabled').waitFor()
      await page.keyboard.press('f')
      await says(['Nothing to mend', '1 thing to mend', '2 things to mend'][left - 1]!)
    }
    await page.locator('[data-part="hf"] [aria-label="passed"]').waitFor()
  })

  it('a radio is added to a free port from the keyboard', async () => {
    await openDemo('tern-rock-evening')
    await says('3 things to mend')
    await page.keyboard.press('a')
    await page.getByRole('combobox', { name: 'Find in the catalogue' }).waitFor()
    await page.keyboard.type('port')
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Enter')
    await page.locator('svg.path').getByText('Portable radio').waitFor()
    await page.locator('[data-part="qrp"]').waitFor()
    await saved()
    await page.reload()
    await page.locator('[data-part="qrp"]').waitFor()
  })

  it('M mends all: three ways side by side, one taken as one step and undone', async () => {
    await openDemo('tern-rock-evening')
    await says('3 things to mend')
    await page.keyboard.press('m')
    const ways = page.locator('article.way')
    await ways.nth(2).waitFor()
    expect(await ways.locator('h3').allTextContents()).toEqual([
      'Other gear, all else as it is',
      'Turn HF radio down to 50 W',
      'Move HF radio 1.4 m closer',
    ])
    await ways.nth(1).getByText('Nothing is left to mend.').waitFor()
    await ways.nth(1).getByRole('button', { name: 'Take this way' }).click()
    await says('Nothing to mend')
    await page.keyboard.press('Control+z')
    await says('3 things to mend')
  })

  it('arrows walk the path, Delete removes, and undo brings back', async () => {
    await openDemo('tern-rock-evening')
    await page.locator('.row[data-part="hf"] > g').click()
    await page.keyboard.press('ArrowDown')
    await page.locator('.row.selected[data-part="vhf"]').waitFor()
    await page.keyboard.press('ArrowLeft')
    await page.locator('.lead.selected[data-lead="l3"]').waitFor()
    await page.keyboard.press('Delete')
    await card('island').waitFor()
    await page.keyboard.press('u')
    await card('island').waitFor({ state: 'detached' })
    await page.keyboard.press('r')
    await card('island').waitFor()
    await page.keyboard.press('Control+z')
    await card('island').waitFor({ state: 'detached' })
    await page.keyboard.press('?')
    await page.getByRole('dialog', { name: 'Keys' }).waitFor()
  })

  it('a plan broken by hand is told in words, and what was typed stays until it is right', async () => {
    await openDemo('clean-bench')
    await says('Nothing to mend')
    await page.locator('.lead[data-lead="l2"] .token').nth(1).click()
    const input = page.getByLabel('length')
    await input.fill('-2')
    await input.press('Enter')
    await page.getByRole('alert').filter({ hasText: 'lengthM is −2; right would be above 0' }).waitFor()
    expect(await input.inputValue()).toBe('-2')
    await input.fill('30 ft')
    await input.press('Enter')
    await card('arrival-under').or(card('drop')).first().waitFor()
    await page.locator('.lead[data-lead="l2"]').getByText('9.14 m').waitFor()
  })

  it('figures are edited in the form of a part, and refused there', async () => {
    await openDemo('clean-bench')
    await page.locator('.row[data-part="vhf"] > g').click()
    await page.keyboard.press('e')
    const form = page.getByRole('dialog', { name: 'Edit VHF radio' })
    const least = form.getByLabel('Needs at least')
    await least.fill('20 V')
    await least.press('Enter')
    await form.getByRole('alert').filter({ hasText: 'minV 20 is above maxV 15.9' }).waitFor()
    await least.fill('13.7 V')
    await least.press('Enter')
    await card('arrival-under').waitFor()
    await page.keyboard.press('Escape')
    await form.waitFor({ state: 'detached' })
  })

  it('a condition is chosen, and the picture shows it', async () => {
    await openDemo('tern-rock-evening')
    await page.getByRole('button', { name: 'nearly empty', exact: true }).click()
    await page.locator('.box[data-part="bat"]').getByText('12.64 V').waitFor()
    await page.keyboard.press('w')
    await page.locator('.box[data-part="bat"]').getByText('12.6–13.6 V').waitFor()
  })
})

describe('stations', () => {
  beforeEach(async () => {
    await page.goto(`${server.url}/stations`)
    await page.getByRole('heading', { name: 'Stations' }).waitFor()
  })

  it('a damaged file is refused with its faults, and nothing is lost', async () => {
    await page.locator('.list li').first().waitFor()
    const before = await page.locator('.list li').count()
    await page
      .getByTestId('import')
      .setInputFiles(
        file(
          'damaged.json',
          readFileSync(join(import.meta.dirname, '../../demo/clean-bench.json'), 'utf8').slice(0, 700),
        ),
      )
    await page.getByRole('alert').filter({ hasText: 'damaged.json was not imported' }).waitFor()
    await page.getByTestId('import').setInputFiles(
      file(
        'wrong.json',
        JSON.stringify({
          format: 'wireman-plan',
          version: 1,
          name: 'w',
          parts: [],
          leads: [{ id: 'l1', from: 'a', to: 'b', lengthM: 0, conductor: { awg: 10 } }],
        }),
      ),
    )
    await page.getByRole('alert').filter({ hasText: '/leads/0/lengthM' }).waitFor()
    expect(await page.locator('.list li').count()).toBe(before)
  })

  it('a plan goes out as a file and comes back the same', async () => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page
        .locator('.list li')
        .filter({ hasText: 'Clean bench' })
        .last()
        .getByRole('button', { name: 'Export' })
        .click(),
    ])
    const text = readFileSync(await download.path(), 'utf8')
    expect(download.suggestedFilename()).toBe('clean-bench.json')
    await page.getByTestId('import').setInputFiles(file('again.json', text))
    await page.waitForURL(/\/station\//)
    await says('Nothing to mend')
  })

  it('is duplicated, deleted, and put back', async () => {
    const rows = page.locator('.list li')
    const before = await rows.count()
    await rows.filter({ hasText: 'Clean bench' }).first().getByRole('button', { name: 'Duplicate' }).click()
    await rows.nth(before).waitFor()
    await page.getByRole('button', { name: 'Delete Clean bench (copy)' }).first().click()
    await page.getByRole('button', { name: 'Delete Clean bench', exact: true }).first().click()
    await page.getByRole('button', { name: 'Put Clean bench (copy) back' }).waitFor()
    // Several of them, and after a reload.
    await page.reload()
    await page.getByRole('button', { name: 'Put Clean bench (copy) back' }).click()
    await page.getByRole('button', { name: 'Put Clean bench back' }).first().click()
    await rows.nth(before).waitFor()
  })

  it('a station comes from four questions, and its build sheet is printed', async () => {
    await page.getByRole('button', { name: 'Plan my own' }).click()
    await page.getByRole('button', { name: 'One VHF radio, 50 W more' }).click()
    await page.getByLabel('From what').click()
    await page.getByRole('option', { name: 'LiFePO4 4 cells, 100 Ah' }).click()
    await page.getByLabel('How far').fill('far')
    await page.getByRole('alert').filter({ hasText: 'cannot be read' }).waitFor()
    await page.getByLabel('How far').fill('5 ft')
    await page.getByLabel('What wire').fill('10 AWG')
    await page.getByRole('button', { name: 'Make the station' }).click()
    await page.waitForURL(/\/station\//)
    await page.locator('[data-part="vhf"]').waitFor()
    await says('Nothing to mend')
    await page.getByRole('link', { name: 'Build sheet' }).click()
    await page.getByRole('heading', { name: 'Cut list' }).waitFor()
    expect(await page.locator('.cut tbody tr').count()).toBeGreaterThanOrEqual(3)
    await page.emulateMedia({ media: 'print' })
    expect(await page.locator('.top').isVisible()).toBe(false)
    for (const paper of ['A4', 'Letter'] as const) {
      const pdf = await page.pdf({ format: paper })
      expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
      expect(pdf.length).toBeGreaterThan(10000)
    }
  })
})

describe('saving as one works', () => {
  it('everything is there after a reload, and after the server was killed', async () => {
    await openDemo('clean-bench')
    await says('Nothing to mend')
    await page.locator('.lead[data-lead="l3"] .token').first().click()
    await page.getByLabel('conductor').fill('6 mm2')
    await page.keyboard.press('Enter')
    await page.locator('.lead[data-lead="l3"]').getByText('6 mm²').waitFor()
    await page.locator('[data-testid="saved"]', { hasText: 'revision 2' }).waitFor()
    await server.kill('SIGKILL')
    await server.start()
    await page.reload()
    await page.locator('.lead[data-lead="l3"]').getByText('6 mm²').waitFor()
  })

  it('an edit made while the server is away is kept and saved when it is back', async () => {
    await openDemo('clean-bench')
    await says('Nothing to mend')
    await server.kill('SIGKILL')
    await page.locator('.lead[data-lead="l3"] .token').nth(1).click()
    await page.getByLabel('length').fill('2.2 m')
    await page.keyboard.press('Enter')
    await page.locator('[data-testid="saved"]', { hasText: 'not saved: the server does not answer' }).waitFor()
    await server.start()
    await page.locator('[data-testid="saved"]', { hasText: 'revision 2' }).waitFor()
  })

  // What is on its way just then is told, and wants a reload: here nothing is fetched ahead.
  it('a part of the page that had not come when the server went comes when it is back', async () => {
    await sparesBytes(page)
    await openDemo('clean-bench')
    await page.waitForLoadState('networkidle')
    await server.kill('SIGKILL')
    await page.keyboard.press('?')
    await server.start()
    await page.getByRole('dialog', { name: 'Keys' }).waitFor()
  })

  it('a view that had not come when the server went is told of, and opens when it is back', async () => {
    await sparesBytes(page)
    await openDemo('clean-bench')
    await page.waitForLoadState('networkidle')
    await server.kill('SIGKILL')
    await page.getByRole('link', { name: 'Build sheet', exact: true }).click()
    await page.getByTestId('reach').filter({ hasText: 'does not answer' }).waitFor()
    await server.start()
    await page.getByText('Cut list').first().waitFor()
  })

  it('a station opens all its views while the server is away', async () => {
    await openDemo('clean-bench')
    const scripts = () => page.evaluate(() => performance.getEntriesByType('resource').length)
    await page.waitForLoadState('networkidle')
    for (let before = 0, now = await scripts(); now > before; before = now, now = await scripts())
      await page.waitForTimeout(2500)
    await server.kill('SIGKILL')
    for (const [link, text] of [
      ['Build sheet', 'Cut list'],
      ['Choices', 'Schools'],
      ['Path', 'Nothing to mend'],
    ]) {
      await page.getByRole('link', { name: link, exact: true }).click()
      await page.getByText(text!).first().waitFor()
    }
    await server.start()
  })

  it('a save that is slow, or fails, outlives the opening of another station', async () => {
    const ids = [await server.made(demoPlan('clean-bench')), await server.made(demoPlan('moor-walk-kit'))]
    const lengthOnServer = async () => {
      const { plan } = (await (await fetch(`${server.url}/api/stations/${ids[0]}`)).json()) as {
        plan: ReturnType<typeof demoPlan>
      }
      return plan.leads.find(l => l.id === 'l3')!.lengthM
    }
    const saves = `**/api/stations/${ids[0]}`
    const edit = async (length: string) => {
      await page.goto(`${server.url}/station/${ids[0]}`)
      await says('Nothing to mend')
      await page.locator('.lead[data-lead="l3"] .token').nth(1).click()
      await page.getByLabel('length').fill(length)
      await page.keyboard.press('Enter')
    }
    /** By the list, as one goes: the page is not loaded anew. */
    const openOther = async () => {
      await page.getByRole('link', { name: 'Stations', exact: true }).first().click()
      await page.locator(`a[href="/station/${ids[1]}"]`).first().click()
      await page.waitForURL(`**/station/${ids[1]}`)
      await page.locator('.path.body').waitFor()
    }
    let isSlow = true
    await page.route(saves, async route => {
      if (route.request().method() !== 'PUT') return route.continue()
      if (!isSlow) return route.abort()
      await new Promise(r => setTimeout(r, 2500))
      await route.continue().catch(() => undefined)
    })
    await edit('2.2 m')
    await openOther()
    await expect.poll(lengthOnServer, { timeout: 10000 }).toBe(2.2)
    isSlow = false
    await edit('2.4 m')
    await openOther()
    expect(await lengthOnServer()).toBe(2.2)
    await page.unroute(saves)
    // It is sent with the next look at the server, whatever station is open.
    await page.reload()
    await expect.poll(lengthOnServer, { timeout: 20000 }).toBe(2.4)
    await page.goto(`${server.url}/station/${ids[0]}`)
    await page.locator('.lead[data-lead="l3"]').getByText('2.4 m').waitFor()
  }, 90_000)

  it('two windows on one station do not overwrite each other silently', async () => {
    // One that does not hear what the other saves, nor shares with it what a browser keeps.
    await page.route('**/api/changes', route => route.abort())
    await openDemo('clean-bench')
    await says('Nothing to mend')
    const elsewhere = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    elsewhere.setDefaultTimeout(PATIENCE_MS)
    const other = await elsewhere.newPage()
    await other.goto(page.url())
    await other.locator('.lead[data-lead="l3"]').waitFor()
    const setLength = async (on: Page, text: string) => {
      await on.locator('.lead[data-lead="l3"] .token').nth(1).click()
      await on.getByLabel('length').fill(text)
      await on.keyboard.press('Enter')
    }
    // Nor does it look when it comes to the front.
    await page.route('**/api/stations/*', route =>
      route.request().method() === 'GET' ? route.abort() : route.continue(),
    )
    await setLength(other, '3 m')
    await other.locator('[data-testid="saved"]', { hasText: 'revision 2' }).waitFor()
    await setLength(page, '4 m')
    const dialog = page.getByRole('dialog', { name: 'Changed in another window' })
    await dialog
      .getByText('Both changed')
      .getByText(/: Length, one way$/)
      .waitFor()
    await page.getByRole('button', { name: 'Take theirs' }).click()
    await page.locator('.p-dialog-mask').waitFor({ state: 'detached' })
    await page.locator('.lead[data-lead="l3"]').getByText('3 m').waitFor()
    await page.keyboard.press('Control+z')
    await page.locator('.lead[data-lead="l3"]').getByText('4 m').waitFor()
    await page.locator('[data-testid="saved"]', { hasText: 'revision 3' }).waitFor()
    await elsewhere.close()
  })

  it('one can go back to an earlier revision, and forward again', async () => {
    await openDemo('tern-rock-evening')
    await says('3 things to mend')
    await page.locator('article.chosen .fix.first:enabled').waitFor()
    await page.keyboard.press('f')
    await says('2 things to mend')
    await page.locator('[data-testid="saved"]', { hasText: 'revision 2' }).waitFor()
    await page.getByTestId('saved').click()
    await page.getByRole('button', { name: 'Go back to it' }).last().click()
    await says('3 things to mend')
    await page.locator('[data-testid="saved"]', { hasText: 'revision 3' }).waitFor()
    await page.keyboard.press('Control+z')
    await says('2 things to mend')
  })

  it('units and theme are remembered', async () => {
    await openDemo('clean-bench')
    await page.getByTitle('Units and theme').click()
    await page
      .getByRole('button', { name: 'ft', exact: true })
      .or(page.getByText('ft', { exact: true }))
      .first()
      .click()
    await page.getByText('dark', { exact: true }).click()
    await page.keyboard.press('Escape')
    await page.locator('.lead[data-lead="l1"]').getByText('2.62 ft').waitFor()
    await page.reload()
    await page.locator('.lead[data-lead="l1"]').getByText('2.62 ft').waitFor()
    expect(await page.locator('html.dark').count()).toBe(1)
  })

  it('works at the width of a phone', async () => {
    await page.setViewportSize({ width: 390, height: 844 })
    await openDemo('tern-rock-evening')
    await says('3 things to mend')
    await card('arrival-under').locator('.title').click()
    await card('arrival-under').getByRole('button', { name: '10 AWG in HF lead' }).click()
    await says('2 things to mend')
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  })
})
