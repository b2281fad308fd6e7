/**
 * A save whose answer is lost may have been taken all the same. What was sent from here is known again by its print, so
 * that it does not count as a change of somebody else's when it comes back.
 */
export type Print = string

/** FNV-1a over UTF-16 units, 32 bits. */
function fnv(text: string, basis: number): string {
  let hash = basis
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  return (hash >>> 0).toString(36)
}

const byName = (_key: string, value: unknown) =>
  value && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value

/** The same for the same content, in whatever order its fields stand; another for any other that is likely. */
export function printOf(value: object): Print {
  const text = JSON.stringify(value, byName)
  return [fnv(text, 0x811c9dc5), fnv(text, 0x050c5d1f), text.length.toString(36)].join('.')
}

export const withPrint = (sent: readonly Print[], value: object): Print[] => [...new Set([...sent, printOf(value)])]

/** Whether what the server has was sent from here: nobody else has changed it since. */
export const isSentFromHere = (sent: readonly Print[], theirs: object) =>
  sent.length > 0 && sent.includes(printOf(theirs))
