/* eslint-disable max-lines -- one server and one browser for the whole journey */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Download } from 'playwright'
import { describe, expect, it } from 'vitest'
import { writeWav } from '../../core/formats/wav'
import { causesOf } from '../../core/noise/cause'
import { randomFrom } from '../../core/chance/random'
import { faultOf } from '../../core/noise/simulated/fault'
import { simulatedReceiver } from '../../core/noise/simulated/receiver'
import { demoPlan } from '../data/plans'
import { context, fresh, journeys, page, server } from './journey'

const folder = mkdtempSync(join(tmpdir(), 'wireman-quiet-'))
journeys('a page each')

const NOISE = { tern: 'tern-rock-light', heron: 'narrowboat-heron' } as const
/** A station of its own with the demo's half-done logbook. @returns its id */
async function open(name: keyof typeof NOISE, tool: string): Promise<string> {
  const id = await server.made(demoPlan(NOISE[name]))
  const logbook = JSON.parse(
    readFileSync(join(import.meta.dirname, `../../demo/noise/${NOISE[name]}.json`), 'utf8'),
  ) as unknown
  const answer = await fetch(`${server.url}/api/stations/${id}/noise`, {
    method: 'PUT',
    body: JSON.stringify({ baseRevision: 0, logbook }),
    headers: { 'content-type': 'application/json' },
  })
  expect(answer.status).toBe(200)
  await page.goto(`${server.url}/station/${id}/quiet?tool=${tool}`)
  await page.locator('.heading .p-selectbutton').waitFor()
  return id
}
interface Stored {
  revision: number
  logbook: {
    surveys: { readings: Record<string, Record<string, string>> }[]
    cases: { id: string; title: string; observations: unknown[]; cures: unknown[] }[]
  }
}
const stored = async (id: string) => (await (await fetch(`${server.url}/api/stations/${id}/noise`)).json()) as Stored
/** Waits until what is stored is as it should be. */
async function until(id: string, holds: (s: Stored) => boolean) {
  for (let i = 0; i < 100; i++) {
    const state = await stored(id)
    if (holds(state)) return state
    await new Promise(r => setTimeout(r, 50))
  }
  throw new Error(`never stored: ${JSON.stringify(await stored(id)).slice(0, 2000)}`)
}
const file = (name: string, content: string | Uint8Array) => {
  const path = join(folder, name)
  writeFileSync(path, content)
  return path
}
const contentOf = async (download: Download) => readFileSync((await download.path())!)

describe('the logbook on the server', () => {
  const put = (id: string, body: unknown) =>
    fetch(`${server.url}/api/stations/${id}/noise`, {
      method: 'PUT',
      body: typeof body === 'string' ? body : JSON.stringify(body),
      headers: { 'content-type': 'application/json' },
    })
  it('is empty at first, refuses what is none in words, and keeps what stands when two write', async () => {
    const id = await server.made(demoPlan('clean-bench'))
    const { revision, logbook } = await stored(id)
    expect(revision).toBe(0)
    expect((await put(id, { baseRevision: 0, logbook })).status).toBe(200)
    const stale = await put(id, { baseRevision: 0, logbook: { ...logbook, site: 'city' } })
    expect(stale.status).toBe(409)
    expect(await stale.json()).toMatchObject({ status: 'conflict', revision: 1 })
    for (const [body, says] of [
      ['{', 'not JSON'],
      [{ baseRevision: 1, logbook: { ...logbook, site: 'moon' } }, 'logbook.site'],
      [{ baseRevision: 1, logbook: { ...logbook, cases: [{}] } }, 'logbook.cases.0'],
      [{ logbook }, 'baseRevision'],
    ] as const) {
      const answer = await put(id, body)
      expect(answer.status).toBe(400)
      expect(((await answer.json()) as { message: string }).message).toContain(says)
    }
    expect((await stored(id)).revision).toBe(1)
    expect((await put('nowhere', { baseRevision: 0, logbook })).status).toBe(404)
    expect((await fetch(`${server.url}/api/stations/nowhere/noise`)).status).toBe(404)
  })
})

describe('the survey', () => {
  it('is filled in by the keyboard, cell after cell, and is there after a reload', async () => {
    const id = await open('tern', 'survey')
    await page.getByText('9 of 20 to read').waitFor()
    for (const key of ['1', '4', '3', '2', '1', '5', '9', '+', '7', '2']) await page.keyboard.press(key)
    await page.getByText('all read').waitFor()
    const state = await until(id, s => s.logbook.surveys[0]!.readings.usual?.['20 m'] === 'S2')
    expect(state.logbook.surveys[0]!.readings).toMatchObject({
      ctl9: { '20 m': 'S1' },
      mains: { '80 m': 'S4', '40 m': 'S3', '30 m': 'S2', '20 m': 'S1' },
      usual: { '80 m': 'S5', '40 m': 'S9+10', '30 m': 'S7', '20 m': 'S2' },
    })
    await page.reload()
    await page.getByText('all read').waitFor()
    await page
      .locator('h2')
      .filter({ hasText: /costs \d+ dB on/ })
      .waitFor()
  })
  it('goes back and clears, and works by thumb on a phone', async () => {
    await fresh({ width: 390, height: 844 })
    const id = await open('tern', 'survey')
    await page.locator('.what').filter({ hasText: '20 m' }).waitFor()
    await page.locator('.pad').getByRole('button', { name: '3', exact: true }).click()
    await page.locator('.what').filter({ hasText: 'Mains supply working' }).waitFor()
    await page.locator('.pad').getByRole('button', { name: '+½' }).click()
    await until(id, s => s.logbook.surveys[0]!.readings.ctl9!['20 m'] === 'S3.5')
    await page.locator('.pad').getByRole('button', { name: 'Back' }).click()
    await page.locator('.pad').getByRole('button', { name: 'Clear' }).click()
    await until(id, s => s.logbook.surveys[0]!.readings.ctl9!['20 m'] === undefined)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  })
  it('goes out as CSV and comes back; a broken one is refused with its line', async () => {
    await open('tern', 'survey')
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as CSV' }).click(),
    ])
    const csv = (await contentOf(download)).toString()
    expect(csv).toContain('state,devices,antenna,feed,at,who,80 m,40 m,30 m,20 m')
    await page.getByTestId('survey-file').setInputFiles(file('again.csv', csv))
    await page.locator('.bar .p-select').filter({ hasText: 'again' }).waitFor()
    await page.getByText('9 of 20 to read').waitFor()
    for (const [name, text, says] of [
      ['empty.csv', '', 'empty.csv, line 1: the file is empty'],
      ['commas.csv', 'state,devices,20 m\noff,,-97,5\n', 'commas for decimals'],
      ['loud.csv', 'state,devices,20 m\noff,,loud\n', 'line 2: 20 m is loud'],
    ] as const) {
      await page.getByTestId('survey-file').setInputFiles(file(name, text))
      await page.getByRole('alert').filter({ hasText: says }).waitFor()
    }
  })
  it("takes the meter's own calibration, radio by radio", async () => {
    const id = await open('tern', 'survey')
    await page.locator('.costs h2').filter({ hasText: 'costs 29 dB on 30 m' }).waitFor()
    await page.getByRole('button', { name: 'Receiver' }).click()
    await page.getByRole('combobox', { name: 'Heard with' }).click()
    await page.getByRole('option', { name: 'HF radio', exact: true }).click()
    await page.getByLabel('Calibration').fill('S1 -120\nS9 -80\nnonsense')
    await page.getByLabel('Calibration').blur()
    await page.getByRole('alert').filter({ hasText: '“nonsense” cannot be read' }).waitFor()
    expect(await page.getByLabel('Calibration').inputValue()).toContain('nonsense')
    await page.getByLabel('Calibration').fill('S1 -120\nS9 -80')
    await page.getByLabel('Calibration').blur()
    // From S2 to S7 are five units of 5 dB on this meter.
    await page.locator('.costs h2').filter({ hasText: 'costs 25 dB on 30 m' }).waitFor()
    await until(
      id,
      s =>
        JSON.stringify(
          (s.logbook as unknown as { receivers?: { hf?: { calibration?: unknown } } }).receivers?.hf?.calibration,
        ) === '[{"shown":"S1","dbm":-120},{"shown":"S9","dbm":-80}]',
    )
    await page.getByLabel('Attenuator').fill('10')
    await page.getByLabel('Attenuator').blur()
    await page.getByText('more than usual here').first().waitFor()
  })
  it('changed in two windows keeps both; one shows what the other read before and after it listens', async () => {
    let listen = () => {}
    const listens = new Promise<void>(resolve => (listen = resolve))
    await page.route('**/api/changes', route => listens.then(() => route.continue()))
    const id = await open('tern', 'survey')
    const other = await context.newPage()
    // Else it has the first reading before it makes its own, and nothing is to be merged.
    await other.route('**/api/changes', route => route.abort())
    await other.goto(`${server.url}/station/${id}/quiet?tool=survey`)
    await other.getByText('9 of 20 to read').waitFor()
    await page.keyboard.press('1')
    await until(id, s => s.logbook.surveys[0]!.readings.ctl9!['20 m'] === 'S1')
    await other.getByRole('button', { name: 'Mains supply working, 80 m' }).click()
    await other.keyboard.press('6')
    await other.getByText('what each changed is kept').waitFor()
    const state = await until(id, s => s.logbook.surveys[0]!.readings.mains?.['80 m'] === 'S6')
    expect(state.logbook.surveys[0]!.readings.ctl9!['20 m']).toBe('S1')

    const shown = page.getByRole('button', { name: 'Mains supply working, 80 m' })
    expect(await shown.textContent()).not.toContain('S6')
    listen()
    await shown.filter({ hasText: 'S6' }).waitFor()
    await other.getByRole('button', { name: 'Mains supply working, 80 m' }).click()
    await other.keyboard.press('7')
    await shown.filter({ hasText: 'S7' }).waitFor()
  })
})

describe('the comb', () => {
  const plan = demoPlan('narrowboat-heron')
  const wav = () => {
    const causes = causesOf(plan, { bands: ['20 m'] })
    const random = randomFrom(8)
    const fault = {
      ...faultOf({ device: 'inv', way: 'dc-common', when: { kind: 'always' } }, causes, ['20 m'], random),
      lines: true,
      oddOnly: false,
      riseDb: 25,
      spacingHz: 62100,
    }
    return writeWav(simulatedReceiver(fault, causes, { site: 'rural', random }).recording({}, 14.175e6, 0.6, 768e3))
  }
  it('is found in a recording that is dropped, names its suspect, and is evidence for the case', async () => {
    const id = await open('heron', 'comb')
    await page.getByLabel('Centre of an I/Q recording').fill('14.175 MHz')
    const data = await page.evaluateHandle(bytes => {
      const transfer = new DataTransfer()
      transfer.items.add(
        new File([Uint8Array.from(atob(bytes), c => c.charCodeAt(0))], 'evening.wav', { type: 'audio/wav' }),
      )
      return transfer
    }, Buffer.from(wav()).toString('base64'))
    await page.dispatchEvent('.comb', 'drop', { dataTransfer: data })
    await page.getByText('One comb in evening.wav').waitFor()
    expect(await page.locator('.found article').first().textContent()).toMatch(/62\.[01]\d\d kHz.*Could be Inverter/)
    await page.getByRole('button', { name: 'Evidence for' }).first().click()
    await page
      .locator('.log li')
      .filter({ hasText: /Tones 62.1 kHz apart, which fits Inverter.*from evening.wav/ })
      .waitFor()
    await until(id, s => s.logbook.cases[0]!.observations.length === 2)
  })
  it('shows how far it is with a long recording, and stops when told', async () => {
    await open('heron', 'comb')
    const random = randomFrom(3)
    const noise = () => Float32Array.from({ length: 55 * 192e3 }, () => random.uniform() - 0.5)
    await page.getByLabel('Tones, kHz').fill('14012\n14074\n14136\n14198\n14260\n14322')
    await page.getByRole('button', { name: 'Find the comb' }).click()
    await page.getByText('One comb in typed tones').waitFor()
    expect(await page.locator('.found').textContent()).toContain('Could be Inverter')
    await page
      .getByTestId('listen')
      .setInputFiles(file('long.wav', writeWav({ sampleRateHz: 192e3, channels: [noise(), noise()] })))
    await page.getByRole('status').getByRole('button', { name: 'Stop' }).click()
    await page.getByRole('status').waitFor({ state: 'detached' })
    // What was stopped does not come late: a short recording after it is what is shown next, and stays.
    expect(await page.locator('.picture h2').textContent()).toContain('typed tones')
    const short = Float32Array.from({ length: 2 * 48e3 }, () => random.uniform() - 0.5)
    await page
      .getByTestId('listen')
      .setInputFiles(file('short.wav', writeWav({ sampleRateHz: 48e3, channels: [short, short] })))
    await page.locator('.picture h2', { hasText: 'short.wav' }).waitFor()
  })
  it.each([
    ['broken.wav', 'RIFF\0\0\0\0WAVEjunk', /broken\.wav: it says neither its format/],
    ['text.wav', 'not a recording', /does not begin as a WAV/],
    ['empty.csv', '', /empty\.csv is empty/],
    ['decimals.csv', 'frequency_khz,level_db\n14012,5,-90\n14074,5,-91\n', /commas for decimals/],
    ['other.csv', 'a,b\n1,2\n', /frequency_hz or frequency_khz/],
  ] as const)('%s gets a clear answer', async (name, content, says) => {
    await open('heron', 'comb')
    await page.getByTestId('listen').setInputFiles(file(name, content))
    await page.getByRole('alert').filter({ hasText: says }).waitFor()
  })
})

describe('a case', () => {
  it('is solved by following the advice; its cure goes into the plan and the log; the report is printed', async () => {
    const id = await open('tern', 'case')
    await page.getByRole('heading', { name: /Most likely Charge controller, by the antenna/ }).waitFor()
    await page.getByRole('heading', { name: 'Take the antenna off' }).waitFor()
    await page.getByLabel('Heard by').fill('HF operator')
    await page.locator('[data-outcome=gone]').click()
    await page
      .getByRole('heading', {
        name: /^Charge controller, .*: radiated, and picked up by the antenna; 9\d %/,
      })
      .waitFor()
    await page
      .locator('.log li')
      .filter({ hasText: /The antenna off: gone.*HF operator/ })
      .waitFor()
    const choke = page.locator('.cure li').filter({ hasText: 'common-mode choke on panel lead' })
    await choke.getByRole('button', { name: 'Into the plan' }).click()
    await page.getByText('In the plan', { exact: true }).waitFor()
    await choke.getByRole('button', { name: 'Log it' }).click()
    await page.getByLabel('30 m before').fill('S7')
    await page.getByLabel('30 m after').fill('loud')
    await page.getByText('loud on 30 m is no reading').waitFor()
    expect(await page.getByRole('dialog').getByRole('button', { name: 'Log it' }).isDisabled()).toBe(true)
    await page.getByLabel('30 m after').fill('S5')
    await page.getByLabel('Side effects').fill('none seen')
    await page.getByRole('dialog').getByRole('button', { name: 'Log it' }).click()
    await page
      .locator('.why li')
      .filter({ hasText: /Common-mode choke at Charge controller.*weaker, 30 m −1\d dB · none seen · kept/ })
      .waitFor()
    await page.getByText(/on the same kind of device: common-mode choke helped \d of \d times/).waitFor()
    await until(id, s => s.logbook.cases[0]!.cures.length === 1)
    const plan = (
      (await (await fetch(`${server.url}/api/stations/${id}`)).json()) as {
        plan: { leads: { id: string; inline?: { kind: string }[] }[] }
      }
    ).plan
    expect(plan.leads.find(l => l.id === 'l8')!.inline?.map(i => i.kind)).toEqual(['choke'])

    const [pdf] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Report as PDF' }).click(),
    ])
    expect((await contentOf(pdf)).subarray(0, 5).toString()).toBe('%PDF-')
    expect(pdf.suggestedFilename()).toBe('hiss-on-30-m-when-the-sun-is-strong.pdf')
    await page.emulateMedia({ media: 'print' })
    for (const gone of ['.list', '.next', '.out', 'header nav'])
      expect(await page.locator(gone).first().isVisible()).toBe(false)
    await page.getByRole('heading', { name: /radiated/ }).waitFor()
    expect((await page.pdf({ format: 'A4' })).length).toBeGreaterThan(5000)
  })
  it('says a contradiction, and strikes a finding out again', async () => {
    await open('heron', 'case')
    const say = async (test: RegExp, outcome: string) => {
      if (!(await page.locator('.others').getAttribute('open')))
        await page.locator('.others').evaluate(e => e.setAttribute('open', ''))
      const all = page.getByRole('button', { name: 'All of them' })
      if (await all.isVisible()) await all.click()
      await page.locator('.other').filter({ hasText: test }).first().click()
      await page.locator(`[data-outcome=${outcome}]`).click()
    }
    await say(/^Switch off Inverter/, 'gone')
    await say(/^Switch off DC-DC charger/, 'gone')
    await page.getByRole('alert').filter({ hasText: 'no cause in common' }).waitFor()
    await page.getByRole('heading', { name: /contradict/ }).waitFor()
    await page.getByRole('button', { name: /Strike out: DC-DC charger off/ }).click()
    await page.getByRole('alert').waitFor({ state: 'detached' })
  })
  it('goes on as a case for each band where one band is cured and another is not', async () => {
    const id = await open('heron', 'case')
    const on = async (band: string, outcome: string) => {
      await page.locator('.others').evaluate(e => e.setAttribute('open', ''))
      const all = page.getByRole('button', { name: 'All of them' })
      if (await all.isVisible()) await all.click()
      await page.locator('.other').filter({ hasText: 'Feed the radio from a battery of its own' }).click()
      await page
        .locator('.bands .chip')
        .filter({ hasText: band === '20 m' ? '15 m' : '20 m' })
        .click()
      await page.locator(`[data-outcome=${outcome}]`).click()
    }
    await on('20 m', 'gone')
    await on('15 m', 'same')
    await page.getByRole('alert').filter({ hasText: 'on different bands' }).waitFor()
    await page.locator('.split').click()
    await page.getByRole('button', { name: /^Evenly spaced tones.*: 15 m/ }).click()
    await page.getByRole('heading', { name: /Inverter, by the antenna/ }).waitFor()
    const { logbook } = await until(id, s => s.logbook.cases.length === 3)
    expect(logbook.cases.map(c => c.observations.length)).toEqual([3, 2, 1])
  })
  it('is opened from a complaint, and goes out and in as a file', async () => {
    const id = await open('heron', 'case')
    await page.getByRole('button', { name: 'New complaint' }).click()
    await page.getByRole('dialog').getByRole('button', { name: '40 m' }).click()
    await page.getByRole('dialog').getByText('buzz').click()
    await page.getByRole('button', { name: 'Write it down' }).click()
    await page.getByRole('heading', { name: /Nothing tried yet on 40 m|Most likely/ }).waitFor()
    await until(id, s => s.logbook.cases.some(c => c.title === 'Buzz on 40 m'))
    const [out] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'JSON' }).click()])
    const text = (await contentOf(out)).toString()
    expect(JSON.parse(text)).toMatchObject({ format: 'wireman-noise-case', version: 1, title: 'Buzz on 40 m' })
    await page.getByRole('button', { name: 'Remove' }).click()
    await page.getByRole('button', { name: /Put “Buzz on 40 m” back/ }).waitFor()
    await page.getByTestId('case-file').setInputFiles(file('case.json', text))
    await page.getByRole('button', { name: /^Buzz on 40 m/ }).waitFor()
    for (const [name, content, says] of [
      ['none.json', '', 'the file is empty'],
      ['torn.json', '{"format":', 'not JSON'],
      ['plan.json', '{"format":"wireman-plan"}', 'format is "wireman-plan"'],
    ] as const) {
      await page.getByTestId('case-file').setInputFiles(file(name, content))
      await page.getByRole('alert').filter({ hasText: says }).waitFor()
    }
  })
})

describe('practice', () => {
  it('hides a fault; following the advice finds it, and says how few tests it could have taken', async () => {
    await page.addInitScript(() => (Math.random = () => 0.3217))
    await open('heron', 'case')
    await page.getByRole('button', { name: 'Practise on a made-up fault' }).click()
    await page.locator('.practice .meter b').filter({ hasText: /^S/ }).waitFor()
    let tests = 0
    while (tests < 12) {
      const share = Number(/(\d+) %/.exec((await page.locator('.bars li.best b').textContent()) ?? '')?.[1] ?? 0)
      if (share >= 90) break
      await page.getByTestId('perform').click()
      await page.locator('.log li').nth(tests++).waitFor()
    }
    const best = (await page.locator('.bars li.best .label').evaluate(e => e.firstChild!.textContent))!
    const [device, way] = best.split(', ')
    await page.getByRole('combobox', { name: 'Which device' }).click()
    await page.getByRole('option', { name: device! }).click()
    await page.getByRole('combobox', { name: 'Which way' }).click()
    await page.getByRole('option', { name: way! }).click()
    await page.getByRole('button', { name: 'Say it' }).click()
    await page
      .getByRole('status')
      .filter({ hasText: `Right. It was ${best}` })
      .waitFor()
    expect(await page.getByRole('status').textContent()).toMatch(
      new RegExp(`You took ${tests} tests?.*Following the advice takes \\d`),
    )
  })
  it('lets one switch and look for oneself, and hands out a recording in which the comb is found', async () => {
    await page.addInitScript(() => (Math.random = () => 0.11))
    await open('heron', 'case')
    await page.getByRole('button', { name: 'Practise on a made-up fault' }).click()
    await page.getByRole('combobox', { name: 'Inverter' }).click()
    await page.getByRole('option', { name: 'off', exact: true }).click()
    await page.getByRole('button', { name: 'Write this down' }).click()
    await page
      .locator('.log li')
      .filter({ hasText: /Inverter off: / })
      .waitFor()
    const [wav] = await Promise.all([
      page.waitForEvent('download', { timeout: 60000 }),
      page.getByRole('button', { name: 'Record (WAV)' }).click(),
    ])
    const bytes = await contentOf(wav)
    expect(bytes.subarray(0, 4).toString()).toBe('RIFF')
    expect(bytes.length).toBeGreaterThan(1e6)
  })
})
