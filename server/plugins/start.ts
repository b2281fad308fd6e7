import { database } from '../db/client'

/** Pause before the database is opened, ms: opening it holds the server up, and the first page's files come sooner without. */
const AFTER_FIRST_FILES_MS = 350

export default defineNitroPlugin(() => {
  setTimeout(() => void database(), AFTER_FIRST_FILES_MS)
})
