import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [svelte()],
  resolve: { alias: { $lib: '/src/lib' }, conditions: ['browser'] },
  test: {
    environment: 'happy-dom',
    include: ['src/**/*.test.ts'],
    setupFiles: ['src/testing/setup.ts'],
    restoreMocks: true,
    unstubGlobals: true,
    pool: 'threads',
    // One world for all files of a thread: making it anew for each takes longer than the tests.
    isolate: false,
  },
});
