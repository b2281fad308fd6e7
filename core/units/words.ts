/** Words as sentences want them. */

/** Spoken with a vowel at its beginning: outlet, 8, 80, 11, 18; not USB, 110. */
const VOWEL = /^(?!us|uni)[aeiou]|^8|^1[18](?!\d)/i

/** "a pack", "an outlet", "an 80 A fuse" */
export const anA = (thing: string) => `${VOWEL.test(thing) ? 'an' : 'a'} ${thing}`

/** With a capital at its beginning. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** With a small letter at its beginning, where it is no name in capitals: AGM, LiFePO4, T-contact. */
export const lowered = (text: string) =>
  /^[A-Z](?:[a-z]+(?![A-Za-z0-9])| )/.test(text) ? text.charAt(0).toLowerCase() + text.slice(1) : text

/** "1 lead", "3 leads", "2 diodes": a count with its thing. */
export const counted = (n: number, thing: string, things = `${thing}s`) => `${n} ${n === 1 ? thing : things}`

/** "a", "a and b", "a, b and c" */
export function listed(words: readonly string[]): string {
  return words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`
}

/** As many names as are read in one sentence. */
const MOST_NAMED = 4

/** As `listed`, but never beyond what is read: "a, b, c, d and 71 more". One alone is never called "1 more". */
export const someOf = (words: readonly string[]): string => someNamed(words, word => word)

/** The same of things that have to be named first: only those are that are told. */
export function someNamed<T>(things: readonly T[], name: (thing: T) => string): string {
  if (things.length <= MOST_NAMED + 1) return listed(things.map(name))
  return `${things.slice(0, MOST_NAMED).map(name).join(', ')} and ${things.length - MOST_NAMED} more`
}

/** Each once, in the order in which it first comes; what comes several times says so: "a fuse (2 ×)". */
export function eachOnce(words: readonly string[]): string[] {
  const times = (word: string) => words.filter(w => w === word).length
  return [...new Set(words)].map(word => (times(word) > 1 ? `${word} (${times(word)} ×)` : word))
}

/** Words alike counted, in the order in which they first come: "2 × a, b". */
export function tallied(words: readonly string[]): string {
  const times = new Map<string, number>()
  for (const word of words) times.set(word, (times.get(word) ?? 0) + 1)
  return [...times].map(([word, n]) => (n > 1 ? `${n} × ${word}` : word)).join(', ')
}
