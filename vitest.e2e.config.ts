import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['tests/e2e/**/*.test.ts'],
    environment: 'node',
    testTimeout: 240_000,
    hookTimeout: 120_000,
    // What is waited for comes later where two journeys share a machine.
    expect: { poll: { timeout: 40_000 } },
    // Two journeys side by side, each with a server and a browser of its own.
    maxWorkers: 3,
  },
})
