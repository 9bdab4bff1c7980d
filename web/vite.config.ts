import { constants } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression, defineAlgorithm } from 'vite-plugin-compression2';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
  plugins: [
    react(),
    VitePWA({
      // Pages register it themselves, and a new version waits for a quiet moment (src/update.ts).
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Auk',
        short_name: 'Auk',
        description: 'The shipping floor: picking, receiving, counting, packing.',
        start_url: '/',
        display: 'standalone',
        background_color: '#17212b',
        theme_color: '#17212b',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2,wasm}'],
        // Charts are of the desk, which works with a network only.
        globIgnores: ['**/plotly*'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//],
        maximumFileSizeToCacheInBytes: 4_000_000,
        clientsClaim: true,
        sourcemap: false,
        runtimeCaching: [
          {
            urlPattern: /\/api\/v1\/products\/[^/]+\/picture/,
            handler: 'StaleWhileRevalidate',
            options: { cacheName: 'pictures', expiration: { maxEntries: 300 } },
          },
        ],
      },
    }),
    // Packed once as small as it gets; the server hands it out as it is.
    compression({
      algorithms: [defineAlgorithm('br', { params: { [constants.BROTLI_PARAM_QUALITY]: 10 } })],
      include: /\.(js|css|svg|wasm)$/,
      threshold: 1024,
    }),
  ],
  resolve: { conditions: ['@auk/source', 'module', 'browser', 'import', 'default'] },
  // Plotly's own source asks for the window by this name.
  define: { global: 'globalThis' },
  build: {
    chunkSizeWarningLimit: 1200,
    rolldownOptions: {
      checks: { pluginTimings: false },
      output: {
        // What every page needs comes as one file, and not as thirty.
        codeSplitting: { groups: [{ name: 'first', tags: ['$initial'] }] },
      },
    },
  },
});
