import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [tailwindcss(), svelte()],
  resolve: { alias: { $lib: '/src/lib' } },
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 600 },
  server: {
    strictPort: true,
    proxy: { '/api': process.env.SAND_POCKET_API ?? 'http://127.0.0.1:8600' },
  },
});
