import { Font } from 'fonteditor-core'
import { jsPDF, type jsPDFOptions } from 'jspdf'
import { asItStands } from './rightToLeft'
import { fontOfWoff } from './woff'

/**
 * What a PDF is printed with. The built-in typeface has the letters of western Europe; a name in others is printed
 * with one that has them, as a whole: alphabets that come with capitals, Hebrew and Arabic with the first, all else
 * that Unicode's first plane has with the second. Letters that are drawn otherwise beside each other (as in
 * Devanagari) stand there one by one.
 */
export type FaceFile = 'sans' | 'sans-bold' | 'world'
/** The bytes of a file: TTF of the first two, WOFF of the last. */
export type LoadFace = (file: FaceFile) => Promise<Uint8Array>

const BUILT_IN = 'helvetica'
type Face = typeof BUILT_IN | 'sans' | 'world'
type Weight = 'normal' | 'bold'

/** Signs of ours that the built-in typeface has not. */
const REPLACED: Record<string, string> = {
  '→': 'to',
  '−': '-',
  Ω: 'ohm',
  '☐': '',
  '≥': 'at least',
  '≤': 'at most',
  '…': '...',
  '–': '-',
  '’': "'",
  '₄': '4',
  // Between the thousands of a figure.
  '\u202F': '\u00A0',
}
const inBuiltIn = (text: string) => text.replace(/[→−Ω☐≥≤…₄–’\u202F]/g, c => REPLACED[c]!)
const BEYOND = /[^\u0000-\u00ff]/u
/** Letters beyond those of the first typeface. */
const WORLD =
  /(?![\p{sc=Latin}\p{sc=Greek}\p{sc=Cyrillic}\p{sc=Armenian}\p{sc=Georgian}\p{sc=Hebrew}\p{sc=Arabic}])\p{L}/u

/** The files that a text wants beside the built-in typeface. */
export function facesWanted(text: string): FaceFile[] {
  const beyond = inBuiltIn(text)
  if (!BEYOND.test(beyond)) return []
  return WORLD.test(beyond) ? ['sans', 'sans-bold', 'world'] : ['sans', 'sans-bold']
}

/** jsPDF takes a file as a string of its bytes. */
function binary(bytes: Uint8Array): string {
  const pieces: string[] = []
  for (let from = 0; from < bytes.length; from += PIECE)
    pieces.push(String.fromCharCode(...bytes.subarray(from, from + PIECE)))
  return pieces.join('')
}
const PIECE = 8192

/** What our own words beside a name are written with, whatever was said. */
const LATIN = String.fromCharCode(...Array.from({ length: 224 }, (_, i) => 32 + i))

/** Of a packed font of some 57,000 letters, those of a text: TTF. All of it would make a PDF of 1 MB, in seconds. */
function lettersOf(woff: Uint8Array, text: string): Uint8Array {
  const subset = [...new Set(LATIN + text)].map(c => c.codePointAt(0)!)
  const font = Font.create(fontOfWoff(woff).buffer as ArrayBuffer, { type: 'ttf', subset })
  return new Uint8Array(font.write({ type: 'ttf' }) as ArrayBuffer)
}

/** A document, and what its texts are printed with. */
export class Printed {
  /** Letters of each face, by their code. */
  private readonly letters = new Map<Face, (code: number) => boolean>()

  private constructor(readonly doc: jsPDF) {
    const text = doc.text.bind(doc)
    // Its own reordering is for lines that are all of one direction.
    const asIs = { isInputVisual: true, isOutputVisual: true, isInputRtl: false, isOutputRtl: false }
    const turned = (line: string) => (BEYOND.test(line) ? asItStands(doc.processArabic(line)) : line)
    doc.text = (words, x, y, options) =>
      text(Array.isArray(words) ? words.map(turned) : turned(words), x, y, { ...asIs, ...options })
  }

  /**
   * @param paper as jsPDF takes it
   * @param said all that will be printed, in any form: the typefaces that it wants are loaded
   */
  static async on(paper: jsPDFOptions, said: unknown, loadFace: LoadFace): Promise<Printed> {
    const printed = new Printed(new jsPDF(paper))
    const text = JSON.stringify(said)
    const wanted = facesWanted(text)
    const files = await Promise.all(wanted.map(async file => [file, await loadFace(file)] as const))
    for (const [file, bytes] of files) printed.take(file, file === 'world' ? lettersOf(bytes, text) : bytes)
    return printed
  }

  /** @param font TTF */
  private take(file: FaceFile, font: Uint8Array) {
    const { doc } = this
    const face = file === 'world' ? 'world' : 'sans'
    doc.addFileToVFS(`${file}.ttf`, binary(font))
    const weights: Weight[] = file === 'world' ? ['normal', 'bold'] : [file === 'sans' ? 'normal' : 'bold']
    for (const weight of weights) doc.addFont(`${file}.ttf`, face, weight)
    if (file === 'sans-bold') return
    const { metadata } = doc.setFont(face, 'normal').getFont() as unknown as TrueType
    this.letters.set(face, code => Boolean(metadata.cmap.unicode.codeMap[code]))
  }

  /** The face that has the most of a text's letters, and the text in it. */
  private inFace(text: string): { face: Face; text: string } {
    const own = inBuiltIn(text)
    if (!BEYOND.test(own)) return { face: BUILT_IN, text: own }
    const missing = (has: (code: number) => boolean) => [...text].filter(c => !has(c.codePointAt(0)!)).length
    const [best] = [...this.letters].sort(([, a], [, b]) => missing(a) - missing(b))
    if (!best) return { face: BUILT_IN, text: own.replace(new RegExp(BEYOND, 'gu'), '?') }
    const [face, has] = best
    return { face, text: [...text].map(c => (has(c.codePointAt(0)!) || c < ' ' ? c : '?')).join('') }
  }

  /** Sets the typeface for a text. @returns the text in the signs that it has */
  set(text: string, weight: Weight = 'normal'): string {
    const inFace = this.inFace(text)
    this.doc.setFont(inFace.face, weight)
    return inFace.text
  }

  /** The same for the cell of a table. */
  cell(said: string | number): { content: string; styles: { font: string } } {
    const { face, text } = this.inFace(String(said))
    return { content: text, styles: { font: face } }
  }

  bytes(): Uint8Array {
    return new Uint8Array(this.doc.output('arraybuffer'))
  }
}

interface TrueType {
  metadata: { cmap: { unicode: { codeMap: Record<number, number> } } }
}
