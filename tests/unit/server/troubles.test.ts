import { describe, expect, it } from 'vitest'
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
  it('what is none of these is left as it is, and causes that go round end', () => {
    const round = new Error('a')
    round.cause = round
    expect(troubleOf(round)).toBeNull()
    expect(troubleOf(made('23505'))).toBeNull()
    expect(troubleOf(undefined)).toBeNull()
    expect(troubleOf('text')).toBeNull()
  })
})
