import { describe, expect, it } from 'vitest'
import { believe } from '../../core/noise/belief'
import { causesOf } from '../../core/noise/cause'
import type { Observation } from '../../core/noise/observation'
import { randomFrom } from '../../core/chance/random'
import { isPart } from '../../core/noise/suspect'
import { testsFor } from '../../core/noise/tests'
import { hide, Operator, type Hidden } from '../data/physicsStation'
import { demoPlan } from '../data/plans'
import { journeys, page, server } from './journey'

journeys('one page')

const plan = demoPlan('narrowboat-heron')
const causes = causesOf(plan, { bands: ['20 m'] })
const devices = causes.devices.filter(d => isPart(d.id))

/** A station with the inverter and the DC-DC charger noisy at once, both whenever they are on. */
function twoCulprits(): Hidden {
  for (let seed = 1; ; seed++) {
    const hidden = hide(devices, false, randomFrom(seed))
    const there = hidden.culprits.map(c => c.device?.id)
    const isSteady = hidden.culprits.every(c => !c.onsetA && !c.startOnly) && !hidden.silentShare
    if (isSteady && there.includes('inv') && there.includes('dcdc')) return hidden
  }
}

describe('a complaint with two culprits', () => {
  it('is solved by following the advice on the screen', async () => {
    const operator = new Operator(twoCulprits(), devices, randomFrom(3), 0)
    const id = await server.made(plan)
    await page.goto(`${server.url}/station/${id}/quiet?tool=case`)
    await page.getByRole('button', { name: 'New complaint' }).click()
    await page.getByRole('dialog').getByRole('button', { name: '20 m' }).click()
    await page.getByRole('button', { name: 'Write it down' }).click()
    const evidence: Observation[] = []
    const said = async () => (await page.locator('.case h1, .case h2').first().textContent())!
    for (let made = 0; made < 18 && !/^Two at once/.test(await said()); made++) {
      const testId = (await page.locator('article.test').getAttribute('data-test'))!
      const known = { plan, causes, belief: believe(causes, evidence), evidence }
      const test = testsFor(known).find(t => t.id === testId)!
      const before = await page.locator('.log li').count()
      if (test.what === 'comb') {
        await page.getByTestId('cannot-now').click()
        continue
      }
      const found = operator.perform(test, `o${made}`)
      evidence.push(found)
      const outcome = 'heard' in found ? found.heard : (found as { loudest: string }).loudest
      await page.locator(`article.test [data-outcome="${outcome}"]`).click()
      await page.locator('.log li').nth(before).waitFor()
    }
    expect(await said()).toMatch(/^Two at once: (Inverter.*DC-DC|DC-DC.*Inverter)/)
  }, 90_000)
})
