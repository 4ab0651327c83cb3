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
  devToolbar: { enabled: false },
  vite: {
    plugins: [tailwindcss()],
    worker: { format: 'es' },
    build: { chunkSizeWarningLimit: 1500 },
    ssr: { external: ['pg', 'pg-boss', 'sharp'] },
  },
});
