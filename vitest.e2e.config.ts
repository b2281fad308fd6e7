import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['tests/e2e/**/*.test.ts'],
    environment: 'node',
    testTimeout: 60000,
    hookTimeout: 60000,
    // What is waited for comes later where two journeys share a machine.
    expect: { poll: { timeout: 15000 } },
    // Three journeys side by side, each with a server and a browser of its own: they wait more than they work.
    maxWorkers: 3,
  },
})
