import vue from '@vitejs/plugin-vue'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const ALL = ['tests/unit/**/*.test.ts']
/** Pages, stores, databases and processes. */
const AROUND = ['app', 'cli', 'house', 'server', 'stores', 'workers'].map(room => `tests/unit/${room}/**/*.test.ts`)
/** They put something of their own in a module's place, or ask a worker that was never asked before. */
const APART = ['kinds/madeUp', 'workers/answers', 'stores/takenUp', 'stores/lostAnswers'].map(
  test => `tests/unit/${test}.test.ts`,
)

/** The pages' tests and the server's begin with one. */
const globalSetup = 'tests/emptyDatabase.ts'

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '#core': fileURLToPath(new URL('./core', import.meta.url)) } },
  test: {
    projects: [
      // The core keeps nothing between two calls, so its tests share what they import; so do those that clear up.
      { extends: true, test: { name: 'core', include: ALL, exclude: [...AROUND, ...APART], isolate: false } },
      { extends: true, test: { name: 'around', include: AROUND, exclude: APART, isolate: false, globalSetup } },
      { extends: true, test: { name: 'apart', include: APART } },
    ],
    environment: 'node',
    testTimeout: 240_000,
    hookTimeout: 120_000,
    setupFiles: ['tests/setup.ts'],
    // One worker a core: by itself it leaves one core free.
    maxWorkers: '100%',
  },
})
