import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeEach, describe, expect, it } from 'vitest'
import { FolderTrouble, inWords, lookAt, markFolder } from '../../../server/db/folder'

let folder: string
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'wireman-folder-'))
})
const put = (...names: string[]) => {
  for (const name of names) {
    mkdirSync(join(folder, name, '..'), { recursive: true })
    writeFileSync(join(folder, name), 'x')
  }
}
/** As the engine leaves it, as far as it is looked at. */
const PG = ['PG_VERSION', 'base/1', 'global/pg_control', 'pg_wal/0001', 'pg_xact/0000'].map(n => `pg/${n}`)

describe('a data folder', () => {
  it('that is empty, or not there yet, is new', () => {
    expect(lookAt(folder, 5)).toBe('new')
    expect(lookAt(join(folder, 'not', 'yet'), 5)).toBe('new')
  })
  it('with what a first start that was cut short left is new', () => {
    put('pg.new/PG_VERSION', 'wireman.lock', 'wireman.lock.123')
    expect(lookAt(folder, 5)).toBe('new')
  })
  it('with somebody else’s things is left alone', () => {
    put('thesis.txt', 'photos/1.jpg')
    expect(() => lookAt(folder, 5)).toThrow(/holds other things \(photos, thesis.txt\).*WIREMAN_DATA/)
    expect(readdirSync(folder).sort()).toEqual(['photos', 'thesis.txt'])
  })
  it('with its data is known, marked or not', () => {
    put(...PG)
    expect(lookAt(folder, 5)).toBe('unmarked')
    markFolder(folder, 5)
    expect(lookAt(folder, 5)).toBe('known')
    expect(lookAt(folder, 6)).toBe('known')
  })
  it('of a newer program is left to that', () => {
    put(...PG)
    markFolder(folder, 6)
    expect(() => lookAt(folder, 5)).toThrow(/newer Wireman/)
  })
  it('that has lost all its data is not begun anew', () => {
    put(...PG)
    markFolder(folder, 5)
    rmSync(join(folder, 'pg'), { recursive: true })
    expect(() => lookAt(folder, 5)).toThrow(/has lost its folder pg/)
  })
  it.each(['PG_VERSION', 'base', 'global/pg_control', 'pg_wal', 'pg_xact'])(
    'that has lost pg/%s is not either',
    name => {
      put(...PG)
      rmSync(join(folder, 'pg', name), { recursive: true })
      expect(() => lookAt(folder, 5)).toThrow(FolderTrouble)
      expect(() => lookAt(folder, 5)).toThrow(`pg has lost ${name}`)
    },
  )
  it('is looked at with a damaged mark as with none', () => {
    put(...PG, 'wireman-data.json')
    expect(lookAt(folder, 5)).toBe('unmarked')
  })
  it('where a file stands says so', () => {
    put('data')
    expect(() => lookAt(join(folder, 'data'), 5)).toThrow(/a file stands in the way/)
  })
})

describe('why it cannot be opened', () => {
  it.each([
    ['ENOSPC', /disk is full/],
    ['EROFS', /cannot be written to/],
    ['EACCES', /may not write/],
    ['EIO', /answers with errors/],
  ])('%s is told in words', (code, words) => {
    expect(inWords(Object.assign(new Error('x'), { code }), '/data')).toMatch(words)
  })
  it('else what is known is told, and that nothing was begun anew', () => {
    expect(inWords(new Error('it failed'), '/data')).toBe(
      'The data folder /data cannot be opened: it failed. Nothing was begun anew. Put it back from a copy.',
    )
  })
})
