import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

/** A process of its own that stands still, or does not. */

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'wireman-watch-'))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

function run(name: string, work: string) {
  const file = join(folder, `${name}.mts`)
  const watchdog = pathToFileURL(join(process.cwd(), 'server/db/watchdog.ts'))
  writeFileSync(
    file,
    `import { watchOver } from '${watchdog}'
     const watch = watchOver('it stood still', { beatMs: 20, stillMs: 400 })
     const pause = (ms: number) => new Promise(r => setTimeout(r, ms))
     ${work}`,
  )
  const child = spawn(process.execPath, ['--import', 'tsx', file], { cwd: process.cwd() })
  let said = ''
  child.stderr.on('data', d => (said += d))
  child.stdout.on('data', d => (said += d))
  return new Promise<{ code: number | null; signal: string | null; said: string }>(resolve =>
    child.once('close', (code, signal) => resolve({ code, signal, said })),
  )
}

describe('who stands still', () => {
  it('for good is ended, and it is said why', async () => {
    const { signal, said } = await run('still', 'await pause(300); for (;;);')
    expect(signal).toBe('SIGKILL')
    expect(said).toMatch('it stood still')
  })
  it('for a while goes on', async () => {
    const busy = 'const until = Date.now() + 200; while (Date.now() < until);'
    const { code, said } = await run('busy', `await pause(100); ${busy} await pause(600); console.log('went on')`)
    expect(said).toBe('went on\n')
    expect(code).toBe(0)
  })
  it('after the watch has ended may do as it likes', async () => {
    const busy = 'const until = Date.now() + 900; while (Date.now() < until);'
    expect(await run('ended', `await watch.end(); ${busy} console.log('well')`)).toMatchObject({
      code: 0,
      said: 'well\n',
    })
  })
})
