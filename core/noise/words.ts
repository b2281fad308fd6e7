/** Said wherever a cure could tempt somebody. */
export const NEVER = 'Never defeat a fuse or a safety earth to cure noise.'
export const UNPLUGGED = 'Mains-side work only unplugged, and by somebody competent.'

/** "a, b and c" */
export const list = (words: readonly string[]) =>
  words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? '')
