import type { Locator } from 'playwright'
import { describe, expect, it } from 'vitest'
import { madeUpPlan } from '../bench/plans'
import { demoPlan } from '../data/plans'
import { fresh, journeys, openDemo, page, planOf, says, server } from './journey'

/** A plan of one's own: begun, asked whether it suits, in other ways. */

journeys('a page each', { isCalm: true, preferences: { theme: 'light', knowsDemo: true } })

/** What a hand does, counted. */
class Hand {
  actions = 0
  click(at: Locator) {
    this.actions++
    return at.click()
  }
  fill(at: Locator, text: string) {
    this.actions++
    return at.fill(text)
  }
  /** Opens a list, and takes what is in it. */
  choose(from: Locator, label: string) {
    this.actions += 2
    return from.selectOption(label)
  }
  press(key: string) {
    this.actions++
    return page.keyboard.press(key)
  }
  told(what: string, most: number) {
    console.log(`${what}: ${this.actions} actions, ${most} at most`)
    expect(this.actions).toBeLessThanOrEqual(most)
  }
}

const part = (id: string) => page.locator(`[data-part="${id}"]`).first()

describe('beginnings', () => {
  it('says whether a radio and a battery suit, from three figures', async () => {
    const hand = new Hand()
    await page.goto(`${server.url}/stations`)
    await hand.click(page.getByRole('link', { name: 'Does it suit?' }))
    await hand.fill(page.getByLabel('Supply of the radio'), '13.8 V ± 10 %')
    await hand.fill(page.getByLabel('Current of the radio'), '20 A')
    await hand.click(page.getByLabel('Source', { exact: true }))
    await hand.click(page.getByRole('option', { name: 'AGM 12 V, 40 Ah' }))
    // Half empty it rests at 12.3 V, under the 12.42 V of the manual before any wire.
    await page.getByTestId('suits').filter({ hasText: 'does not suit' }).waitFor()
    await page.getByText(/it needs 12\.42 V to 15\.18 V/).waitFor()
    await hand.click(page.getByRole('button', { name: 'Keep it as a station' }))
    await page.waitForURL(/\/station\//)
    await says(/to mend/)
    hand.told('does it suit', 6)
  })

  it('makes a station of two radios, lithium, gate, supply, panel and controller', async () => {
    const hand = new Hand()
    await page.goto(`${server.url}/stations`)
    await hand.click(page.getByRole('button', { name: 'Plan my own' }))
    await hand.click(page.getByRole('button', { name: 'One VHF radio, 50 W more' }))
    await hand.click(page.getByLabel('Mains supply beside it, through a gate'))
    await hand.click(page.getByLabel('Sun fills it, through a controller'))
    await page
      .getByTestId('begin-verdict')
      .filter({ hasText: /^Passes every check/ })
      .waitFor()
    for (const id of ['src', 'gate', 'mains', 'ctl', 'sun', 'hf', 'vhf']) await part(id).waitFor()
    await hand.click(page.getByRole('button', { name: 'Make the station' }))
    await page.waitForURL(/\/station\//)
    await says(/^Nothing to mend/)
    hand.told('two radios, lithium, gate, supply, panel and controller', 20)
  })

  it('says so where nothing can be judged', async () => {
    await page.route(/core\.worker/, route => route.abort())
    const words =
      'It is not judged: the program that works it out did not come; load the page again once the server answers.'
    await page.goto(`${server.url}/suits`)
    await page.getByLabel('Current of the radio').fill('20 A')
    await page.getByRole('alert').getByText(words, { exact: true }).waitFor()
    await page.goto(`${server.url}/new`)
    await page.getByRole('button', { name: 'One VHF radio, 50 W more' }).click()
    await page.getByTestId('begin-verdict').getByText(words, { exact: true }).waitFor()
  })

  it('takes a radio from its manual, and finds others by search', async () => {
    await page.goto(`${server.url}/new`)
    await page.getByLabel('Search what there is').fill('trail')
    await page.getByRole('button', { name: 'One HF radio, 100 W less' }).click()
    await page.getByTestId('begin-verdict').filter({ hasText: 'Choose at least one' }).waitFor()
    await page.getByRole('button', { name: 'From my manual…' }).click()
    const own = page.getByRole('group', { name: 'From my manual' })
    await own.getByLabel('Name').fill('Club rig')
    await own.getByLabel('Supply').fill('13.8 V ± 12 %')
    await own.getByLabel('Takes').fill('much')
    await own.getByRole('alert').waitFor()
    await own.getByLabel('Takes').fill('18 A')
    await own.getByRole('button', { name: 'Add it' }).click()
    await page
      .getByTestId('begin-verdict')
      .filter({ hasText: /^Passes/ })
      .waitFor()
    await page.getByRole('button', { name: 'Make the station' }).click()
    await page.waitForURL(/\/station\//)
    await page.getByText('Club rig').first().waitFor()
  })

  it('an empty plan says what comes first, and the first start how to begin', async () => {
    await page.goto(`${server.url}/stations`)
    await page.getByRole('button', { name: 'An empty plan' }).click()
    await says('Not yet a station')
    await page.locator('.panel').getByText('First say from what it is powered').waitFor()
    await server.made(demoPlan('tern-rock-light'))
    await fresh()
    await page.goto(server.url)
    await page.getByRole('note').getByRole('link', { name: 'Plan my own' }).waitFor()
    await page.getByRole('button', { name: 'Not now' }).click()
    await page.reload()
    await page.locator('.path.body').waitFor()
    expect(await page.getByRole('note').getByRole('link', { name: 'Plan my own' }).count()).toBe(0)
  })
})

describe('other ways', () => {
  it('a kit is moved to the car as a way of its own, kept, compared, and the plan stays as it was', async () => {
    const hand = new Hand()
    const id = await openDemo('clean-bench')
    await hand.choose(page.getByLabel('Way of this station'), 'Another way…')
    await hand.fill(page.getByLabel('Name of the way'), 'Car')
    await hand.click(page.getByLabel('Powered by'))
    await hand.click(page.getByRole('option', { name: 'Vehicle, 12 V' }))
    await hand.click(page.getByRole('button', { name: 'Make it' }))
    await page.waitForURL(/way=car/)
    await page.locator('.box').filter({ hasText: 'engine on' }).waitFor()
    hand.told('a kit moved to the car', 6)
    await expect.poll(async () => (await planOf(id)).variants?.length).toBe(1)
    const kept = await planOf(id)
    expect(kept.parts).toEqual(demoPlan('clean-bench').parts)
    await page.reload()
    await page.locator('.box').filter({ hasText: 'engine on' }).waitFor()
    await page.getByLabel('Way of this station').selectOption('Compare ways')
    const table = page.getByRole('region', { name: 'Ways side by side' })
    await table.getByRole('columnheader', { name: 'Car' }).waitFor()
    await table.getByRole('row', { name: /^Found/ }).waitFor()
    await table.getByRole('button', { name: 'Open' }).first().click()
    await page.locator('.box').filter({ hasText: 'set to 13.8 V' }).waitFor()
    await says('Nothing to mend')
  })
})

describe('a field of several parts', () => {
  it('is filled by their names: what hangs on a generator', async () => {
    const plan = demoPlan('tern-rock-light')
    const generator = { id: 'gen', kind: 'generator', name: 'Generator', ratedW: 1000 } as const
    const id = await server.made({ ...plan, parts: [...plan.parts, generator] })
    await page.goto(`${server.url}/station/${id}`)
    await page.locator('.box').filter({ hasText: 'Generator' }).click()
    await page.keyboard.press('e')
    await page.getByRole('combobox', { name: 'What hangs on it' }).press('ArrowDown')
    await page.getByRole('option', { name: 'Mains supply' }).click()
    await expect
      .poll(async () => (await planOf(id)).parts.find(p => p.id === 'gen'))
      .toMatchObject({ feeds: ['mains'] })
  })
})

describe('a free port', () => {
  it('is reached by Tab and opened by Space', async () => {
    await openDemo('tern-rock-light')
    const port = page.getByRole('button', { name: 'port p5, free: add a load' })
    await port.waitFor()
    for (let i = 0; i < 80 && !(await port.evaluate(e => e === document.activeElement)); i++)
      await page.keyboard.press('Tab')
    await page.keyboard.press('Space')
    await page.getByRole('dialog', { name: 'Add to the path' }).getByText('port 5').first().waitFor()
  })
})

describe('a tall station', () => {
  it('what is held at an edge draws the picture along, and is let go on what was not in sight', async () => {
    const id = await server.made(madeUpPlan(60))
    await page.goto(`${server.url}/station/${id}`)
    await page.locator('.row .volts').first().waitFor()
    const pane = page.getByRole('region', { name: 'Path', exact: true })
    const { y, height } = (await pane.boundingBox())!
    const scrolled = () => pane.evaluate(e => e.scrollTop)
    const row = (await page.locator('.row[data-part="load0-1"]').boundingBox())!
    const across = row.x + 30
    await page.mouse.move(across, row.y + row.height / 2)
    await page.mouse.down()
    await page.mouse.move(across, y + height / 2, { steps: 4 })
    await page.locator('.held').waitFor()
    expect(await scrolled()).toBe(0)
    await page.mouse.move(across, y + height - 8, { steps: 4 })
    await expect.poll(scrolled).toBeGreaterThan(2 * height)
    // Away from the edge it stands still.
    await page.mouse.move(across, y + height / 2)
    const stands = await scrolled()
    const block = await pane.evaluate(e => {
      const middle = e.getBoundingClientRect().top + e.clientHeight / 2
      const bars = [...e.querySelectorAll('[data-part^="blk"]')].map(bar => ({ bar, box: bar.getBoundingClientRect() }))
      const { bar, box } = bars.find(({ box }) => box.top < middle && box.bottom > middle)!
      return { id: bar.getAttribute('data-part')!, x: box.left + box.width / 2, y: middle }
    })
    expect(block.id).not.toBe('blk0')
    await page.mouse.move(block.x, block.y, { steps: 4 })
    expect(await scrolled()).toBe(stands)
    await page.mouse.up()
    await page
      .getByRole('listbox')
      .getByRole('option', { name: /port 10/ })
      .click()
    await expect.poll(async () => (await planOf(id)).leads.find(l => l.to === 'load0-1')?.from).toBe(`${block.id}.p10`)
  })
})

describe('a wide station', () => {
  it('shows what arrives at once; what lies under it comes out as it is chosen', async () => {
    const id = await server.made(demoPlan('tern-rock-light'))
    await page.setViewportSize({ width: 1070, height: 800 })
    await page.goto(`${server.url}/station/${id}`)
    const volts = page.locator('.row .volts').first()
    await volts.waitFor()
    const pane = page.getByRole('region', { name: 'Path', exact: true })
    const { scrollWidth, clientWidth } = await pane.evaluate(({ scrollWidth, clientWidth }) => ({
      scrollWidth,
      clientWidth,
    }))
    expect(scrollWidth).toBeGreaterThan(clientWidth + 50)
    const right = async (of: typeof volts) => {
      const { x, width } = (await of.boundingBox())!
      return x + width
    }
    expect(await right(volts)).toBeLessThan(await right(pane))
    const lead = page.locator('[data-lead="l2"] > g').first()
    const arrivals = page.locator('svg.arrivals')
    expect(await right(lead)).toBeGreaterThan((await arrivals.boundingBox())!.x + 50)
    await page.locator('.row[data-part="hf"]').click()
    await page.keyboard.press('ArrowLeft')
    await expect.poll(async () => (await right(lead)) <= (await arrivals.boundingBox())!.x + 12).toBe(true)
    expect(await right(volts)).toBeLessThan(await right(pane))
  })
})
