/// <reference types="node" />
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

// What is served is compressed once, when it is built: beside each script, style and drawing
// stands its gzip and Brotli form, from which the server takes what the browser reads.
const compressed = {
  name: 'compressed',
  apply: 'build' as const,
  closeBundle() {
    const walk = (dir: string): string[] =>
      readdirSync(dir, { withFileTypes: true }).flatMap((e) => (e.isDirectory() ? walk(join(dir, e.name)) : [join(dir, e.name)]));
    for (const file of walk('dist').filter((f) => /\.(js|css|svg|html)$/.test(f))) {
      const body = readFileSync(file);
      if (body.length < 1024) continue;
      writeFileSync(`${file}.gz`, gzipSync(body, { level: 9 }));
      writeFileSync(`${file}.br`, brotliCompressSync(body, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
    }
  },
};

// The development server passes the API on to a running Arvelt.
export default defineConfig({
  plugins: [react(), compressed],
  server: { proxy: { '/api': 'http://127.0.0.1:8080' } },
  build: { outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 900 },
  test: {
    environment: 'jsdom',
    globals: true,
    include: ['src/**/*.test.{ts,tsx}'],
    setupFiles: ['src/testing/setup.ts'],
    testTimeout: 60_000,
    isolate: false,
    unstubGlobals: true,
  },
});
