import { freePort, launch, TestServer } from './e2e/browser'
const server = new TestServer(await freePort(), undefined, {
  WIREMAN_LAN_ADDRESS: '127.0.0.1',
  WIREMAN_LAN_PORT: String(await freePort()),
})
await server.start()
const browser = await launch(['--ignore-certificate-errors'])
const shot = async (
  name: string,
  work: any,
  { width = 1280, height = 800, theme = 'light', start = '/stations' } = {},
) => {
  const page = await (
    await browser.newContext({ viewport: { width, height }, colorScheme: theme as any, ignoreHTTPSErrors: true })
  ).newPage()
  page.on('console', m => m.type() === 'error' && console.log(name, m.text()))
  page.on('pageerror', e => console.log(name, e.message))
  await page.goto(start.startsWith('http') ? start : server.url + start)
  await work(page)
  await page.screenshot({ path: `/tmp/x/${name}.png` })
  return page
}
const script = (await import(process.argv[2]!)).default
await script(shot, server)
await browser.close()
await server.stop()
