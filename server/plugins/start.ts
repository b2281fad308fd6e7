import { database } from '../db/client'
import { FolderInUse } from '../db/lock'

/** Opens the database at once, so that it is ready by the time the first page asks; a folder in use ends the server in words. */
export default defineNitroPlugin(() => {
  database().catch((error) => {
    console.error(error instanceof FolderInUse ? error.message : error)
    process.exit(1)
  })
})
