import react from '@vitejs/plugin-react';
import tailwind from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  // Below whatever path a proxy puts it: the page says which.
  base: './',
  plugins: [react(), tailwind()],
  build: { chunkSizeWarningLimit: 2500, sourcemap: false },
  server: {
    fs: { allow: ['..'] }, proxy: { '/api': 'http://127.0.0.1:8630' } },
  test: { environment: 'jsdom', setupFiles: './src/test-setup.ts', testTimeout: 60_000 },
});
