import { integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core'

/** A station: its plan lives in its revisions, of which `revision` is the current one. */
export const stations = pgTable('stations', {
  id: text().primaryKey(),
  name: text().notNull(),
  revision: integer().notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  updatedAt: timestamp('updated_at', { withTimezone: true }).notNull().defaultNow(),
  deletedAt: timestamp('deleted_at', { withTimezone: true }),
})

/** What the operator owns: one row, the whole shelf, its revision guarding against two windows. */
export const shelf = pgTable('shelf', {
  id: integer().primaryKey(),
  revision: integer().notNull(),
  items: text().notNull(),
  savedAt: timestamp('saved_at', { withTimezone: true }).notNull().defaultNow(),
})

/** A document of a station, saved whole as text under a name of its own; its revision guards against two windows. */
const documentTable = (name: string, column: string) =>
  pgTable(name, {
    stationId: text('station_id')
      .primaryKey()
      .references(() => stations.id, { onDelete: 'cascade' }),
    revision: integer().notNull(),
    body: text(column).notNull(),
    savedAt: timestamp('saved_at', { withTimezone: true }).notNull().defaultNow(),
  })
export type DocumentTable = ReturnType<typeof documentTable>

/** A station's noise logbook: surveys and cases. */
export const noise = documentTable('noise', 'logbook')
/** What happens at a station over time: its events. */
export const hours = documentTable('hours', 'events')
/** What was built, set, measured and seen at a station, and the life of its batteries. */
export const logs = documentTable('logs', 'log')

/** Every state a station was saved in. The plan is text, not jsonb, so that it comes back to the byte. */
export const revisions = pgTable(
  'revisions',
  {
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id, { onDelete: 'cascade' }),
    number: integer().notNull(),
    plan: text().notNull(),
    note: text().notNull().default(''),
    /** Given by somebody: it is kept for good. */
    name: text().notNull().default(''),
    /** The device it was saved from; empty: this machine. */
    who: text().notNull().default(''),
    savedAt: timestamp('saved_at', { withTimezone: true }).notNull().defaultNow(),
  },
  table => [primaryKey({ columns: [table.stationId, table.number] })],
)

/** Devices that were let in, each by a session of which only a digest is kept. */
export const devices = pgTable('devices', {
  id: text().primaryKey(),
  name: text().notNull(),
  tokenHash: text('token_hash').notNull().unique(),
  pairedAt: timestamp('paired_at', { withTimezone: true }).notNull(),
  seenAt: timestamp('seen_at', { withTimezone: true }).notNull(),
  revokedAt: timestamp('revoked_at', { withTimezone: true }),
})
