import { readdirSync, readFileSync } from 'node:fs'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

/** Rooms of core/ from the bottom up: each may import from those before it, never from those after. */
const LAYERS = [
  ['units', 'chance', 'reason', 'merge'],
  ['catalog'],
  ['conductor', 'battery', 'fuse', 'connector'],
  ['kinds'],
  ['plan'],
  ['graph'],
  ['edit'],
  ['circuit', 'protection'],
  ['short', 'shelf'],
  ['study'],
  ['fixes'],
  ['checks'],
  ['verdict'],
  ['size', 'noise', 'hours', 'readings', 'symptoms'],
  ['log'],
  ['sheets', 'picture'],
  ['schools', 'mend', 'commission', 'practice'],
  ['instruments'],
  ['formats'],
]

/** Names of the part kinds, read off their files. */
const KIND_NAMES = new Set(
  readdirSync('core/kinds').flatMap(file =>
    [
      ...readFileSync(`core/kinds/${file}`, 'utf8').matchAll(
        /^export const \w+Schema = z\.strictObject\({\s*id,\s*kind: z\.literal\('(\w+)'\)/gm,
      ),
    ].map(m => m[1]),
  ),
)

/** Things beside parts that have a kind which is called as a part's is: items in a lead, rows of the picture. */
const NO_PARTS = new Set([
  'item',
  'i',
  'other',
  'device',
  'd',
  'opener',
  'row',
  'r',
  's',
  'step',
  'short',
  'short_',
  'place',
  'p_',
])

/** Rooms whose rules have single kinds as their subject: they ask by `partsOf` and `asKind`, and nobody else does. */
const SUBJECTS = ['core/kinds/', 'core/checks/', 'core/fixes/', 'core/schools/', 'core/sheets/packLinks']

/** Nothing outside kinds/ asks which kind a part is: it asks the kind. */
const askTheKind = {
  meta: { type: 'problem', messages: { asks: 'Ask the kind (core/kinds/kind.ts), not which kind a part is.' } },
  create(context) {
    const file = context.filename.replaceAll('\\', '/')
    if (file.includes('core/kinds/')) return {}
    const mayName = SUBJECTS.some(room => file.includes(room))
    const isKindOfPart = node => {
      const member = node.type === 'ChainExpression' ? node.expression : node
      if (member.type !== 'MemberExpression' || member.property.name !== 'kind') return false
      return !(member.object.type === 'Identifier' && NO_PARTS.has(member.object.name))
    }
    const isKindName = node => node?.type === 'Literal' && KIND_NAMES.has(node.value)
    return {
      BinaryExpression(node) {
        const { left, right } = node
        if ((isKindOfPart(left) && isKindName(right)) || (isKindOfPart(right) && isKindName(left)))
          context.report({ node, messageId: 'asks' })
      },
      SwitchStatement(node) {
        if (isKindOfPart(node.discriminant) && node.cases.some(c => isKindName(c.test)))
          context.report({ node, messageId: 'asks' })
      },
      CallExpression(node) {
        if (!mayName && ['partsOf', 'asKind'].includes(node.callee.name)) context.report({ node, messageId: 'asks' })
      },
    }
  },
}

/** A view is its script and its template: together 300 lines. Its styles stand with them and are not counted. */
const shortView = {
  meta: { type: 'problem', messages: { long: 'Script and template have {{lines}} lines; 300 are allowed.' } },
  create: context => ({
    Program() {
      const { text } = context.sourceCode
      const before = text.includes('\n<style') ? text.slice(0, text.indexOf('\n<style')) : text
      const lines = before.split('\n').length
      if (lines > 300) context.report({ loc: { line: 1, column: 0 }, messageId: 'long', data: { lines } })
    },
  }),
}

const house = { rules: { 'ask-the-kind': askTheKind, 'short-view': shortView } }

const upward = LAYERS.flatMap((layer, i) =>
  layer.map(room => ({
    files: [`core/${room}/**`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            ...OUTSIDE(),
            ...LAYERS.slice(i + 1)
              .flat()
              .map(above => ({
                group: [`../${above}/*`, `../../${above}/*`],
                message: `core/${room} is below core/${above}: imports run downward.`,
              })),
          ],
        },
      ],
    },
  })),
)

/** What the core never touches: the interface, the server, the machine. */
function OUTSIDE() {
  return [
    {
      group: [
        '**/app/**',
        '**/server/**',
        '**/cli/**',
        'vue',
        'vue/*',
        'nuxt*',
        'pinia',
        'primevue*',
        'chart.js',
        'drizzle-orm*',
        '@electric-sql/*',
        'node:*',
        '#app*',
      ],
      message: 'core/ is pure: no interface, server, database or machine.',
    },
  ]
}

/** A figure is written by core/units, which knows the true minus and the thin space. */
const NUMBERS_BY_HAND = ['toFixed', 'toPrecision'].map(name => ({
  selector: `CallExpression[callee.property.name='${name}']`,
  message: 'Figures are shown by core/units (fixed, figure, significant), and rounded by its rounded and roundedTo.',
}))
/** What a program reads again has its own way of writing: files, a drawing's path, an instrument's answer. */
const WRITE_FOR_MACHINES = ['core/units/number.ts', 'core/formats/**', 'core/instruments/protocol.ts']

export default tseslint.config(
  { ignores: ['node_modules', '.nuxt', '.output', '.output-cli', 'data', 'docs', 'tests/bench/bench.built.mjs'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
    rules: {
      'vue/multi-word-component-names': 'off',
      'vue/html-indent': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/attributes-order': 'off',
      'vue/require-default-prop': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
    },
  },
  {
    files: ['**/*.ts', '**/*.vue', '**/*.js'],
    rules: {
      'no-nested-ternary': 'error',
      'max-params': ['error', 4],
      'max-len': ['error', { code: 120, ignoreUrls: true, ignoreRegExpLiterals: true }],
      'max-lines': ['error', { max: 300, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['**/*.vue'],
    plugins: { house },
    rules: { 'max-lines': 'off', 'house/short-view': 'error' },
  },
  // A row of a catalogue is a line of figures: its columns are the parameters.
  { files: ['core/kinds/**', 'core/catalog/**', 'tests/data/**'], rules: { 'max-params': 'off' } },
  {
    files: ['core/**', 'app/**', 'cli/**', 'server/**'],
    ignores: WRITE_FOR_MACHINES,
    rules: { 'no-restricted-syntax': ['error', ...NUMBERS_BY_HAND] },
  },
  {
    files: ['core/**', 'app/**', 'cli/**', 'server/**'],
    rules: { 'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }] },
  },
  {
    files: ['core/**', 'app/**', 'cli/**', 'server/**'],
    plugins: { house },
    rules: { 'house/ask-the-kind': 'error' },
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-undef': 'off',
    },
  },
  {
    files: ['core/**'],
    rules: {
      'no-restricted-imports': ['error', { patterns: OUTSIDE() }],
      'no-console': 'error',
      'no-restricted-globals': ['error', 'window', 'document', 'localStorage', 'fetch', 'process'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Pass randomness in.' },
        { object: 'Date', property: 'now', message: 'Pass the time in.' },
      ],
    },
  },
  ...upward,
  {
    files: ['app/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/server/**', '**/cli/**', 'drizzle-orm*', '@electric-sql/*'],
              message: 'app/ talks to the server by its routes.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['server/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group: ['**/app/**', '**/cli/**', 'vue'], message: 'server/ imports core/ only.' }] },
      ],
    },
  },
  {
    files: ['cli/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group: ['**/app/**', '**/server/**'], message: 'cli/ imports core/ only.' }] },
      ],
    },
  },
  { files: ['tests/data/**'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
)
