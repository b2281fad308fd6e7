import { spawn, type ChildProcess } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, type Browser, type Page, type Route } from 'playwright'
import type { Plan } from '../../core/plan/schema'

const ROOT = join(import.meta.dirname, '../..')
const FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // Words as wide as in a window: without one they would be hinted, and set closer.
  '--font-render-hinting=none',
]

/** Debian's, without a window or with one. */
const CHROMIUMS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium']

/** @param more further switches, as a file for a microphone */
export function launch(more: readonly string[] = []): Promise<Browser> {
  const places = process.env.CHROMIUM ? [process.env.CHROMIUM] : CHROMIUMS
  const executablePath = places.find(place => existsSync(place))
  if (executablePath === undefined)
    throw new Error(`no Chromium at ${places.join(' or ')}; ./run test installs it, or say where it is with CHROMIUM`)
  return chromium.launch({ executablePath, args: [...FLAGS, ...more] })
}

/** What a page says is wrong with itself: exceptions, and errors on the console but for requests that are refused. */
export function errorsOf(page: Page): string[] {
  const errors: string[] = []
  page.on('pageerror', e => errors.push(e.message))
  page.on('console', m => {
    if (m.type() === 'error' && !/Failed to load resource|net::ERR_/.test(m.text())) errors.push(m.text())
  })
  return errors
}

/** Where a page stands, for a test that failed: its address, the focus, open dialogs, alerts, how it is saved. */
export async function tellWhereItStands(page: Page) {
  const stands = await page
    .evaluate(() => {
      const texts = (selector: string) =>
        [...document.querySelectorAll(selector)].map(e => e.textContent?.slice(0, 300))
      return {
        at: location.pathname + location.search,
        focus: document.activeElement?.outerHTML.slice(0, 200),
        dialogs: texts('[role="dialog"], .p-dialog'),
        alerts: texts('[role="alert"]'),
        saved: texts('[data-testid="saved"]'),
      }
    })
    .catch(error => ({ gone: String(error) }))
  console.error(`the page stands so: ${JSON.stringify(stands, null, 1)}`)
}

const PROGRAMS = join(import.meta.dirname, '../../.output/public/_nuxt')

/** Addresses of the pages' programs that hold these words. */
export function programsWith(words: string): RegExp {
  const names = readdirSync(PROGRAMS).filter(n => n.endsWith('.js'))
  const holding = names.filter(n => readFileSync(join(PROGRAMS, n), 'utf8').includes(words))
  return new RegExp(holding.map(n => `/${n.replaceAll('.', '\\.')}$`).join('|'))
}

/** As of somebody who pays for every byte: from the next page on nothing is fetched before it is asked for. */
export const sparesBytes = (who: Pick<Page, 'addInitScript'>) =>
  who.addInitScript(() =>
    Object.defineProperty(navigator, 'connection', { value: { saveData: true }, configurable: true }),
  )

/** The next request of a path is answered only after a while. */
export async function answersLate(page: Page, path: string, ms = 1500) {
  const late = async (route: Route) => {
    await new Promise(go => setTimeout(go, ms))
    await route.continue()
  }
  await page.route(path, late, { times: 1 })
}

export async function freePort(): Promise<number> {
  return new Promise(resolve => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number }
      probe.close(() => resolve(port))
    })
  })
}

/** How long a journey waits for what must come: a machine that does much else is slow, and that is no fault. */
export const PATIENCE_MS = 40_000

/** A built server on a data folder of its own. */
export class TestServer {
  process: ChildProcess | null = null
  output = ''
  readonly folder: string
  constructor(
    readonly port: number,
    folder?: string,
    /** Further settings. */
    readonly env: Readonly<Record<string, string>> = {},
  ) {
    this.folder = folder ?? mkdtempSync(join(tmpdir(), 'wireman-e2e-'))
  }

  get url() {
    return `http://127.0.0.1:${this.port}`
  }

  /** Starts it and waits until it answers. @returns milliseconds to the first answer */
  async start(): Promise<number> {
    const began = performance.now()
    const started = this.spawn()
    for (;;) {
      if (started.exitCode !== null) throw new Error(`the server ended: ${this.output}`)
      const answer = await fetch(`${this.url}/api/stations`).catch(() => null)
      if (answer?.ok) return performance.now() - began
      if (performance.now() - began > 30000) throw new Error(`the server does not answer: ${this.output}`)
      await new Promise(r => setTimeout(r, 25))
    }
  }

  /** Starts it without waiting. */
  spawn(): ChildProcess {
    this.process = spawn(process.execPath, [join(ROOT, '.output/server/index.mjs')], {
      env: {
        ...process.env,
        ...this.env,
        WIREMAN_DATA: this.folder,
        NITRO_HOST: '127.0.0.1',
        NITRO_PORT: String(this.port),
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    this.process.stdout!.on('data', data => (this.output += data))
    this.process.stderr!.on('data', data => (this.output += data))
    return this.process
  }

  /** The demo station that every start shows first, with its complaints, events and readings. @returns its id */
  async firstDemo(): Promise<string> {
    const [first] = (await (await fetch(`${this.url}/api/stations`)).json()) as { id: string }[]
    return first!.id
  }

  /** Makes a station of a plan. @returns its id */
  async made(plan: Plan): Promise<string> {
    const answer = await fetch(`${this.url}/api/stations`, {
      method: 'POST',
      body: JSON.stringify({ plan }),
      headers: { 'content-type': 'application/json' },
    })
    return ((await answer.json()) as { id: string }).id
  }

  /** Ends it at once, as a power cut would. */
  async kill(signal: NodeJS.Signals = 'SIGKILL') {
    const running = this.process
    if (!running || running.exitCode !== null) return
    const ended = new Promise(r => running.once('exit', r))
    running.kill(signal)
    await ended
  }

  async stop() {
    await this.kill('SIGTERM')
    rmSync(this.folder, { recursive: true, force: true })
  }
}
