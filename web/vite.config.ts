import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

// The development server passes the API on to a running Arvelt.
export default defineConfig({
  plugins: [react()],
  server: { proxy: { '/api': 'http://127.0.0.1:8080' } },
  build: { outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 900 },
  test: { environment: 'jsdom', globals: true, include: ['src/**/*.test.{ts,tsx}'], setupFiles: ['src/testing/setup.ts'], testTimeout: 60_000, isolate: false, unstubGlobals: true },
});
