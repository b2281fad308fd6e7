/** Makes the empty database that a first start begins from, as it lies on the disk: node --import tsx … FOLDER */
import { PGlite } from '@electric-sql/pglite'
import { rmSync } from 'node:fs'

const folder = process.argv[2]
if (!folder) throw new Error('say where the template goes')
rmSync(folder, { recursive: true, force: true })
const client = await PGlite.create(folder)
await client.close()
