import { relative } from 'node:path'
import ts from 'typescript'

/** A field that a schema says, and who reads it. */
export interface FieldReads {
  /** Constant that holds the schema: `batterySchema`, `commonFields`. */
  schema: string
  /** Dotted below the schema, `*` for the items of a list: `levels.*.activeA`. */
  path: string
  /** What its schema says of it; empty where nothing. */
  says: string
  /** `room/file: function`, or a check by its id. */
  readBy: string[]
}

type Fields = Map<ts.Node, FieldReads>
interface Reading {
  root: string
  checker: ts.TypeChecker
  fields: Fields
}

/** Members of a part kind that fill a field and do not use it. */
const FILLS = new Set(['form', 'lists', 'catalogue', 'schema'])

/**
 * Who reads the fields that the schemas in some of the files say.
 * A read is a property taken by its name, by destructuring, by a key of known words, or handed over in an object:
 * spread
 * into another that is no whole part, or given to what asks for a property of that name. Forms and catalogues fill a
 * field, they do not read it.
 * @param files all of the program; `saysSchema` picks those whose schemas count.
 */
export function fieldReads(
  root: string,
  files: readonly string[],
  saysSchema: (file: string) => boolean,
): FieldReads[] {
  const program = ts.createProgram(files, {
    strict: true,
    target: ts.ScriptTarget.ES2023,
    module: ts.ModuleKind.ESNext,
    moduleResolution: ts.ModuleResolutionKind.Bundler,
    skipLibCheck: true,
    noEmit: true,
    types: [],
  })
  const reading: Reading = { root, checker: program.getTypeChecker(), fields: new Map() }
  const own = new Set(files)
  const sources = program.getSourceFiles().filter(f => own.has(f.fileName))
  for (const file of sources.filter(f => saysSchema(f.fileName))) collect(reading.fields, file, '', [])
  for (const file of sources) readIn(reading, file)
  return [...reading.fields.values()]
}

const isTopLevel = (node: ts.Node) => node.parent?.kind === ts.SyntaxKind.SourceFile
const nameIn = (node: { name?: ts.Node }) => node.name?.getText() ?? ''

/** The object literal whose properties are fields: of `z.strictObject({…})`, or of a constant of shared fields. */
function shapeOf(node: ts.Node, schema: string): ts.ObjectLiteralExpression | null {
  let shape: ts.Node | undefined
  if (ts.isCallExpression(node) && /\bz\s*\.(strictObject|object)$/.test(node.expression.getText()))
    shape = node.arguments[0]
  if (ts.isVariableDeclaration(node) && /Fields$|^place$/.test(schema)) shape = node.initializer
  return shape && ts.isObjectLiteralExpression(shape) ? shape : null
}

function collect(fields: Fields, node: ts.Node, schema: string, path: readonly string[]) {
  const isConstant = ts.isVariableDeclaration(node) && isTopLevel(node.parent.parent)
  const inside = isConstant ? nameIn(node) : schema
  const shape = shapeOf(node, inside)
  if (shape) {
    for (const property of shape.properties) {
      if (!ts.isPropertyAssignment(property) && !ts.isShorthandPropertyAssignment(property)) continue
      const at = [...path, nameIn(property)]
      fields.set(property, { schema: inside, path: at.join('.'), says: described(property), readBy: [] })
      if (ts.isPropertyAssignment(property)) collect(fields, property.initializer, inside, at)
    }
    return
  }
  const isList = ts.isCallExpression(node) && /\b(array|record|partialRecord)$/.test(node.expression.getText())
  node.forEachChild(child => collect(fields, child, inside, isList ? [...path, '*'] : path))
}

/** What `.describe('…')` says of a field itself, not of what lies in it. */
function described(property: ts.Node): string {
  const calls = property.getChildren().filter(ts.isCallExpression)
  const last = calls.find(c => ts.isPropertyAccessExpression(c.expression) && c.expression.name.text === 'describe')
  return last?.arguments[0] ? textOf(last.arguments[0]) : ''
}

function textOf(text: ts.Node): string {
  if (ts.isStringLiteralLike(text)) return text.text
  return ts.isBinaryExpression(text) ? textOf(text.left) + textOf(text.right) : ''
}

function readIn(reading: Reading, node: ts.Node) {
  for (const symbol of readAt(reading.checker, node)) mark(reading, symbol, node)
  node.forEachChild(child => readIn(reading, child))
}

function mark({ fields, root }: Reading, symbol: ts.Symbol | undefined, at: ts.Node) {
  for (const declaration of symbol?.declarations ?? []) {
    const field = fields.get(declaration)
    const by = field && reader(root, at)
    if (field && by && !field.readBy.includes(by)) field.readBy.push(by)
  }
}

/** The properties that a place in the code reads. */
function readAt(checker: ts.TypeChecker, node: ts.Node): (ts.Symbol | undefined)[] {
  const typeOf = (n: ts.Node) => checker.getNonNullableType(checker.getTypeAtLocation(n))
  if (ts.isPropertyAccessExpression(node)) return [checker.getSymbolAtLocation(node.name)]
  if (ts.isBindingElement(node) && ts.isObjectBindingPattern(node.parent))
    return [typeOf(node.parent).getProperty((node.propertyName ?? node.name).getText())]
  if (ts.isElementAccessExpression(node)) {
    const keys = checker.getTypeAtLocation(node.argumentExpression)
    const of = typeOf(node.expression)
    return (keys.isUnion() ? keys.types : [keys]).flatMap(k => (k.isStringLiteral() ? [of.getProperty(k.value)] : []))
  }
  if (ts.isSpreadAssignment(node))
    return isWhole(typeOf(node.expression)) ? [] : typeOf(node.expression).getProperties()
  if (ts.isExpression(node) && ts.isCallExpression(node.parent) && node !== node.parent.expression)
    return handedOver(checker, typeOf(node), checker.getContextualType(node))
  return []
}

/** A part, lead or item as a whole: copying it or handing it on reads none of its fields. */
const isWhole = (type: ts.Type) => ['id', 'kind'].some(name => type.getProperty(name) !== undefined)

/** Properties of an argument, and of the entries of its lists, that its parameter asks for by name. */
function handedOver(checker: ts.TypeChecker, given: ts.Type, asked: ts.Type | undefined, depth = 0): ts.Symbol[] {
  if (!asked || depth > 2 || given === asked || isWhole(asked)) return []
  return checker.getPropertiesOfType(checker.getNonNullableType(asked)).flatMap(want => {
    const has = given.getProperty(want.name)
    if (!has || !has.declarations || has === want) return []
    const inner = (s: ts.Symbol) => entryOf(checker, checker.getNonNullableType(checker.getTypeOfSymbol(s)))
    return [has, ...handedOver(checker, inner(has), inner(want), depth + 1)]
  })
}

const entryOf = (checker: ts.TypeChecker, type: ts.Type) =>
  checker.isArrayType(type) ? checker.getTypeArguments(type as ts.TypeReference)[0]! : type

/** The function or constant around a place, or the check it is in; null in a form, a catalogue or a schema. */
function reader(root: string, at: ts.Node): string | null {
  let name = ''
  let check = ''
  for (let node = at; node.parent; node = node.parent) {
    if (ts.isPropertyAssignment(node)) {
      if (FILLS.has(nameIn(node))) return null
      name = nameIn(node)
    }
    if (ts.isObjectLiteralExpression(node)) check = checkId(node) || check
    if (!isTopLevel(node)) continue
    const own = ts.isVariableStatement(node) ? node.declarationList.declarations[0]!.name.getText() : ''
    if (/Schema$/.test(own)) return null
    if (ts.isFunctionDeclaration(node)) name = nameIn(node)
    else if (own)
      name = name && /^core.kinds/.test(relative(root, at.getSourceFile().fileName)) ? `${own}.${name}` : own
  }
  const file = relative(root, at.getSourceFile().fileName)
    .replace(/^core\//, '')
    .replace(/\.ts$/, '')
  return check ? `\`${check}\`` : `${file}: ${name}`
}

/** The id of a check, where an object is one. */
function checkId(object: ts.ObjectLiteralExpression): string {
  const id = object.properties.find(p => nameIn(p) === 'id')
  const finds = object.properties.some(p => nameIn(p) === 'find')
  return finds && id && ts.isPropertyAssignment(id) ? textOf(id.initializer) : ''
}
