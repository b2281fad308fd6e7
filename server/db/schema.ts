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

/** A station's noise logbook: surveys and cases, saved whole; its revision guards against two windows. */
export const noise = pgTable('noise', {
  stationId: text('station_id')
    .primaryKey()
    .references(() => stations.id, { onDelete: 'cascade' }),
  revision: integer().notNull(),
  logbook: text().notNull(),
  savedAt: timestamp('saved_at', { withTimezone: true }).notNull().defaultNow(),
})

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
    savedAt: timestamp('saved_at', { withTimezone: true }).notNull().defaultNow(),
  },
  table => [primaryKey({ columns: [table.stationId, table.number] })],
)
