import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import { VitePWA } from 'vite-plugin-pwa'
import vuetify from 'vite-plugin-vuetify'

export default defineConfig({
  plugins: [
    vue(),
    vuetify({ autoImport: true, styles: 'none' }),
    VitePWA({
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Dusha, the wet-area logbook',
        short_name: 'Dusha',
        display: 'standalone',
        background_color: '#F5F8F3',
        theme_color: '#D9E2DB',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2,wasm}', '{assets,languages}/*.json'],
        maximumFileSizeToCacheInBytes: 16 << 20,
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//],
        dontCacheBustURLsMatching: /^assets\//,
        cleanupOutdatedCaches: true,
      },
    }),
  ],
  worker: { format: 'es' },
  // One script and one sheet of styles: they pack a tenth smaller than by view, and no view waits for its own.
  build: { assetsInlineLimit: 0, target: 'es2022', chunkSizeWarningLimit: 900, cssCodeSplit: false },
  define: {
    __VUE_OPTIONS_API__: 'false',
    __VUE_PROD_DEVTOOLS__: 'false',
    __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: 'false',
  },
  server: { proxy: { '/api': process.env.DUSHA_API ?? 'http://127.0.0.1:8080' } },
})
