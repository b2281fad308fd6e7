import { fileURLToPath } from 'node:url'
import { benchTheme, COMPONENTS } from './app/theme'
import { COLOURS_CSS } from './core/picture/scene/palette'
import { generateSW } from 'workbox-build'
import { pagesKept } from './app/pagesKept'
import { SCENE_CSS, TOUCH_CSS } from './core/picture/scene/style'

/** No page is rendered by the server: what would take one over from it (4 kB) stays out. */
const nothingTakenOver = {
  name: 'nothing-taken-over',
  transform: (code: string, id: string) =>
    /nuxt\/dist\/app\/entry/.test(id)
      ? code.replace('createSSRApp, ', '').replace('isSSR ? createSSRApp(', 'isSSR ? createApp(')
      : null,
}

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  ssr: false,
  telemetry: false,
  devtools: { enabled: false },
  modules: ['@pinia/nuxt', '@primevue/nuxt-module'],
  css: ['@fontsource-variable/archivo/index.css', '~/assets/main.css'],
  alias: { '#core': fileURLToPath(new URL('./core', import.meta.url)) },
  app: {
    head: {
      title: 'Wireman',
      htmlAttrs: { lang: 'en' },
      meta: [
        { name: 'viewport', content: 'width=device-width, initial-scale=1' },
        { name: 'description', content: "Plan a radio station's DC power path." },
      ],
      style: [{ innerHTML: COLOURS_CSS + SCENE_CSS + TOUCH_CSS }],
      link: [
        { rel: 'icon', type: 'image/svg+xml', href: '/icon.svg' },
        { rel: 'apple-touch-icon', href: '/icon-192.png' },
        { rel: 'manifest', href: '/app.webmanifest' },
      ],
    },
  },
  primevue: {
    autoImport: true,
    components: {
      include: [...COMPONENTS],
    },
    options: { theme: { preset: benchTheme, options: { darkModeSelector: '.dark', cssLayer: false } }, ripple: false },
  },
  vite: {
    plugins: [nothingTakenOver],
    worker: { format: 'es' },
    build: {
      chunkSizeWarningLimit: 1500,
      // Thirty sheets and as many scripts of a few lines cost a page more to ask for than to read.
      cssCodeSplit: false,
      // Nothing here asks for data by the framework's own means: stores do.
      rollupOptions: {
        output: { experimentalMinChunkSize: 30_000 },
        treeshake: { manualPureFunctions: ['defineKeyedFunctionFactory', 'createUseAsyncData', 'createUseFetch'] },
      },
    },
  },
  // One file loads faster than hundreds; the database engine stays outside, since it finds its WebAssembly
  // beside itself.
  nitro: {
    preset: 'node-server',
    // A phone on a weak net gets a third of the bytes.
    compressPublicAssets: true,
    externals: {
      inline: ['zod', 'drizzle-orm', 'vue', '@vue', 'unhead', 'vue-bundle-renderer', 'devalue', 'ufo', 'hookable'],
    },
  },
  typescript: { strict: true, typeCheck: false, tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } } },
  hooks: {
    // A device that was let in keeps the pages, for where the net does not reach.
    'nitro:build:public-assets': async nitro => {
      await generateSW(pagesKept(nitro.options.output.publicDir))
    },
    // Hints to fetch every other view would cost a slow line more than the view it asked for.
    'build:manifest': manifest => {
      for (const entry of Object.values(manifest)) Object.assign(entry, { prefetch: false, dynamicImports: [] })
    },
    // Nuxt names a type plugin that vue-router has from version 5 on; taken out after Nuxt has put it in.
    ready: nuxt => {
      nuxt.hook('prepare:types', ({ tsConfig }) => {
        const options = tsConfig.vueCompilerOptions
        if (options?.plugins)
          options.plugins = options.plugins.filter(plugin => !String(plugin).includes('sfc-route-blocks'))
      })
    },
  },
  // A view's script is fetched when a hand goes to its link, not because the link is in sight.
  experimental: {
    appManifest: false,
    renderJsonPayloads: false,
    // A reload while the server is away would lose what is not saved: the page says so instead.
    emitRouteChunkError: 'manual',
    defaults: { nuxtLink: { prefetchOn: { visibility: false, interaction: true } } },
  },
})
