import { and, eq } from 'drizzle-orm'
import type { ShelfItem } from '../../core/shelf/item'
import { announce } from './changes'
import { database, onDisk } from './client'
import { shelf } from './schema'

export interface ShelfState {
  revision: number
  items: ShelfItem[]
}

/** What the operator owns; revision 0 while nothing was ever saved. */
export async function readShelf(): Promise<ShelfState> {
  const db = await database()
  const [row] = await db.select().from(shelf).where(eq(shelf.id, 1))
  return row ? { revision: row.revision, items: JSON.parse(row.items) as ShelfItem[] } : { revision: 0, items: [] }
}

/** Saves the whole shelf, if it is still at the revision the change was made on; else gives back what stands now. */
export async function saveShelf(
  baseRevision: number,
  items: ShelfItem[],
): Promise<{ status: 'saved' | 'conflict' } & ShelfState> {
  const db = await database()
  const values = { revision: baseRevision + 1, items: JSON.stringify(items), savedAt: new Date() }
  const rows =
    baseRevision === 0
      ? await db
          .insert(shelf)
          .values({ id: 1, ...values })
          .onConflictDoNothing()
          .returning({ revision: shelf.revision })
      : await db
          .update(shelf)
          .set(values)
          .where(and(eq(shelf.id, 1), eq(shelf.revision, baseRevision)))
          .returning({ revision: shelf.revision })
  await onDisk()
  if (rows.length) announce({ of: 'shelf', revision: baseRevision + 1 })
  return rows.length
    ? { status: 'saved', revision: baseRevision + 1, items }
    : { status: 'conflict', ...(await readShelf()) }
}
