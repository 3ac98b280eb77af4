/// <reference types="node" />
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { generateSW } from 'workbox-build';
import { defineConfig } from 'vitest/config';

// What is served is compressed once, when it is built: beside each script, style and drawing
// stands its gzip and Brotli form, from which the server takes what the browser reads.
const compressed = {
  name: 'compressed',
  apply: 'build' as const,
  closeBundle: {
    sequential: true,
    handler() {
      const walk = (dir: string): string[] =>
        readdirSync(dir, { withFileTypes: true }).flatMap((e) => (e.isDirectory() ? walk(join(dir, e.name)) : [join(dir, e.name)]));
      for (const file of walk('dist').filter((f) => /\.(js|css|svg|html)$/.test(f))) {
        const body = readFileSync(file);
        if (body.length < 1024) continue;
        writeFileSync(`${file}.gz`, gzipSync(body, { level: 9 }));
        writeFileSync(`${file}.br`, brotliCompressSync(body, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
      }
    },
  },
};

// The shell of the interface is kept by the browser, so that the page opens without a connection.
// What the API answers is kept by the interface itself, under the person who read it.
const shell = {
  name: 'shell',
  apply: 'build' as const,
  closeBundle: {
    sequential: true,
    async handler() {
      const { warnings } = await generateSW({
        globDirectory: 'dist',
        globPatterns: ['**/*.{js,css,html,svg,woff2,webmanifest}'],
        globIgnores: ['placeholder.html'],
        swDest: 'dist/sw.js',
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//, /^\/healthz/, /^\/licenses\//],
        inlineWorkboxRuntime: true,
        skipWaiting: true,
        clientsClaim: true,
        sourcemap: false,
      });
      if (warnings.length) throw new Error(warnings.join('\n'));
    },
  },
};

// The development server passes the API on to a running Arvelt.
export default defineConfig({
  plugins: [react(), shell, compressed],
  server: { proxy: { '/api': 'http://127.0.0.1:8080' } },
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    // What every sheet needs is one script: on a slow line each further one waits its turn.
    rolldownOptions: {
      output: { codeSplitting: { groups: [{ name: 'shared', test: /node_modules|src\/(parts|api|frame|words\/words|theme)/ }] } },
    },
  },
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
