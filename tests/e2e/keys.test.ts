import { describe, expect, it } from 'vitest'
import { demoPlan } from '../data/plans'
import { programsWith } from './browser'
import { journeys, openDemo, page, planOf } from './journey'

/** Keys that are meant for a field, a list or a dialog, and never for the plan. */
journeys('a page each', { isCalm: true })

/** The program that holds these words comes once it is let. */
async function heldBack(words: string) {
  let letCome = () => {}
  const isLet = new Promise<void>(go => (letCome = go))
  await page.route(programsWith(words), route => isLet.then(() => route.continue()))
  return { letCome: () => letCome() }
}

describe('a key', () => {
  it('pressed in a list or a field does nothing to the plan', async () => {
    const id = await openDemo('tern-rock-light')
    await page.keyboard.press('a')
    await page.getByRole('dialog', { name: 'Add to the path' }).getByRole('combobox').nth(1).click()
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Enter')
    await page.locator('.p-select-open').waitFor({ state: 'detached' })
    await page.keyboard.press('Enter')
    await page.locator('.p-select-overlay').waitFor()
    await page.keyboard.press('Escape')
    await page.locator('.p-select-overlay').waitFor({ state: 'detached' })
    await page.keyboard.press('Escape')
    await page.locator('.p-dialog-mask').waitFor({ state: 'detached' })
    expect(await planOf(id)).toEqual(demoPlan('tern-rock-light'))
  })

  it('pressed while what was asked for comes does nothing to the plan, and letters go to the search', async () => {
    const search = await heldBack('Find in the path')
    const joining = await heldBack(': move its end at')
    const form = await heldBack('class:"edit",role:"dialog"')
    const id = await openDemo('tern-rock-light')
    await page.locator('.row[data-part="vhf"] > g').first().click()
    await page.keyboard.press('j')
    for (const key of ['ArrowDown', 'Delete', 'Enter', 'b']) await page.keyboard.press(key)
    await page.keyboard.press('Escape')
    await page.keyboard.press('/')
    await page.keyboard.type('blo')
    await page.keyboard.press('Delete')
    search.letCome()
    await expect.poll(() => page.getByLabel('Find a part or lead').inputValue()).toBe('blo')
    await page.getByLabel('Find a part or lead').press('Enter')
    await page.keyboard.press('e')
    await page.keyboard.type('usb')
    await page.keyboard.press('Delete')
    form.letCome()
    joining.letCome()
    await page.getByRole('dialog', { name: 'Edit Fused block' }).waitFor()
    expect(await page.getByRole('listbox', { name: /onto/ }).count()).toBe(0)
    expect(page.url()).toContain(id)
    expect(page.url()).not.toContain('build')
    expect(await planOf(id)).toEqual(demoPlan('tern-rock-light'))
  })
})
