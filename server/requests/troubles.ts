/** What a disk or a database says, as the page tells it: what is not saved waits in the browser and is tried again. */
export interface Trouble {
  statusCode: number
  message: string
}

const KEPT = 'What was saved before is still there; what is entered now waits and is tried again.'
const FULL: Trouble = { statusCode: 507, message: `The disk is full: this is not saved. Make room. ${KEPT}` }
const SHUT: Trouble = { statusCode: 507, message: `The disk cannot be written to: this is not saved. ${KEPT}` }
const DAMAGED: Trouble = {
  statusCode: 507,
  message:
    'Part of the data on the disk is damaged: this is not saved. Save a backup, which has all that can be read, and ' +
    `restore it in another folder (WIREMAN_DATA). ${KEPT}`,
}
const AWAY: Trouble = { statusCode: 503, message: `The database does not answer: this is not saved. ${KEPT}` }

/** By what the system (errno) or the engine (SQLSTATE) says. */
const BY_CODE: ReadonlyMap<string, Trouble> = new Map([
  ['ENOSPC', FULL],
  ['EDQUOT', FULL],
  ['53100', FULL],
  ['EROFS', SHUT],
  ['EIO', SHUT],
  ['EACCES', SHUT],
  ['ENODEV', SHUT],
  ['58030', SHUT],
  ['25006', SHUT],
  ['XX001', DAMAGED],
  ['XX002', DAMAGED],
  ['ECONNREFUSED', AWAY],
  ['ECONNRESET', AWAY],
  ['EPIPE', AWAY],
  ['ETIMEDOUT', AWAY],
  ['ENOTFOUND', AWAY],
  ['53300', AWAY],
  ['57P01', AWAY],
  ['57P02', AWAY],
  ['57P03', AWAY],
])
/** Of a connection that the driver gave up, which has no code. */
const GIVEN_UP = /timeout exceeded when trying to connect|Connection terminated|Query read timeout/i
/** Of the engine, which knows the disk's errors by their words alone. */
const SHUT_WORDS = /Read-only file system|Input\/output error|No such device/i
const MOST_CAUSES = 6

/** The trouble that an error comes of, however deep; null: it is none of these. */
export function troubleOf(error: unknown): Trouble | null {
  let cause = error as { code?: unknown; message?: string; cause?: unknown } | undefined
  for (let depth = 0; cause && depth < MOST_CAUSES; depth++) {
    const trouble = BY_CODE.get(String(cause.code))
    if (trouble) return trouble
    if (GIVEN_UP.test(cause.message ?? '')) return AWAY
    if (SHUT_WORDS.test(cause.message ?? '')) return SHUT
    cause = cause.cause as typeof cause
  }
  return null
}

export const isFull = (error: unknown): boolean => troubleOf(error) === FULL
