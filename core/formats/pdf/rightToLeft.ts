/** Hebrew and Arabic letters, their marks and their joined forms. */
const LETTER = '[\\u0590-\\u06ff\\u0750-\\u077f\\u08a0-\\u08ff\\ufb1d-\\ufdff\\ufe70-\\ufeff]'
const RUN = new RegExp(`${LETTER}(?:[ \\u00a0]*${LETTER})*`, 'g')
const CLUSTER = /[^\p{M}]\p{M}*/gu

/**
 * A line as it stands on paper, from left to right. Only the letters that run from right to left are turned, word by
 * word of one name: a figure stays before its unit and a colon after its name, where the general rule (UAX 9) carries
 * "10" of "10 AWG" to the other side of a name before it.
 * @param line with Arabic letters in their joined forms
 */
export const asItStands = (line: string): string =>
  line.replace(RUN, run => (run.match(CLUSTER) ?? []).reverse().join(''))
