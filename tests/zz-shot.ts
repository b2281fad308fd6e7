import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { freePort, launch, TestServer, errorsOf } from './e2e/browser'
const OUT = '/tmp/x/shots'
const demoPlan = (n: string) => JSON.parse(readFileSync(join(import.meta.dirname, `../demo/${n}.json`), 'utf8'))
const server = new TestServer(await freePort())
await server.start()
const browser = await launch()
async function shot(name: string, steps: any, { width = 1280, height = 800, theme = 'light', start = '/', scheme = 'light', wait = 700 } = {} as any) {
  const context = await browser.newContext({ viewport: { width, height }, colorScheme: scheme, hasTouch: width < 500 })
  const page = await context.newPage()
  page.setDefaultTimeout(20000)
  const errors = errorsOf(page)
  await page.addInitScript((t: string) => { if (!localStorage.getItem('wireman-preferences')) localStorage.setItem('wireman-preferences', JSON.stringify({ theme: t })) }, theme)
  await page.goto(server.url + start)
  await page.waitForTimeout(1200)
  try { await steps(page) } catch (e) { console.log(name, 'failed:', String(e).slice(0, 800)) }
  await page.waitForTimeout(wait)
  await page.screenshot({ path: join(OUT, `${name}.png`) })
  if (errors.length) console.log(name, 'errors', errors.slice(0, 5))
  await context.close()
}
const script = (await import(process.argv[2])).default
try { await script(shot, server, demoPlan, browser) } finally { await browser.close(); await server.stop() }
