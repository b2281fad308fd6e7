import { describe, expect, it } from 'vitest'
import { demoPlan } from '../data/plans'
import { answersLate } from './browser'
import { context, fresh, journeys, openDemo, page, planOf, says, server } from './journey'

/** A plan changed by hand: joined, dragged, taken out, copied, entered, undone, linked to. */

journeys('a page each', { isCalm: true, preferences: { theme: 'light', knowsDemo: true } })

const saved = (revision: number) => page.locator('[data-testid="saved"]', { hasText: `revision ${revision}` }).waitFor()
const part = (id: string) => page.locator(`[data-part="${id}"]`).first()

describe('direct change', () => {
  it('J joins a load to another port with the arrows and Enter, and undo takes it back', async () => {
    const id = await openDemo('tern-rock-light')
    await page.locator('.row[data-part="vhf"] > g').first().click()
    await page.keyboard.press('j')
    const list = page.getByRole('listbox', { name: /onto/ })
    await list.waitFor()
    const first = await list.getByRole('option').first().textContent()
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('ArrowUp')
    await page.keyboard.press('Enter')
    await saved(2)
    const moved = (await planOf(id)).leads.find(l => l.to === 'vhf')!
    expect(first).toContain(moved.from.startsWith('blk') ? 'Fused block' : '')
    expect(moved.from).not.toBe(demoPlan('tern-rock-light').leads.find(l => l.to === 'vhf')!.from)
    await page.keyboard.press('Control+z')
    await saved(3)
    expect((await planOf(id)).leads).toEqual(demoPlan('tern-rock-light').leads)
  })

  it("a lead's end is dragged onto another part, and lands where one says", async () => {
    const id = await openDemo('tern-rock-light')
    const from = (await page.locator('.lead[data-lead="l2"] .wire, .lead[data-lead="l2"] path').first().boundingBox())!
    const onto = (await part('mains').boundingBox())!
    await page.mouse.move(from.x + 20, from.y + from.height / 2)
    await page.mouse.down()
    await page.mouse.move(from.x - 60, from.y + 60, { steps: 4 })
    await page.mouse.move(onto.x + onto.width / 2, onto.y + onto.height / 2, { steps: 6 })
    await page.locator('.held').waitFor()
    await page.mouse.up()
    await page
      .getByRole('listbox')
      .getByRole('option', { name: /^Mains supply/ })
      .click()
    await saved(2)
    const before = demoPlan('tern-rock-light').leads.find(l => l.id === 'l2')!
    const lead = (await planOf(id)).leads.find(l => l.id === 'l2')!
    expect([lead.from, lead.to]).toContain('mains')
    expect([lead.from, lead.to].some(t => t === before.from || t === before.to)).toBe(true)
  })

  it('a finger that rests on a load takes it to another port; one that moves at once scrolls', async () => {
    await fresh({ width: 390, height: 844, isTouched: true, isCalm: true, preferences: { knowsDemo: true } })
    const id = await openDemo('tern-rock-light')
    const touch = await context.newCDPSession(page)
    const finger = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...touchPoints: { x: number; y: number }[]) =>
      touch.send('Input.dispatchTouchEvent', { type, touchPoints })
    const middle = async (partId: string) => {
      const box = (await page.locator(`article[data-part="${partId}"] h3`).boundingBox())!
      return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
    }
    await page.locator('article[data-part="vhf"]').scrollIntoViewIfNeeded()
    const before = await page.evaluate(() => scrollY)
    const from = await middle('vhf')
    await finger('touchStart', from)
    for (const by of [15, 40, 80, 120]) await finger('touchMove', { x: from.x, y: from.y - by })
    await finger('touchEnd')
    expect(await page.locator('.held').count()).toBe(0)
    await expect.poll(() => page.evaluate(() => scrollY)).not.toBe(before)

    await page.locator('article[data-part="vhf"]').scrollIntoViewIfNeeded()
    const rests = await middle('vhf')
    await finger('touchStart', rests)
    await page.locator('.held').filter({ hasText: 'VHF radio' }).waitFor()
    // Held at the upper edge, the page goes along until the block is there.
    await finger('touchMove', { x: rests.x, y: 40 })
    await page.waitForFunction(
      () => document.querySelector('article[data-part="blk"]')!.getBoundingClientRect().top > 90,
    )
    await finger('touchMove', { x: rests.x, y: 420 })
    await finger('touchMove', await middle('blk'))
    await page.locator('article.lit[data-part="blk"]').waitFor()
    await finger('touchEnd')
    await page.getByRole('listbox').getByRole('option', { name: 'Fused block, port 5' }).click()
    await saved(2)
    expect((await planOf(id)).leads.find(l => l.to === 'vhf')!.from).toBe('blk.p5')
  })

  it('removing a block asks what its loads hang on; several go at once; undo brings all back', async () => {
    const id = await openDemo('tern-rock-light')
    const plan = demoPlan('tern-rock-light')
    await page.locator('.bar').getByText('Fused block', { exact: true }).click()
    await page.keyboard.press('Delete')
    const dialog = page.getByRole('dialog', { name: /^Remove/ })
    await dialog.getByText(/On it hang/).waitFor()
    await dialog.getByRole('button', { name: /^Keep/ }).click()
    await page.keyboard.press('Escape')
    await page.locator('.row[data-part="vhf"] > g').first().click()
    await page
      .locator('.row[data-part="hf"] > g')
      .first()
      .click({ modifiers: ['Shift'] })
    await page.getByRole('toolbar', { name: 'What can be done' }).getByText('2 things').waitFor()
    await page.keyboard.press('Delete')
    await saved(2)
    expect((await planOf(id)).parts).toHaveLength(plan.parts.length - 2)
    await page.keyboard.press('Control+z')
    await saved(3)
    expect(await planOf(id)).toEqual(plan)
  })

  it('copies a branch to another station', async () => {
    const bench = await server.made({ ...demoPlan('clean-bench'), name: 'Garden bench' })
    await openDemo('tern-rock-light')
    await page.locator('.row[data-part="hf"] > g').first().click()
    await page.getByRole('button', { name: 'Copy to…' }).click()
    await page.getByLabel('Station to copy to').click()
    await page.getByRole('option', { name: 'Garden bench' }).click()
    await page.getByRole('button', { name: 'Copy', exact: true }).click()
    await page.getByText('Copied to Garden bench').waitFor()
    expect((await planOf(bench)).parts).toHaveLength(demoPlan('clean-bench').parts.length + 1)
  })

  it('enters what no field was there for: a lead name, a place, a load state, a note; all by name', async () => {
    const id = await openDemo('tern-rock-light')
    await page.locator('.lead[data-lead="l2"] > g').first().click()
    await page.getByRole('button', { name: 'Edit E' }).click()
    const form = page.getByRole('dialog', { name: /^Edit/ })
    await form.getByLabel('Name').first().fill('red and black')
    await page.keyboard.press('Enter')
    await saved(2)
    await form
      .getByText(/^Fused block, port \d/)
      .first()
      .waitFor()
    await page.keyboard.press('Escape')
    await page.getByTitle(/name, site, places/).click()
    const site = page.getByRole('dialog', { name: 'The station' })
    await site.getByLabel('New place').fill('Lamp room')
    await site.getByLabel('New place').press('Enter')
    await site.getByText('lamp-room').waitFor()
    await site.getByLabel('New load state').fill('net night')
    await site.getByLabel('New load state').press('Enter')
    await site.getByRole('textbox', { name: 'Name of load state 3' }).waitFor()
    await page.keyboard.press('Escape')
    await page.locator('[data-testid="saved"].saved').waitFor()
    await expect.poll(async () => (await planOf(id)).loadStates?.length).toBe(3)
    const plan = await planOf(id)
    expect(plan.leads.find(l => l.id === 'l2')!.name).toBe('red and black')
    expect(plan.site!.zones).toHaveLength(1)
    expect(plan.loadStates!.map(s => s.name)).toContain('net night')
  })

  it('a link shows what one saw', async () => {
    await openDemo('tern-rock-light')
    await page.getByRole('button', { name: 'nearly empty', exact: true }).click()
    await page.waitForURL(/state=low/)
    const link = page.url()
    await page.goto(`${server.url}/stations`)
    await page.goto(link)
    await page.getByRole('button', { name: 'nearly empty', exact: true, pressed: true }).waitFor()
  })

  it('a wrong link is answered in words, with a way on', async () => {
    await page.goto(`${server.url}/nowhere`)
    await page.getByRole('heading', { name: 'There is nothing at this address' }).waitFor()
    await page.getByRole('link', { name: /All stations/ }).click()
    await page.getByRole('heading', { name: 'Stations' }).waitFor()
    await page.goto(`${server.url}/station/no-such-one`)
    await page.getByRole('link', { name: 'All stations' }).waitFor()
    await openDemo('tern-rock-light', '?state=upside/down&way=moon')
    await page.getByRole('button', { name: /^worst of/, pressed: true }).waitFor()
  })

  it('undo says what it undid, on every view, and after a reload', async () => {
    const id = await openDemo('tern-rock-light')
    await says(/to mend/)
    await page.locator('.row[data-part="vhf"] > g').first().click()
    await page.keyboard.press('Delete')
    await saved(2)
    // Whoever clicks before the station has come gets there too.
    await answersLate(page, `**/api/stations/${id}`)
    await page.reload()
    await page.getByRole('link', { name: 'Build sheet' }).click()
    await page.getByRole('heading', { name: 'Cut list' }).waitFor()
    await page.keyboard.press('Control+z')
    await page.getByText('Undone: remove VHF radio').waitFor()
    await expect.poll(async () => (await planOf(id)).parts.length).toBe(demoPlan('tern-rock-light').parts.length)
  })

  it('undo takes back a complaint, a thing on the shelf and a deleted station, and says so', async () => {
    const id = await openDemo('clean-bench')
    await page.goto(`${server.url}/station/${id}/quiet?tool=case`)
    await page.getByRole('button', { name: 'New complaint' }).click()
    await page.getByRole('dialog').getByRole('button', { name: '20 m' }).click()
    await page.getByRole('button', { name: 'Write it down' }).click()
    const title = page.getByRole('button', { name: /20 m/ }).first()
    await title.waitFor()
    await page.getByRole('link', { name: 'Build sheet' }).click()
    await page.getByRole('heading', { name: 'Cut list' }).waitFor()
    await page.keyboard.press('Control+z')
    await page.getByText(/Undone: new complaint/).waitFor()
    await page.getByRole('link', { name: 'Noise' }).click()
    await page.getByRole('button', { name: 'New complaint' }).waitFor()
    expect(await title.count()).toBe(0)

    await page.goto(`${server.url}/shelf`)
    const off = page.getByRole('button', { name: /^Take off/ }).first()
    const what = (await off.getAttribute('aria-label'))!
    await off.click()
    await expect.poll(() => page.getByRole('button', { name: what, exact: true }).count()).toBe(0)
    await page.reload()
    await page.getByRole('button', { name: 'Undo' }).and(page.locator(':enabled')).waitFor()
    await page.keyboard.press('Control+z')
    await page.getByText(/Undone: removal of/).waitFor()
    await page.getByRole('button', { name: what, exact: true }).waitFor()

    await page.goto(`${server.url}/stations`)
    const deletes = page.getByRole('button', { name: /^Delete / })
    await deletes.first().waitFor()
    const before = await deletes.count()
    await deletes.first().click()
    await expect.poll(() => deletes.count()).toBe(before - 1)
    await page.keyboard.press('Control+z')
    await page.getByText(/Undone: removal of/).waitFor()
    await expect.poll(() => deletes.count()).toBe(before)
  })

  it('a part is found by its name among many', async () => {
    await openDemo('tern-rock-light')
    await page.keyboard.press('/')
    await page.getByLabel('Find a part or lead').fill('solar')
    await page.keyboard.press('Enter')
    const bar = page.getByRole('toolbar', { name: 'What can be done' })
    await bar.getByText('Two folding panels').waitFor()
    // Letters typed while the dialog still fades in are kept, by it and by whoever types.
    await page.keyboard.press('/')
    const search = page.getByLabel('Find a part or lead')
    await search.fill('h')
    await page.waitForTimeout(600)
    expect(await search.evaluate(input => input === document.activeElement)).toBe(true)
    await page.keyboard.press('Escape')
  })

  it('the same station is edited on a phone: a panel, a lead, a load moved', async () => {
    await fresh({ width: 390, height: 844, isCalm: true, preferences: { knowsDemo: true } })
    const id = await openDemo('tern-rock-light')
    await page.getByRole('button', { name: 'Edit Two folding panels' }).click()
    const form = page.getByRole('dialog', { name: /^Edit/ })
    await form.getByLabel('Open-circuit voltage', { exact: true }).first().fill('46 V')
    await form.getByLabel('Open-circuit voltage', { exact: true }).first().press('Enter')
    await expect.poll(async () => JSON.stringify((await planOf(id)).parts)).toContain('"openCircuitV":46')
    await form.getByRole('button', { name: 'Close' }).click()
    await page.getByRole('heading', { name: 'VHF radio' }).click()
    await page.getByRole('button', { name: /^Join elsewhere/ }).click()
    await page.getByRole('listbox').getByRole('option').first().click()
    const before = demoPlan('tern-rock-light').leads.find(l => l.to === 'vhf')!.from
    await expect.poll(async () => (await planOf(id)).leads.find(l => l.to === 'vhf')!.from).not.toBe(before)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  })
})
