import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { roomFor } from '../../../server/db/embedded'
import { troubleOf } from '../../../server/requests/troubles'

const made = (code: string) => Object.assign(new Error('deep'), { code })

describe('what a disk or a database says', () => {
  it.each([
    ['ENOSPC', 507, /disk is full/],
    ['53100', 507, /disk is full/],
    ['EROFS', 507, /cannot be written to/],
    ['XX001', 507, /is damaged.*Save a backup/],
    ['57P01', 503, /database does not answer/],
    ['ECONNREFUSED', 503, /database does not answer/],
  ])('%s is told, however deep it lies', (code, status, words) => {
    const error = new Error('Failed query', { cause: new Error('once more', { cause: made(code) }) })
    for (const e of [error, made(code)]) {
      expect(troubleOf(e)).toMatchObject({ statusCode: status })
      expect(troubleOf(e)!.message).toMatch(words)
      expect(troubleOf(e)!.message).toMatch(/waits and is tried again/)
    }
  })
  it('a connection that the driver gave up has no code', () => {
    expect(troubleOf(new Error('timeout exceeded when trying to connect'))).toMatchObject({ statusCode: 503 })
  })
  it('a disk that cannot be written to any more is told by the engine in its words', () => {
    const cause = Object.assign(new Error('could not open file "base/5/2667": Read-only file system'), {
      code: '42501',
    })
    expect(troubleOf(new Error('Failed query: insert', { cause }))!.message).toMatch(/cannot be written to/)
    // Of tables it means something else.
    expect(troubleOf(Object.assign(new Error('permission denied for table stations'), { code: '42501' }))).toBeNull()
  })
  it('a folder that is gone, or has no room, is told before the engine is asked', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'wireman-room-'))
    await expect(roomFor(folder, 1)).resolves.toBeUndefined()
    await expect(roomFor(folder, 1e18)).rejects.toMatchObject({ code: 'ENOSPC' })
    rmSync(folder, { recursive: true })
    const gone = await roomFor(folder, 1).catch((e: unknown) => e)
    expect(troubleOf(gone)!.message).toMatch(/cannot be written to/)
  })
  it('what is none of these is left as it is, and causes that go round end', () => {
    const round = new Error('a')
    round.cause = round
    expect(troubleOf(round)).toBeNull()
    expect(troubleOf(made('23505'))).toBeNull()
    expect(troubleOf(undefined)).toBeNull()
    expect(troubleOf('text')).toBeNull()
  })
})
