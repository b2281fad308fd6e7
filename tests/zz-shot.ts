import { freePort, launch, TestServer } from './e2e/browser'
const server = new TestServer(await freePort()); await server.start(); const browser = await launch()
const shot = async (name: string, steps: any, o: any = {}) => { const { width = 1280, height = 800, theme = 'light' } = o
 const c = await browser.newContext({ viewport: { width, height } }); const page = await c.newPage()
 await page.addInitScript(t => localStorage.setItem('wireman-preferences', JSON.stringify({ theme: t })), theme)
 await page.goto(server.url); await page.locator('article.chosen .fix').first().waitFor(); await page.waitForTimeout(500); await steps(page); await page.waitForTimeout(600)
 await page.screenshot({ path: `/tmp/x/${name}.png` }); await c.close() }
const run = (await import(process.argv[2]!)).default
await run(shot)
await browser.close(); await server.stop()
