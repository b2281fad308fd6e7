import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

/**
 * The unit tests as the mutation runs want them: what starts processes or a database tells nothing of a line of
 * core.
 */
const noisy = process.env.WIREMAN_MUTATE_NOISE === '1'

export default defineConfig({
  resolve: { alias: { '#core': fileURLToPath(new URL('./core', import.meta.url)) } },
  test: {
    include: ['tests/unit/**/*.test.ts'],
    exclude: [
      'tests/unit/{cli,server,stores,workers,app,house}/**',
      ...(noisy ? [] : ['tests/unit/noise/**', 'tests/unit/formats/recordings.test.ts']),
    ],
    environment: 'node',
    setupFiles: ['tests/setup.ts'],
    testTimeout: 60000,
  },
})
