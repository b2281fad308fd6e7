import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { PGlite } from '@electric-sql/pglite'

/**
 * Before the tests: an empty database on the disk, from which every one of theirs begins. The engine takes ten times
 * as long to make one from nothing. It stays for the next run; another version of the engine makes its own.
 */
export default async function makeEmptyDatabase() {
  const { version } = JSON.parse(readFileSync('node_modules/@electric-sql/pglite/package.json', 'utf8')) as {
    version: string
  }
  const place = `node_modules/.cache/wireman/empty-database-${version}`
  process.env.WIREMAN_TEMPLATE = place
  if (existsSync(place)) return
  // Aside and then moved, so that a run cut short leaves nothing half made.
  const aside = `${place}.new`
  rmSync(aside, { recursive: true, force: true })
  mkdirSync(aside, { recursive: true })
  const client = await PGlite.create(aside)
  writeFileSync(`${place}.tar`, await client.dumpDataDir('none').then(file => file.bytes()))
  await client.close()
  renameSync(aside, place)
}
