/** Words that go into files of other programs: whatever somebody called a thing, it stays words there. */

/** What a table program would reckon with; a negative figure is none. */
export const FORMULA = /^(?:[=+@\t\r]|-(?!\d))/
/** A word that was written so that no table program reckons with it, as it was. */
export const withoutGuard = (cell: string) =>
  cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell

/** No letter of any script, and none that XML (1.0, 2.2) allows: control characters, halves of letters. */

const NO_LETTER =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g
/** Signs that turn all that follows round, on paper and in a picture. */
const TURNS = /[\u202a-\u202e\u2066-\u2069]/g

/** Words as they can be drawn and printed: nothing in them turns or breaks what stands around. */
export const printable = (text: string) => text.replace(TURNS, '').replace(NO_LETTER, '\ufffd')

/** One line, whatever was in it. */
export const oneLine = (text: string) => printable(text).replace(/[\s\u2028\u2029]+/g, ' ')
