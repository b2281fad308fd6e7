import { hash } from 'ohash'

/**
 * A save whose answer is lost may have been taken all the same. What was sent from here is known again by its print, so
 * that it does not count as a change of somebody else's when it comes back.
 */
export type Print = string

/** The same for the same content, in whatever order its fields stand. */
const printOf = (value: object): Print => hash(JSON.parse(JSON.stringify(value)))

export const withPrint = (sent: readonly Print[], value: object): Print[] => [...new Set([...sent, printOf(value)])]

/** Whether what the server has was sent from here: nobody else has changed it since. */
export const isSentFromHere = (sent: readonly Print[], theirs: object) =>
  sent.length > 0 && sent.includes(printOf(theirs))
