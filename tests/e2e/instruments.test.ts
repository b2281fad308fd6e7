import { createServer, type Socket } from 'node:net'
import { beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { SimulatedInstruments } from '../../core/instruments/simulated'
import { demoPlan } from '../data/plans'
import { freePort } from './browser'
import { demoNamed, journeys, logOf, page, server } from './journey'

/** Instruments that tell what they show: simulated, real behind a port, and recorded. */

let id: string
journeys('a page each', { height: 900 })
beforeAll(async () => void (id = await demoNamed('Tern Rock light')))
beforeEach(async () => {
  await page.goto(`${server.url}/station/${id}/bench?tab=readings`)
  await panel().waitFor()
})
const log = () => logOf(id)
const panel = () => page.getByTestId('instruments')
const button = (name: string) => panel().getByRole('button', { name })
const pick = async (label: string, option: string) => {
  await panel().getByLabel(label).click()
  const search = page.getByRole('searchbox')
  if (await search.count()) await search.fill(option)
  await page.getByRole('option', { name: option, exact: true }).click()
}
const takes = (what: string) => button(`Take ${what}`)

describe('simulated instruments', () => {
  it('show the station, the meter where one holds it, and what they show is taken as readings', async () => {
    const before = (await log()).readings.length
    await button('Simulated, as planned').click()
    await panel().getByText('Meter at House pack').waitFor()
    await pick('What is on', 'full, HF radio transmits')
    await pick('Meter held at', 'HF radio')
    await panel().getByText('Meter at HF radio').waitFor()
    await takes('Meter at HF radio, V').click()
    await takes('Shunt at House pack, A').click()
    await panel().getByText('2 readings are of simulated instruments.').waitFor()
    await expect.poll(async () => (await log()).readings.length).toBe(before + 2)
    const { readings, instruments } = await log()
    const [volts, amps] = readings.slice(-2)
    expect(volts).toMatchObject({ at: 'hf', condition: 'full/only:hf', digit: 0.01, note: 'simulated' })
    expect(volts!.volts).toBeGreaterThan(11)
    expect(amps).toMatchObject({ at: 'l1', condition: 'full/only:hf', digit: 0.1 })
    expect(instruments.map(i => i.name)).toEqual(expect.arrayContaining(['Simulated: meter', 'Simulated: shunt-bat']))

    await button('Put away').click()
    await button('Take them out').click()
    await expect.poll(async () => (await log()).readings.length).toBe(before)
  })
})

describe('instruments behind a port', () => {
  it('are listened to; what is on is said by hand; a line that says nothing is told; they may go', async () => {
    const simulated = new SimulatedInstruments(demoPlan('tern-rock-light'), { hide: null })
    const sockets = new Set<Socket>()
    const real = createServer(socket => {
      sockets.add(socket)
      const lines = simulated.greeting().filter(l => !/^(simulated|state) /.test(l))
      socket.write([...lines, 'gibberish', ''].join('\n'))
      const timer = setInterval(() => {
        socket.write([...simulated.tick(new Date().toISOString()), ''].join('\n'))
      }, 100)
      socket.on('close', () => clearInterval(timer))
      socket.on('error', () => {})
    })
    const port = await freePort()
    await new Promise<void>(done => real.listen(port, '127.0.0.1', done))

    await panel().getByLabel('Port they are at').fill('80')
    await button('Listen').click()
    await panel().getByText('80 is no port').waitFor()
    await panel().getByLabel('Port they are at').fill(String(port))
    await button('Listen').click()
    await panel().getByText('A line was left aside: it says “gibberish”').waitFor()
    const take = takes('Shunt at House pack, V')
    await take.waitFor()
    expect(await take.isDisabled()).toBe(true)
    await pick('What is on', 'full, all idle')
    await take.click()
    await expect.poll(async () => (await log()).readings.at(-1)).toMatchObject({ at: 'bat', condition: 'full/idle' })
    expect((await log()).readings.at(-1)!.note).toBeUndefined()
    for (const socket of sockets) socket.destroy()
    await new Promise(done => real.close(done))
    await panel().getByText('Not listening any more: they were switched off.').waitFor()
    await panel().getByLabel('Port they are at').fill(String(port))
    await button('Listen').click()
    await panel().getByText(`no instruments listen on port ${port}`).waitFor()
  })
})

describe('a recording', () => {
  it('is opened as a file of readings is, and an instrument that shows too much is set right', async () => {
    const simulated = new SimulatedInstruments(demoPlan('tern-rock-light'), { hide: null })
    const lines = [...simulated.greeting(), ...simulated.command('state full/only:hf')]
    for (let s = 10; s < 20; s++) lines.push(...simulated.tick(`2026-09-03T10:00:${s}Z`))
    const before = (await log()).readings.length
    const buffer = Buffer.from([...lines, 'read nobody 1 2026-09-03T10:00:20Z'].join('\n'))
    await page.getByTestId('readings-file').setInputFiles({ name: 'session.txt', mimeType: 'text/plain', buffer })
    await page.getByText('left aside: no channel nobody was said').waitFor()
    await expect.poll(async () => (await log()).readings.length).toBe(before + 5)

    await panel().getByText('My instruments').click()
    await panel().getByLabel('Name of an instrument').fill('bench meter')
    await button('Add').click()
    await panel().getByLabel('bench meter: volts too much').fill('9 V')
    await page.keyboard.press('Enter')
    await panel().getByText('volts, as 0.03').waitFor()
    await panel().getByLabel('bench meter: volts too much').fill('0.05 V')
    await page.keyboard.press('Enter')
    await expect
      .poll(async () => (await log()).instruments.at(-1))
      .toMatchObject({ name: 'bench meter', offsetV: 0.05 })
  })
})
