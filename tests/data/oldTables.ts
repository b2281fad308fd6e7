/** The tables' steps as they were written before drizzle-kit: what databases of versions 1, 2 and 3 were made by. */
export const OLD_STEPS: readonly string[] = [
  `CREATE TABLE stations (
     id text PRIMARY KEY, name text NOT NULL, revision integer NOT NULL,
     created_at timestamptz NOT NULL DEFAULT now(), updated_at timestamptz NOT NULL DEFAULT now(),
     deleted_at timestamptz
   );
   CREATE TABLE revisions (
     station_id text NOT NULL REFERENCES stations(id) ON DELETE CASCADE, number integer NOT NULL,
     plan text NOT NULL, note text NOT NULL DEFAULT '', saved_at timestamptz NOT NULL DEFAULT now(),
     PRIMARY KEY (station_id, number)
   );`,
  `CREATE TABLE shelf (
     id integer PRIMARY KEY, revision integer NOT NULL, items text NOT NULL,
     saved_at timestamptz NOT NULL DEFAULT now()
   );`,
  `CREATE TABLE noise (
     station_id text PRIMARY KEY REFERENCES stations(id) ON DELETE CASCADE, revision integer NOT NULL,
     logbook text NOT NULL, saved_at timestamptz NOT NULL DEFAULT now()
   );`,
]
