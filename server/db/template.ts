/** Makes the empty database that a first start begins from: node --import tsx server/db/template.ts FILE */
import { PGlite } from '@electric-sql/pglite'
import { writeFileSync } from 'node:fs'

const file = process.argv[2]
if (!file) throw new Error('say where the template goes')
const client = await PGlite.create()
const dump = await client.dumpDataDir('gzip')
writeFileSync(file, Buffer.from(await dump.arrayBuffer()))
await client.close()
