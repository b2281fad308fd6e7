import { PGlite } from '@electric-sql/pglite'
import { openAsBlob } from 'node:fs'

/** A database with nothing in it, as `tests/emptyDatabase.ts` has made it. @param folder in memory without one */
export async function emptyDatabase(folder?: string): Promise<PGlite> {
  return PGlite.create(folder, { loadDataDir: await openAsBlob(`${process.env.WIREMAN_TEMPLATE}.tar`) })
}
