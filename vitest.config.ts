import vue from '@vitejs/plugin-vue'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '#core': fileURLToPath(new URL('./core', import.meta.url)) } },
  test: {
    include: ['tests/unit/**/*.test.ts'],
    environment: 'node',
    testTimeout: 60000,
    hookTimeout: 60000,
    setupFiles: ['tests/setup.ts'],
    // One worker a core: by itself it leaves one core free.
    maxWorkers: '100%',
  },
})
