/**
 * The content security policy of pages: their own files, and inline scripts of this server with a
 * nonce per answer.
 */
import { randomBytes } from 'node:crypto';
import type { MiddlewareHandler } from 'astro';

const policy = (nonce: string): string =>
  [
    `default-src 'self'`,
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    `style-src 'self' 'nonce-${nonce}'`,
    // Computed sizes and positions are in style attributes.
    `style-src-attr 'unsafe-inline'`,
    `img-src 'self' data: blob:`,
    `media-src 'self' blob:`,
    `font-src 'self' data:`,
    `connect-src 'self'`,
    `worker-src 'self' blob:`,
    `object-src 'none'`,
    `base-uri 'none'`,
    `form-action 'self'`,
    `frame-ancestors 'none'`,
  ].join('; ');

/** Adds the policy to HTML answers. */
export const onRequest: MiddlewareHandler = async (_, next) => {
  const answer = await next();
  if (!answer.headers.get('content-type')?.startsWith('text/html')) return answer;
  const nonce = randomBytes(16).toString('base64');
  const html = (await answer.text()).replace(/<(script|style)(?=[\s>])/g, `<$1 nonce="${nonce}"`);
  const headers = new Headers(answer.headers);
  headers.set('content-security-policy', policy(nonce));
  headers.delete('content-length');
  return new Response(html, { status: answer.status, headers });
};
