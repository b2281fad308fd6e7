import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { FolderInUse, lockFolder } from '../../../server/db/lock'

const folder = () => mkdtempSync(join(tmpdir(), 'wireman-lock-'))

describe('the lock on the data folder', () => {
  it('refuses a second holder in words, and lets go', () => {
    const at = folder()
    const lock = lockFolder(at)
    expect(() => lockFolder(at)).toThrow(FolderInUse)
    expect(() => lockFolder(at)).toThrow(/Another Wireman .* WIREMAN_DATA/)
    lock.release()
    expect(existsSync(join(at, 'wireman.lock'))).toBe(false)
    lockFolder(at).release()
  })
  it('takes over from a process that is gone', () => {
    const at = folder()
    const { pid } = spawnSync('true')
    writeFileSync(join(at, 'wireman.lock'), JSON.stringify({ pid, started: '1' }))
    lockFolder(at).release()
  })
  it('takes over where the number went to another process since', async () => {
    const at = folder()
    const other = spawn('sleep', ['5'])
    writeFileSync(join(at, 'wireman.lock'), JSON.stringify({ pid: other.pid, started: '12345' }))
    lockFolder(at).release()
    other.kill()
  })
  it('takes over a lock file that is damaged', () => {
    const at = folder()
    writeFileSync(join(at, 'wireman.lock'), '{')
    lockFolder(at).release()
  })
})
