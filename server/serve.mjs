// Serves the built pages on loopback. Every answer lets the page be cross-origin isolated: threads with shared memory need it.
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import sirv from 'sirv';
import { handler } from '../dist/server/entry.mjs';

const files = sirv(fileURLToPath(new URL('../dist/client', import.meta.url)), { etag: true, maxAge: 3600, immutable: true });

const server = createServer((req, res) => {
  res.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
  res.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
  res.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
  res.setHeader('X-Content-Type-Options', 'nosniff');
  // Other sites may not change anything here (Fetch Metadata; programs that are no browser send none).
  if (!['GET', 'HEAD'].includes(req.method) && !['same-origin', 'none', undefined].includes(req.headers['sec-fetch-site'])) {
    res.writeHead(403, { 'content-type': 'application/problem+json' });
    res.end(JSON.stringify({ type: 'about:blank', title: 'Another site', status: 403, detail: 'Only the application itself may change anything.' }));
    return;
  }
  files(req, res, () => void handler(req, res));
});
// Uploads may take longer than Node's five minutes.
server.requestTimeout = 0;
// Node closes a quiet connection after five seconds, at times under the very request that was about to use it.
server.keepAliveTimeout = 600_000;
server.listen(Number(process.env.PORT ?? 4321), process.env.HOST ?? '127.0.0.1');
process.on('SIGTERM', () => {
  server.closeAllConnections();
  server.close(() => process.exit(0));
});
