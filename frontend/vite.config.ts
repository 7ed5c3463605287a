import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';
import { wuchale } from 'wuchale/vite';

// English stands in the sources; another language is built from its catalogue in `locales/`.
const language = process.env.SAND_POCKET_LANGUAGE ?? '';

export default defineConfig({
  plugins: [
    tailwindcss(),
    language ? wuchale() : null,
    svelte(),
    VitePWA({
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Sand Pocket',
        short_name: 'Sand Pocket',
        description: 'Plan, build and keep an electric skateboard.',
        start_url: '/',
        display: 'standalone',
        background_color: '#f5f0e6',
        theme_color: '#f5f0e6',
        icons: [
          { src: '/favicon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' },
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'any' },
          { src: '/icon-maskable-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
        ],
      },
      workbox: {
        // The whole shell, every room of it; what people entered is not the service worker's business.
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        globIgnores: ['**/*-{cyrillic,greek,vietnamese}*.woff2', '**/*-{cyrillic,greek}-ext*.woff2'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//],
        cleanupOutdatedCaches: true,
        inlineWorkboxRuntime: false,
      },
    }),
  ],
  resolve: { alias: { $lib: '/src/lib' } },
  define: { 'import.meta.env.SAND_POCKET_LANGUAGE': JSON.stringify(language) },
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 600 },
  server: {
    strictPort: true,
    proxy: { '/api': process.env.SAND_POCKET_API ?? 'http://127.0.0.1:8600' },
  },
});
