import tailwindcss from '@tailwindcss/vite';
import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: process.env.VITEST ? [svelte()] : [tailwindcss(), svelte()],
  build: { target: 'es2022', assetsInlineLimit: 0 },
  // Tests run what the browser runs, without a browser.
  resolve: process.env.VITEST ? { conditions: ['browser'] } : undefined,
  test: {
    include: ['src/**/*.test.ts'],
    environment: 'node',
    pool: 'threads',
    maxWorkers: 2,
    experimental: { fsModuleCache: true }, // what was compiled once is read from then on
  },
});
