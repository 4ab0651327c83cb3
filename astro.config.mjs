import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';

export default defineConfig({
  srcDir: './web',
  publicDir: './web/public',
  outDir: './dist',
  output: 'server',
  adapter: node({ mode: 'middleware' }),
  integrations: [react()],
  // server/serve.mjs refuses what other sites send, by Fetch Metadata.
  security: { checkOrigin: false },
  // Pages load their own files. Astro adds the hashes of the scripts and styles that it writes
  // itself; the middleware adds what it has no setting for.
  experimental: {
    csp: {
      scriptDirective: { resources: ["'self'", "'wasm-unsafe-eval'"] },
      styleDirective: { resources: ["'self'"] },
      directives: [
        "default-src 'self'",
        "img-src 'self' data: blob:",
        "media-src 'self' blob:",
        "font-src 'self' data:",
        "connect-src 'self'",
        "worker-src 'self' blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
      ],
    },
  },
  devToolbar: { enabled: false },
  vite: {
    plugins: [tailwindcss()],
    worker: { format: 'es' },
    build: { chunkSizeWarningLimit: 1500 },
    ssr: { external: ['pg', 'pg-boss', 'sharp'] },
  },
});
