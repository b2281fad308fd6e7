import { request } from 'node:https'
import type { Browser, BrowserContext, Page } from 'playwright'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Plan } from '../../core/plan/schema'
import type { Log } from '../../core/log/log'
import { demoPlan } from '../data/plans'
import { errorsOf, freePort, launch, PATIENCE_MS, TestServer } from './browser'

/** A phone on the same net: let in by a code, without the net, back again, and taken out. */

let server: TestServer
let browser: Browser
let desk: Page
let phone: BrowserContext
let lanPort: number
let id: string

beforeAll(async () => {
  lanPort = await freePort()
  server = new TestServer(await freePort(), undefined, {
    WIREMAN_LAN_ADDRESS: '127.0.0.1',
    WIREMAN_LAN_PORT: String(lanPort),
  })
  await server.start()
  // The certificate is this machine's own: a phone that trusts it takes it as this switch does.
  browser = await launch(['--ignore-certificate-errors'])
  id = await server.made({ ...demoPlan('tern-rock-light'), name: 'Moor camp' })
  desk = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  phone = await browser.newContext({ viewport: { width: 390, height: 800 }, ignoreHTTPSErrors: true })
})
afterAll(async () => {
  await browser.close()
  await server.stop()
})

const lanUrl = () => `https://127.0.0.1:${lanPort}`

interface Answer {
  status: number
  headers: Record<string, string | string[] | undefined>
  text: string
}
/** A stranger's request, as raw as one likes. */
function stranger(path: string, options: { method?: string; headers?: Record<string, string>; body?: string } = {}) {
  const { method = 'GET', headers = {}, body } = options
  return new Promise<Answer>((resolve, reject) => {
    const sent = request(
      { host: '127.0.0.1', port: lanPort, path, method, headers, rejectUnauthorized: false },
      response => {
        let text = ''
        response.on('data', d => (text += d))
        response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, text }))
      },
    )
    sent.on('error', reject)
    sent.end(body)
  })
}
const pair = (code: string, name = 'Stranger', headers: Record<string, string> = {}) =>
  stranger('/pair', {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify({ code, name }),
  })

const plain = async <T>(path: string) => (await (await fetch(`${server.url}${path}`)).json()) as T
const stationNow = () => plain<{ revision: number; plan: Plan }>(`/api/stations/${id}`)
const logNow = async () => (await plain<{ log: Log }>(`/api/stations/${id}/log`)).log
/** The net between the two, as far as the phone can tell. */
async function net(on: boolean) {
  await fetch(`${server.url}/api/lan`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ on }),
  })
}
const codeOnDesk = async () => (await desk.getByTestId('code').innerText()).trim()

/** Changes a field of the plan as another window would. */
async function elsewhere(change: (plan: Plan) => Plan) {
  const { revision, plan } = await stationNow()
  const answer = await fetch(`${server.url}/api/stations/${id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ baseRevision: revision, plan: change(plan), note: 'at the desk' }),
  })
  expect(answer.status).toBe(200)
}

describe('before it is chosen', () => {
  it('nothing listens on the net', async () => {
    await expect(stranger('/pair')).rejects.toThrow(/ECONNREFUSED/)
    expect((await plain<{ on: boolean }>('/api/lan')).on).toBe(false)
  })
})

describe('a stranger on the net', () => {
  beforeAll(async () => {
    await desk.goto(`${server.url}/devices`)
    await desk.getByRole('button', { name: 'Let phones in' }).click()
    await desk.getByTestId('code').waitFor()
  })

  it('gets the page that asks for a code, and nothing else', async () => {
    const page = await stranger('/pair')
    expect(page.status).toBe(200)
    expect(page.headers['content-security-policy']).toMatch(/default-src 'none'.*frame-ancestors 'none'/)
    for (const path of [
      '/api/stations',
      '/api/lan',
      '/api/me',
      '/api/backup',
      '/sw.js',
      '/icon.svg',
      '/_nuxt/entry.js',
      '//pair/../api/stations',
      '/pair/%2e%2e/api/stations',
      '/pair/authority.crt/../../api/stations',
    ]) {
      const answer = await stranger(path)
      expect([path, answer.status]).toEqual([path, 401])
      expect(answer.text).not.toMatch(/Moor camp|Tern Rock|node:|\/work\//)
    }
    const navigated = await stranger('/station/x', { headers: { accept: 'text/html' } })
    expect([navigated.status, navigated.headers.location]).toEqual([303, '/pair'])
    for (const method of ['PUT', 'POST'])
      expect((await stranger(`/api/stations/${id}`, { method, body: '{}' })).status).toBe(401)
    expect((await stranger(`/api/stations/${id}`, { method: 'DELETE' })).status).toBe(401)
    expect((await stranger('/pair/authority.crt')).text).toMatch(/^-----BEGIN CERTIFICATE/)
  })
  it('is not answered at other names, nor for other pages', async () => {
    expect((await stranger('/pair', { headers: { host: 'evil.example' } })).status).toBe(421)
    expect((await stranger('/pair', { headers: { host: '127.0.0.1' } })).status).toBe(421)
    expect((await pair('x', 'x', { origin: 'https://evil.example' })).status).toBe(403)
    expect((await pair('x', 'x', { origin: 'null' })).status).toBe(403)
    expect((await pair('x', 'x', { 'content-type': 'text/plain' })).status).toBe(415)
  })
  it('is not let in by a made-up session', async () => {
    const cookie = `__Host-wireman=${'A'.repeat(43)}`
    expect((await stranger('/api/stations', { headers: { cookie } })).status).toBe(401)
  })
  it('is slowed when guessing, and ten wrong ones end the code', async () => {
    expect((await pair('AAAAAAAA')).status).toBe(403)
    const again = await pair('AAAAAAAB')
    expect([again.status, JSON.parse(again.text).message]).toEqual([429, 'Too many wrong codes. Try again in 1 s.'])
    // The right one is not taken either while it is too early.
    expect((await pair(await codeOnDesk())).status).toBe(429)
    for (const bad of ['{', '{}', JSON.stringify({ code: 'A', name: 'x'.repeat(41) }), 'x'.repeat(5000)]) {
      const answer = await stranger('/pair', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: bad,
      })
      expect(answer.status).toBe(400)
    }
  })
})

describe('a phone', () => {
  let page: Page
  let errors: string[]
  const openOnPhone = async (path: string) => {
    page = await phone.newPage()
    errors = errorsOf(page)
    await page.goto(`${lanUrl()}${path}`)
  }
  /** Closed alone, a page may live on for a moment, and keep its drafts from the next. */
  const leave = async () => {
    await page.goto('about:blank')
    await page.close()
  }
  const saved = (words: string | RegExp) => page.locator('[data-testid="saved"]', { hasText: words }).waitFor()

  it('is let in by the code, once, and told at the desk', async () => {
    await new Promise(r => setTimeout(r, 2100))
    const code = await codeOnDesk()
    await openOnPhone(`/pair#${code}`)
    await page.getByLabel('Name of this device').fill('Field phone')
    await page.getByRole('button', { name: 'Let it in' }).click()
    await page.waitForURL(/\/station\//)
    await desk.getByText('Field phone is let in.').waitFor()
    await desk.locator('li').filter({ hasText: 'Field phone' }).waitFor()
    // Only such a page is given the microphone by a browser.
    expect(await page.evaluate(() => isSecureContext && 'getUserMedia' in navigator.mediaDevices)).toBe(true)
    // Used up, and not left in the page's address.
    expect((await pair(code)).status).toBe(403)
    expect(page.url()).not.toContain(code)
  })
  /** The stream of changes as the phone asks for it, open; and when it ends. */
  async function openStream() {
    const cookie = (await phone.cookies()).map(c => `${c.name}=${c.value}`).join('; ')
    return new Promise<{ ended: Promise<unknown> }>((resolve, reject) => {
      const options = { host: '127.0.0.1', port: lanPort, path: '/api/changes', rejectUnauthorized: false }
      const asked = request({ ...options, headers: { cookie } }, response => {
        if (response.statusCode !== 200) return reject(new Error(String(response.statusCode)))
        response.resume()
        // Cut off or ended, as the server likes.
        response.on('error', () => undefined)
        resolve({ ended: new Promise(done => response.once('close', done)) })
      })
      asked.on('error', reject)
      asked.end()
    })
  }

  it('does not let others in itself', async () => {
    const answers = await page.evaluate(async () => [
      (await fetch('/api/lan')).status,
      (await fetch('/api/lan/code', { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' }))
        .status,
    ])
    expect(answers).toEqual([403, 403])
    await page.goto(`${lanUrl()}/devices`)
    await page.getByText('This device is let in as Field phone').waitFor()
  })

  it('opens without the net, and keeps what is changed there over a closed page', async () => {
    await page.goto(`${lanUrl()}/station/${id}`)
    await saved('revision 1')
    // All pages and all that stands here are in the browser.
    await page.waitForFunction(async () => (await navigator.serviceWorker.ready).active?.state === 'activated')
    await expect
      .poll(
        () =>
          page.evaluate(async station => {
            const open = indexedDB.open('wireman-answers')
            const db = await new Promise<IDBDatabase>(done => (open.onsuccess = () => done(open.result)))
            const keys = db.transaction('answers').objectStore('answers').getAllKeys()
            return new Promise(
              done => (keys.onsuccess = () => done(keys.result.includes(`/api/stations/${station}/log`))),
            )
          }, id),
        { timeout: PATIENCE_MS },
      )
      .toBe(true)
    await net(false)
    await page.close()
    await openOnPhone(`/station/${id}`)
    await page.getByTestId('reach').filter({ hasText: 'waits in this device' }).waitFor()
    await page.getByRole('button', { name: /^Move the fuse to/ }).click()
    await saved('not saved')
    // The bench as well: a step is done with the thumb.
    await page.goto(`${lanUrl()}/station/${id}/bench?tab=connect&step=bench%20l5`)
    await page.getByRole('button', { name: 'Done, next' }).click()
    await page.getByTestId('log-problem').filter({ hasText: 'Not saved yet' }).waitFor()
    await page.goto(`${lanUrl()}/station/${id}/build`)
    await page.getByText('House pack').first().waitFor()
    await page.close()
    expect((await stationNow()).revision).toBe(1)
  })

  it('brings it back when the net is there, merged with what the desk did meanwhile', async () => {
    await elsewhere(plan => ({ ...plan, name: 'Moor camp, north hill' }))
    await net(true)
    // Any page will do: the station need not be open.
    await openOnPhone('/stations')
    await expect.poll(async () => (await logNow()).steps.map(s => s.id), { timeout: PATIENCE_MS }).toContain('bench l5')
    await expect.poll(async () => (await stationNow()).revision, { timeout: PATIENCE_MS }).toBe(3)
    const { plan } = await stationNow()
    expect(plan.name).toBe('Moor camp, north hill')
    const fuse = plan.leads.flatMap(l => l.inline ?? []).find(i => i.kind === 'fuse' && i.ratedA === 50)
    expect(fuse).toMatchObject({ atM: 0.12 })
    const [last] = await plain<{ who: string }[]>(`/api/stations/${id}/revisions`)
    expect(last!.who).toBe('Field phone')
    expect((await logNow()).steps.find(s => s.id === 'bench l5')!.who).toBe('Field phone')
    // And follows what the desk does.
    await page.goto(`${lanUrl()}/station/${id}`)
    await saved('revision 3')
    expect(errors).toEqual([])
  })

  it('asks who is right where both changed the same, and loses neither', async () => {
    await net(false)
    await page.getByRole('button', { name: 'Moor camp, north hill', exact: true }).click()
    await page.getByLabel('Name', { exact: true }).first().fill('From the phone')
    await page.getByLabel('Name', { exact: true }).first().press('Tab')
    await page.keyboard.press('Escape')
    await saved('not saved')
    await elsewhere(plan => ({ ...plan, name: 'From the desk' }))
    await leave()
    await net(true)
    await openOnPhone(`/station/${id}`)
    await saved('changed in another window')
    expect((await stationNow()).plan.name).toBe('From the desk')
    await leave()
    // Left unsettled, it still waits.
    await openOnPhone(`/station/${id}`)
    await saved('changed in another window')
    await page.getByRole('button', { name: 'Keep mine', exact: true }).click()
    await expect.poll(async () => (await stationNow()).plan.name, { timeout: PATIENCE_MS }).toBe('From the phone')
  }, 90000)

  it('is answered no more once it is taken out, what was open ends; what is entered there stays', async () => {
    const stream = await openStream()
    await desk.getByRole('button', { name: 'Take Field phone out' }).click()
    await desk.locator('li').filter({ hasText: 'Field phone' }).waitFor({ state: 'detached' })
    await stream.ended
    expect((await phone.request.get(`${lanUrl()}/api/stations`)).status()).toBe(401)
    await page.goto(`${lanUrl()}/stations`)
    await page.getByTestId('reach').filter({ hasText: 'no longer let in' }).waitFor()
  })
})

describe('the server started again', () => {
  it('listens where that was chosen, with the same certificate, and no longer once it is turned off', async () => {
    const before = (await stranger('/pair/authority.crt')).text
    await server.kill('SIGTERM')
    await server.start()
    await expect
      .poll(async () => (await stranger('/pair').catch(() => null))?.status, { timeout: PATIENCE_MS })
      .toBe(200)
    expect((await stranger('/pair/authority.crt')).text).toBe(before)
    await desk.goto(`${server.url}/devices`)
    await desk.getByRole('button', { name: 'Stop letting phones in' }).click()
    await desk.getByText('Now only this machine is answered.').waitFor()
    await expect(stranger('/pair')).rejects.toThrow(/ECONNREFUSED/)
  })
})
