// Serves the built pages on loopback. Every answer lets the page be cross-origin isolated: threads
// with shared memory need it.
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import sirv from 'sirv';
import { handler } from '../dist/server/entry.mjs';
import { refusal } from './config/guard.mjs';

const files = sirv(fileURLToPath(new URL('../dist/client', import.meta.url)), {
  etag: true,
  maxAge: 3600,
  immutable: true,
});

const log = pino(
  { level: process.env.WABISABI_LOG ?? 'info', base: { pid: process.pid } },
  pino.destination({ dest: 2, sync: true }),
);
// Whatever failed behind a request's back (the queue, while the database is away) ends no other
// request.
process.on('unhandledRejection', (err) => log.error({ err }, 'failed behind a request'));

// Headers that are sent in halves are closed in time.
const LIMITS = { headersTimeout: 15_000, connectionsCheckingInterval: 5_000 };
const server = createServer(LIMITS, (req, res) => {
  res.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
  res.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
  res.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
  res.setHeader('X-Content-Type-Options', 'nosniff');
  res.setHeader('Referrer-Policy', 'no-referrer');
  res.setHeader('X-Frame-Options', 'DENY');
  const refused = refusal(req);
  if (refused) {
    const [status, title, detail] = refused;
    // What is refused is not read.
    res.writeHead(status, { 'content-type': 'application/problem+json', connection: 'close' });
    res.end(JSON.stringify({ type: 'about:blank', title, status, detail }));
    return;
  }
  files(req, res, () => void handler(req, res));
});
// Uploads may take longer than Node's five minutes.
server.requestTimeout = 0;
// Node closes a quiet connection after five seconds, at times under the very request that was about
// to use it.
server.keepAliveTimeout = 600_000;
server.listen(Number(process.env.PORT ?? 4321), process.env.HOST ?? '127.0.0.1');
process.on('SIGTERM', () => {
  server.closeAllConnections();
  server.close(() => process.exit(0));
});
