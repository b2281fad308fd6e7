import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { readWav, writeWav } from '../../core/formats/wav'
import { hearRecording } from '../../core/noise/listen/listen'
import { randomFrom } from '../../core/chance/random'
import { demoPlan } from '../data/plans'
import { launch } from './browser'
import { journeys, page, server } from './journey'

/** So long each it is on and off, s: longer than it is listened to, for a machine that does much else is late. */
const PHASE_S = 4
/** So long it is listened to in each state, ms. */
const LISTENED_MS = 1800

/** A made-up evening as the browser's microphone: tones 417 Hz apart for a while, and as long without. */
function evening(): string {
  const rate = 48000
  const random = randomFrom(5)
  const samples = Float32Array.from({ length: 2 * PHASE_S * rate }, (_, n) => {
    const t = n / rate
    let v = 0.004 * random.normal()
    if (t < PHASE_S) for (let k = 1; k < 14; k++) v += 0.012 * Math.sin(2 * Math.PI * 417.25 * k * t + k * k)
    return v
  })
  const path = join(mkdtempSync(join(tmpdir(), 'wireman-mic-')), 'evening.wav')
  writeFileSync(path, writeWav({ sampleRateHz: rate, channels: [samples] }))
  return path
}

journeys('one page', { permissions: ['microphone'] }, [
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
  `--use-file-for-fake-audio-capture=${evening()}`,
])

const level = async () => Number((await page.getByTestId('level').textContent())!.replace('−', '-').split(' ')[0])
/** What is fed goes on for a while: while it is on the mean level rises, while it is off it falls. */
async function phase(): Promise<'On' | 'Off'> {
  const before = await level()
  await page.waitForTimeout(400)
  return (await level()) > before + 0.05 ? 'On' : 'Off'
}
async function comes(wanted: 'On' | 'Off') {
  for (let i = 0; i < 40; i++) if ((await phase()) === wanted) return
  throw new Error(`it was never ${wanted}`)
}

/** So many times each, as somebody does who hears it come and go. */
async function toAndFro(times: number) {
  for (let n = 0; n < 2 * times; n++) {
    const state = n % 2 ? 'Off' : 'On'
    await comes('On')
    await comes(state)
    await page.getByRole('button', { name: state, exact: true }).click()
    await page.waitForTimeout(LISTENED_MS)
    await page.getByRole('button', { name: 'Neither' }).click()
  }
}

describe('listening to the radio itself', () => {
  it('shows the comb of what is fed, tells on from off, and is evidence for a case', async () => {
    const id = await server.made(demoPlan('narrowboat-heron'))
    await page.goto(`${server.url}/station/${id}/quiet?tool=survey`)
    await page.getByRole('button', { name: 'New survey' }).click()
    await page.locator('.sheet').waitFor()
    await page.goto(`${server.url}/station/${id}/quiet?tool=case`)
    await page.getByRole('button', { name: 'New complaint' }).click()
    await page.getByRole('dialog').getByRole('button', { name: '20 m' }).click()
    await page.getByRole('button', { name: 'Write it down' }).click()
    await page.getByRole('button', { name: 'Listen', exact: true }).click()
    await page.getByTestId('listen-live').click()
    await page.getByLabel('Bandwidth').click()
    await page.getByRole('option', { name: '9 kHz' }).click()
    await page
      .locator('.combs')
      .filter({ hasText: /0\.417 kHz/ })
      .waitFor()
    await toAndFro(2)
    await page.getByTestId('ab').filter({ hasText: 'more than chance' }).waitFor()
    const said = (await page.getByTestId('ab').textContent())!
    expect(Number(said.replace('−', '-').split(' ')[0])).toBeGreaterThan(6)
    await page.getByLabel('What was switched').click()
    await page.getByRole('option', { name: 'Inverter' }).click()
    await page.getByLabel('What is heard with it off').click()
    await page.getByRole('option', { name: 'gone' }).click()
    await page.getByRole('button', { name: 'Evidence for' }).click()
    await page
      .locator('.log li')
      .filter({ hasText: /Inverter off: gone.*.*measured: \+\d+\.\d ± .*more than chance/ })
      .waitFor()
    await page
      .getByRole('heading', { name: /Inverter/ })
      .first()
      .waitFor()
  }, 120_000)

  it('records what it hears to a WAV file', async () => {
    await page.getByRole('button', { name: 'Listen', exact: true }).click()
    await page.getByTestId('listen-live').click()
    await page.getByTestId('record').click()
    await page.waitForTimeout(3000)
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByTestId('record').click()])
    const kept = readWav(readFileSync(await file.path()))
    if (!kept.ok) throw new Error(kept.wrong)
    expect(kept.recording.channels).toHaveLength(1)
    expect(kept.recording.channels[0]!.length / kept.recording.sampleRateHz).toBeGreaterThan(2)
    const { combs } = hearRecording(kept.recording)!
    expect(combs[0]!.spacingHz).toBeCloseTo(417.25, 0)
  }, 60_000)

  it('follows the spacing, with the current that somebody reads at the meter', async () => {
    const track = page.getByLabel('Its frequency')
    for (const amps of ['4.5 A', '2 A']) {
      await page.getByLabel('Current read now').fill(amps)
      await page.getByRole('button', { name: 'Mark the current' }).click()
      await track.getByRole('cell', { name: amps.replace(' ', ' '), exact: true }).waitFor()
      await page.waitForTimeout(2500)
    }
    await track.getByText('against the current, 2 to 4.5 A').waitFor()
    const spacings = await track.locator('td:nth-child(2)').allTextContents()
    for (const spacing of spacings) expect(Number(spacing.replace(' kHz', ''))).toBeCloseTo(0.417, 2)
    await page.getByLabel('Current read now').fill('four')
    await page.getByRole('button', { name: 'Mark the current' }).click()
    await track.getByRole('alert').waitFor()
  }, 60_000)

  it('measures what a cure gained, and logs it in the case', async () => {
    await page.getByLabel('Bandwidth').click()
    await page.getByRole('option', { name: '9 kHz' }).click()
    await toAndFro(2)
    await page.getByTestId('ab').waitFor()
    await page.getByLabel('What is heard with it off').click()
    await page.getByRole('option', { name: 'gone' }).click()
    await page.getByLabel('Cure', { exact: true }).click()
    await page.getByRole('option', { name: 'common-mode choke' }).click()
    await page.getByLabel('Where').click()
    await page.getByRole('option', { name: 'Inverter' }).click()
    await page.getByRole('button', { name: 'Log the cure' }).click()
    await page
      .locator('.why li')
      .filter({ hasText: /Common-mode choke at Inverter: measured: \+\d+\.\d ± .* dB without it.*gone/ })
      .waitFor()
  }, 90_000)

  it('puts on and off into a survey, calibrated', async () => {
    await page.getByRole('button', { name: 'Listen', exact: true }).click()
    await page.getByTestId('listen-live').click()
    await page.getByLabel('Bandwidth').click()
    await page.getByRole('option', { name: '9 kHz' }).click()
    const ab = page.getByTestId('ab')
    // Where the machine does much else, what is fed may turn before the hand does: then once more, as anybody would.
    for (let n = 0; n < 4 && !((await ab.count()) && /more than chance/.test((await ab.textContent())!)); n++)
      await toAndFro(1)
    await page.getByLabel('Known level, dBm').fill('-90')
    await page.getByLabel('Known level, dBm').press('Tab')
    await page.getByRole('button', { name: 'Calibrate' }).click()
    await page.getByLabel('What was switched').click()
    await page.getByRole('option', { name: 'Inverter' }).click()
    await page.getByLabel('Band of the survey').click()
    await page.getByRole('option', { name: '20 m' }).click()
    await page.getByRole('button', { name: 'Into the survey' }).click()
    const cells = page.locator('.sheet td').filter({ hasText: /−\d+\.\d dBm/ })
    await cells.nth(1).waitFor()
    const [first, second] = await cells.allTextContents()
    const dbm = (text: string) => Number(/−([\d.]+) dBm/.exec(text)![1]) * -1
    expect(Math.abs(dbm(first!) - dbm(second!))).toBeGreaterThan(6)
  }, 120_000)

  it('says in words where it may not listen, and goes on', async () => {
    const other = await launch()
    const context = await other.newContext({ permissions: [] })
    const alone = await context.newPage()
    const id = await server.made(demoPlan('narrowboat-heron'))
    await alone.goto(`${server.url}/station/${id}/quiet?tool=live`)
    await alone.getByTestId('listen-live').click()
    await alone
      .getByRole('alert')
      .filter({ hasText: /no audio input|not allowed to listen|cannot be opened/ })
      .waitFor()
    await alone.getByText('Listen to a simulated evening').click()
    await alone.locator('canvas').waitFor()
    await other.close()
  }, 60_000)
})
