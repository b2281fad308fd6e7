import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import type { GenerateSWOptions } from 'workbox-build'

/** The largest program of a view, bytes. */
const MOST_BYTES = 4 * 1024 * 1024

/**
 * The worker that keeps all pages in a device's browser: every built file by its name, and the one page that all views
 * are. The server's answers are kept by the stores themselves, who know how to merge them (app/stores/keptHere.ts).
 */
export const pagesKept = (publicDir: string): GenerateSWOptions => ({
  globDirectory: publicDir,
  globPatterns: ['**/*.{js,css,woff2,svg,png,webmanifest,wasm,json}'],
  swDest: join(publicDir, 'sw.js'),
  // Files of one build carry a hash in their names.
  dontCacheBustURLsMatching: /^_nuxt\//,
  maximumFileSizeToCacheInBytes: MOST_BYTES,
  additionalManifestEntries: [{ url: '/', revision: randomUUID() }],
  navigateFallback: '/',
  navigateFallbackDenylist: [/^\/api\//, /^\/pair/],
  cleanupOutdatedCaches: true,
  clientsClaim: true,
  inlineWorkboxRuntime: true,
  sourcemap: false,
})
