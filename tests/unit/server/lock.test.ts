import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { FolderInUse, lockFolder } from '../../../server/db/lock'

const folder = () => mkdtempSync(join(tmpdir(), 'wireman-lock-'))
const lockOf = (at: string) => join(at, 'wireman.lock')
const beatMs = 30

describe('the lock on the data folder', () => {
  it('refuses a second holder in words, and lets go', async () => {
    const at = folder()
    const lock = await lockFolder(at)
    await expect(lockFolder(at)).rejects.toThrow(FolderInUse)
    await expect(lockFolder(at)).rejects.toThrow(/Another Wireman .* WIREMAN_DATA/)
    lock.release()
    expect(existsSync(lockOf(at))).toBe(false)
    expect(existsSync(`${lockOf(at)}.beat`)).toBe(false)
    ;(await lockFolder(at)).release()
  })
  it('takes over from a process that is gone', async () => {
    const at = folder()
    const { pid } = spawnSync('true')
    writeFileSync(lockOf(at), JSON.stringify({ pid, started: '1' }))
    ;(await lockFolder(at)).release()
  })
  it('takes over where the number went to another process since', async () => {
    const at = folder()
    const other = spawn('sleep', ['5'])
    writeFileSync(lockOf(at), JSON.stringify({ pid: other.pid, started: '12345' }))
    ;(await lockFolder(at)).release()
    other.kill()
  })
  it('takes over a lock file that is damaged', async () => {
    const at = folder()
    writeFileSync(lockOf(at), '{')
    ;(await lockFolder(at)).release()
  })
})

describe('a folder shared with another container or machine', () => {
  /** Held elsewhere, by a process whose number says nothing here: this one's own. */
  const elsewhere = (at: string, where = { machine: 'shed', boot: 'b', processes: 'p' }) =>
    writeFileSync(lockOf(at), JSON.stringify({ pid: process.pid, started: '1', where }))
  it('is held for as long as its holder writes', async () => {
    const at = folder()
    elsewhere(at)
    let beats = 0
    const holder = setInterval(() => writeFileSync(`${lockOf(at)}.beat`, `shed ${++beats}`), beatMs)
    await expect(lockFolder(at, { beatMs })).rejects.toThrow(/in another container, or on another machine/)
    clearInterval(holder)
    expect(JSON.parse(readFileSync(lockOf(at), 'utf8'))).toMatchObject({ where: { machine: 'shed' } })
  })
  it('is taken over once nothing was written for some beats', async () => {
    const at = folder()
    elsewhere(at)
    writeFileSync(`${lockOf(at)}.beat`, 'shed 7')
    const began = performance.now()
    const lock = await lockFolder(at, { beatMs })
    expect(performance.now() - began).toBeGreaterThan(3 * beatMs)
    lock.release()
  })
  it('is taken at once where the machine was started anew since', async () => {
    const at = folder()
    const lock = await lockFolder(at)
    const held = JSON.parse(readFileSync(lockOf(at), 'utf8')) as { where: { boot: string } }
    lock.release()
    elsewhere(at, { ...held.where, boot: 'yesterday' } as never)
    // A beat of half a minute: it would wait for two.
    ;(await lockFolder(at, { beatMs: 30_000 })).release()
  }, 10_000)
  it('tells a holder that stood still when somebody took it, and lets the other have it', async () => {
    const at = folder()
    let told = 0
    const lock = await lockFolder(at, { beatMs, onLost: () => told++ })
    await expect.poll(() => existsSync(`${lockOf(at)}.beat`)).toBe(true)
    rmSync(lockOf(at))
    elsewhere(at)
    await expect.poll(() => told).toBe(1)
    lock.release()
    expect(existsSync(lockOf(at))).toBe(true)
  })
})
