import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

/** Rooms of core/ from the bottom up: each may import from those before it, never from those after. */
const LAYERS = [
  ['catalog'],
  ['conductor', 'battery', 'fuse', 'connector'],
  ['kinds'],
  ['plan', 'units'],
  ['circuit', 'protection'],
  ['short', 'shelf'],
  ['fixes'],
  ['checks'],
  ['verdict'],
  ['size', 'noise'],
  ['sheets', 'picture'],
  ['schools'],
  ['formats'],
]

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

export default tseslint.config(
  { ignores: ['node_modules', '.nuxt', '.output', 'data', 'docs', 'tests/bench/bench.built.mjs'] },
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
