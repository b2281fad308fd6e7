/** Stryker leaves numbers as they are: here each is another one, behind a switch, as its mutants are. */
import { readFileSync } from 'node:fs'
import ts from 'typescript'
import type { Instrumented, Mutant } from './instrument'

/** A small whole number is one more, another a tenth more: what a slip of the pen or a wrong table makes. */
const SMALL = 10
const changed = (n: number) => (Number.isInteger(n) && n <= SMALL ? n + 1 : n * 1.1)

/** Told while a test runs which of them it reached, as Stryker's own helper does. */
const HELPER = `
function otherNumber(id, was, other) {
  const stryker = (globalThis.__stryker__ ??= {})
  if (stryker.activeMutant === id) return other
  const reached = stryker.mutantCoverage
  if (reached) {
    const at = stryker.currentTestId === undefined ? reached.static : (reached.perTest[stryker.currentTestId] ??= {})
    at[id] = (at[id] ?? 0) + 1
  }
  return was
}
`

/** Less than this is a tolerance of arithmetic: a tenth more of it changes nothing. */
const LEAST = 1e-5

/** A place in a list is no figure, and a type has none at run time. */
function isFigure(node: ts.NumericLiteral): boolean {
  const value = Number(node.text)
  if (value !== 0 && value < LEAST) return false
  const { parent } = node
  const isSigned = ts.isPrefixUnaryExpression(parent)
  const holder = isSigned ? parent.parent : parent
  if (ts.isLiteralTypeNode(holder)) return false
  if (ts.isElementAccessExpression(holder) && holder.argumentExpression === (isSigned ? parent : node)) return false
  return !(ts.isPropertyAssignment(parent) && parent.name === node)
}

/** All numbers of some files as mutants, or the ones that were chosen of them. */
export function instrumentNumbers(files: readonly string[], chosen?: readonly Mutant[]): Instrumented {
  const wanted = chosen && new Set(chosen.map(m => m.id))
  const sources = new Map<string, string>()
  const mutants: Mutant[] = []
  for (const fileName of files) {
    const text = readFileSync(fileName, 'utf8')
    const source = ts.createSourceFile(fileName, text, ts.ScriptTarget.Latest, true)
    const edits: { from: number; to: number; text: string }[] = []
    const visit = (node: ts.Node) => {
      if (ts.isNumericLiteral(node) && isFigure(node)) {
        const [from, to] = [node.getStart(), node.getEnd()]
        const id = `${fileName}:${from}`
        const [was, other] = [Number(node.text), changed(Number(node.text))]
        const place = source.getLineAndCharacterOfPosition(from)
        const start = { line: place.line, column: place.character }
        if (!wanted || wanted.has(id)) {
          mutants.push({
            id,
            fileName,
            mutatorName: `Number ${was}`,
            replacement: String(other),
            location: { start, end: start },
          })
          edits.push({ from, to, text: `otherNumber(${JSON.stringify(id)}, ${was}, ${other})` })
        }
      }
      ts.forEachChild(node, visit)
    }
    visit(source)
    if (edits.length) sources.set(fileName, edited(text, edits) + HELPER)
  }
  return { sources, mutants }
}

function edited(text: string, edits: readonly { from: number; to: number; text: string }[]): string {
  return edits.reduceRight((whole, edit) => whole.slice(0, edit.from) + edit.text + whole.slice(edit.to), text)
}
